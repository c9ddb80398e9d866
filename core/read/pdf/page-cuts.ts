import { guessCuts } from '../cuts.ts';
import type { PageLine } from '../print.ts';
import { isNear, rulerOf, rulerText } from './page-lines.ts';

/** Lines that columns are guessed from. */
const GUESS_LINES = 2000;

/** Points from the left at which columns begin, but for the first, by the gaps that lines share over all pages. */
export function guessPageCuts(lines: readonly PageLine[]): number[] {
  const ruler = rulerOf(lines);
  const some = lines.slice(0, GUESS_LINES);
  const cuts = guessCuts(some.map((line) => rulerText(line, ruler))).map((cut) => cut * ruler.unit);
  const across = textsAcross(some, ruler.isMono);
  const few = STRAY * some.length;
  return cuts
    .map((cut, k) => inGap(across, few, cut, cuts[k - 1] ?? 0, cuts[k + 1] ?? across.length, ruler.isMono))
    .filter((cut) => cut > 0);
}

/** Share of the lines that may have a text across a gap: titles and heads do. */
const STRAY = 0.02;

/** How many texts stand across each point; words that follow each other are one, but where columns may be a blank apart. */
function textsAcross(lines: readonly PageLine[], isMono: boolean): Int32Array {
  const widest = Math.max(0, ...lines.map((line) => line.words.at(-1)?.right ?? 0));
  const across = new Int32Array(Math.ceil(widest) + 1);
  for (const { words } of lines)
    words.forEach((word, k) => {
      const next = words[k + 1];
      const end = next !== undefined && !isMono && isNear(word, next) ? next.left : word.right;
      for (let x = Math.max(0, Math.ceil(word.left)); x < Math.min(end, across.length); x++) across[x]!++;
    });
  return across;
}

/**
 * A cut moves to the nearest gap between the cuts beside it, and there to the middle of where the fewest texts stand
 * across, so that what is a little wider next month still fits.
 * @param stays it does not leave its place for another gap
 */
function inGap(across: Int32Array, few: number, cut: number, before: number, behind: number, stays: boolean): number {
  const isGap = (x: number) => x > before && x < behind && (across[x] ?? 0) <= few;
  let at = Math.round(cut);
  for (let by = 1; !isGap(at); by++) {
    const further = [Math.round(cut) + by, Math.round(cut) - by].find(isGap);
    if (further !== undefined && !stays) at = further;
    else if (stays || by > across.length) return Math.round(cut);
  }
  let [from, to] = [at, at];
  while (isGap(from - 1)) from--;
  while (isGap(to + 1)) to++;
  const gap = across.subarray(from, to + 1);
  const fewest = Math.min(...gap);
  // Of several stretches the widest.
  let best = { at: 0, length: 0 };
  for (let k = 0, length = 0; k < gap.length; k++) {
    length = gap[k] === fewest ? length + 1 : 0;
    if (length > best.length) best = { at: k - length + 1, length };
  }
  return Math.round(from + best.at + (best.length - 1) / 2);
}

/** Share of the columns from which a line is one of the table, and not a title or a head above it. */
const FULL = 0.6;

export function fillsMost(filled: number, columns: number): boolean {
  return filled >= Math.max(2, columns * FULL);
}

/**
 * The cells of a line: its words by the column in which the middle of each stands. On a line that fills few columns, as
 * titles do, words spaced as in one text stay together where the first of them is.
 */
export function cellsOf(line: PageLine, cuts: readonly number[]): PageLine['words'][] {
  const columns = line.words.map(({ left, right }) => {
    const column = cuts.findIndex((cut) => (left + right) / 2 < cut);
    return column < 0 ? cuts.length : column;
  });
  if (!fillsMost(new Set(columns).size, cuts.length + 1))
    for (let k = 1; k < columns.length; k++)
      if (isNear(line.words[k - 1]!, line.words[k]!)) columns[k] = columns[k - 1]!;
  const cells: PageLine['words'][number][][] = Array.from({ length: cuts.length + 1 }, () => []);
  line.words.forEach((word, k) => {
    cells[columns[k]!]!.push(word);
  });
  return cells;
}
