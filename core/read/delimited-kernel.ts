import { FREE_FROM, type Kernels, kernels } from '../kernels/kernels.ts';

/** The signs of a dialect as single bytes; -1: there is none. */
export interface DelimitedBytes {
  delimiter: number;
  quote: number;
  /** First byte of the sign of comments. */
  comment: number;
}

/** Bytes that are given to the kernel at a time: with the cells in them they stay in the processor's cache. */
const CHUNK = 262_144;
/** Cells that there is room for at a time. */
const CELLS = 32_768;
const FEWEST_ROWS = 16;
const MOST_ROWS = 4096;
const CELL_BYTES = 14;
const NONE = 256;
/** Rows of a call from which the text counts as plain again. */
const PLAIN_ROWS = 256;

/** Rows that the kernel read, in its memory: valid until it reads again. */
export interface KernelRows {
  rows: number;
  /** Behind the last of them. */
  at: number;
  /** Line of that place. */
  line: number;
  lines: Int32Array;
}

/** Reads plain rows of delimited text with the kernel, and tells when it is not worth asking. */
export class DelimitedKernel {
  private readonly most: number;
  private readonly text: Uint8Array;
  private readonly flags: Uint8Array;
  private readonly others: Int32Array;
  private readonly zeros: Uint8Array;
  private readonly lines: Int32Array;
  private readonly starts: Int32Array;
  private readonly lengths: Uint16Array;
  private readonly numbers: Float64Array;
  /** Where in the source the bytes in memory begin and end. */
  private from = 0;
  private to = 0;
  /** Rows to leave out before asking again, more each time that asking was not worth it. */
  private wait = 0;
  private nextWait = 1;

  /** @returns undefined where there are no kernels */
  static over(bytes: Uint8Array, signs: DelimitedBytes, columns: number): DelimitedKernel | undefined {
    // Not a power of two: columns that lie apart by one meet in the same few lines of the cache.
    const most = (Math.max(FEWEST_ROWS, Math.min(MOST_ROWS, Math.floor(CELLS / columns))) & ~15) + 8;
    const size = CHUNK + 64 + columns * 8 + most * 4 + most * columns * CELL_BYTES + 64;
    const made = kernels(size);
    return made && new DelimitedKernel(made.kernels, made.memory, bytes, signs, columns, most);
  }

  private constructor(
    private readonly kernel: Kernels,
    memory: ArrayBuffer,
    private readonly bytes: Uint8Array,
    private readonly signs: DelimitedBytes,
    private readonly columns: number,
    most: number,
  ) {
    this.most = most;
    let at = FREE_FROM;
    const place = (size: number) => {
      const from = at;
      // The widest vectors want places that are multiples of eight.
      at += (size + 7) & ~7;
      return from;
    };
    this.numbers = new Float64Array(memory, place(most * columns * 8), most * columns);
    this.starts = new Int32Array(memory, place(most * columns * 4), most * columns);
    this.lengths = new Uint16Array(memory, place(most * columns * 2), most * columns);
    this.lines = new Int32Array(memory, place(most * 4), most);
    this.others = new Int32Array(memory, place(columns * 4), columns);
    this.flags = new Uint8Array(memory, place(columns), columns);
    this.zeros = new Uint8Array(memory, place(columns), columns);
    this.text = new Uint8Array(memory, place(CHUNK + 1), CHUNK + 1);
  }

  /**
   * Reads rows from a place on, for as long as they are plain.
   * @param line of the place
   * @param readsNumbers for each column
   * @returns undefined where the next row has to be read the plain way
   */
  read(at: number, line: number, readsNumbers: (column: number) => boolean): KernelRows | undefined {
    if (this.wait > 0) {
      this.wait--;
      return undefined;
    }
    const { kernel, signs, text } = this;
    const isNew = at < this.from || at >= this.to;
    if (isNew) this.give(at);
    this.others.fill(0);
    for (let c = 0; c < this.columns; c++) this.flags[c] = readsNumbers(c) ? 1 : 0;
    const base = this.from - text.byteOffset;
    const call = (from: number) =>
      kernel.delimitedRows(
        from - base,
        this.to - base,
        base,
        this.columns,
        this.most,
        signs.delimiter,
        signs.quote < 0 ? NONE : signs.quote,
        signs.comment < 0 ? NONE : signs.comment,
        this.flags.byteOffset,
        this.others.byteOffset,
        this.zeros.byteOffset,
        line,
        this.lines.byteOffset,
        this.starts.byteOffset,
        this.lengths.byteOffset,
        this.numbers.byteOffset,
      );
    const rows = call(at);
    if (rows === 0) {
      // The row may only have been cut off by the end of the bytes given.
      if (!isNew && this.to < this.bytes.length) {
        this.to = this.from;
        return this.read(at, line, readsNumbers);
      }
      this.wait = this.nextWait - 1;
      this.nextWait = Math.min(this.nextWait * 2, MOST_ROWS);
      return undefined;
    }
    if (rows >= PLAIN_ROWS || rows === this.most) this.nextWait = 1;
    return { rows, at: kernel.delimitedAt.value + base, line: kernel.delimitedLine.value, lines: this.lines };
  }

  /** The cells of one column of the rows that were read last. */
  column(index: number, rows: number) {
    const from = index * this.most;
    return {
      starts: this.starts.subarray(from, from + rows),
      lengths: this.lengths.subarray(from, from + rows),
      numbers: this.numbers.subarray(from, from + rows),
      others: this.others[index]!,
      leadingZero: this.zeros[index] === 1,
    };
  }

  private give(at: number): void {
    this.from = at;
    this.to = Math.min(at + CHUNK, this.bytes.length);
    this.text.set(this.bytes.subarray(at, this.to));
    // A line feed behind the last byte ends every search.
    this.text[this.to - at] = 10;
  }
}
