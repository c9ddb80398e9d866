/** Changes to bytes and texts that files get by accident, and those that somebody makes who means harm. */
import { unzipSync, zipSync } from 'fflate';
import { concatenate } from '../core/index.ts';
import { ZIP_TIME } from '../core/write/zip-time.ts';
import type { Random } from './random.ts';

/** Numbers at the edges of what programs count in. */
// biome-ignore format: one list
const EDGES = [
  '0', '-1', '1', '127', '255', '256', '32767', '65535', '65536', '1048576', '1048577', '16384', '16385', '2147483647',
  '2147483648', '4294967295', '4294967296', '9007199254740993', '99999999999999999999', '1e309', '-1e-400', '0.1', 'NaN',
  '1e9', '1e18', '',
];
// biome-ignore format: one list
const PIECES = [
  '\0', '\u0000\u0000', '"', "'", '""', ',', ';', '\t', '\n', '\r', '\r\n', '\f', '\u001b', '\u001a', '\ufeff', '\u00a0', '\u2028',
  '<', '>', '&', '&#0;', '&#x110000;', '<!--', ']]>', '<![CDATA[', '<!DOCTYPE x [<!ENTITY a "aa">]>', '{', '}', '[', ']', '{}', '[]',
  '\\', '\\u0000', '\\ud800', '%', '$', '^', '(', ')', '*', '+', '?', '|', '(a+)+$', '=', '-', '/', ':', '__proto__', 'constructor',
  'toString', 'null', 'true', '1/2/2031', '2031-02-30', '25:61', '٣', '１', '\ud800', '😀', 'e\u0301', 'ﬁ',
];

/** Bytes with a few changes. */
export function mutated(bytes: Uint8Array, random: Random): Uint8Array<ArrayBuffer> {
  let now = bytes.slice();
  for (let changes = 1 + random.below(6); changes > 0; changes--) {
    const at = random.below(now.length + 1);
    const length = random.below(random.chance(0.8) ? 8 : Math.min(now.length + 1, 4096));
    const [before, behind] = [now.subarray(0, at), now.subarray(at)];
    const encode = (text: string) => new TextEncoder().encode(text);
    switch (random.below(9)) {
      case 0:
      case 1:
        if (at < now.length) now[at]! ^= 1 << random.below(8);
        break;
      case 2:
        if (at < now.length) now[at] = random.below(256);
        break;
      case 3:
        now = concatenate([before, behind.subarray(length)]);
        break;
      case 4:
        now = concatenate([before, behind.subarray(0, length), behind]);
        break;
      case 5:
        now = concatenate([before, encode(random.pick(PIECES)), behind]);
        break;
      case 6: {
        // A piece many times over, as far as an input of a few hundred kilobytes.
        const piece = encode(random.pick(PIECES));
        const times = random.pick([10, 100, 5000, 50_000]);
        now = concatenate([before, ...new Array<Uint8Array>(times).fill(piece), behind]);
        break;
      }
      case 7:
        if (random.chance(0.3)) now = before.slice();
        break;
      default:
        now = withOtherNumber(now, random);
    }
  }
  return now;
}

/** One number in the text is another, at the edge of what can be counted. */
function withOtherNumber(bytes: Uint8Array, random: Random): Uint8Array<ArrayBuffer> {
  const isDigit = (byte: number | undefined) => byte !== undefined && byte >= 48 && byte <= 57;
  let from = random.below(bytes.length + 1);
  while (from < bytes.length && !isDigit(bytes[from])) from++;
  let to = from;
  while (isDigit(bytes[to])) to++;
  return concatenate([bytes.subarray(0, from), new TextEncoder().encode(random.pick(EDGES)), bytes.subarray(to)]);
}

/** A zip with one of its parts changed, packed again so that its check sums hold. */
export function mutatedInside(bytes: Uint8Array, random: Random): Uint8Array<ArrayBuffer> {
  const parts = unzipSync(bytes);
  const names = Object.keys(parts).filter((name) => parts[name]!.length > 0);
  const name = random.pick(names);
  if (random.chance(0.05)) delete parts[name];
  else parts[name] = mutated(parts[name]!, random);
  return zipSync(parts, { level: 1, mtime: ZIP_TIME }) as Uint8Array<ArrayBuffer>;
}

export function edgeNumber(random: Random): string {
  return random.pick(EDGES);
}

export function oddPiece(random: Random): string {
  return random.pick(PIECES);
}
