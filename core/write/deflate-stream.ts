import { Deflate } from 'fflate';
import { FREE_FROM, type Kernels, kernels } from '../kernels/kernels.ts';
import { KERNEL_BYTES, Places } from '../kernels/window.ts';
import { crc32 } from '../read/crc32.ts';

/** Three times as fast as the usual 6, and a tenth larger for sheets of workbooks. */
const LEVEL = 1;
/** Bytes from which copies are taken, and bytes that are packed at a time: what fflate lays out for a stream. */
const LOOK_BACK = 32_768;
const PIECE = 65_536;
const WINDOW = LOOK_BACK + PIECE;
/** Fewer bytes wait for the next piece. */
const FEWEST_BYTES = 8191;
/** Of the table of places, while a stream goes on and for its last piece. */
const HASH_BITS = 20;
const LAST_HASH_BITS = 18;

const HEAD_BYTES = 2 << HASH_BITS;
const BEFORE_BYTES = 2 * LOOK_BACK;
const SYMBOLS_BYTES = 4 * 25_000;
const TABLES_BYTES = 16_384;
/** Blocks end with room to spare. */
const OUT_BYTES = WINDOW + 128;
const MARGIN = 8;
/** Places in what the kernel keeps between its calls. */
const AT = 0;
const PACKED_TO = 1;

/**
 * A stream of deflate (RFC 1951) for text, with the check sum of what went in: the same bytes by the kernel and without.
 * A zero byte is refused while the look-back fills: fflate could take it for a copy from before the beginning.
 */
export class DeflateStream {
  /** CRC-32 of what was pushed, without a sign. */
  crc = 0;
  /** Bytes that were pushed. */
  size = 0;
  private packer: { push(piece: Uint8Array, isLast: boolean): void } | undefined;

  /**
   * @param send is handed what comes out, piece by piece
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
    this.crc = crc32(bytes, { before: this.crc });
    this.packer ??= this.newPacker(isLast ? bytes.length : Number.MAX_SAFE_INTEGER);
    const lastFrom = Math.max(0, Math.ceil(bytes.length / PIECE) - 1) * PIECE;
    for (let at = 0; at < lastFrom; at += PIECE) this.packer.push(bytes.subarray(at, at + PIECE), false);
    this.packer.push(bytes.subarray(lastFrom), isLast);
  }

  /** @param most bytes that it will be given, as far as is known */
  private newPacker(most: number) {
    const byKernel = most < this.kernelFrom ? undefined : KernelPacker.taken(this.send);
    return byKernel ?? new Deflate({ level: LEVEL }, this.send);
  }
}

/** A kernel with the memory of one stream. */
class Packing {
  readonly kernel: Kernels;
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** Where bytes are looked at, those that are packed next, and bits that are no whole byte. */
  readonly state: Int32Array;
  readonly head: number;
  readonly before: number;
  readonly symbols: number;
  readonly tables: number;
  readonly window: number;
  readonly out: number;

  static made(): Packing | undefined {
    const size =
      HEAD_BYTES + BEFORE_BYTES + SYMBOLS_BYTES + TABLES_BYTES + 2 * MARGIN + WINDOW + OUT_BYTES + 8 * MARGIN;
    const made = kernels(size);
    return made && new Packing(made);
  }

  private constructor(made: { kernels: Kernels; memory: ArrayBuffer }) {
    this.kernel = made.kernels;
    this.bytes = new Uint8Array(made.memory);
    const places = new Places(FREE_FROM);
    this.head = places.take(HEAD_BYTES);
    this.before = places.take(BEFORE_BYTES);
    this.symbols = places.take(SYMBOLS_BYTES);
    this.tables = places.take(TABLES_BYTES);
    this.state = new Int32Array(made.memory, places.take(12), 3);
    this.window = places.take(WINDOW + 2 * MARGIN) + MARGIN;
    this.out = places.take(OUT_BYTES);
  }

  /** For a new stream. */
  clear(): void {
    this.state.set([LOOK_BACK, LOOK_BACK, 0]);
    this.bytes.fill(0, this.head, this.head + HEAD_BYTES);
    this.bytes.fill(0, this.before, this.before + BEFORE_BYTES);
    this.bytes.fill(0, this.window - MARGIN, this.window + LOOK_BACK);
  }
}

/** Those that no stream uses now. */
const idle: Packing[] = [];

/** Lays pieces out as fflate's stream does, so that its bytes come out. */
class KernelPacker {
  /** Where the bytes in the window end. */
  private end = LOOK_BACK;

  static taken(send: (packed: Uint8Array<ArrayBuffer>) => void): KernelPacker | undefined {
    const packing = idle.pop() ?? Packing.made();
    packing?.clear();
    return packing && new KernelPacker(packing, send);
  }

  private constructor(
    private readonly packing: Packing,
    private readonly send: (packed: Uint8Array<ArrayBuffer>) => void,
  ) {}

  /** @param piece of PIECE bytes at most */
  push(piece: Uint8Array, isLast: boolean): void {
    const { bytes, state, window } = this.packing;
    const fits = Math.min(piece.length, WINDOW - this.end);
    bytes.set(piece.subarray(0, fits), window + this.end);
    this.end += fits;
    if (fits < piece.length) {
      this.pack(false);
      bytes.copyWithin(window, window + WINDOW - LOOK_BACK, window + WINDOW);
      bytes.set(piece.subarray(fits), window + LOOK_BACK);
      this.end = LOOK_BACK + piece.length - fits;
      state[AT] = LOOK_BACK - 2;
      state[PACKED_TO] = LOOK_BACK;
    }
    if (this.end > state[PACKED_TO]! + FEWEST_BYTES || isLast) {
      this.pack(isLast);
      state[PACKED_TO] = state[AT]!;
      state[AT]! -= 2;
    }
    if (isLast) idle.push(this.packing);
  }

  private pack(isLast: boolean): void {
    const { kernel, bytes, state, head, before, symbols, tables, window, out } = this.packing;
    const bits = isLast ? LAST_HASH_BITS : HASH_BITS;
    const length = kernel.deflate(window, this.end, bits, isLast, state.byteOffset, head, before, symbols, tables, out);
    this.send(bytes.slice(out, out + length));
  }
}
