/** A source could not be read at all. */
export class ReadFailure extends Error {
  override name = 'ReadFailure';
  constructor(
    readonly file: string,
    message: string,
  ) {
    super(message);
  }
}

/** Cells that the parts of a report may span together, filled or not. */
const MOST_SPANNED = 40_000_000;
/** Columns of one part, as many as sheets of workbooks have. */
export const MOST_COLUMNS = 16_384;

/** Counts the cells that a report spans: one far outside its table makes millions of blank ones, for which there is no room. */
export class Reach {
  private spanned = 0;

  constructor(private readonly file: string) {}

  /** Counts a part. @throws ReadFailure when the parts span too many cells */
  add(part: string, rows: number, columns: number): void {
    this.spanned += rows * columns;
    if (this.spanned <= MOST_SPANNED && columns <= MOST_COLUMNS) return;
    const count = (of: number) => of.toLocaleString('en-GB');
    throw new ReadFailure(
      this.file,
      `${part} reaches over ${count(rows)} rows and ${count(columns)} columns; a sheet may have ${count(MOST_COLUMNS)} columns, and all sheets of a report ${count(MOST_SPANNED)} cells together. If a cell stands far outside its table, clear it in a spreadsheet program and save the file anew.`,
    );
  }
}
