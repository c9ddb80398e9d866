import type { Kernels } from './kernels.ts';

/** Bytes that are given to a kernel at a time: with the cells in them they stay in the processor's cache. */
const CHUNK = 262_144;
/** What kernels may look at behind the last byte. */
const BEHIND = 64;
/** Rows of a call from which a text counts as plain again. */
const PLAIN_ROWS = 256;
const LONGEST_WAIT = 4096;
const LINE_FEED = 10;

/** Bytes of a source from which a kernel is worth its making. */
export const KERNEL_BYTES = 65_536;

/** Bytes of memory that a window takes. */
export const WINDOW_BYTES = CHUNK + BEHIND;

/**
 * The piece of a source that lies in a kernel's memory, and whether the kernel is worth asking: where it has to give up
 * again and again it is asked more and more seldom.
 */
export class KernelWindow {
  private from = 0;
  private to = 0;
  private wait = 0;
  private nextWait = 1;
  /** Bytes of the source that were given one after the other, as far as they are all ASCII. */
  readonly ascii = { from: 0, to: 0 };

  /** @param memory WINDOW_BYTES of the kernel's memory */
  constructor(
    private readonly kernel: Pick<Kernels, 'hasHighBytes'>,
    private readonly bytes: Uint8Array,
    private readonly memory: Uint8Array,
  ) {}

  /**
   * Calls a kernel for rows from a place of the source on.
   * @param call given the place and the end of the bytes in memory, what makes a place there one of the source, and
   *   whether the source ends there
   * @returns how many rows it read, and what is to be added to its places; undefined where the next row has to be read
   *   the plain way
   */
  rows(
    at: number,
    call: (from: number, end: number, base: number, isLast: boolean) => number,
  ): { rows: number; base: number } | undefined {
    if (this.wait > 0) {
      this.wait--;
      return undefined;
    }
    const isNew = at < this.from || at >= this.to;
    if (isNew) this.give(at);
    let read = this.call(at, call);
    if (read.rows === 0 && !isNew && this.to < this.bytes.length) {
      // The row may only have been cut off by the end of the bytes in memory.
      this.give(at);
      read = this.call(at, call);
    }
    if (read.rows === 0) {
      this.wait = this.nextWait - 1;
      this.nextWait = Math.min(this.nextWait * 2, LONGEST_WAIT);
      return undefined;
    }
    if (read.rows >= PLAIN_ROWS) this.nextWait = 1;
    return read;
  }

  private call(at: number, call: (from: number, end: number, base: number, isLast: boolean) => number) {
    const base = this.from - this.memory.byteOffset;
    return { rows: call(at - base, this.to - base, base, this.to === this.bytes.length), base };
  }

  private give(at: number): void {
    this.from = at;
    this.to = Math.min(at + CHUNK, this.bytes.length);
    this.memory.set(this.bytes.subarray(at, this.to));
    this.lookForAscii(at);
    // A line feed behind the last byte ends every search.
    this.memory[this.to - at] = LINE_FEED;
  }

  /** While the bytes are in the cache, where looking costs next to nothing. */
  private lookForAscii(at: number): void {
    const { ascii, memory } = this;
    if (ascii.to === 0) ascii.from = ascii.to = at;
    const from = memory.byteOffset;
    if (at <= ascii.to && this.kernel.hasHighBytes(from, from + this.to - at) === 0) ascii.to = this.to;
  }
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

/** Cells that there is room for at a time. */
const CELLS = 32_768;
const FEWEST_ROWS = 16;
const MOST_ROWS = 4096;

/** Rows that a kernel gets room for. */
export function roomFor(columns: number): number {
  const rows = Math.max(FEWEST_ROWS, Math.min(MOST_ROWS, Math.floor(CELLS / columns)));
  // Not a power of two: columns that lie apart by one meet in the same few lines of the cache.
  return (rows & ~15) + 8;
}
