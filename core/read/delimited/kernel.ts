import { FREE_FROM, type Kernels, kernels } from '../../kernels/kernels.ts';
import { KernelWindow, Places, roomFor, WINDOW_BYTES } from '../../kernels/window.ts';
import type { FoundCells } from '../../table/spans.ts';

/** The signs of a dialect as single bytes; -1: there is none. */
export interface DelimitedBytes {
  delimiter: number;
  quote: number;
  /** First byte of the sign of comments. */
  comment: number;
}

const CELL_BYTES = 14;
const NONE = 256;

/** Rows that the kernel read, in its memory: valid until it reads again. */
export interface KernelRows {
  rows: number;
  /** Behind the last of them. */
  at: number;
  /** Line of that place. */
  line: number;
  lines: Int32Array;
}

/** Reads plain rows of delimited text with the kernel. */
export class DelimitedKernel {
  private readonly most: number;
  private readonly window: KernelWindow;
  private readonly flags: Uint8Array;
  private readonly others: Int32Array;
  private readonly zeros: Uint8Array;
  private readonly lines: Int32Array;
  private readonly starts: Int32Array;
  private readonly lengths: Uint16Array;
  private readonly numbers: Float64Array;

  /** @returns undefined where there are no kernels */
  static over(bytes: Uint8Array, signs: DelimitedBytes, columns: number): DelimitedKernel | undefined {
    const most = roomFor(columns);
    const made = kernels(WINDOW_BYTES + columns * 6 + most * 4 + most * columns * CELL_BYTES + 64);
    return made && new DelimitedKernel(made.kernels, made.memory, bytes, signs, columns);
  }

  private constructor(
    private readonly kernel: Kernels,
    memory: ArrayBuffer,
    bytes: Uint8Array,
    private readonly signs: DelimitedBytes,
    private readonly columns: number,
  ) {
    const most = roomFor(columns);
    this.most = most;
    const places = new Places(FREE_FROM);
    this.numbers = new Float64Array(memory, places.take(most * columns * 8), most * columns);
    this.starts = new Int32Array(memory, places.take(most * columns * 4), most * columns);
    this.lengths = new Uint16Array(memory, places.take(most * columns * 2), most * columns);
    this.lines = new Int32Array(memory, places.take(most * 4), most);
    this.others = new Int32Array(memory, places.take(columns * 4), columns);
    this.flags = new Uint8Array(memory, places.take(columns), columns);
    this.zeros = new Uint8Array(memory, places.take(columns), columns);
    this.window = new KernelWindow(bytes, new Uint8Array(memory, places.take(WINDOW_BYTES), WINDOW_BYTES));
  }

  /**
   * Reads rows from a place on, for as long as they are plain.
   * @param line of the place
   * @param readsNumbers for each column
   * @returns undefined where the next row has to be read the plain way
   */
  read(at: number, line: number, readsNumbers: (column: number) => boolean): KernelRows | undefined {
    const { kernel, signs, columns, most } = this;
    const read = this.window.rows(at, (from, end, base) => {
      this.others.fill(0);
      for (let c = 0; c < columns; c++) this.flags[c] = readsNumbers(c) ? 1 : 0;
      return kernel.delimitedRows(
        from,
        end,
        base,
        columns,
        most,
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
    });
    if (read === undefined) return undefined;
    const { rows, base } = read;
    return { rows, at: kernel.delimitedAt.value + base, line: kernel.delimitedLine.value, lines: this.lines };
  }

  /** The cells of one column of the rows that were read last. */
  column(index: number, rows: number): FoundCells {
    const from = index * this.most;
    return {
      starts: this.starts.subarray(from, from + rows),
      lengths: this.lengths.subarray(from, from + rows),
      read: {
        values: this.numbers.subarray(from, from + rows),
        others: this.others[index]!,
        leadingZero: this.zeros[index] === 1,
      },
    };
  }
}
