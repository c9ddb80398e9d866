import { type Column, type Context, cellText, type Table, Tag } from './index.ts';

/** The cells of a table as they read, row by row; null is blank. For tests only. */
export function cellsOf(table: Table): (string | null)[][] {
  return Array.from({ length: table.rows }, (_, r) => table.fields.map((field) => cellText(field.column, r)));
}

export function columnCells(column: Column, rows: number): (string | null)[] {
  return Array.from({ length: rows }, (_, r) => cellText(column, r));
}

export function namesOf(table: Table): string[] {
  return table.fields.map((field) => field.name);
}

/** Nothing to tell and nobody to stop it. */
export const quiet: Context = {
  progress: () => undefined,
  name: 'Table',
  other: (id) => {
    throw new Error(`no table ${id} in this test`);
  },
};

/** A received column of numbers, texts and blanks. */
export function received(cells: readonly (number | string | null)[]): Column {
  const dictionary: string[] = [];
  const tags = new Uint8Array(cells.length);
  const values = new Float64Array(cells.length);
  cells.forEach((cell, r) => {
    if (cell === null) return;
    tags[r] = typeof cell === 'number' ? Tag.number : Tag.text;
    values[r] = typeof cell === 'number' ? cell : dictionary.push(cell) - 1;
  });
  return { type: 'received', tags, values, dictionary, cells: [] };
}
