import { guessCuts } from '../cuts.ts';
import { type PageLine, rulerOf, rulerText } from './page-lines.ts';

/** Lines that columns are guessed from. */
const GUESS_LINES = 2000;

/** Points from the left at which columns begin, but for the first, by the gaps that lines share over all pages. */
export function guessPageCuts(lines: readonly PageLine[]): number[] {
  const ruler = rulerOf(lines);
  const some = lines.slice(0, GUESS_LINES);
  const cuts = guessCuts(some.map((line) => rulerText(line, ruler)));
  return cuts.map((cut) => middleOfGap(some, cut * ruler.unit, ruler.unit));
}

/**
 * A cut moves to the middle of the gap that it stands in, so that what is a little wider next month still fits.
 * @param near points that words may stand beside where the ruler has them
 */
function middleOfGap(lines: readonly PageLine[], cut: number, near: number): number {
  let [left, right] = [0, Number.POSITIVE_INFINITY];
  for (const { words } of lines) {
    if (words.some((word) => word.left < cut - near && word.right > cut + near)) continue;
    for (const word of words) {
      if ((word.left + word.right) / 2 < cut) left = Math.max(left, word.right);
      else right = Math.min(right, word.left);
    }
  }
  return Math.round(right === Number.POSITIVE_INFINITY || right <= left ? cut : (left + right) / 2);
}

/** The cells of a line: its words by the column in which the middle of each stands. */
export function cellsOf(line: PageLine, cuts: readonly number[]): PageLine['words'][] {
  const cells: PageLine['words'][number][][] = Array.from({ length: cuts.length + 1 }, () => []);
  for (const word of line.words) {
    const middle = (word.left + word.right) / 2;
    const column = cuts.findIndex((cut) => middle < cut);
    cells[column < 0 ? cuts.length : column]!.push(word);
  }
  return cells;
}
