import type { Notice, StepResult } from '../../kinds/step.ts';
import { Dictionary } from '../../table/builder.ts';
import type { Column } from '../../table/column.ts';
import { takeColumn } from '../../table/gather.ts';
import { type ColumnOrigin, fromColumn, takenRows } from '../../table/origin.ts';
import type { Table } from '../../table/table.ts';
import { uniqueName } from '../../table/table.ts';

/** The items of one column's cell, row by row. */
export type ItemsOf = (row: number) => readonly (string | null)[];

/**
 * One row for each item; several columns go down together, item by item, the shorter ones with blanks at the end.
 * A row without items stays, with a blank.
 *
 * @param numbering name of a new column that counts the items of each row from 1, or null
 */
export function itemsToRows(
  input: Table,
  lists: ReadonlyMap<number, ItemsOf>,
  numbering: string | null,
  notices: readonly Notice[],
): StepResult {
  const lengths = new Int32Array(input.rows);
  for (const items of lists.values()) {
    for (let r = 0; r < input.rows; r++) lengths[r] = Math.max(lengths[r]!, items(r).length, 1);
  }
  const total = lengths.reduce((sum, n) => sum + n, 0);
  const rows = new Int32Array(total);
  const item = new Int32Array(total);
  for (let r = 0, k = 0; r < input.rows; r++) {
    for (let i = 0; i < lengths[r]!; i++, k++) {
      rows[k] = r;
      item[k] = i;
    }
  }
  const fields = input.fields.map((field, k) => {
    const items = lists.get(k);
    return { ...field, column: items === undefined ? takeColumn(field.column, rows) : itemColumn(items, rows, item) };
  });
  const origin: ColumnOrigin[] = input.fields.map((_, k) => fromColumn(k, takenRows(rows)));
  if (numbering !== null && numbering !== '') {
    const name = uniqueName(numbering, new Set(fields.map((field) => field.name)));
    fields.push({
      name,
      nameOrigin: 'named',
      column: { type: 'whole', values: Float64Array.from(item, (i) => i + 1) },
    });
    origin.push({ cells: [], name: [] });
  }
  return { table: { rows: total, fields }, origin, aside: [], notices };
}

function itemColumn(items: ItemsOf, rows: Int32Array, item: Int32Array): Column {
  const dictionary = new Dictionary();
  const codes = new Int32Array(rows.length);
  for (let k = 0; k < rows.length; k++) {
    const text = items(rows[k]!)[item[k]!];
    codes[k] = text === undefined || text === null ? -1 : dictionary.code(text);
  }
  return { type: 'text', codes, dictionary: dictionary.texts, distinct: true };
}
