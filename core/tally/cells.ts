/** Where every filled cell of the reports went. */

import type { Mark } from '../kinds/step.ts';
import type { Report, ReportPart } from '../read/report.ts';
import { PART_NAME } from '../read/report.ts';
import { STEP_WORDS } from '../steps/words.ts';
import { blankMask, Tag } from '../table/column.ts';
import { textView } from '../values/cell-text.ts';
import { NumberForm } from '../values/number-text.ts';
import { figureOfText } from './figure.ts';
import { isUsed, type Loss, lossOf, met, type ReadMarks, Use } from './marks.ts';

/** One way that cells went. */
export interface Fate {
  /** once, more, name, label, key, merged, unreadable, aside, dropped, unread, or lost. */
  as: 'once' | 'more' | 'name' | 'label' | 'key' | 'merged' | 'unreadable' | 'aside' | 'dropped' | 'unread' | 'lost';
  text: string;
  figures: number;
  words: number;
  mark?: Mark;
  step?: { table: string; index: number };
}

export interface PartFates {
  source: string;
  part: number;
  name: string;
  rows: number;
  columns: number;
  /** For each cell, row by row, the number of its fate from 1 on; 0 is blank. */
  cells: Uint8Array;
}

export interface CellFates {
  fates: readonly Fate[];
  parts: readonly PartFates[];
  filled: number;
  accounted: number;
}

const TEXTS: Partial<Record<Fate['as'], string>> = {
  once: 'in the table, once',
  more: 'in the table, more than once',
  name: 'became a column name, or a value out of one',
  label: 'carried as a label',
  key: 'met by a key',
  merged: 'merged into an aggregate',
  unreadable: 'in the table, but unreadable',
  unread: 'not read: outside of what the first step reads',
  lost: 'not accounted for',
};

/** The way of a cell out of its mark. */
function wayOf(mark: number, losses: readonly Loss[]): { as: Fate['as']; loss?: Loss } {
  if (isUsed(mark)) {
    if ((mark & Use.unreadable) !== 0) return { as: 'unreadable' };
    if ((mark & Use.merged) !== 0) return { as: 'merged' };
    if ((mark & Use.more) !== 0) return { as: 'more' };
    if ((mark & Use.once) !== 0) return { as: 'once' };
    if ((mark & Use.label) !== 0) return { as: 'label' };
    if ((mark & Use.name) !== 0) return { as: 'name' };
    return { as: 'key' };
  }
  const loss = losses[lossOf(mark)];
  if (loss === undefined) return { as: 'lost' };
  if (loss.pile !== undefined) return { as: 'aside', loss };
  return { as: STEP_WORDS.get(loss.kind)?.drops ? 'dropped' : 'lost', loss };
}

const UNREAD = 0xffff;

/** @param nameOf what another table than the tally's own is called; undefined for its own */
export function cellFates(
  readings: readonly ReadMarks[],
  losses: readonly Loss[],
  nameOf: (table: string) => string | undefined,
  progress: (done: number) => void = () => undefined,
): CellFates {
  const fates: Fate[] = [];
  const stepText = (loss: Loss) => {
    const table = nameOf(loss.table);
    return `step ${loss.step + 1}${table === undefined ? '' : ` of ${table}`}`;
  };
  const numbers = new Map<string, number>();
  const numberOf = (mark: number): number => {
    const { as, loss } = mark === UNREAD ? { as: 'unread' as const, loss: undefined } : wayOf(mark, losses);
    const key =
      as === 'aside'
        ? `aside/${loss!.pile}`
        : as === 'dropped' || as === 'lost'
          ? `${as}/${loss?.table}/${loss?.step}`
          : as;
    let number = numbers.get(key);
    if (number === undefined) {
      const text =
        as === 'aside'
          ? `set aside: ${loss!.pile}`
          : as === 'dropped'
            ? `dropped by ${stepText(loss!)}`
            : (TEXTS[as] ?? as) + (loss === undefined ? '' : `, at ${stepText(loss)}`);
      fates.push({
        as,
        text,
        figures: 0,
        words: 0,
        mark: loss?.mark,
        ...(loss === undefined ? {} : { step: { table: loss.table, index: loss.step } }),
      });
      number = fates.length;
      numbers.set(key, number);
    }
    return number;
  };
  const ofMark = new Map<number, number>();
  const parts: PartFates[] = [];
  for (const [source, own] of bySource(readings)) {
    const { report } = own[0]!.run.steps[0]!.reading!;
    report.parts.forEach((part, k) => {
      const marks = marksOfPart(report, k, own);
      if (marks === undefined) return;
      const cells = new Uint8Array(marks.length);
      const columns = part.columns.length;
      part.columns.forEach((column, c) => {
        progress(c / columns);
        const blanks = blankMask(column);
        const isFigure = figureMask(part, c);
        for (let r = 0; r < part.rows; r++) {
          if (blanks[r] === 1) continue;
          const mark = marks[r * columns + c]!;
          let number = ofMark.get(mark);
          if (number === undefined) {
            number = numberOf(mark);
            ofMark.set(mark, number);
          }
          cells[r * columns + c] = number;
          const fate = fates[number - 1]!;
          if (isFigure(r)) fate.figures++;
          else fate.words++;
        }
      });
      parts.push({ source, part: k, name: part.name, rows: part.rows, columns, cells });
    });
  }
  const filled = fates.reduce((sum, fate) => sum + fate.figures + fate.words, 0);
  const lost = fates.filter((fate) => fate.as === 'lost').reduce((sum, fate) => sum + fate.figures + fate.words, 0);
  return { fates, parts, filled, accounted: filled - lost };
}

function bySource(readings: readonly ReadMarks[]): Map<string, ReadMarks[]> {
  const found = new Map<string, ReadMarks[]>();
  for (const one of readings) found.set(one.source, [...(found.get(one.source) ?? []), one]);
  return found;
}

/** Marks of the cells of a part, row by row; undefined for a part that none of the readings takes a row of. */
function marksOfPart(report: Report, k: number, readings: readonly ReadMarks[]): Uint16Array | undefined {
  const part = report.parts[k]!;
  const columns = part.columns.length;
  const found = new Uint16Array(part.rows * columns).fill(UNREAD);
  let any = false;
  for (const { run, marks, aside } of readings) {
    for (const pile of aside) {
      if (pile.part !== k) continue;
      for (const row of pile.rows) found.fill(pile.mark, row * columns, (row + 1) * columns);
    }
    const { places } = run.steps[0]!.reading!;
    const inPart = places.ofPart?.[k] ?? places.columns;
    for (let row = 0; row < places.part.length; row++) {
      if (places.part[row] !== k) continue;
      any = true;
      inPart.forEach((column, c) => {
        if (column === PART_NAME || column < 0) return;
        const at = places.cellRows?.[c]?.[row] ?? places.row[row]!;
        if (at < 0) return;
        const index = at * columns + column;
        const mark = marks.cells[c]?.[row] ?? 0;
        found[index] = found[index] === UNREAD ? mark : met(found[index]!, mark);
      });
    }
  }
  return any ? found : undefined;
}

const FORM = NumberForm.parse({});

/** Whether cells of a column of a part hold figures. */
function figureMask(part: ReportPart, c: number): (row: number) => boolean {
  const column = part.columns[c]!;
  if (column.type === 'number' || column.type === 'whole') return () => true;
  if (column.type === 'received') {
    const { tags } = column;
    const flags = column.dictionary.map((text) => figureOfText(text, FORM) !== undefined);
    return (row) => tags[row] === Tag.number || (tags[row] === Tag.text && flags[column.values[row]!] === true);
  }
  const { codes, texts } = textView(column);
  const flags = texts.map((text) => figureOfText(text, FORM) !== undefined);
  return (row) => codes[row]! >= 0 && flags[codes[row]!]!;
}
