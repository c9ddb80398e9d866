import { KernelWindow, type LaidOut, laidOut, type PieceRoom, roomFor, WINDOW_BYTES } from '../../kernels/window.ts';
import type { FoundCells } from '../../table/span-builder.ts';
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
/** Words that the kernel tells of a piece, and of each column behind them. */
const TOLD = 3;
const LINE = 2;
const TOLD_OF_COLUMN = 3;

/** Rows that the kernel read, in its memory: valid until it reads again. */
export interface KernelRows {
  rows: number;
  /** Behind the last of them. */
  at: number;
  /** Line of that place. */
  line: number;
  lines: Int32Array;
}

interface Room extends PieceRoom {
  flags: Uint8Array;
  zeros: Uint8Array;
  lines: Int32Array;
  starts: Int32Array;
  lengths: Uint16Array;
  numbers: Float64Array;
}

/** Reads plain rows of delimited text with the kernel. */
export class DelimitedKernel {
  private readonly most: number;
  private readonly window: KernelWindow<Room>;
  private readonly room: Room;

  /** @returns undefined where there are no kernels */
  static over(bytes: Uint8Array, signs: DelimitedBytes, columns: number): DelimitedKernel | undefined {
    const most = roomFor(columns);
    const cells = most * columns;
    const size = WINDOW_BYTES + cells * CELL_BYTES + most * 4 + columns * 14 + 128;
    const laid = laidOut(size, (places) => ({
      numbers: places.doubles(cells),
      starts: places.words(cells),
      lengths: places.halves(cells),
      lines: places.words(most),
      flags: places.bytes(columns),
      zeros: places.bytes(columns).fill(0),
      told: places.words(TOLD + TOLD_OF_COLUMN * columns),
      window: places.window(),
    }));
    return laid && new DelimitedKernel(laid, bytes, signs, columns);
  }

  private constructor(
    laid: LaidOut<Room>,
    bytes: Uint8Array,
    private readonly signs: DelimitedBytes,
    private readonly columns: number,
  ) {
    this.most = roomFor(columns);
    this.room = laid.room;
    this.window = new KernelWindow(bytes, laid, 'delimitedRows');
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
    const read = this.window.rows(at, this.callFor(line, readsNumbers));
    if (read === undefined) return undefined;
    return { rows: read.rows, at: read.at, line: read.room.told[LINE]!, lines: read.room.lines };
  }

  private callFor(line: number, readsNumbers: (column: number) => boolean) {
    const { signs, columns, most } = this;
    return (room: Room, from: number, end: number, base: number) => {
      for (let c = 0; c < columns; c++) room.flags[c] = readsNumbers(c) ? 1 : 0;
      return [
        from,
        end,
        base,
        columns,
        most,
        signs.delimiter,
        signs.quote < 0 ? NONE : signs.quote,
        signs.comment < 0 ? NONE : signs.comment,
        room.flags.byteOffset,
        room.zeros.byteOffset,
        line,
        room.lines.byteOffset,
        room.starts.byteOffset,
        room.lengths.byteOffset,
        room.numbers.byteOffset,
        room.told.byteOffset,
      ];
    };
  }

  /** The cells of one column of the rows that were read last. */
  column(index: number, rows: number): FoundCells {
    const { room } = this;
    const from = index * this.most;
    const starts = room.starts.subarray(from, from + rows);
    const lengths = room.lengths.subarray(from, from + rows);
    if (room.flags[index] === 0) return { starts, lengths };
    const [blanks, missing, fractions] = room.told.subarray(TOLD + index * TOLD_OF_COLUMN);
    return {
      starts,
      lengths,
      read: {
        values: room.numbers.subarray(from, from + rows),
        leadingZero: room.zeros[index] === 1,
        fractions: fractions === 1,
        blanks: blanks!,
        others: missing! - blanks!,
      },
    };
  }
}
