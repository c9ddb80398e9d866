/** Where every filled cell of the reports went. */

import type { Mark } from '../kinds/step.ts';
import type { Report } from '../read/report.ts';
import { PART_NAME } from '../read/report.ts';
import { STEP_WORDS } from '../steps/words.ts';
import { firstOfStretch } from '../table/vectors.ts';
import { Kind, kindsOf } from './cell-kinds.ts';
import { isUsed, lossOf, met, Use } from './cell-marks.ts';
import type { Loss, ReadMarks } from './marks.ts';

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
/** Cells tell their fate by one byte. */
const MAX_FATES = 256;

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
  const ofMark = new Uint8Array(UNREAD + 1);
  const parts: PartFates[] = [];
  for (const [source, own] of bySource(readings)) {
    const { report } = own[0]!.run.steps[0]!.reading!;
    const rows = new Map(
      own.map((one) => [one, rowsByPart(one.run.steps[0]!.reading!.places.part, report.parts.length)]),
    );
    report.parts.forEach((part, k) => {
      progress(k / report.parts.length);
      const marks = marksOfPart(report, k, own, (reading) => rows.get(reading)![k]!);
      if (marks === undefined) return;
      const columns = part.columns.length;
      const cells = new Uint8Array(part.rows * columns);
      part.columns.forEach((column, c) => {
        progress((k + c / columns) / report.parts.length);
        const kinds = kindsOf(column);
        const own = marks[c]!;
        const counts = new Float64Array(3 * MAX_FATES);
        for (let r = 0; r < part.rows; r++) {
          const kind = kinds[r]!;
          if (kind === Kind.blank) continue;
          const mark = own[r]!;
          ofMark[mark] ||= numberOf(mark);
          const number = ofMark[mark]!;
          cells[r * columns + c] = number;
          counts[3 * number + kind]!++;
        }
        fates.forEach((fate, n) => {
          fate.figures += counts[3 * (n + 1) + Kind.figure]!;
          fate.words += counts[3 * (n + 1) + Kind.words]!;
        });
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

/**
 * Marks of the cells of a part, by column; undefined for a part that none of the readings takes a row of.
 * @param rowsOf rows of each reading's raw table that stand in the part
 */
function marksOfPart(
  report: Report,
  k: number,
  readings: readonly ReadMarks[],
  rowsOf: (reading: ReadMarks) => Int32Array,
): Uint16Array[] | undefined {
  const part = report.parts[k]!;
  const found: (Uint16Array | undefined)[] = part.columns.map(() => undefined);
  const own = (column: number) => {
    found[column] ??= new Uint16Array(part.rows).fill(UNREAD);
    return found[column];
  };
  let any = false;
  for (const reading of readings) {
    const { run, marks, aside } = reading;
    const piles = aside.filter((pile) => pile.part === k);
    for (const { rows, mark } of piles)
      for (let column = 0; column < found.length; column++) {
        const cells = own(column);
        for (let n = 0; n < rows.length; n++) cells[rows[n]!] = mark;
      }
    const { places } = run.steps[0]!.reading!;
    const rows = rowsOf(reading);
    any ||= rows.length > 0;
    const columns = places.ofPart?.[k] ?? places.columns;
    // Most readings take the rows of a part as they stand: their marks are those of the part.
    const plain = readings.length === 1 && piles.length === 0 && isWhole(places.row, rows, part.rows);
    columns.forEach((column, c) => {
      if (column === PART_NAME || column < 0 || column >= found.length) return;
      const from = marks.cells(c);
      if (plain && from !== undefined && places.cellRows?.[c] === undefined && columns.indexOf(column) === c) {
        // Written to only where another column of the table stands in the same one of the part.
        const again = columns.lastIndexOf(column) !== c;
        const view = from.subarray(rows[0], rows[0]! + part.rows);
        found[column] = again ? view.slice() : view;
        return;
      }
      const cells = own(column);
      const at = places.cellRows?.[c] ?? places.row;
      for (let n = 0; n < rows.length; n++) {
        const row = rows[n]!;
        const to = at[row]!;
        if (to < 0) continue;
        const mark = from?.[row] ?? 0;
        cells[to] = cells[to] === UNREAD ? mark : met(cells[to]!, mark);
      }
    });
  }
  return any ? found.map((_, column) => own(column)) : undefined;
}

/** Whether rows of a raw table are all rows of a part, as they stand. */
function isWhole(places: Int32Array, rows: Int32Array, count: number): boolean {
  if (rows.length !== count || firstOfStretch(rows) < 0) return false;
  for (let n = 0; n < rows.length; n++) if (places[rows[n]!] !== n) return false;
  return true;
}

/** Rows of a raw table by the part of the report that they stand in. */
function rowsByPart(parts: Int32Array, count: number): Int32Array[] {
  const ends = new Int32Array(count);
  for (let row = 0; row < parts.length; row++) if (parts[row]! >= 0) ends[parts[row]!]!++;
  const rows = Array.from(ends, (size) => new Int32Array(size));
  ends.fill(0);
  for (let row = 0; row < parts.length; row++) {
    const part = parts[row]!;
    if (part >= 0) rows[part]![ends[part]!++] = row;
  }
  return rows;
}
