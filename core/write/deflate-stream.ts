import { Deflate } from 'fflate';
import { type KernelThread, takenThread } from '../kernels/kernel-thread.ts';
import { FREE_FROM, type Kernels, kernels } from '../kernels/kernels.ts';
import { KERNEL_BYTES, VectorPlaces } from '../kernels/window.ts';
import { crc32 } from '../read/crc32.ts';

/** Three times as fast as the usual 6, and a tenth larger for sheets of workbooks. */
const LEVEL = 1;
/** Bytes from which copies are taken, and bytes that are packed at a time: what fflate lays out for a stream. */
const LOOK_BACK = 32_768;
const PIECE = 65_536;

/**
 * A stream of deflate (RFC 1951) for text, with the check sum of what went in: the same bytes by the kernel and without.
 * A zero byte is refused while the look-back fills: fflate could take it for a copy from before the beginning.
 */
export class DeflateStream {
  /** CRC-32 of what was pushed, without a sign. */
  crc = 0;
  /** Bytes that were pushed. */
  size = 0;
  private packer: Packer | undefined;

  /**
   * @param send is handed what comes out, piece by piece, all of it before the last push is done
   * @param kernelFrom bytes from which the kernel packs them, where there is one
   */
  constructor(
    private readonly send: (packed: Uint8Array<ArrayBuffer>) => void,
    private readonly kernelFrom = KERNEL_BYTES,
  ) {}

  /**
   * @param isLast nothing may be pushed behind it
   * @throws RangeError for a zero byte among the first 32,768
   */
  push(bytes: Uint8Array, isLast = false): void {
    if (this.size < LOOK_BACK && bytes.subarray(0, LOOK_BACK - this.size).includes(0))
      throw new RangeError('Text that is packed holds a zero byte.');
    this.size += bytes.length;
    this.packer ??= this.newPacker(isLast ? bytes.length : Number.MAX_SAFE_INTEGER);
    this.packer.push(bytes, isLast);
    this.crc = crc32(bytes, { before: this.crc });
  }

  /** Nothing is pushed any more, though the last was not. */
  end(): void {
    this.packer?.end();
  }

  /** @param most bytes that it will be given, as far as is known */
  private newPacker(most: number): Packer {
    const byKernel = most < this.kernelFrom ? undefined : KernelPacker.made(this.send);
    return byKernel ?? new PlainPacker(this.send);
  }
}

interface Packer {
  push(bytes: Uint8Array, isLast: boolean): void;
  end(): void;
}

class PlainPacker implements Packer {
  private readonly stream: Deflate;

  constructor(send: (packed: Uint8Array<ArrayBuffer>) => void) {
    this.stream = new Deflate({ level: LEVEL }, send);
  }

  push(bytes: Uint8Array, isLast: boolean): void {
    const lastFrom = Math.max(0, Math.ceil(bytes.length / PIECE) - 1) * PIECE;
    for (let at = 0; at < lastFrom; at += PIECE) this.stream.push(bytes.subarray(at, at + PIECE), false);
    this.stream.push(bytes.subarray(lastFrom), isLast);
  }

  end(): void {}
}

const HEAD_BYTES = 2 << 20;
const BEFORE_BYTES = 2 * LOOK_BACK;
const SYMBOLS_BYTES = 4 * 25_000;
const TABLES_BYTES = 16_384;
const MARGIN = 8;
const WINDOW_BYTES = LOOK_BACK + PIECE + 2 * MARGIN;
/** Bytes that the kernel is given at a time. */
const GIVEN_BYTES = 4 * PIECE;
const OUT_BYTES = GIVEN_BYTES + 102_400;
const ROOM_BYTES = GIVEN_BYTES + OUT_BYTES;
const STREAM_BYTES = HEAD_BYTES + BEFORE_BYTES + SYMBOLS_BYTES + TABLES_BYTES + WINDOW_BYTES + 64;

/** What goes in and what comes out, by the turn of the other thread. */
interface Room {
  given: Uint8Array;
  out: Uint8Array;
  turn: number | undefined;
}

/** The memory of one stream. */
interface Laid {
  kernels: Kernels;
  thread?: KernelThread;
  /** Two where another thread packs one while the other is filled. */
  rooms: readonly Room[];
  head: Uint8Array;
  before: Uint8Array;
  symbols: number;
  tables: number;
  window: Uint8Array;
  state: Int32Array;
}

/** Memory that no stream uses now. */
const idle: Laid[] = [];

class KernelPacker implements Packer {
  private next = 0;
  private isEnded = false;

  /** @returns undefined where there are no kernels */
  static made(send: (packed: Uint8Array<ArrayBuffer>) => void): KernelPacker | undefined {
    const laid = laidOut();
    return laid && new KernelPacker(laid, send);
  }

  private constructor(
    private readonly laid: Laid,
    private readonly send: (packed: Uint8Array<ArrayBuffer>) => void,
  ) {
    laid.state.set([LOOK_BACK, LOOK_BACK, 0, LOOK_BACK]);
    laid.head.fill(0);
    laid.before.fill(0);
    laid.window.fill(0, 0, MARGIN + LOOK_BACK);
  }

  push(bytes: Uint8Array, isLast: boolean): void {
    let from = 0;
    do {
      const given = bytes.subarray(from, from + GIVEN_BYTES);
      from += GIVEN_BYTES;
      this.give(given, isLast && from >= bytes.length);
    } while (from < bytes.length);
    if (!isLast) return;
    for (const _ of this.laid.rooms) this.take(this.turned());
    this.end();
  }

  end(): void {
    if (this.isEnded) return;
    this.isEnded = true;
    if (this.laid.thread === undefined) idle.push(this.laid);
    else this.laid.thread.release();
  }

  /** The room that was given longest ago. */
  private turned(): Room {
    const { rooms } = this.laid;
    this.next = (this.next + 1) % rooms.length;
    return rooms[this.next]!;
  }

  private give(bytes: Uint8Array, isLast: boolean): void {
    const { kernels: kernel, thread, head, before, symbols, tables, window, state } = this.laid;
    const room = this.turned();
    this.take(room);
    room.given.set(bytes);
    const given = [
      room.given.byteOffset,
      bytes.length,
      isLast ? 1 : 0,
      window.byteOffset + MARGIN,
      state.byteOffset,
      head.byteOffset,
      before.byteOffset,
      symbols,
      tables,
      room.out.byteOffset,
    ] as const;
    if (thread === undefined) this.send(room.out.slice(0, kernel.deflateStream(...given)) as Uint8Array<ArrayBuffer>);
    else room.turn = thread.begin('deflateStream', given);
  }

  /** Sends what the other thread has packed of a room. */
  private take(room: Room): void {
    if (room.turn === undefined) return;
    const length = this.laid.thread!.finish(room.turn);
    room.turn = undefined;
    this.send(room.out.slice(0, length) as Uint8Array<ArrayBuffer>);
  }
}

function laidOut(): Laid | undefined {
  const thread = takenThread(STREAM_BYTES + 2 * ROOM_BYTES);
  if (thread !== undefined) return { ...vectorsOf(thread.memory, 2), kernels: thread.kernels, thread };
  const before = idle.pop();
  if (before !== undefined) return before;
  const made = kernels(STREAM_BYTES + ROOM_BYTES);
  return made && { ...vectorsOf(made.memory, 1), kernels: made.kernels };
}

function vectorsOf(memory: ArrayBufferLike, rooms: number) {
  const places = new VectorPlaces(FREE_FROM, memory);
  return {
    head: places.bytes(HEAD_BYTES),
    before: places.bytes(BEFORE_BYTES),
    symbols: places.take(SYMBOLS_BYTES),
    tables: places.take(TABLES_BYTES),
    state: places.words(4),
    window: places.bytes(WINDOW_BYTES),
    rooms: Array.from({ length: rooms }, () => ({
      given: places.bytes(GIVEN_BYTES),
      out: places.bytes(OUT_BYTES),
      turn: undefined,
    })),
  };
}
