import { fillsHalf, fitsCuts } from './cuts.ts';
import type { LineSpan } from './line-reader.ts';

/** Words with single blanks between them. */
const RUN = /\S+(?: \S+)*/g;
/** A name and a value, as 'Depot: North'. */
const PAIR = /^\p{L}[\p{L}\s./-]{0,30}: \S/u;
/** Not a code, which begins with zero: what follows one belongs to it, as in numbers of telephones. */
const FIGURE = /^[-+(]?(?!0\d)\d[\d.,]*[-%)]?$/;
const CODE = /^0\d+$/;

/**
 * Where the cells of a line stand whose texts run across the cuts, as headings do: each text is whole in the column in
 * which it begins, and figures at its end stand in their own. Undefined for a line that is cut like the others.
 */
export function headingSpans(line: string, cuts: readonly number[]): LineSpan[] | undefined {
  const columnAt = (at: number) => cuts.filter((cut) => cut <= at).length;
  const runs = [...line.matchAll(RUN)].map((match) => ({ from: match.index, to: match.index + match[0].length }));
  if (runs.every(({ from, to }) => columnAt(from) === columnAt(to - 1))) return undefined;
  if (runs.every(({ from, to }) => PAIR.test(line.slice(from, to))))
    return runs.map((run) => ({ ...run, column: columnAt(run.from) }));
  // Words one blank apart are a row only where some of them are figures, codes or dates.
  const isFull = runs.length === 1 ? /\S .*\d/.test(line) : fillsHalf(line, cuts);
  if (isFull && fitsCuts(line, cuts)) return undefined;
  const spans: LineSpan[] = [];
  for (const run of runs) {
    const words = [...line.slice(run.from, run.to).matchAll(/\S+/g)].map((match) => {
      const from = run.from + match.index;
      return { from, to: from + match[0].length, isFigure: FIGURE.test(match[0]) };
    });
    words.forEach((word, k) => {
      const last = spans.at(-1);
      const column = columnAt(word.from);
      const before = words[k - 1];
      const isInCode = before !== undefined && CODE.test(line.slice(before.from, before.to));
      // In a line as full as a row only a word that the cut runs through takes the next one with it.
      const isHeld = before !== undefined && (!isFull || isInCode || columnAt(before.to - 1) >= column);
      const isOwn = words.slice(k).every(({ isFigure }) => isFigure) && column !== last?.column && !isInCode;
      const goesOn = before !== undefined && last !== undefined && (column === last.column || (isHeld && !isOwn));
      if (goesOn) last.to = word.to;
      else if (last?.column === column) last.to = word.to;
      else spans.push({ from: word.from, to: word.to, column });
    });
  }
  return spans;
}
