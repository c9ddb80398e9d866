import { FREE_FROM, type Kernels, kernels } from './kernels.ts';

/** Bytes that are given to a kernel at a time at most: with the cells in them they stay in the processor's cache. */
const CHUNK = 262_144;
const MIN_BYTES = 4096;
/** What kernels may look at behind the last byte, and the bytes in front that a piece begins with. */
const BEHIND = 72;
/** Rows of a call from which a text counts as plain again. */
const PLAIN_ROWS = 256;
const MAX_WAIT = 4096;
const LINE_FEED = 10;

/** Bytes of a source from which a kernel is worth its making. */
export const KERNEL_BYTES = 65_536;

/** Bytes of memory that a window takes. */
export const WINDOW_BYTES = CHUNK + BEHIND;

/** Kernels that read a source piece by piece. */
type PieceKernel = 'delimitedRows' | 'fixedWidth' | 'jsonLines' | 'sheetCells';

/** Words at the front of what kernels tell of a piece: whether a byte is none of ASCII, and what follows the rows. */
const HAS_HIGH = 0;
const AT = 1;

/** Room for a piece of a source in a kernel's memory, and for what is found in it. */
export interface PieceRoom {
  window: Uint8Array;
  told: Int32Array;
}

export interface LaidOut<R extends PieceRoom> {
  kernels: Kernels;
  room: R;
}

/** Gives out places of a kernel's memory, each a multiple of eight bytes as the widest vectors want it. */
export class Places {
  constructor(private at: number) {}

  take(bytes: number): number {
    const from = this.at;
    this.at += (bytes + 7) & ~7;
    return from;
  }
}

/** The same with vectors over them. */
export class VectorPlaces extends Places {
  constructor(
    at: number,
    private readonly memory: ArrayBuffer,
  ) {
    super(at);
  }

  bytes(count: number): Uint8Array {
    return new Uint8Array(this.memory, this.take(count), count);
  }

  halves(count: number): Uint16Array {
    return new Uint16Array(this.memory, this.take(count * 2), count);
  }

  words(count: number): Int32Array {
    return new Int32Array(this.memory, this.take(count * 4), count);
  }

  doubles(count: number): Float64Array {
    return new Float64Array(this.memory, this.take(count * 8), count);
  }

  window(): Uint8Array {
    return this.bytes(WINDOW_BYTES);
  }
}

/**
 * Lays out what a kernel needs for a piece of a source.
 * @param size bytes that are laid out, the window of WINDOW_BYTES too
 * @returns undefined where there are no kernels
 */
export function laidOut<R extends PieceRoom>(
  size: number,
  layOut: (places: VectorPlaces) => R,
): LaidOut<R> | undefined {
  const made = kernels(size);
  return made && { kernels: made.kernels, room: layOut(new VectorPlaces(FREE_FROM, made.memory)) };
}

/** A call of a kernel for the bytes in a room. */
export type PieceCall<R> = (room: R, from: number, end: number, base: number, isLast: boolean) => readonly number[];

/** What was read of a piece; its room is valid until the next is asked for. */
export interface ReadPiece<R> {
  rows: number;
  room: R;
  /** Place of the source behind the rows. */
  at: number;
}

/**
 * Gives a kernel a source piece by piece, and says whether it is worth asking: where it has to give up again and again
 * it is asked more and more seldom.
 */
export class KernelWindow<R extends PieceRoom> {
  private wait = 0;
  private nextWait = 1;
  private piece = CHUNK;
  /** Bytes of the source that were given one after the other, as far as they are all ASCII. */
  readonly ascii = { from: 0, to: 0 };

  /** @param name the kernel; it gives back how many rows it read */
  constructor(
    private readonly bytes: Uint8Array,
    private readonly laid: LaidOut<R>,
    private readonly name: PieceKernel,
  ) {}

  /**
   * Reads rows from a place of the source on.
   * @param call what the kernel is given
   * @returns undefined where the next row has to be read the plain way
   */
  rows(at: number, call: PieceCall<R>): ReadPiece<R> | undefined {
    if (this.wait > 0) {
      this.wait--;
      return undefined;
    }
    let read = this.read(at, call);
    if (read.rows === 0 && this.piece < CHUNK) {
      // The row may only have been cut off by the end of the bytes in memory.
      this.piece = CHUNK;
      read = this.read(at, call);
    }
    if (read.rows === 0) {
      this.wait = this.nextWait - 1;
      this.nextWait = Math.min(this.nextWait * 2, MAX_WAIT);
      return undefined;
    }
    if (read.rows >= PLAIN_ROWS) this.nextWait = 1;
    return read;
  }

  /** Gives the kernel a copy of a piece whose first row stands at a place of the source. */
  private read(at: number, call: PieceCall<R>): ReadPiece<R> {
    const { bytes } = this;
    const { room, kernels } = this.laid;
    const { window, told } = room;
    // Words of eight bytes are copied at once where both sides begin with one.
    const from = at - (at & 7);
    const to = Math.min(at + this.piece, bytes.length);
    window.set(bytes.subarray(from, to));
    // A line feed behind the last byte ends every search.
    window[to - from] = LINE_FEED;
    // Makes a place in memory one of the source.
    const base = from - window.byteOffset;
    const kernel = kernels[this.name] as (...given: readonly number[]) => number;
    const rows = kernel(...call(room, at - base, to - base, base, to === bytes.length));
    const behind = told[AT]! + base;
    this.noteAscii(at, to, told[HAS_HIGH] === 0);
    const used = behind - at;
    // Room for rows may be full long before the bytes end.
    const share = used / (to - at);
    if (share < 1 / 2) this.piece = Math.max(MIN_BYTES, Math.ceil(used * 1.25));
    else if (share > 9 / 10) this.piece = Math.min(CHUNK, this.piece * 2);
    return { rows, room, at: behind };
  }

  private noteAscii(from: number, to: number, isAscii: boolean): void {
    const { ascii } = this;
    if (ascii.to === 0) ascii.from = ascii.to = from;
    if (from <= ascii.to && isAscii) ascii.to = Math.max(ascii.to, to);
  }
}

/** Cells that there is room for at a time. */
const CELLS = 32_768;
const MIN_ROWS = 16;
const MAX_ROWS = 4096;

/** Rows that a kernel gets room for. */
export function roomFor(columns: number): number {
  const rows = Math.max(MIN_ROWS, Math.min(MAX_ROWS, Math.floor(CELLS / columns)));
  // Not a power of two: columns that lie apart by one meet in the same few lines of the cache.
  return (rows & ~15) + 8;
}
