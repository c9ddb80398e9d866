/** Order of code points; UTF-16 order differs where a surrogate pair meets a character above it. */
export function byCodePoint(a: string, b: string): number {
  const n = Math.min(a.length, b.length);
  for (let k = 0; k < n; k++) {
    const [x, y] = [a.charCodeAt(k), b.charCodeAt(k)];
    if (x === y) continue;
    const [high, low] = [x >= 0xd800 && x <= 0xdfff, y >= 0xd800 && y <= 0xdfff];
    return high !== low ? (high ? 1 : -1) : x - y;
  }
  return a.length - b.length;
}

/** The text as a pattern that matches just itself. */
export function escapeRegExp(text: string): string {
  return text.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');
}

/** Characters of what an error says: names that it quotes may be as long as a file. */
export const MAX_TOLD = 1000;

/** A text as messages quote it: what quotes a file or a pattern may be as long as they are. */
export function brief(text: string, most = 240): string {
  return text.length > most ? `${text.slice(0, most - 80)} … ${text.slice(-60)}` : text;
}
