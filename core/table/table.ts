import { type Column, columnLength, countUnreadable } from './column.ts';

/**
 * What a column is to its table. position: named only by where it stands (A, B, C), a header may still name it.
 * named: has a real name. beside: tells of the row rather than standing in it (sheet name, carried label), so rules
 * about which cells of a row are filled pass over it.
 */
export type NameOrigin = 'position' | 'named' | 'beside';

export interface Field {
  name: string;
  nameOrigin: NameOrigin;
  column: Column;
}

/** Fields of equal length, in order. Names are unique. */
export interface Table {
  rows: number;
  fields: readonly Field[];
  /** Decimal mark of figures, where the file leaves only one: a table as it was read says it. */
  decimal?: '.' | ',';
}

/** Cells of all columns that could not be read. */
export function unreadableCells({ fields }: Table): number {
  return fields.reduce((sum, { column }) => sum + countUnreadable(column), 0);
}

export function makeTable(columns: Record<string, Column>): Table {
  const fields = Object.entries(columns).map(([name, column]) => ({ name, nameOrigin: 'named' as const, column }));
  return { rows: fields.length === 0 ? 0 : columnLength(fields[0]!.column), fields };
}

/** Spreadsheet column letters: 0 is A, 26 is AA. */
export function columnLetters(index: number): string {
  let letters = '';
  for (let n = index + 1; n > 0; n = Math.floor((n - 1) / 26)) {
    letters = String.fromCharCode(65 + ((n - 1) % 26)) + letters;
  }
  return letters;
}

/**
 * Whether a name is only that of a place, as a column without its own name has it.
 * @param columns of the table: in a narrow one ID or RT are names, since no column stands so far to the right
 */
export function isPlaceName(name: string, columns = Number.POSITIVE_INFINITY): boolean {
  return /^[A-Z]{1,2}$/.test(name) && columnIndex(name) < Math.max(26, columns * 3);
}

/**
 * For each name whether it is only that of a place. Places go up from left to right, and a column that others left has its
 * place from before: where letters do otherwise (S, M, L), they are names.
 */
export function unnamedAmong(names: readonly string[]): boolean[] {
  let last = -1;
  let isInOrder = true;
  for (const [k, name] of names.entries()) {
    if (!isPlaceName(name, names.length)) continue;
    const place = columnIndex(name);
    if (place < k || place <= last) isInOrder = false;
    last = place;
  }
  return names.map((name, k) => isPlaceName(name, names.length) && (isInOrder || columnIndex(name) === k));
}

/** Whether columns of the table are named by where they stand alone, so that a header may still name them. */
export function isPositioned(table: Table): boolean {
  return table.fields.some((field) => field.nameOrigin === 'position');
}

/** The index of column letters: A is 0, AA is 26. */
export function columnIndex(letters: string): number {
  let index = 0;
  for (const letter of letters.toUpperCase()) index = index * 26 + letter.charCodeAt(0) - 64;
  return index - 1;
}

/** The name itself, or the name with the lowest free number behind it; adds it to taken. */
export function uniqueName(name: string, taken: Set<string>): string {
  let unique = name;
  for (let n = 2; taken.has(unique); n++) unique = `${name} ${n}`;
  taken.add(unique);
  return unique;
}
