/** Changes to a report that do not change its table: the draft of the altered report should give the same. */
import { type CellObject, read, utils, type WorkBook, type WorkSheet, write } from '@e965/xlsx';

type Grid = (CellObject | undefined)[][];

export interface Alteration {
  name: string;
  /** A grid that is altered, or undefined where it cannot be applied. */
  apply(grid: Grid): Grid | undefined;
}

const text = (value: string): CellObject => ({ t: 's', v: value });
const width = (grid: Grid) => Math.max(1, ...grid.map((row) => row.length));
const isBlankRow = (row: readonly (CellObject | undefined)[]) =>
  row.every((cell) => cell === undefined || cell.v === '');

export const ALTERATIONS: readonly Alteration[] = [
  { name: 'a title line more', apply: (grid) => [[text('Harbour office, monthly statement')], ...grid] },
  { name: 'two blank rows in front', apply: (grid) => [[], [], ...grid] },
  { name: 'a blank column in front', apply: (grid) => grid.map((row) => [undefined, ...row]) },
  { name: 'a note below', apply: (grid) => [...grid, [], [text('Figures may be revised in later months')]] },
  {
    name: 'no styles',
    apply: (grid) =>
      grid.map((row) =>
        row.map((cell) => cell && { t: cell.t, v: cell.v!, ...(cell.z === undefined ? {} : { z: cell.z }) }),
      ),
  },
  {
    name: 'names in capitals',
    apply(grid) {
      // The first row that fills most columns names them.
      const at = grid.findIndex((row) => row.filter((cell) => cell !== undefined).length >= width(grid) * 0.7);
      if (at < 0 || grid[at]!.some((cell) => cell?.t === 'n')) return undefined;
      return grid.map((row, r) =>
        r === at ? row.map((cell) => cell && { ...cell, v: String(cell.v).toUpperCase() }) : row,
      );
    },
  },
  {
    name: 'blank rows doubled',
    apply: (grid) => (grid.some(isBlankRow) ? grid.flatMap((row) => (isBlankRow(row) ? [row, []] : [row])) : undefined),
  },
];

/** A workbook whose sheets are altered, or undefined where none can be. */
export function altered(bytes: Uint8Array, { apply }: Alteration): Uint8Array | undefined {
  let book: WorkBook;
  try {
    book = read(bytes, { dense: true, cellNF: true, cellDates: false });
  } catch {
    // Locked workbooks are drafted, but cannot be written in another form here.
    return undefined;
  }
  // Merges would have to move along with their cells.
  if (Object.values(book.Sheets).some((sheet) => (sheet['!merges'] ?? []).length > 0)) return undefined;
  const result = utils.book_new();
  for (const name of book.SheetNames) {
    const stored = (book.Sheets[name] as unknown as { '!data'?: Grid })['!data'] ?? [];
    // Rows without a cell are not stored.
    const made = apply(Array.from(stored, (row) => Array.from(row ?? [])));
    if (made === undefined) return undefined;
    // An empty sheet has no range to write.
    const grid = made.length === 0 ? [[]] : made;
    const range = utils.encode_range({ s: { r: 0, c: 0 }, e: { r: grid.length - 1, c: width(grid) - 1 } });
    utils.book_append_sheet(result, { '!ref': range, '!data': grid } as unknown as WorkSheet, name);
  }
  return new Uint8Array(write(result, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
}
