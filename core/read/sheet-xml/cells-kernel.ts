import { KernelWindow, laidOut, type PieceRoom, WINDOW_BYTES } from '../../kernels/window.ts';

/** Cells that there is room for at a time; not a power of two, as vectors that lie apart by one push each other out. */
const MAX_CELLS = 4104;
const CELL_BYTES = 29;

/** Filled cells that were read, in the kernel's memory: valid until it reads again. */
export interface KernelCells {
  count: number;
  /** Behind the last tag that was read, and the row and column that were come to. */
  at: number;
  row: number;
  column: number;
  rows: Int32Array;
  columns: Int32Array;
  styles: Int32Array;
  /** What the cells hold, by Held. */
  kinds: Uint8Array;
  /** Numbers, NaN where one has to be read from its text; places of shared texts; 0 or 1. */
  values: Float64Array;
  /** Where the text of a value stands in the sheet. */
  starts: Int32Array;
  lengths: Int32Array;
}

interface Room extends PieceRoom {
  cells: KernelCells;
}

/** Words that the kernel tells of a piece, behind those of every kernel. */
const TOLD = 5;
const ROW = 2;
const COLUMN = 3;
const COUNT = 4;

/** Reads the cells of a sheet whose tags have names without a prefix. */
export class CellsKernel {
  private constructor(
    private readonly to: number,
    private readonly window: KernelWindow<Room>,
  ) {}

  /**
   * @param to behind the last row
   * @returns undefined where there are no kernels
   */
  static of(bytes: Uint8Array, to: number): CellsKernel | undefined {
    const laid = laidOut(WINDOW_BYTES + MAX_CELLS * CELL_BYTES + TOLD * 4 + 64, (places) => ({
      cells: {
        count: 0,
        at: 0,
        row: 0,
        column: 0,
        rows: places.words(MAX_CELLS),
        columns: places.words(MAX_CELLS),
        styles: places.words(MAX_CELLS),
        kinds: places.bytes(MAX_CELLS),
        values: places.doubles(MAX_CELLS),
        starts: places.words(MAX_CELLS),
        lengths: places.words(MAX_CELLS),
      },
      told: places.words(TOLD),
      window: places.window(),
    }));
    return laid && new CellsKernel(to, new KernelWindow(bytes, laid, 'sheetCells'));
  }

  /**
   * Reads tags from a place on.
   * @param row of the cell before
   * @param column likewise
   * @returns undefined where the next tag has to be read the plain way
   */
  read(at: number, row: number, column: number): KernelCells | undefined {
    const read = this.window.rows(at, ({ cells, told }, from, end, base) => [
      from,
      Math.min(end, this.to - base),
      base,
      row,
      column,
      MAX_CELLS,
      cells.rows.byteOffset,
      cells.columns.byteOffset,
      cells.styles.byteOffset,
      cells.kinds.byteOffset,
      cells.values.byteOffset,
      cells.starts.byteOffset,
      cells.lengths.byteOffset,
      told.byteOffset,
    ]);
    if (read === undefined) return undefined;
    const { cells, told } = read.room;
    cells.count = told[COUNT]!;
    cells.at = read.at;
    cells.row = told[ROW]!;
    cells.column = told[COLUMN]!;
    return cells;
  }
}
