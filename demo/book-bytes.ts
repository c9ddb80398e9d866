import { type WorkBook, write } from '@e965/xlsx';

/** The first number of formats that are not built in (ISO/IEC 29500). */
const FIRST_FORMAT = 164;

/** A workbook as its file: the same bytes whatever the library read or wrote before. */
export function bookBytes(book: WorkBook, formats: readonly string[] = []): Uint8Array {
  // The library would number formats by what it read before in this process.
  const numbered = formats.map((format, k) => [FIRST_FORMAT + k, format]);
  Object.assign(book, { SSF: { 0: 'General', ...Object.fromEntries(numbered) } });
  return new Uint8Array(write(book, { type: 'array', bookType: 'xlsx', compression: true }));
}
