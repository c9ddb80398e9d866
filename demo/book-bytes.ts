import { type WorkBook, write } from '@e965/xlsx';
import { setFormats } from '../core/write/write-workbook.ts';

/** A workbook as its file: the same bytes whatever the library read or wrote before. */
export function bookBytes(book: WorkBook, formats: readonly string[] = []): Uint8Array {
  setFormats(book, formats);
  return new Uint8Array(write(book, { type: 'array', bookType: 'xlsx', compression: true }));
}
