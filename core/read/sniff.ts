import { decoderOf } from '../values/decoder.ts';
import { isWorkbookArchive } from './archive.ts';
import { decodeSource } from './encoding.ts';
import { ReadFailure } from './read-failure.ts';

/** page: tables in HTML. files: an archive of several reports. */
export type SourceFormat = 'workbook' | 'text' | 'page' | 'files';

const PICTURES: readonly [string, string][] = [
  ['\x89PNG', 'a picture'],
  ['GIF8', 'a picture'],
  ['\xff\xd8\xff', 'a picture'],
  ['\x1f\x8b', 'packed with gzip: unpack it first'],
  ['7z\xbc\xaf', 'a 7z archive: unpack it first'],
  ['Rar!', 'a rar archive: unpack it first'],
];

/**
 * What the bytes are, by what stands in them and not by the file's name.
 * @throws ReadFailure when they are nothing that can be read
 */
export function sniff(bytes: Uint8Array, fileName: string): SourceFormat {
  if (bytes.length === 0) throw new ReadFailure(fileName, `${fileName} is empty: it holds no bytes.`);
  if (startsWith(bytes, 'PK')) return isWorkbookArchive(bytes, fileName) ? 'workbook' : 'files';
  if (startsWith(bytes, '\xd0\xcf\x11\xe0')) return 'workbook';
  if (startsWith(bytes, '%PDF')) {
    throw new ReadFailure(fileName, `${fileName} is a PDF. Copy its table out as text or CSV, and give that.`);
  }
  for (const [magic, what] of PICTURES) {
    if (startsWith(bytes, magic))
      throw new ReadFailure(fileName, `${fileName} is ${what}; no table can be read from it.`);
  }
  const head = headText(bytes, fileName);
  if (head.includes('urn:schemas-microsoft-com:office:spreadsheet') && /^\s*<\?xml/.test(head)) return 'workbook';
  const markup = head.replace(/^\s*(?:<\?[^>]*\?>\s*|<!--[\s\S]*?-->\s*)*/, '');
  return /^<(?:!doctype\s+html|html|head|body|table|div|center|meta|style)\b/i.test(markup) ? 'page' : 'text';
}

/** The beginning of a text, in whatever encoding it is. */
export function headText(bytes: Uint8Array, fileName: string): string {
  const { bytes: head, now } = decodeSource(bytes.subarray(0, 4096), null, fileName);
  return decoderOf(now).decode(head);
}

function startsWith(bytes: Uint8Array, text: string): boolean {
  for (let k = 0; k < text.length; k++) if (bytes[k] !== text.charCodeAt(k)) return false;
  return true;
}
