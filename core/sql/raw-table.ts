import { countedColumn } from '../table/builder.ts';
import type { Table } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { readableColumn } from '../values/convert.ts';
import { ORDER } from './translate.ts';

/**
 * A table as a script begins with it: the order of its rows in its own column, cells that could not be read blank,
 * a column of several kinds as text.
 */
export function rawTable({ rows, fields }: Table): Table {
  const order = countedColumn('whole', [...rowNumbers(rows)]);
  return {
    rows,
    fields: [
      { name: ORDER, nameOrigin: 'beside', column: order },
      ...fields.map((field) => ({ ...field, column: readableColumn(field.column) })),
    ],
  };
}
