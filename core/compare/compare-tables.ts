/** Two tables that came out of two runs of one method, row against row by a key. */

import { identifyingColumns } from '../rows/identifying.ts';
import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { Sum } from '../values/decimal.ts';

export interface ChangedRow {
  before: number;
  after: number;
  /** Names of the columns whose cells read otherwise. */
  columns: readonly string[];
}

export interface TablesCompared {
  /** Columns that say which rows are the same; where there are none, rows are the same when all of their cells are. */
  key: readonly string[];
  addedColumns: readonly string[];
  goneColumns: readonly string[];
  /** Rows of the later table whose key the earlier one does not have. */
  added: readonly number[];
  /** Rows of the earlier table whose key the later one does not have. */
  gone: readonly number[];
  changed: readonly ChangedRow[];
  same: number;
  /** Rows beyond the first of their key in either table; they are paired in their order. */
  repeated: number;
  /** What number columns in both add up to. */
  sums: readonly { column: string; before: number; after: number }[];
}

/** @param key names of columns in both tables; guessed where it is not given */
export function compareTables(before: Table, after: Table, key?: readonly string[]): TablesCompared {
  const names = (table: Table) => table.fields.map((field) => field.name);
  const [was, is] = [names(before), names(after)];
  const shared = was.filter((name) => is.includes(name));
  const by = (key ?? guessedKey(before, after, shared)).filter((name) => shared.includes(name));
  const keyed = by.length > 0 ? by : shared;
  const rowsOf = new Map<string, number[]>();
  const keyOf = { before: keyTexts(before, keyed), after: keyTexts(after, keyed) };
  let repeated = 0;
  for (let r = 0; r < before.rows; r++) {
    const rows = rowsOf.get(keyOf.before(r));
    if (rows === undefined) rowsOf.set(keyOf.before(r), [r]);
    else {
      repeated++;
      rows.push(r);
    }
  }
  const compared = shared
    .filter((name) => !keyed.includes(name))
    .map((name) => ({ name, before: columnOf(before, name), after: columnOf(after, name) }));
  const taken = new Uint8Array(before.rows);
  const nextOf = new Map<string, number>();
  const added: number[] = [];
  const changed: ChangedRow[] = [];
  let same = 0;
  for (let r = 0; r < after.rows; r++) {
    const text = keyOf.after(r);
    const rows = rowsOf.get(text);
    const at = nextOf.get(text) ?? 0;
    nextOf.set(text, at + 1);
    if (at > 0 && (rows === undefined || at >= rows.length)) repeated++;
    const own = rows?.[at];
    if (own === undefined) {
      added.push(r);
      continue;
    }
    taken[own] = 1;
    const columns = compared
      .filter((one) => cellText(one.before, own) !== cellText(one.after, r))
      .map((one) => one.name);
    if (columns.length === 0) same++;
    else changed.push({ before: own, after: r, columns });
  }
  const gone: number[] = [];
  taken.forEach((bit, r) => {
    if (bit === 0) gone.push(r);
  });
  return {
    key: by,
    addedColumns: is.filter((name) => !was.includes(name)),
    goneColumns: was.filter((name) => !is.includes(name)),
    added,
    gone,
    changed,
    same,
    repeated,
    sums: compareSums(before, after),
  };
}

function columnOf(table: Table, name: string): Column {
  return table.fields.find((field) => field.name === name)!.column;
}

/** Columns that tell the rows of the larger table apart. */
function guessedKey(before: Table, after: Table, shared: readonly string[]): readonly string[] {
  const larger = before.rows > after.rows ? before : after;
  const fields = larger.fields.filter((field) => shared.includes(field.name));
  const words = fields.filter(({ column }) => column.type !== 'whole');
  // Whole numbers can be figures that differ by chance: they are a key only where nothing else is one.
  return (
    identifyingColumns({ rows: larger.rows, fields: words }) ?? identifyingColumns({ rows: larger.rows, fields }) ?? []
  );
}

/** The key of a row as one text; texts of different cells cannot run together. */
function keyTexts(table: Table, names: readonly string[]): (row: number) => string {
  const views = names.map((name) => textView(columnOf(table, name)));
  return (row) =>
    views
      .map(({ codes, texts }) => (codes[row]! < 0 ? '' : `${texts[codes[row]!]!.length}:${texts[codes[row]!]!}`))
      .join('\u0000');
}

/** What the number columns that both tables have add up to. */
export function compareSums(before: Table, after: Table): { column: string; before: number; after: number }[] {
  const counts = ({ type }: Column) => type === 'number' || type === 'whole';
  return before.fields.flatMap(({ name, column }) => {
    const other = after.fields.find((field) => field.name === name)?.column;
    return other === undefined || !counts(column) || !counts(other)
      ? []
      : [{ column: name, before: sumOf(column), after: sumOf(other) }];
  });
}

/** What a number column adds up to; blanks and unreadable cells add nothing. */
function sumOf(column: Column): number {
  if (column.type !== 'number' && column.type !== 'whole') return 0;
  const sum = new Sum();
  for (const value of column.values) if (!Number.isNaN(value)) sum.add(value);
  return sum.value;
}
