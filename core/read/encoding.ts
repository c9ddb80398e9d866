/** Which encoding bytes are in, and the bytes as UTF-8 or as something whose delimiters can be found byte by byte. */

import type { Notice } from '../kinds/step.ts';
import { type Decoder, decoderOf } from '../table/decoder.ts';
import { grouped } from '../values/counted.ts';
import { brief } from '../values/text.ts';
import { ReadFailure } from './read-failure.ts';

export interface Encoded {
  /** WHATWG label. */
  encoding: string;
  /** Without byte order mark; in an encoding in which every ASCII byte stands for itself. */
  bytes: Uint8Array;
  /** The encoding that bytes are in now: UTF-8 where they had to be rewritten. */
  now: string;
  /** Where UTF-8 broke off, counted from 0: why another encoding is taken, or, behind a byte order mark, what is lost. */
  brokenAt?: number;
  /** Invalid pieces of the encoding, shown as U+FFFD. */
  lost?: true;
  /** It is UTF-8 if its bytes beyond ASCII are, at which nobody has looked yet: see settled. */
  isOpen?: true;
}

/** Bytes from a place to another. */
export interface Stretch {
  from: number;
  to: number;
}

// Single-byte encodings of the WHATWG list keep ASCII as it is; so does UTF-8.
const SINGLE_BYTE =
  /^(?:utf-8|utf8|us-ascii|ascii|iso-?8859-?\d+|latin\d|windows-\d+|cp125\d|koi8-[ru]|macintosh|x-mac-\w+|ibm866)$/i;

/**
 * @param wanted a WHATWG label, or null to guess: byte order mark, then UTF-16 by its zero bytes, then valid UTF-8, then Windows-1252
 * @throws ReadFailure for a label that is not known
 */
export function decodeSource(bytes: Uint8Array, wanted: string | null, file: string): Encoded {
  const encoded = decodeOpen(bytes, wanted, file);
  return encoded.isOpen ? settled(encoded) : encoded;
}

/**
 * The same for a reader that looks at every byte itself: where nothing says what a text is in, that is left open.
 * @throws ReadFailure for a label that is not known
 */
export function decodeOpen(bytes: Uint8Array, wanted: string | null, file: string): Encoded {
  const mark = byteOrderMark(bytes);
  if (wanted === null) {
    const guess = mark?.encoding ?? (utf16ByZeros(bytes) || undefined);
    if (guess !== undefined) {
      const found = rewritten(bytes.subarray(mark?.length ?? 0), guess, file);
      const brokenAt = found.now === 'utf-8' && guess === 'utf-8' ? firstInvalidUtf8(found.bytes) : -1;
      return brokenAt < 0 ? found : { ...found, brokenAt, lost: true };
    }
    return { encoding: 'utf-8', bytes, now: 'utf-8', isOpen: true };
  }
  return rewritten(bytes.subarray(mark?.length ?? 0), wanted.toLowerCase(), file);
}

/**
 * Of a text that was left open: it is UTF-8 where all of it is, else Windows-1252.
 * @param ascii whole lines of which it is known already
 */
export function settled({ bytes }: Encoded, ascii: Stretch = { from: 0, to: 0 }): Encoded {
  const before = firstInvalidUtf8(bytes.subarray(0, ascii.from));
  const behind = before < 0 ? firstInvalidUtf8(bytes.subarray(ascii.to)) : -1;
  const brokenAt = behind < 0 ? before : ascii.to + behind;
  if (brokenAt < 0) return { encoding: 'utf-8', bytes, now: 'utf-8' };
  return { encoding: 'windows-1252', bytes, now: 'windows-1252', brokenAt };
}

function rewritten(bytes: Uint8Array, encoding: string, file: string): Encoded {
  if (SINGLE_BYTE.test(encoding)) {
    knownEncoding(encoding, file);
    return { encoding, bytes, now: encoding };
  }
  const text = knownEncoding(encoding, file).decode(bytes);
  const made = { encoding, bytes: new TextEncoder().encode(text), now: 'utf-8' };
  // What cannot be decoded gives U+FFFD, which a report may contain itself only where its encoding has it.
  const lost = text.includes('\ufffd') && !(encoding.startsWith('utf-16') && holdsReplacement(bytes, encoding));
  return lost ? { ...made, lost } : made;
}

/** Whether U+FFFD stands in the bytes themselves, and they are whole. */
function holdsReplacement(bytes: Uint8Array, encoding: string): boolean {
  if (bytes.length % 2 === 1) return false;
  const [first, second] = encoding === 'utf-16be' ? [0xff, 0xfd] : [0xfd, 0xff];
  for (let k = 0; k < bytes.length; k += 2) if (bytes[k] === first && bytes[k + 1] === second) return true;
  return false;
}

/**
 * What the declaration of an XML text says of its encoding (XML 1.0, 4.3.3), or null. UTF-8 and UTF-16 are seen by
 * their bytes, whatever the declaration says.
 */
export function declaredInXml(bytes: Uint8Array): string | null {
  const head = decoderOf('windows-1252').decode(bytes.subarray(0, 200));
  const declared = /^<\?xml\b[^>]*?\sencoding\s*=\s*["']([\w.-]+)["']/.exec(head)?.[1];
  return declared === undefined || /^utf-?(?:8|16)/i.test(declared) ? null : declared;
}

/**
 * Told of a text that is no valid UTF-8 and was not said to be anything else.
 * @param where the byte stands, besides, as in ' (line 2)'
 */
export function brokenNotices({ brokenAt, lost, encoding }: Encoded, where = ''): Notice[] {
  if (lost === true && brokenAt === undefined)
    return [{ severity: 'warning', text: `not all of it is ${encoding}: unreadable characters are shown as \ufffd` }];
  if (brokenAt === undefined) return [];
  const byte = grouped(brokenAt + 1);
  const what = lost === true ? 'unreadable characters are shown as \ufffd' : 'read as Windows-1252';
  return [{ severity: 'warning', text: `invalid UTF-8 at byte ${byte}${where}: ${what}` }];
}

/** A text in an encoding that bytes are in now; in UTF-8 where the encoding has no such characters. */
export function encodeText(text: string, now: string): Uint8Array {
  const utf8 = new TextEncoder().encode(text);
  if (utf8.length === text.length || /^utf-?8$/.test(now)) return utf8;
  const every = decoderOf(now).decode(Uint8Array.from({ length: 256 }, (_, byte) => byte));
  const bytes = Array.from(text, (character) => every.indexOf(character));
  return bytes.includes(-1) ? utf8 : Uint8Array.from(bytes);
}

function knownEncoding(label: string, file: string): Decoder {
  try {
    return decoderOf(label);
  } catch {
    throw new ReadFailure(
      file,
      `There is no encoding ${brief(label)}. Use a WHATWG label such as utf-8, windows-1252, iso-8859-2 or utf-16le.`,
    );
  }
}

function byteOrderMark(bytes: Uint8Array): { encoding: string; length: number } | undefined {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return { encoding: 'utf-8', length: 3 };
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { encoding: 'utf-16le', length: 2 };
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { encoding: 'utf-16be', length: 2 };
  return undefined;
}

/** UTF-16 without a mark: nearly every other byte of Western text is zero. */
function utf16ByZeros(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | undefined {
  const n = Math.min(bytes.length, 4096) & ~1;
  if (n < 4) return undefined;
  let even = 0;
  let odd = 0;
  for (let k = 0; k < n; k += 2) {
    if (bytes[k] === 0) even++;
    if (bytes[k + 1] === 0) odd++;
  }
  if (odd > n * 0.3 && even < n * 0.05) return 'utf-16le';
  return even > n * 0.3 && odd < n * 0.05 ? 'utf-16be' : undefined;
}

/** The bits of four bytes that no byte of ASCII has. */
const HIGH = 0x80808080;

/** Index of the first byte that cannot be UTF-8 (RFC 3629), or -1. */
export function firstInvalidUtf8(bytes: Uint8Array): number {
  const n = bytes.length;
  const offset = bytes.byteOffset;
  // Sixteen bytes at a time: nearly all of most texts is ASCII.
  const shift = (4 - (offset & 3)) & 3;
  const words = n < 16 ? new Uint32Array() : new Uint32Array(bytes.buffer, offset + shift, Math.floor((n - shift) / 4));
  for (let k = 0; k < n; ) {
    const lead = bytes[k]!;
    if (lead < 0x80) {
      k++;
      if (((k - shift) & 3) === 0 && k >= shift) {
        let word = (k - shift) >> 2;
        const many = words.length - 3;
        while (word < many && ((words[word]! | words[word + 1]! | words[word + 2]! | words[word + 3]!) & HIGH) === 0)
          word += 4;
        while (word < words.length && (words[word]! & HIGH) === 0) word++;
        k = shift + word * 4;
      }
      continue;
    }
    const size =
      lead >= 0xc2 && lead <= 0xdf ? 2 : lead >= 0xe0 && lead <= 0xef ? 3 : lead >= 0xf0 && lead <= 0xf4 ? 4 : 0;
    if (size === 0 || k + size > n) return k;
    const second = bytes[k + 1]!;
    // Overlong forms, surrogates and numbers past U+10FFFF show in the second byte.
    const low = lead === 0xe0 ? 0xa0 : lead === 0xf0 ? 0x90 : 0x80;
    const high = lead === 0xed ? 0x9f : lead === 0xf4 ? 0x8f : 0xbf;
    if (second < low || second > high) return k;
    for (let j = 2; j < size; j++) if ((bytes[k + j]! & 0xc0) !== 0x80) return k;
    k += size;
  }
  return -1;
}
