import { stackNamed } from '../table/stack-tables.ts';
import { type Table, unreadableCells } from '../table/table.ts';
import { readableColumn } from '../values/convert.ts';

/** What a method made of one file, as a part of a data set of many. */
export interface PartTable {
  /** With the name of the file in its first column. */
  table: Table;
  /** Cells that could not be read: blank in the part, so that a column is of one type in all parts. */
  unreadable: number;
}

export function partTable(file: string, table: Table): PartTable {
  const named = stackNamed([{ name: file, table }], 'File');
  return {
    table: { ...named, fields: named.fields.map((field) => ({ ...field, column: readableColumn(field.column) })) },
    unreadable: unreadableCells(table),
  };
}
