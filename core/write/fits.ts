/** What a format cannot hold, found before anything is written. */

import { EXPORT_FORMATS, type ExportSpec, ExportStopped } from '../formats/export-spec.ts';
import type { TextColumn } from '../table/column-types.ts';
import { holdsSpans, textsUnmade } from '../table/spanned-column.ts';
import type { Field, Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { grouped } from '../values/counted.ts';
import { type ValueKind, valueKind, valuesOf } from './value-kinds.ts';

/** The whole numbers of 64 bits end here. */
const MAX_WHOLE = 2 ** 63;
/** Days from 1970-01-01 that 32 bits hold, and milliseconds that a date of ECMAScript holds. */
const MAX_DAYS = 2 ** 31;
const MAX_MS = 8.64e15;

const BOUNDS: Partial<Record<ValueKind, { most: number; what: string; remedy: string }>> = {
  whole: {
    most: MAX_WHOLE,
    what: 'more than the whole numbers of 64 bits',
    remedy: 'Set the type of the column to number or text',
  },
  date: { most: Math.min(MAX_DAYS, MAX_MS / 86_400_000), what: 'beyond the dates', remedy: 'Set its type to text' },
  datetime: { most: MAX_MS, what: 'beyond the dates', remedy: 'Set its type to text' },
};

/**
 * @param of the table's name where several go out together
 * @throws ExportStopped that names the cell and says what to do
 */
export function refuseUnfit(table: Table, spec: ExportSpec, of?: string): void {
  const lead = of === undefined ? '' : `${of}: `;
  const { cell, typed, halves, noControls } = EXPORT_FORMATS[spec.as].limits ?? {};
  const isWritten = halves?.(spec) === true ? () => true : isWhole;
  for (const field of table.fields) {
    if (!isWritten(field.name))
      throw new ExportStopped(
        `${lead}The name ${field.name} holds half of a character, which no file can hold. Rename it.`,
      );
    if (noControls === true) refuseControls(field, table.rows, lead);
    refuseTexts(field, table.rows, lead, cell ?? Number.POSITIVE_INFINITY, isWritten);
    if (typed === true) refuseNumbers(field, lead);
  }
}

const isOfBytes = (column: TextColumn) => holdsSpans(column) || textsUnmade(column) !== undefined;

function refuseTexts(
  field: Field,
  rows: number,
  lead: string,
  most: number,
  isWritten: (text: string) => boolean,
): void {
  const { column, name } = field;
  if (rows === 0 || (column.type !== 'text' && column.type !== 'received')) return;
  // What was decoded from bytes holds no half of a character, and its texts need not be made to be sure.
  if (most === Number.POSITIVE_INFINITY && column.type === 'text' && isOfBytes(column)) return;
  const { codes, texts } = textView(column);
  const bad = texts.findIndex((text) => text.length > most || !isWritten(text));
  if (bad < 0) return;
  const row = codes.indexOf(bad) + 1;
  const text = texts[bad]!;
  throw new ExportStopped(
    isWritten(text)
      ? `${lead}${name}, row ${row} holds ${grouped(text.length)} characters; a cell of a workbook holds ${grouped(most)}. Choose another format, or shorten the texts.`
      : `${lead}${name}, row ${row} holds half of a character, which no file can hold. Replace it, or read the report in its own encoding.`,
  );
}

// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters that XML 1.0 (2.2) leaves out.
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/;

function refuseControls({ name, column }: Field, rows: number, lead: string): void {
  const refuse = (where: string, text: string) => {
    const code = CONTROL.exec(text)![0].charCodeAt(0).toString(16).toUpperCase().padStart(4, '0');
    throw new ExportStopped(
      `${lead}${where} contains the control character U+${code}, which this format cannot store. Remove it with Clean text, or choose another format.`,
    );
  };
  if (CONTROL.test(name)) refuse(`The name ${name}`, name);
  if (rows === 0 || (column.type !== 'text' && column.type !== 'received')) return;
  const { codes, texts } = textView(column);
  const bad = texts.findIndex((text) => CONTROL.test(text));
  if (bad >= 0 && codes.includes(bad)) refuse(`${name}, row ${codes.indexOf(bad) + 1}`, texts[bad]!);
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
