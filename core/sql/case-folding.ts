/** Case as ECMAScript maps it, spelt out: databases map letters beyond ASCII by their locale or their version. */

import type { Dialect } from './dialect.ts';
import { UnsupportedInSql } from './translate.ts';

/** Letters whose lower case depends on the letters around them. */
const UNSAFE = /[\u03c2\u03c3\ud800-\udfff]/;

let uppers: Map<string, string> | undefined;

/** By lower-case letter, every other letter that becomes it. */
function uppersOf(letter: string): string {
  if (uppers === undefined) {
    uppers = new Map();
    for (let code = 0; code < 0xd800; code++) {
      const own = String.fromCharCode(code);
      const lower = own.toLowerCase();
      if (lower !== own && lower.length === 1) uppers.set(lower, (uppers.get(lower) ?? '') + own);
    }
  }
  return uppers.get(letter) ?? '';
}

/**
 * A cell with those letters in lower case that matter beside some lower-case texts: it equals, or contains, one of them
 * exactly where the cell in lower case does.
 * @throws UnsupportedInSql for texts with letters whose case depends on their neighbours
 */
export function foldedFor(cell: string, texts: readonly string[], dialect: Dialect): string {
  const letters = [...new Set(texts.join(''))];
  const unsafe = letters.find((letter) => UNSAFE.test(letter));
  if (unsafe !== undefined) throw new UnsupportedInSql(`the case of '${unsafe}' depends on the letters around it`);
  // The one letter whose lower case is two characters.
  const spelt = letters.some((letter) => letter === 'i' || letter === '\u0307')
    ? `replace(${cell}, '\u0130', 'i\u0307')`
    : cell;
  const pairs = letters.flatMap((letter) => [...uppersOf(letter)].map((upper) => [upper, letter] as const));
  if (pairs.length === 0) return spelt;
  const [from, to] = [0, 1].map((k) => pairs.map((pair) => pair[k]).join(''));
  return `translate(${spelt}, ${dialect.text(from!)}, ${dialect.text(to!)})`;
}

/** Letters of ASCII, Latin-1 and Latin Extended-A whose other case is one letter. */
const LATIN = Array.from({ length: 0x180 }, (_, code) => String.fromCharCode(code));

/** A text in upper or lower case; one with letters beyond Latin stops the script. */
export function casedSql(text: string, to: 'upper' | 'lower', dialect: Dialect): string {
  const cased = (letter: string) => (to === 'upper' ? letter.toUpperCase() : letter.toLowerCase());
  const single = LATIN.filter((letter) => cased(letter).length === 1);
  const changed = single.filter((letter) => cased(letter) !== letter);
  const others = LATIN.filter((letter) => cased(letter).length !== 1);
  const mapped = `translate(${text}, ${dialect.text(changed.join(''))}, ${dialect.text(changed.map(cased).join(''))})`;
  // Whatever is no letter of these is left over once they are all taken out.
  const known = `[^${String.fromCharCode(1)}-${String.fromCharCode(0x17f)}]${others.length === 0 ? '' : `|[${others.join('')}]`}`;
  return `case when ${dialect.fits(text, known)} then ${dialect.refuse(text, 'text')} else ${mapped} end`;
}
