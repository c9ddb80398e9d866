/** Names of files that come again: which files are the next report of a source. */

const MONTHS =
  'january|february|march|april|may|june|july|august|september|october|november|december|jan|feb|mar|apr|jun|jul|aug|sept|sep|oct|nov|dec';
const CHANGING = new RegExp(`\\d+|(?<![a-z])(?:${MONTHS})(?![a-z])`, 'gi');

/** The pattern that the next report's name likely fits: 'returns-2031-06.xlsx' gives 'returns-*-*.xlsx'. */
export function guessPattern(fileName: string): string {
  return fileName.replace(CHANGING, '*').replace(/\*+/g, '*');
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
