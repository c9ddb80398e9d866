import { decoderOf } from '../table/decoder.ts';
import { archiveKind } from './archive.ts';
import { decodeSource } from './encoding.ts';
import { isMail } from './mail.ts';
import { isMarkdown } from './markdown.ts';
import { ReadFailure } from './read-failure.ts';
import { isGzip, unwrapped } from './unwrap.ts';

/**
 * page: tables in HTML or Markdown. pages: printed pages, as a PDF has them. tables: tables with their own types. files: an
 * archive of several reports, or a message with files attached.
 */
export type SourceFormat = 'workbook' | 'text' | 'page' | 'pages' | 'tables' | 'files';

const UNPACK = 'Unpack it and give what is in it.';
const SAVE = 'Open it in the program it is of, save its table as CSV or a workbook, and give that.';
const COPY = 'Copy its table into a workbook or a text file, and give that.';

/** Files that are known by their first bytes and not read: what they are, and what to do. From their public format descriptions. */
const UNREAD: readonly (readonly [bytes: string, what: string, remedy: string])[] = [
  ['\x89PNG', 'a picture', COPY],
  ['GIF8', 'a picture', COPY],
  ['\xff\xd8\xff', 'a picture', COPY],
  ['II*\0', 'a picture', COPY],
  ['MM\0*', 'a picture', COPY],
  ['BZh', 'packed with bzip2', UNPACK],
  ['\xfd7zXZ\0', 'packed with xz', UNPACK],
  ['\x28\xb5\x2f\xfd', 'packed with zstd', UNPACK],
  ['\x04\x22\x4d\x18', 'packed with lz4', UNPACK],
  ['7z\xbc\xaf', 'a 7z archive', UNPACK],
  ['Rar!', 'a rar archive', UNPACK],
  ['FEA1', 'a Feather file', SAVE],
  ['$FL2', 'an SPSS data file', SAVE],
  ['$FL3', 'an SPSS data file', SAVE],
  ['<stata_dta>', 'a Stata data file', SAVE],
  [`${'\0'.repeat(12)}\xc2\xea\x81\x60`, 'a SAS data file', SAVE],
  ['HEADER RECORD*******LIBRARY HEADER', 'a SAS transport file', SAVE],
  ['RDX2', 'an R data file', SAVE],
  ['RDX3', 'an R data file', SAVE],
  ['\x89HDF', 'an HDF5 file', SAVE],
  ['CDF\x01', 'a NetCDF file', SAVE],
  ['Obj\x01', 'an Avro file', SAVE],
  ['ORC', 'an ORC file', SAVE],
  ['{\\rtf', 'a text document (RTF)', COPY],
  ['\x7fELF', 'a program', 'Give a report.'],
  ['MZ', 'a program', 'Give a report.'],
];

/** Streams of a compound file (MS-CFB), by name, that tell what it is. */
const COMPOUND: readonly (readonly [stream: string, what: string])[] = [
  ['WordDocument', 'a text document'],
  ['PowerPoint Document', 'a set of slides'],
  ['__substg1.0_', 'a mail message'],
  ['__properties_version1.0', 'a mail message'],
];

/** Beginnings of files that hold tables: Apache Parquet, Apache Arrow, SQLite. */
const TABLES = ['PAR1', 'ARROW1', 'SQLite format 3\0'];

/** Beginnings of workbooks before they were compound files: BIFF 2 to 4. */
const OLD_WORKBOOKS = ['\x09\x00\x04\x00', '\x09\x02\x06\x00', '\x09\x04\x06\x00'];

/**
 * What the bytes are, by what stands in them and not by the file's name.
 * @throws ReadFailure when they are nothing that can be read
 */
export function sniff(bytes: Uint8Array, fileName: string): SourceFormat {
  if (bytes.length === 0) throw new ReadFailure(fileName, `${fileName} is empty: it holds no bytes.`);
  if (isGzip(bytes)) {
    const { bytes: inner, name } = unwrapped({ bytes, name: fileName });
    if (isGzip(inner)) throw notRead(fileName, 'packed with gzip twice', UNPACK);
    return sniff(inner, name);
  }
  if (startsWith(bytes, 'PK')) return archiveFormat(bytes, fileName);
  if (startsWith(bytes, '\xd0\xcf\x11\xe0')) {
    const other = COMPOUND.find(([stream]) => holdsName(bytes, stream));
    if (other !== undefined && !holdsName(bytes, 'Workbook') && !holdsName(bytes, 'Book'))
      throw notRead(fileName, other[1], COPY);
    return 'workbook';
  }
  if (OLD_WORKBOOKS.some((front) => startsWith(bytes, front))) return 'workbook';
  if (startsWith(bytes, '%PDF')) return 'pages';
  if (TABLES.some((front) => startsWith(bytes, front))) return 'tables';
  for (const [front, what, remedy] of UNREAD) {
    // A short beginning in plain letters may stand in any text.
    const plain = /^[A-Z][A-Za-z]{1,2}$/.test(front) && isText(bytes);
    if (startsWith(bytes, front) && !plain) throw notRead(fileName, what, remedy);
  }
  if (isDbase(bytes)) return 'workbook';
  if (isTar(bytes)) throw notRead(fileName, 'a tar archive', UNPACK);
  const head = headText(bytes, fileName);
  if (/^\s*<\?xml/.test(head) && head.includes('urn:schemas-microsoft-com:office:spreadsheet')) return 'workbook';
  if (isOpenDocumentXml(head)) {
    if (/mimetype="application\/vnd\.oasis\.opendocument\.spreadsheet/.test(head)) return 'workbook';
    throw notRead(fileName, 'an OpenDocument file without sheets', COPY);
  }
  if (!isText(bytes)) {
    throw new ReadFailure(fileName, `${fileName} is a file type that Rimefield cannot read. ${SAVE}`);
  }
  if (isMail(head)) return 'files';
  if (isMarkdown(head, fileName)) return 'page';
  const markup = head.replace(/^\s*(?:<\?[^>]*\?>\s*|<!--[\s\S]*?-->\s*)*/, '');
  return /^<(?:!doctype\s+html|html|head|body|table|div|center|meta|style)\b/i.test(markup) ? 'page' : 'text';
}

/** One flat file of OpenDocument: its root is a document. Other programs borrow its namespace for their own files. */
export function isOpenDocumentXml(head: string): boolean {
  const root = /^\s*(?:<\?[^>]*\?>\s*|<!--[\s\S]*?-->\s*|<!DOCTYPE[^>]*>\s*)*<(?:[\w.-]+:)?([\w.-]+)/.exec(head)?.[1];
  return root === 'document' && head.includes('urn:oasis:names:tc:opendocument:xmlns:office');
}

/** Whether bytes are of a kind that has to be opened before it is read. */
export function isToOpen(bytes: Uint8Array, file: string): boolean {
  if (['%PDF', ...TABLES].some((front) => startsWith(bytes, front))) return true;
  return isText(bytes) && bytes.length > 0 && isMail(headText(bytes, file));
}

/** The beginning of a text, in whatever encoding it is. */
export function headText(bytes: Uint8Array, fileName: string): string {
  const { bytes: head, now } = decodeSource(bytes.subarray(0, 4096), null, fileName);
  return decoderOf(now).decode(head);
}

function notRead(file: string, what: string, remedy: string): ReadFailure {
  return new ReadFailure(file, `${file} is ${what}, which is not read here. ${remedy}`);
}

/** A zip: a workbook in itself, several files, or a document of another kind. */
function archiveFormat(bytes: Uint8Array, fileName: string): SourceFormat {
  const what = archiveKind(bytes, fileName);
  if (what === 'document') throw notRead(fileName, 'a text document', COPY);
  if (what === 'slides') throw notRead(fileName, 'a set of slides', COPY);
  return what;
}

/** The name of a stream, in UTF-16, in the first part of a compound file. */
function holdsName(bytes: Uint8Array, name: string): boolean {
  const wanted = [...name].flatMap((character) => [character.charCodeAt(0), 0]);
  // Directory entries begin at multiples of 128 bytes.
  for (let at = 0; at + wanted.length <= bytes.length; at += 128) {
    if (wanted.every((byte, k) => bytes[at + k] === byte)) return true;
  }
  return false;
}

/** No control bytes but those of lines, pages and escapes; zero bytes only as UTF-16 has them. */
function isText(bytes: Uint8Array): boolean {
  const head = bytes.subarray(0, 4096);
  if (decodeSource(head, null, '').encoding.startsWith('utf-16')) return true;
  let control = 0;
  for (const byte of head) if (byte < 9 || (byte > 13 && byte < 32 && byte !== 27 && byte !== 26)) control++;
  return control <= Math.max(4, head.length * 0.01);
}

const DATABASE_NAME = 263;

/** The header of a dBase table: version, a date, and a header length that fits whole fields. */
function isDbase(bytes: Uint8Array): boolean {
  if (bytes.length < 33 || ![0x03, 0x30, 0x31, 0x83, 0x8b, 0xf5].includes(bytes[0]!)) return false;
  const header = bytes[8]! | (bytes[9]! << 8);
  // Newer ones have room for the name of their database behind the fields.
  const ends = bytes[header - 1] === 13 || (header > DATABASE_NAME + 33 && bytes[header - DATABASE_NAME - 1] === 13);
  return bytes[2]! >= 1 && bytes[2]! <= 12 && bytes[3]! >= 1 && bytes[3]! <= 31 && header >= 33 && ends;
}

function isTar(bytes: Uint8Array): boolean {
  return bytes.length > 262 && startsWith(bytes.subarray(257), 'ustar');
}

function startsWith(bytes: Uint8Array, text: string): boolean {
  for (let k = 0; k < text.length; k++) if (bytes[k] !== text.charCodeAt(k)) return false;
  return true;
}
