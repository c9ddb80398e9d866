import { grouped } from '../values/counted.ts';
import { brief, MAX_TOLD } from '../values/text.ts';

/** A source could not be read at all. */
export class ReadFailure extends Error {
  override name = 'ReadFailure';
  constructor(
    readonly file: string,
    message: string,
  ) {
    super(brief(message, MAX_TOLD));
  }
}

/** Cells that the parts of a report may span together, filled or not. */
const MAX_SPANNED = 40_000_000;
/** Columns of one part, as many as sheets of workbooks have. */
export const MAX_COLUMNS = 16_384;

/** A table that is mostly blank has more than this number of cells for each filled one. */
const MOSTLY_BLANK = 4;

/** How many cells of a table of this size are blank, where they are too many to make room for; else undefined. */
export function tooBlank(rows: number, columns: number, filled: number): number | undefined {
  const size = rows * columns;
  return size > MAX_SPANNED && size > filled * MOSTLY_BLANK ? size - filled : undefined;
}

/** Counts the cells that a report spans: one far outside its table makes millions of blank ones, for which there is no room. */
export class CellBudget {
  private spanned = 0;

  constructor(private readonly file: string) {}

  /** Counts a part. @throws ReadFailure when the parts span too many cells */
  add(part: string, rows: number, columns: number): void {
    this.check(part, rows, columns);
    this.spanned += rows * columns;
  }

  /** Whether there is room for a part that reaches so far. @throws ReadFailure when there is none */
  check(part: string, rows: number, columns: number): void {
    if (this.spanned + rows * columns <= MAX_SPANNED && columns <= MAX_COLUMNS) return;
    const count = (of: number) => grouped(of);
    throw new ReadFailure(
      this.file,
      `${part} reaches over ${count(rows)} rows and ${count(columns)} columns; a sheet may have ${count(MAX_COLUMNS)} columns, and all sheets of a report ${count(MAX_SPANNED)} cells together. If a cell stands far outside its table, clear it in a spreadsheet program and save the file again.`,
    );
  }
}
