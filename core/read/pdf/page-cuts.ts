import { guessCuts } from '../cuts.ts';
import { isNear, type PageLine, rulerOf, rulerText } from './page-lines.ts';

/** Lines that columns are guessed from. */
const GUESS_LINES = 2000;

/** Points from the left at which columns begin, but for the first, by the gaps that lines share over all pages. */
export function guessPageCuts(lines: readonly PageLine[]): number[] {
  const ruler = rulerOf(lines);
  const some = lines.slice(0, GUESS_LINES);
  const cuts = guessCuts(some.map((line) => rulerText(line, ruler)));
  return cuts.map((cut) => middleOfGap(some, cut * ruler.unit, ruler.unit)).filter((cut) => cut > 0);
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

/** Share of the columns from which a line is one of the table, and not a title or a head above it. */
const FULL = 0.6;

/**
 * The cells of a line: its words by the column in which the middle of each stands. On a line that fills few columns, as
 * titles do, words that stand as in one text stay together where the first of them is.
 */
export function cellsOf(line: PageLine, cuts: readonly number[]): PageLine['words'][] {
  const columns = line.words.map(({ left, right }) => {
    const column = cuts.findIndex((cut) => (left + right) / 2 < cut);
    return column < 0 ? cuts.length : column;
  });
  if (new Set(columns).size < Math.max(2, FULL * (cuts.length + 1)))
    for (let k = 1; k < columns.length; k++)
      if (isNear(line.words[k - 1]!, line.words[k]!)) columns[k] = columns[k - 1]!;
  const cells: PageLine['words'][number][][] = Array.from({ length: cuts.length + 1 }, () => []);
  line.words.forEach((word, k) => {
    cells[columns[k]!]!.push(word);
  });
  return cells;
}
