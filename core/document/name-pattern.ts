/** Names of files that come again: which files are the next report of a source. */
import { monthNumber } from '../values/month-names.ts';

const MONTHS =
  'january|february|march|april|may|june|july|august|september|october|november|december|jan|feb|mar|apr|jun|jul|aug|sept|sep|oct|nov|dec';
const CHANGING = new RegExp(`\\d+|(?<![a-z])(?:${MONTHS})(?![a-z])`, 'gi');

/** The pattern that the next report's name likely fits: 'returns-2031-06.xlsx' gives 'returns-*-*.xlsx'. */
export function guessPattern(fileName: string): string {
  return fileName.replace(CHANGING, '*').replace(/\*+/g, '*');
}

const YEAR = /^(?:19|20)\d\d$/;

/**
 * Puts names of the same pattern in the order in which their reports came, for Array.sort: by year, then by what else
 * changes, from the left where the year stands first ('2031-06-30') and from the right where it stands last ('30 June 2031').
 */
export function orderOfNames(one: string, other: string): number {
  const [a, b] = [changingOf(one), changingOf(other)];
  for (let k = 0; k < Math.max(a.length, b.length); k++) {
    const order = (a[k] ?? -1) - (b[k] ?? -1);
    if (order !== 0) return order;
  }
  return one < other ? -1 : one > other ? 1 : 0;
}

/** The numbers and months in a name, the most weighty first. */
function changingOf(name: string): number[] {
  const pieces = (name.match(CHANGING) ?? []).map((text) => ({ text, value: monthNumber(text, 'en') ?? Number(text) }));
  const year = pieces.findIndex(({ text }) => YEAR.test(text));
  const others = pieces.flatMap(({ value }, k) => (k === year ? [] : [value]));
  if (year < 0) return others;
  return [pieces[year]!.value, ...(year === 0 ? others : others.reverse())];
}

/**
 * Whether names fit a pattern: * stands for any characters and ? for one, as shells have it (POSIX.1-2017, 2.13),
 * letters whatever their case.
 */
export function fitsPattern(pattern: string): (name: string) => boolean {
  // Longest first without backtracking into what was passed: a long name takes no longer for many stars.
  const pieces = pattern.toLowerCase().split('*');
  return (name) => {
    const text = name.toLowerCase();
    const [first = '', ...rest] = pieces;
    if (!standsAt(text, first, 0)) return false;
    if (rest.length === 0) return text.length === first.length;
    let at = first.length;
    const last = rest.pop()!;
    for (const piece of rest) {
      while (at <= text.length - piece.length && !standsAt(text, piece, at)) at++;
      if (at > text.length - piece.length) return false;
      at += piece.length;
    }
    return text.length - last.length >= at && standsAt(text, last, text.length - last.length);
  };
}

function standsAt(text: string, piece: string, at: number): boolean {
  if (at + piece.length > text.length) return false;
  for (let k = 0; k < piece.length; k++) if (piece[k] !== '?' && piece[k] !== text[at + k]) return false;
  return true;
}
