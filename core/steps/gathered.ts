import type { Column } from '../table/column.ts';
import { blankColumn, stackColumns, takeColumn } from '../table/gather.ts';
import { type ColumnOrigin, type Role, takenRows } from '../table/origin.ts';
import type { Table } from '../table/table.ts';

/**
 * A column made of cells from several columns of a table, with where each came from.
 *
 * @param columns for each output row the input column, -1 for a blank cell
 * @param rows for each output row the input row, -1 for a blank cell
 */
export function gatherCells(
  input: Table,
  columns: Int32Array,
  rows: Int32Array,
  role: Role = 'value',
): { column: Column; origin: ColumnOrigin } {
  const used = [...new Set(columns)].filter((k) => k >= 0).sort((a, b) => a - b);
  const origin: ColumnOrigin = {
    cells:
      used.length === 0
        ? []
        : [{ role, rows: takenRows(rows), column: used.length === 1 ? used[0]! : { kind: 'take', columns } }],
    name: [],
  };
  if (used.length === 0) return { column: blankColumn(rows.length), origin };
  if (used.length === 1) return { column: takeColumn(input.fields[used[0]!]!.column, rows), origin };
  const offset = new Map(used.map((k, n) => [k, n * input.rows]));
  const at = rows.map((row, n) => (row < 0 || columns[n]! < 0 ? -1 : offset.get(columns[n]!)! + row));
  return { column: takeColumn(stackColumns(used.map((k) => input.fields[k]!.column)), at), origin };
}
