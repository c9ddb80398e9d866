import type { Column } from '../table/column.ts';
import type { Field } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';

/** What a typed format keeps a column as. */
export type ValueKind = 'text' | 'number' | 'whole' | 'yesno' | 'date' | 'time' | 'datetime';

/** A column that mixes kinds, or holds unreadable cells, is kept as text. */
export function valueKind({ column }: Field): ValueKind {
  if (column.type === 'text' || column.type === 'received') return 'text';
  return column.unreadable === undefined || column.unreadable.codes.every((code) => code < 0) ? column.type : 'text';
}

/** Numbers behind the cells of a counted column; NaN where there is none. */
export function valuesOf(column: Column): Float64Array {
  return (column as { values: Float64Array }).values;
}

/** All cells of a column as text. */
export function textsOf(column: Column, rows: number): (string | null)[] {
  return Array.from({ length: rows }, (_, r) => cellText(column, r));
}
