/** What a format cannot hold, found before anything is written. */

import type { Field, Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { grouped } from '../values/counted.ts';
import { type ExportSpec, ExportStopped } from './export-spec.ts';
import { type ValueKind, valueKind, valuesOf } from './value-kinds.ts';

/** Characters of a cell (ISO/IEC 29500, 18.3.1.4 and the limits of spreadsheet programs). */
const MOST_CELL = 32_767;
/** The whole numbers of 64 bits end here. */
const MOST_WHOLE = 2 ** 63;
/** Days from 1970-01-01 that 32 bits hold, and milliseconds that a date of ECMAScript holds. */
const MOST_DAYS = 2 ** 31;
const MOST_MS = 8.64e15;

/** Formats that keep counted values in the bits of their kind. */
const TYPED: ReadonlySet<ExportSpec['as']> = new Set(['parquet', 'arrow', 'sqlite']);

const BOUNDS: Partial<Record<ValueKind, { most: number; what: string; remedy: string }>> = {
  whole: {
    most: MOST_WHOLE,
    what: 'more than the whole numbers of 64 bits',
    remedy: 'Set the type of the column to number or text',
  },
  date: { most: Math.min(MOST_DAYS, MOST_MS / 86_400_000), what: 'beyond the dates', remedy: 'Set its type to text' },
  datetime: { most: MOST_MS, what: 'beyond the dates', remedy: 'Set its type to text' },
};

/**
 * @param of the table's name where several go out together
 * @throws ExportStopped that names the cell and says what to do
 */
export function refuseUnfit(table: Table, spec: ExportSpec, of?: string): void {
  const lead = of === undefined ? '' : `${of}: `;
  const books = spec.as === 'xlsx' || spec.as === 'ods';
  // UTF-16 can write half a character down; no other encoding can.
  const halves = !(spec.as === 'csv' && spec.encoding === 'utf-16le');
  for (const field of table.fields) {
    if (halves && !isWhole(field.name))
      throw new ExportStopped(
        `${lead}The name ${field.name} holds half of a character, which no file can hold. Rename it.`,
      );
    refuseTexts(field, table.rows, lead, books, halves);
    if (TYPED.has(spec.as)) refuseNumbers(field, lead);
  }
}

function refuseTexts(field: Field, rows: number, lead: string, books: boolean, halves: boolean): void {
  const { column, name } = field;
  if (rows === 0 || (column.type !== 'text' && column.type !== 'received')) return;
  const { codes, texts } = textView(column);
  const bad = texts.findIndex((text) => (books && text.length > MOST_CELL) || (halves && !isWhole(text)));
  if (bad < 0) return;
  const row = codes.indexOf(bad) + 1;
  const text = texts[bad]!;
  throw new ExportStopped(
    isWhole(text)
      ? `${lead}${name}, row ${row} holds ${grouped(text.length)} characters; a cell of a workbook holds ${grouped(MOST_CELL)}. Choose another format, or shorten the texts.`
      : `${lead}${name}, row ${row} holds half of a character, which no file can hold. Replace it, or read the report in its own encoding.`,
  );
}

function refuseNumbers(field: Field, lead: string): void {
  const bound = BOUNDS[valueKind(field)];
  if (bound === undefined) return;
  const row = valuesOf(field.column).findIndex((value) => Math.abs(value) >= bound.most);
  if (row >= 0)
    throw new ExportStopped(
      `${lead}${field.name}, row ${row + 1} is ${cellText(field.column, row)}, ${bound.what} that this format holds. ${bound.remedy}, or choose another format.`,
    );
}

/** No half of a surrogate pair stands alone (Unicode, D75). */
function isWhole(text: string): boolean {
  return !/[\ud800-\udfff]/u.test(text);
}
