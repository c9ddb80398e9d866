/** Edits (insert, delete, change, swap of neighbours) that turn one text into the other. */
export function editDistance(a: string, b: string): number {
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, k) => k);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let best = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) best = Math.min(best, before[j - 2]! + 1);
      row.push(best);
    }
    before = last;
    last = row;
  }
  return last[b.length]!;
}

/** 1 for equal up to case, blanks and accents, towards 0 for nothing in common. */
export function likeness(a: string, b: string): number {
  const [x, y] = [plainText(a), plainText(b)];
  const longest = Math.max(x.length, y.length);
  return longest === 0 ? 1 : 1 - editDistance(x, y) / longest;
}

/** How alike two names are: a name that was only added to, or cut short, is much like itself. */
export function nameLikeness(a: string, b: string): number {
  const [x, y] = [plainText(a), plainText(b)];
  const [short, long] = x.length <= y.length ? [x, y] : [y, x];
  const within = short.length >= 3 && (long.startsWith(short) || long.endsWith(short));
  return Math.max(likeness(a, b), within ? WITHIN : 0);
}

const WITHIN = 0.7;

/** Lower case without accents, blanks and punctuation. */
export function plainText(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/[\p{M}\s\p{P}]/gu, '')
    .toLowerCase();
}

/** The candidate most like the text, if any is like it at all. */
export function mostAlike(text: string, candidates: readonly string[], least = 0.5): string | undefined {
  let best: string | undefined;
  let bestScore = least;
  for (const candidate of candidates) {
    const score = nameLikeness(text, candidate);
    if (score > bestScore) [best, bestScore] = [candidate, score];
  }
  return best;
}
