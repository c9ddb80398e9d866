import { ReadFailure } from './read-failure.ts';

export type SourceFormat = 'workbook' | 'text';

/**
 * What the bytes are, by what stands in them and not by the file's name.
 * @throws ReadFailure when they are nothing that can be read
 */
export function sniff(bytes: Uint8Array, fileName: string): SourceFormat {
  if (bytes.length === 0) throw new ReadFailure(fileName, `${fileName} is empty: it holds no bytes.`);
  const zip = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const compound = bytes[0] === 0xd0 && bytes[1] === 0xcf && bytes[2] === 0x11 && bytes[3] === 0xe0;
  if (zip || compound) return 'workbook';
  if (startsWith(bytes, '%PDF')) {
    throw new ReadFailure(fileName, `${fileName} is a PDF. Copy its table out as text or CSV, and give that.`);
  }
  return 'text';
}

function startsWith(bytes: Uint8Array, text: string): boolean {
  for (let k = 0; k < text.length; k++) if (bytes[k] !== text.charCodeAt(k)) return false;
  return true;
}
