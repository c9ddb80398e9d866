import { type Column, Tag, typeOfTag } from '../table/column.ts';
import type { Field } from '../table/table.ts';
import { cellText, countedText } from '../values/cell-text.ts';

/** A cell as other formats know it: dates and times as ISO 8601 texts, unreadable cells as their text. */
export type TypedCell = string | number | boolean | null;

export function typedCell(column: Column, row: number): TypedCell {
  if (column.type === 'text') return cellText(column, row);
  const type = column.type === 'received' ? kindOf(column.tags[row]!) : column.type;
  const value = column.values[row]!;
  if (type === undefined || Number.isNaN(value)) return cellText(column, row);
  if (type === 'yesno') return value !== 0;
  return type === 'number' || type === 'whole' ? value : countedText(type, value);
}

/** The type of a counted cell; undefined for blanks, texts and unreadable ones. */
export function kindOf(tag: number) {
  return tag === Tag.blank || tag === Tag.text || tag === Tag.unreadable ? undefined : typeOfTag(tag);
}

/** Rows of a cell that could not be read, over all columns; for exports that stop at them. */
export function unreadableRows(field: Field): number[] {
  const { column } = field;
  const rows: number[] = [];
  if (column.type === 'received') {
    column.tags.forEach((tag, r) => {
      if (tag === Tag.unreadable) rows.push(r);
    });
  } else if (column.type !== 'text') {
    column.unreadable?.codes.forEach((code, r) => {
      if (code >= 0) rows.push(r);
    });
  }
  return rows;
}
