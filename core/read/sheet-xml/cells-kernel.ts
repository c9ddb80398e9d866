import { FREE_FROM, type Kernels, kernels } from '../../kernels/kernels.ts';
import { KernelWindow, Places, WINDOW_BYTES } from '../../kernels/window.ts';

/** Cells that there is room for at a time; not a power of two, as vectors that lie apart by one push each other out. */
const MOST = 4104;
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

/** Reads the cells of a sheet whose tags have names without a prefix. */
export class CellsKernel {
  private constructor(
    private readonly kernel: Kernels,
    private readonly to: number,
    private readonly window: KernelWindow,
    private readonly cells: KernelCells,
  ) {}

  /**
   * @param to behind the last row
   * @returns undefined where there are no kernels
   */
  static of(bytes: Uint8Array, to: number): CellsKernel | undefined {
    const made = kernels(WINDOW_BYTES + MOST * CELL_BYTES + 64);
    if (made === undefined) return undefined;
    const { kernels: kernel, memory } = made;
    const places = new Places(FREE_FROM);
    const whole = () => new Int32Array(memory, places.take(MOST * 4), MOST);
    const cells: KernelCells = {
      count: 0,
      at: 0,
      row: 0,
      column: 0,
      rows: whole(),
      columns: whole(),
      styles: whole(),
      kinds: new Uint8Array(memory, places.take(MOST), MOST),
      values: new Float64Array(memory, places.take(MOST * 8), MOST),
      starts: whole(),
      lengths: whole(),
    };
    const window = new KernelWindow(kernel, bytes, new Uint8Array(memory, places.take(WINDOW_BYTES), WINDOW_BYTES));
    return new CellsKernel(kernel, to, window, cells);
  }

  /**
   * Reads tags from a place on.
   * @param row of the cell before
   * @param column likewise
   * @returns undefined where the next tag has to be read the plain way
   */
  read(at: number, row: number, column: number): KernelCells | undefined {
    const { kernel, cells } = this;
    let count = 0;
    const read = this.window.rows(at, (from, end, base) => {
      count = kernel.sheetCells(
        from,
        Math.min(end, this.to - base),
        base,
        row,
        column,
        MOST,
        cells.rows.byteOffset,
        cells.columns.byteOffset,
        cells.styles.byteOffset,
        cells.kinds.byteOffset,
        cells.values.byteOffset,
        cells.starts.byteOffset,
        cells.lengths.byteOffset,
      );
      // Tags of rows and of empty cells count too.
      return kernel.sheetCellsAt.value - from;
    });
    if (read === undefined) return undefined;
    cells.count = count;
    cells.at = kernel.sheetCellsAt.value + read.base;
    cells.row = kernel.sheetCellsRow.value;
    cells.column = kernel.sheetCellsColumn.value;
    return cells;
  }
}
