import { Zip, ZipDeflate } from 'fflate';
import type { Table } from '../../table/table.ts';
import { concatenate } from '../rows/text-bytes.ts';
import { ZIP_TIME } from '../zip-time.ts';
import { bookParts, sheetPath } from './book-parts.ts';
import { SharedTexts } from './shared-texts.ts';
import { rangeOf, writeSheet } from './sheet-bytes.ts';

export interface BookSheet {
  name: string;
  table: Table;
  /** With a filter over its header. */
  filtered: boolean;
  /** Widths of its columns, in characters. */
  widths: readonly number[];
}

/** Of deflate: a tenth larger than the usual 6 for sheets, and three times as fast. */
const LEVEL = 1;

/** A workbook of Office Open XML. The same sheets give the same bytes. */
export function writeBook(sheets: readonly BookSheet[]): Uint8Array<ArrayBuffer> {
  const pieces: Uint8Array[] = [];
  let failed: Error | undefined;
  const zip = new Zip((error, piece) => {
    failed ??= error ?? undefined;
    pieces.push(piece);
  });
  const add = (path: string) => {
    const file = new ZipDeflate(path, { level: LEVEL });
    file.mtime = ZIP_TIME;
    zip.add(file);
    return file;
  };
  const parts = bookParts(
    sheets.map(({ name, table, filtered }) => ({ name, filter: filtered ? rangeOf(table) : undefined })),
  );
  for (const [path, text] of Object.entries(parts)) add(path).push(new TextEncoder().encode(text), true);
  const texts = new SharedTexts();
  for (const [k, { table, filtered, widths }] of sheets.entries()) {
    const file = add(sheetPath(k));
    writeSheet(table, filtered, widths, texts, (piece) => file.push(piece));
    file.push(new Uint8Array(), true);
  }
  add('xl/sharedStrings.xml').push(texts.bytes(), true);
  zip.end();
  if (failed !== undefined) throw failed;
  return concatenate(pieces);
}
