/** What stands on every page around its table: page heads and feet. */

import type { PageLine } from '../print.ts';
import { cellsOf } from './page-cuts.ts';
import { isNear, wordsText } from './page-lines.ts';

/** Points that a line may stand higher or lower from page to page. */
const SAME_PLACE = 4;
/** Share of the pages that have it. */
const MIN_PAGES = 0.6;
/** Share of the letters' size that a blank takes where all letters are equally wide, and a little more. */
const ONE_BLANK = 0.75;
/** Lines at either end of a page that are looked at. */
const DEEPEST = 8;

/**
 * Lines that stand on most pages in the same place, at their upper and lower ends, numbers aside. Names of columns,
 * which stand on every page too, are none of them: they fill the columns.
 * @param lines of each page, from the top
 * @returns for each page and line whether it is one
 */
export function pageFrames(lines: readonly (readonly PageLine[])[], cuts: readonly number[]): boolean[][] {
  const found = lines.map((page) => page.map(() => false));
  const filled = lines.filter((page) => page.length > 0);
  if (filled.length < 2) return found;
  const ends: ((page: readonly PageLine[], k: number) => number)[] = [(_, k) => k, (page, k) => page.length - 1 - k];
  for (const place of ends) {
    const seen = new Map<string, { baseline: number; on: { page: number; line: PageLine }[] }[]>();
    lines.forEach((page, p) => {
      for (let k = 0; k < Math.min(DEEPEST, page.length); k++) {
        const line = page[place(page, k)]!;
        const known = seen.get(plain(line)) ?? [];
        seen.set(plain(line), known);
        const same = known.find((one) => Math.abs(one.baseline - line.baseline) < SAME_PLACE);
        if (same === undefined) known.push({ baseline: line.baseline, on: [{ page: p, line }] });
        else same.on.push({ page: p, line });
      }
    });
    const least = Math.max(2, filled.length * MIN_PAGES);
    const frames = new Set(
      [...seen.values()]
        .flat()
        .filter(({ on }) => on.length >= least && areCounted(on))
        .flatMap(({ on }) => on.map((one) => one.line)),
    );
    lines.forEach((page, p) => {
      for (let k = 0; k < Math.min(DEEPEST, page.length); k++) {
        const line = page[place(page, k)]!;
        if (!frames.has(line) || isNames(line, cuts)) break;
        found[p]![place(page, k)] = true;
      }
    });
  }
  return found;
}

/** Whether the numbers in lines are the same on every page, or count the pages: those of a table do neither. */
function areCounted(on: readonly { page: number; line: PageLine }[]): boolean {
  const numbers = on.map(({ line }) => (wordsText(line.words).match(/\d+/g) ?? []).map(Number));
  return numbers[0]!.every((first, n) => {
    const isSame = numbers.every((own) => own[n] === first);
    return isSame || numbers.every((own, k) => own[n]! - first === on[k]!.page - on[0]!.page);
  });
}

/** Its text with all numbers alike, since pages are numbered. */
function plain(line: PageLine): string {
  return wordsText(line.words).replace(/\d+/g, '#');
}

/** Words over more than half of the columns, none of them going on from one column into the next. */
function isNames(line: PageLine, cuts: readonly number[]): boolean {
  const cells = cellsOf(line, cuts).filter((words) => words.length > 0);
  const goesOn = cells.some((words, k) => k > 0 && isNear(cells[k - 1]!.at(-1)!, words[0]!, ONE_BLANK));
  return cuts.length > 1 && cells.length * 2 > cuts.length + 1 && !goesOn;
}
