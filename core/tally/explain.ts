/** What would explain a disagreement, by arithmetic. Common practice of bookkeeping. */

import { few } from '../values/counted.ts';
import { isUsed, lossOf, Use } from './cell-marks.ts';
import type { Figure } from './figure.ts';
import type { Loss } from './marks.ts';
import type { ReportPlace, TotalKind, TotalsSheet } from './totals-sheet.ts';

export interface Explanation {
  text: string;
  cells: readonly ReportPlace[];
  /** The step that lost or doubled what is missing or too much, by table and index. */
  step?: { table: string; index: number };
  /** Ids of the steps that left rows out, where these alone explain it: it can be accepted in the job. */
  leftOutBy?: readonly string[];
}

interface Disagreement {
  sheet: TotalsSheet;
  row: number;
  column: number;
  figure: Figure;
  cells: readonly (readonly [row: number, column: number])[];
  kind: TotalKind;
  /** From the report's cells that it covers, and from the table. */
  report: number;
  table: number;
  tolerance: number;
}

const shown = (value: number) => String(Number(value.toPrecision(12)));

/**
 * Rows that steps were asked to leave out are all that is missing: what stays and what went is what the total covers.
 * Undefined where anything else differs.
 */
export function leftOut(of: Disagreement, accepted: readonly string[] = []): Explanation | undefined {
  const { sheet, cells, figure, report, tolerance } = of;
  if (Math.abs(figure.value - report) > tolerance) return undefined;
  const gone: [number, number][] = [];
  const steps = new Map<string, Loss>();
  for (const [row, column] of cells) {
    const own = sheet.figure(row, column);
    if (own === undefined) continue;
    const mark = sheet.markAt(row, column);
    if (isUsed(mark)) {
      const same = Math.abs(sheet.amount(row, column) - own.value) <= Math.max(own.unit, 1e-9 * Math.abs(own.value));
      if (!same || (mark & Use.unreadable) !== 0) return undefined;
      continue;
    }
    const loss = sheet.losses[lossOf(mark)];
    // Rows on a pile for titles or notes were no data to begin with; what no pile holds was not chosen,
    // unless the step is accepted.
    const isChosen = loss?.pile !== undefined && (loss.mark === 'other' || loss.mark === 'data');
    if (loss === undefined || !(isChosen || (loss.pile === undefined && accepted.includes(loss.id)))) return undefined;
    gone.push([row, column]);
    steps.set(loss.id, loss);
  }
  const [first] = steps.values();
  if (first === undefined) return undefined;
  const by = [...new Set([...steps.values()].map((loss) => loss.step + 1))];
  const piles = few([...new Set([...steps.values()].flatMap((loss) => loss.pile ?? []))]);
  return {
    text: `${figuresText(sheet, gone)} not in the table: taken out by step ${few(by.map(String))}${piles === '' ? '' : ` onto ${piles}`}. What stays and what went make the total.`,
    cells: gone.map(([row, column]) => sheet.place(row, column)),
    step: { table: first.table, index: first.step },
    leftOutBy: [...steps.keys()],
  };
}

/** The first few figures and how many more, with their verb. */
function figuresText(sheet: TotalsSheet, of: readonly (readonly [number, number])[]): string {
  const values = of.slice(0, 3).map(([row, column]) => shown(sheet.figure(row, column)!.value));
  return `${values.join(', ')}${of.length > 3 ? ` and ${of.length - 3} more` : ''} ${of.length === 1 ? 'is' : 'are'}`;
}

/** The first explanation that fits, or undefined. */
export function explain(of: Disagreement): Explanation | undefined {
  const same = Math.abs(of.figure.value - of.report) <= of.tolerance;
  return same || of.kind !== 'sum'
    ? (lostOrDoubled(of) ?? (same ? undefined : wrongTotal(of)))
    : (wrongTotal(of) ?? lostOrDoubled(of));
}

/** The report adds up, the table does not: cells that it lost, doubled or changed. */
function lostOrDoubled({ sheet, cells }: Disagreement): Explanation | undefined {
  const lost: [number, number][] = [];
  const doubled: [number, number][] = [];
  const changed: [number, number][] = [];
  const unreadable: [number, number][] = [];
  for (const [row, column] of cells) {
    const figure = sheet.figure(row, column);
    if (figure === undefined) continue;
    const mark = sheet.markAt(row, column);
    const amount = sheet.amount(row, column);
    if (!isUsed(mark)) lost.push([row, column]);
    else if ((mark & Use.unreadable) !== 0) unreadable.push([row, column]);
    else if (Math.abs(amount - figure.value) <= Math.max(figure.unit, 1e-9 * Math.abs(figure.value))) continue;
    else if ((mark & Use.more) !== 0 && Math.abs(amount) > Math.abs(figure.value)) doubled.push([row, column]);
    else changed.push([row, column]);
  }
  const places = (of: readonly [number, number][]) => of.map(([row, column]) => sheet.place(row, column));
  const values = (of: readonly [number, number][]) =>
    of
      .slice(0, 3)
      .map(([row, column]) => shown(sheet.figure(row, column)!.value))
      .join(', ') + (of.length > 3 ? ` and ${of.length - 3} more` : '');
  if (lost.length > 0) {
    const [row, column] = lost[0]!;
    const loss = sheet.losses[lossOf(sheet.markAt(row, column))];
    const where =
      loss === undefined ? '' : ` by step ${loss.step + 1}${loss.pile === undefined ? '' : ` onto ${loss.pile}`}`;
    return {
      text: `${figuresText(sheet, lost)} not in the table: taken out${where}.`,
      cells: places(lost),
      ...(loss === undefined ? {} : { step: { table: loss.table, index: loss.step } }),
    };
  }
  if (doubled.length > 0)
    return {
      text: `${values(doubled)} ${doubled.length === 1 ? 'is' : 'are'} in the table more than once: a join or a split doubled ${doubled.length === 1 ? 'it' : 'them'}.`,
      cells: places(doubled),
    };
  if (unreadable.length > 0)
    return { text: `${values(unreadable)} could not be read as the column's type.`, cells: places(unreadable) };
  if (changed.length > 0) {
    const [row, column] = changed[0]!;
    const [before, after] = [sheet.figure(row, column)!.value, sheet.amount(row, column)];
    const factor = before === 0 ? Number.NaN : after / before;
    const scale = [1000, 100, 10, 0.1, 0.01, 0.001].find((one) => Math.abs(factor / one - 1) < 1e-9);
    return {
      text: `${values(changed)} ${changed.length === 1 ? 'stands' : 'stand'} in the table as another number${scale === undefined ? '' : `, ${scale > 1 ? scale : `1/${Math.round(1 / scale)}`} times as large`}.`,
      cells: places(changed),
    };
  }
  return undefined;
}

/** The report's own total is not what its rows add up to. */
function wrongTotal(of: Disagreement): Explanation | undefined {
  return twice(of) ?? oneRow(of) ?? digits(of) ?? signsAndTens(of) ?? rounding(of);
}

/** Rows that stand twice, word for word, one right behind the other or a page further down. */
function twice({ sheet, cells, figure, report }: Disagreement): Explanation | undefined {
  const excess = report - figure.value;
  const seen = new Map<string, number>();
  const again: (readonly [number, number])[] = [];
  for (const [row, column] of cells) {
    const key = JSON.stringify(Array.from({ length: sheet.columnCount }, (_, c) => sheet.text(row, c)));
    const first = seen.get(key);
    if (first !== undefined && first !== row) again.push([row, column]);
    else seen.set(key, row);
  }
  if (again.length === 0) return undefined;
  const sum = again.reduce((total, [row, column]) => total + (sheet.figure(row, column)?.value ?? 0), 0);
  if (Math.abs(sum - excess) > 1e-9 * Math.max(1, Math.abs(excess))) return undefined;
  const rows = [...new Set(again.map(([row, column]) => sheet.place(row, column).row + 1))];
  const text = rows.length === 1 ? `row ${rows[0]} stands` : `rows ${rows[0]} to ${rows.at(-1)} stand`;
  return {
    text: `The report has rows twice: ${text} there word for word already, and add up to the ${shown(Math.abs(excess))} too much.`,
    cells: again.map(([row, column]) => sheet.place(row, column)),
  };
}

/** One row is left out of the total, or counted twice in it. */
function oneRow({ sheet, cells, figure, report, tolerance }: Disagreement): Explanation | undefined {
  const difference = figure.value - report;
  for (const [row, column] of cells) {
    const value = sheet.figure(row, column)?.value;
    if (value === undefined || value === 0) continue;
    const at = sheet.place(row, column);
    if (Math.abs(difference + value) <= tolerance)
      return { text: `The total leaves out row ${at.row + 1}, which reads ${shown(value)}.`, cells: [at] };
    if (Math.abs(difference - value) <= tolerance)
      return { text: `The total counts row ${at.row + 1} twice, which reads ${shown(value)}.`, cells: [at] };
  }
  return undefined;
}

/** One digit of the total is another, or two digits are exchanged, in it or in a row (such differences divide by nine). */
function digits({ sheet, row, column, cells, figure, report, tolerance }: Disagreement): Explanation | undefined {
  const difference = figure.value - report;
  const own = sheet.place(row, column);
  if (exchanges(figure.value).some((value) => Math.abs(value - report) <= tolerance))
    return {
      text: `Two digits of the total are exchanged: it reads ${shown(figure.value)} for ${shown(report)}.`,
      cells: [own],
    };
  if (differByOneDigit(figure.value, report))
    return {
      text: `One digit of the total differs: it reads ${shown(figure.value)}, its rows add up to ${shown(report)}.`,
      cells: [own],
    };
  for (const [r, c] of cells) {
    const value = sheet.figure(r, c)?.value;
    if (value === undefined) continue;
    const other = exchanges(value).find((one) => Math.abs(one - value - difference) <= tolerance);
    if (other === undefined) continue;
    const at = sheet.place(r, c);
    return {
      text: `Row ${at.row + 1} reads ${shown(value)}; with two digits exchanged, ${shown(other)} less ${shown(value)} is the ${shown(difference)} that differs.`,
      cells: [at],
    };
  }
  return undefined;
}

/** The number with each two neighbouring digits exchanged. */
function exchanges(value: number): number[] {
  const text = shown(Math.abs(value));
  if (text.includes('e')) return [];
  const found: number[] = [];
  for (let k = 0; k + 1 < text.length; k++) {
    const [a, b] = [text[k]!, text[k + 1]!];
    if (a === b || a === '.' || b === '.') continue;
    found.push(Math.sign(value) * Number(`${text.slice(0, k)}${b}${a}${text.slice(k + 2)}`));
  }
  return found;
}

function differByOneDigit(a: number, b: number): boolean {
  const [x, y] = [shown(Math.abs(a)), shown(Math.abs(b))];
  if (Math.sign(a) !== Math.sign(b) || x.length !== y.length || x.length < 2) return false;
  return [...x].filter((digit, k) => digit !== y[k]).length === 1;
}

function signsAndTens({ sheet, cells, figure, report, tolerance }: Disagreement): Explanation | undefined {
  const difference = figure.value - report;
  for (const [row, column] of cells) {
    const value = sheet.figure(row, column)?.value;
    if (value === undefined || value === 0) continue;
    const at = sheet.place(row, column);
    if (Math.abs(difference + 2 * value) <= tolerance)
      return {
        text: `With the sign of row ${at.row + 1} the other way round (${shown(value)}) it agrees.`,
        cells: [at],
      };
    if (Math.abs(difference - 9 * value) <= tolerance)
      return { text: `With ten times row ${at.row + 1} (${shown(value)}) it agrees.`, cells: [at] };
    if (Math.abs(difference + 0.9 * value) <= tolerance)
      return { text: `With a tenth of row ${at.row + 1} (${shown(value)}) it agrees.`, cells: [at] };
  }
  return undefined;
}

function rounding({ sheet, cells, figure, report }: Disagreement): Explanation | undefined {
  if (Math.abs(figure.value - report) > (cells.length + 1) / 2) return undefined;
  // Whole counts stand exactly: only what was rounded somewhere can differ by rounding.
  const isRounded = (one: Figure | undefined) => one !== undefined && (one.unit !== 0 || !Number.isInteger(one.value));
  if (!isRounded(figure) && !cells.some(([row, column]) => isRounded(sheet.figure(row, column)))) return undefined;
  return {
    text: `It differs by no more than rounding ${cells.length} figures to whole numbers may add up to.`,
    cells: [],
  };
}
