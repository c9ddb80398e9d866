import { Zip, type ZipInputFile } from 'fflate';
import { crc32 } from '../../read/crc32.ts';
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

/** Of an archive (APPNOTE 4.4.5): packed by deflate. */
const DEFLATED = 8;

/** A workbook of Office Open XML. On one platform the same sheets give the same bytes. */
export async function writeBook(sheets: readonly BookSheet[]): Promise<Uint8Array<ArrayBuffer>> {
  const pieces: Uint8Array[] = [];
  let failed: Error | undefined;
  const zip = new Zip((error, piece) => {
    failed ??= error ?? undefined;
    pieces.push(piece);
  });
  const add = async (path: string, write: (file: PackedFile) => Promise<void>) => {
    const file = new PackedFile(path);
    zip.add(file);
    await write(file);
    await file.end();
  };
  const parts = bookParts(
    sheets.map(({ name, table, filtered }) => ({ name, filter: filtered ? rangeOf(table) : undefined })),
  );
  for (const [path, text] of Object.entries(parts))
    await add(path, (file) => file.push(new TextEncoder().encode(text)));
  const texts = new SharedTexts();
  for (const [k, { table, filtered, widths }] of sheets.entries())
    await add(sheetPath(k), (file) => writeSheet(table, filtered, widths, texts, (piece) => file.push(piece)));
  await add('xl/sharedStrings.xml', (file) => file.push(texts.bytes()));
  zip.end();
  if (failed !== undefined) throw failed;
  return concatenate(pieces);
}

/** A file of an archive, packed by the platform (RFC 1951) while the next bytes are put together. */
class PackedFile implements ZipInputFile {
  readonly compression = DEFLATED;
  readonly mtime = ZIP_TIME;
  /** Bytes that were pushed, and their check sum. */
  size = 0;
  crc = 0;
  ondata: ZipInputFile['ondata'];
  private readonly stream = new CompressionStream('deflate-raw');
  private readonly writer = this.stream.writable.getWriter();
  private readonly sent = this.sendAll();

  constructor(readonly filename: string) {}

  /** Resolves once the bytes are packed. */
  push(bytes: Uint8Array): Promise<void> {
    this.size += bytes.length;
    this.crc = crc32(bytes, { before: this.crc });
    return this.writer.write(bytes as Uint8Array<ArrayBuffer>);
  }

  async end(): Promise<void> {
    await this.writer.close();
    await this.sent;
  }

  private async sendAll(): Promise<void> {
    const reader = this.stream.readable.getReader();
    for (let read = await reader.read(); !read.done; read = await reader.read())
      this.ondata!(null, read.value as Uint8Array<ArrayBuffer>, false);
    this.ondata!(null, new Uint8Array(), true);
  }
}
