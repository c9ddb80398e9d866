import { type Column, Tag } from './column.ts';

/** Numbers of a column, NaN where a cell holds none; undefined where no cell does. */
export function numbersOf(column: Column): Float64Array | undefined {
  if (column.type === 'number' || column.type === 'whole') return column.values;
  if (column.type !== 'received') return undefined;
  return column.values.map((_, r) => numberAt(column, r));
}

/** The number of a cell; NaN where it holds none. */
export function numberAt(column: Column, row: number): number {
  if (column.type === 'number' || column.type === 'whole') return column.values[row]!;
  return column.type === 'received' && column.tags[row] === Tag.number ? column.values[row]! : Number.NaN;
}
