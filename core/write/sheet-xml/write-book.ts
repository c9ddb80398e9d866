import { Zip, type ZipInputFile } from 'fflate';
import type { Table } from '../../table/table.ts';
import { DeflateStream } from '../deflate-stream.ts';
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

/** Of an archive (APPNOTE 4.4.4 and 4.4.5): packed by deflate, as fast as it goes. */
const DEFLATED = 8;
const FASTEST = 3;

/** A workbook of Office Open XML. The same sheets give the same bytes. */
export function writeBook(sheets: readonly BookSheet[]): Uint8Array<ArrayBuffer> {
  const pieces: Uint8Array[] = [];
  let failed: Error | undefined;
  const zip = new Zip((error, piece) => {
    failed ??= error ?? undefined;
    pieces.push(piece);
  });
  const add = (path: string) => {
    const entry = new Entry(path);
    zip.add(entry);
    return entry;
  };
  const parts = bookParts(
    sheets.map(({ name, table, filtered }) => ({ name, filter: filtered ? rangeOf(table) : undefined })),
  );
  for (const [path, text] of Object.entries(parts)) add(path).push(new TextEncoder().encode(text), true);
  const texts = new SharedTexts();
  for (const [k, { table, filtered, widths }] of sheets.entries()) {
    const file = add(sheetPath(k));
    try {
      writeSheet(table, filtered, widths, texts, (piece) => file.push(piece));
      file.push(new Uint8Array(), true);
    } finally {
      file.end();
    }
  }
  add('xl/sharedStrings.xml').push(texts.bytes(), true);
  zip.end();
  if (failed !== undefined) throw failed;
  return concatenate(pieces);
}

class Entry implements ZipInputFile {
  readonly compression = DEFLATED;
  readonly flag = FASTEST;
  readonly mtime = ZIP_TIME;
  ondata: ZipInputFile['ondata'];
  private readonly stream = new DeflateStream((packed) => this.ondata?.(null, packed, false));

  constructor(readonly filename: string) {}

  get size(): number {
    return this.stream.size;
  }

  get crc(): number {
    return this.stream.crc;
  }

  push(bytes: Uint8Array, isLast = false): void {
    this.stream.push(bytes, isLast);
    if (isLast) this.ondata?.(null, new Uint8Array(), true);
  }

  /** Nothing is pushed any more, whatever came between. */
  end(): void {
    this.stream.end();
  }
}
