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

/** Cells that a part of a report may span, filled or not. */
const MOST_SPANNED = 40_000_000;

/**
 * A cell far outside the table makes a sheet of millions of blank ones, for which there is no room.
 *
 * @throws ReadFailure when the part spans too many cells
 */
export function refuseFarReach(file: string, part: string, rows: number, columns: number): void {
  if (rows * columns <= MOST_SPANNED) return;
  const count = (of: number) => of.toLocaleString('en-GB');
  throw new ReadFailure(
    file,
    `${part} reaches over ${count(rows)} rows and ${count(columns)} columns, more than can be read. If a cell stands far outside its table, clear it in a spreadsheet program and save the file anew.`,
  );
}
