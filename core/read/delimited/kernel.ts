import { FREE_FROM, type Kernels, kernels } from '../../kernels/kernels.ts';
import { KernelWindow, Places, roomFor, WINDOW_BYTES } from '../../kernels/window.ts';
import type { FoundCells } from '../../table/spans.ts';
import type { Stretch } from '../encoding.ts';

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
  private readonly zeros: Uint8Array;
  private readonly lines: Int32Array;
  private readonly starts: Int32Array;
  private readonly lengths: Uint16Array;
  private readonly numbers: Float64Array;

  /** @returns undefined where there are no kernels */
  static over(bytes: Uint8Array, signs: DelimitedBytes, columns: number): DelimitedKernel | undefined {
    const most = roomFor(columns);
    const made = kernels(WINDOW_BYTES + columns * 2 + most * 4 + most * columns * CELL_BYTES + 64);
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
    this.flags = new Uint8Array(memory, places.take(columns), columns);
    this.zeros = new Uint8Array(memory, places.take(columns), columns);
    this.window = new KernelWindow(kernel, bytes, new Uint8Array(memory, places.take(WINDOW_BYTES), WINDOW_BYTES));
  }

  /** Bytes that it has seen to be ASCII. */
  get ascii(): Stretch {
    return this.window.ascii;
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
    const { kernel } = this;
    const from = index * this.most;
    const starts = this.starts.subarray(from, from + rows);
    const lengths = this.lengths.subarray(from, from + rows);
    if (this.flags[index] === 0) return { starts, lengths };
    const values = this.numbers.subarray(from, from + rows);
    const blanks = kernel.blanksIn(starts.byteOffset, rows);
    return {
      starts,
      lengths,
      read: {
        values,
        leadingZero: this.zeros[index] === 1,
        fractions: kernel.haveFractions(values.byteOffset, rows) === 1,
        blanks,
        others: kernel.missingIn(values.byteOffset, rows) - blanks,
      },
    };
  }
}
