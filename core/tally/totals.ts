/** The report's own totals beside what the table adds up to. */

import type { Coverage } from '../document/coverage.ts';
import { decimalsOf } from '../rows/sums.ts';
import { Sum } from '../values/decimal.ts';
import { isNumbering } from '../values/numbering.ts';
import { areSameItems } from '../values/same-items.ts';
import { type Explanation, explain, leftOut } from './explain.ts';
import type { Figure } from './figure.ts';
import type { ReportPlace, TotalKind, TotalsSheet } from './totals-sheet.ts';

/**
 * left out: rows that a step left out explain the difference, and the job accepts it.
 * not calculated: the workbook stores 0 beside the formula.
 */
export type TotalState = 'agrees' | 'disagrees' | 'left out' | 'cannot tell' | 'not calculated';

/** One figure of the report that sums others up. */
export interface TotalEntry {
  place: ReportPlace;
  /** What it covers, in words. */
  covers: string;
  kind: TotalKind;
  figure: number;
  /** From the cells of the report that it covers, and from the table's values that came of them. */
  report: number;
  table: number;
  state: TotalState;
  /** The first of the cells that it covers. */
  cells: readonly ReportPlace[];
  cellCount: number;
  explanation?: Explanation;
}

export interface Ledger {
  agrees: number;
  disagrees: number;
  cannotTell: number;
  leftOut: number;
  /** Disagreeing figures first, then those of which nothing can be said, then the others; not more than are looked at. */
  entries: readonly TotalEntry[];
}

const MAX_ENTRIES = 3000;
const MAX_CELLS = 400;
/** Rows of one total that are looked through for an explanation. */
const MAX_LOOKED_AT = 20_000;
const MAX_EXPLAINED = 200;
/** Totals of a level that are tried to see what the level covers. */
const SAMPLE = 60;
const MAX_WHOLE = 50;
/** Binary fractions add noise to sums. */
const NOISE = 1e-9;

const HOW_FAR = ['since', 'level', 'below', 'part', 'all'] as const;
type HowFar = (typeof HOW_FAR)[number];
const BESIDE = ['same-name', 'same-head', 'left', 'adjacent', 'every'] as const;
type Beside = (typeof BESIDE)[number];
const KINDS: readonly TotalKind[] = ['sum', 'mean', 'count', 'max', 'min'];

interface TotalRow {
  row: number;
  label: string;
  level: string;
}

/** Works out what each total of a report covers, and compares. */
export function ledgerOf(
  sheets: readonly TotalsSheet[],
  said: Said = {},
  progress: (done: number) => void = () => undefined,
): Ledger {
  const entries: TotalEntry[] = [];
  const counts = { agrees: 0, disagrees: 0, cannotTell: 0, leftOut: 0 };
  for (const sheet of sheets) new SheetLedger(sheet, said, entries, counts).work(progress);
  const order: Record<TotalState, number> = {
    disagrees: 0,
    'not calculated': 1,
    'cannot tell': 2,
    'left out': 3,
    agrees: 4,
  };
  entries.sort((a, b) => order[a.state] - order[b.state]);
  return { ...counts, entries };
}

/** What a person said of a table's totals. */
export interface Said {
  coverage?: readonly Coverage[];
  /** Ids of steps whose left-out rows are accepted as the reason that totals differ. */
  accepts?: readonly string[];
}

const COUNT_OF: Record<TotalState, 'agrees' | 'disagrees' | 'cannotTell' | 'leftOut'> = {
  agrees: 'agrees',
  disagrees: 'disagrees',
  'left out': 'leftOut',
  'cannot tell': 'cannotTell',
  'not calculated': 'cannotTell',
};

interface Base {
  rows: readonly number[];
  columns: readonly number[];
}

/** What some cells come to, by each of the kinds of total. */
interface Measures {
  of: Record<TotalKind, number>;
  count: number;
  /** The sum of the figures without their signs. */
  size: number;
}

class SheetLedger {
  private readonly totals: TotalRow[];
  private readonly figureColumns: number[];
  private explained = 0;
  /** For each row the number of its level, or -1 where it is no total. */
  private readonly levels: Int32Array;
  private readonly levelOf = new Map<string, number>();

  constructor(
    private readonly sheet: TotalsSheet,
    private readonly given: Said,
    private readonly entries: TotalEntry[],
    private readonly counts: Pick<Ledger, 'agrees' | 'disagrees' | 'cannotTell' | 'leftOut'>,
  ) {
    this.figureColumns = this.findFigureColumns();
    this.totals = this.findTotals();
    this.levels = new Int32Array(sheet.rows).fill(-1);
    for (const { row, level } of this.totals) {
      if (!this.levelOf.has(level)) this.levelOf.set(level, this.levelOf.size);
      this.levels[row] = this.levelOf.get(level)!;
    }
  }

  work(progress: (done: number) => void): void {
    for (const level of new Set(this.totals.map((total) => total.level))) {
      progress(0.5);
      const rows = this.totals.filter((total) => total.level === level);
      // What reaches over the whole report is tried for the few totals that may.
      const ways = rows.length > MAX_WHOLE ? HOW_FAR.slice(0, 3) : HOW_FAR;
      const far = this.bestOf(ways, (how) => this.agreement(rows.slice(0, SAMPLE), how));
      for (const [k, total] of rows.entries()) {
        if (k % 100 === 0) progress(0.2 + (0.8 * k) / rows.length);
        const own = this.agreement([total], far);
        const better = own === 0 ? ways.find((how) => this.agreement([total], how) >= 0.5) : undefined;
        this.addRow(total, better ?? far);
      }
    }
    for (const [column, { name, siblings }] of this.sheet.totalColumns) this.addColumn(column, name, siblings);
  }

  /** Columns of data that hold figures, most of what is filled. */
  private findFigureColumns(): number[] {
    const { sheet } = this;
    return Array.from({ length: sheet.columnCount }, (_, c) => c).filter((c) => {
      let [filled, figures] = [0, 0];
      const texts: string[] = [];
      for (let r = 0; r < sheet.rows && filled < 500; r++) {
        const text = sheet.isData(r) ? sheet.text(r, c) : null;
        if (text === null) continue;
        texts.push(text.trim());
        filled++;
        if (sheet.figure(r, c) !== undefined) figures++;
      }
      return figures > filled / 2 && !isNumbering(texts.filter((text) => text !== ''));
    });
  }

  private findTotals(): TotalRow[] {
    const { sheet } = this;
    const rows: { row: number; label: string }[] = [];
    for (let row = 0; row < sheet.rows; row++) {
      if (!sheet.isTotal(row)) continue;
      const words: string[] = [];
      for (let c = 0; c < sheet.columnCount; c++) {
        const text = sheet.text(row, c);
        if (text !== null && text.trim() !== '' && sheet.figure(row, c) === undefined && sheet.place(row, c).row >= 0)
          words.push(text.trim());
      }
      rows.push({ row, label: words.join(' ') });
    }
    const counts = new Map<string, number>();
    for (const { label } of rows) counts.set(label.toLowerCase(), (counts.get(label.toLowerCase()) ?? 0) + 1);
    return rows.map(({ row, label }) => {
      const plain = label.toLowerCase();
      // What stands again and again is its own level; else the last word tells (Hask subtotal, Ullin subtotal).
      const level = counts.get(plain)! > 1 ? plain : (/[\p{L}-]+(?=\P{L}*$)/u.exec(plain)?.[0] ?? plain);
      return { row, label, level };
    });
  }

  /** The first of several ways under which most figures agree; the first of all where none does. */
  private bestOf<T>(ways: readonly T[], agreement: (way: T) => number): T {
    let best = ways[0] as T;
    let most = 0;
    for (const way of ways) {
      const share = agreement(way);
      if (share > most) [best, most] = [way, share];
      if (share === 1) break;
    }
    return best;
  }

  /** Share of the figures of total rows that fit what they would cover. */
  private agreement(totals: readonly TotalRow[], how: HowFar): number {
    let [fit, all] = [0, 0];
    for (const total of totals) {
      const rows = this.rowsCovered(total, how);
      if (rows.length === 0) continue;
      for (const column of this.figureColumns) {
        const figure = this.sheet.figure(total.row, column);
        if (figure === undefined) continue;
        all++;
        if (this.fitsAny(figure, { rows, columns: [column] })) fit++;
      }
    }
    return all === 0 ? 0 : fit / all;
  }

  private fits(figure: Figure, kind: TotalKind, base: Base): boolean {
    return this.agrees(figure, kind, base, this.measures(base));
  }

  /** Whether the figure is the sum, the mean or another measure of what it may cover, added up once. */
  private fitsAny(figure: Figure, base: Base): boolean {
    const measures = this.measures(base);
    return KINDS.some((kind) => this.agrees(figure, kind, base, measures));
  }

  private measures(base: Base): Measures {
    // Ways and kinds are tried one after the other over the same rows.
    const known = this.measuredBase;
    if (known?.base.rows === base.rows && areSameItems(known.base.columns, base.columns)) return known.measures;
    const measures = this.measured(base, (row, column) => this.sheet.valueAt(row, column));
    this.measuredBase = { base, measures };
    return measures;
  }

  private measuredBase: { base: Base; measures: Measures } | undefined;

  private agrees(figure: Figure, kind: TotalKind, base: Base, { of: values, count, size }: Measures): boolean {
    const of = { value: values[kind], count, size };
    const miss = Math.abs(figure.value - of.value);
    // Nearly all are met to the last digit: what their cells may hide needs no looking at.
    return of.count > 0 && (miss <= noiseOf(of) || miss <= this.tolerance(figure, base, of, kind));
  }

  /** Rows of data that a total covers, one way or another. */
  private rowsCovered(total: TotalRow, how: HowFar): readonly number[] {
    const known = this.covered;
    if (known?.total === total && known.how === how) return known.rows;
    const rows = this.findCovered(total, how);
    this.covered = { total, how, rows };
    return rows;
  }

  private covered: { total: TotalRow; how: HowFar; rows: readonly number[] } | undefined;

  private findCovered(total: TotalRow, how: HowFar): number[] {
    const { sheet } = this;
    const part = sheet.partOf(total.row);
    const isTotal = (row: number) => sheet.isTotal(row);
    const own = this.levelOf.get(total.level);
    const found: number[] = [];
    const take = (row: number) => {
      if (sheet.isData(row)) found.push(row);
    };
    if (how === 'below') {
      for (let r = total.row + 1; r < sheet.rows && sheet.partOf(r) === part && !isTotal(r); r++) take(r);
    } else if (how === 'all') {
      for (let r = 0; r < sheet.rows; r++) take(r);
    } else {
      for (let r = total.row - 1; r >= 0 && sheet.partOf(r) === part; r--) {
        if (how === 'since' && isTotal(r)) break;
        if (how === 'level' && this.levels[r] === own) break;
        take(r);
      }
      found.reverse();
    }
    return found;
  }

  private addRow(total: TotalRow, how: HowFar): void {
    const rows = this.rowsCovered(total, how);
    for (const column of [...this.figureColumns, ...this.sheet.totalColumns.keys()]) {
      const figure = this.sheet.figure(total.row, column);
      if (figure === undefined) continue;
      const beside = this.sheet.totalColumns.get(column);
      if (beside !== undefined && this.figureColumns.includes(column) && column !== beside.siblings[0]?.raw) {
        // A total of totals: over the same rows, beside the same columns.
        if (this.seen.has(`${total.row}/${column}`)) continue;
      }
      this.seen.add(`${total.row}/${column}`);
      const columns = beside === undefined ? [column] : this.columnsBeside(column, beside.name, beside.siblings);
      this.add(total.row, column, figure, { rows, columns }, () => this.rowsText(total, rows, column));
    }
  }

  private readonly seen = new Set<string>();

  /** A column of totals: each of its figures covers the same row. */
  private addColumn(column: number, name: string, siblings: readonly { raw: number; name: string }[]): void {
    const columns = this.columnsBeside(column, name, siblings);
    const names = siblings.filter((one) => columns.includes(one.raw)).map((one) => one.name);
    this.usual.set(column, this.usualBeside(column, columns));
    for (let row = 0; row < this.sheet.rows; row++) {
      if (!this.sheet.isData(row)) continue;
      const figure = this.sheet.figure(row, column);
      if (figure !== undefined)
        this.add(row, column, figure, { rows: [row], columns }, () => `${names.join(', ')} beside it`);
    }
  }

  private readonly besides = new Map<number, readonly number[]>();

  private columnsBeside(
    column: number,
    name: string,
    siblings: readonly { raw: number; name: string }[],
  ): readonly number[] {
    const known = this.besides.get(column);
    if (known !== undefined) return known;
    const figures = siblings.filter((one) => this.figureColumns.includes(one.raw));
    const tiers = name.split(' / ');
    const others = [...this.sheet.totalColumns.keys()].filter((one) => one < column);
    const since = Math.max(
      -1,
      ...others.filter((one) => siblings.some((sibling) => sibling.raw > one && sibling.raw < column)),
    );
    const ways: Record<Beside, () => readonly { raw: number; name: string }[]> = {
      'same-name': () =>
        tiers.length > 1 ? figures.filter((one) => one.name.split(' / ').at(-1) === tiers.at(-1)) : [],
      'same-head': () => (tiers.length > 1 ? figures.filter((one) => one.name.split(' / ')[0] === tiers[0]) : []),
      left: () => figures.filter((one) => one.raw > since && one.raw < column),
      // Numbers in front of a column of words are keys, such as those of accounts.
      adjacent: () => figures.filter((one) => one.raw > Math.max(since, this.wordsBefore(column)) && one.raw < column),
      every: () => figures,
    };
    const data = Array.from({ length: this.sheet.rows }, (_, r) => r)
      .filter((r) => this.sheet.isData(r))
      .slice(0, 400);
    const share = (way: Beside) => {
      const columns = ways[way]().map((one) => one.raw);
      if (columns.length === 0) return 0;
      let [fit, all] = [0, 0];
      for (const row of data) {
        const figure = this.sheet.figure(row, column);
        if (figure === undefined) continue;
        all++;
        if (this.fitsAny(figure, { rows: [row], columns })) fit++;
      }
      return all === 0 ? 0 : fit / all;
    };
    const best = this.bestOf(BESIDE, share);
    const columns = ways[best]().map((one) => one.raw);
    const found = columns.length > 0 ? columns : ways.left().map((one) => one.raw);
    this.besides.set(column, found);
    return found;
  }

  /** The nearest column on the left that holds neither figures nor totals; -1 where there is none. */
  private wordsBefore(column: number): number {
    for (let c = column - 1; c >= 0; c--)
      if (!this.figureColumns.includes(c) && !this.sheet.totalColumns.has(c)) return c;
    return -1;
  }

  private rowsText(total: TotalRow, rows: readonly number[], column: number): string {
    const name = this.sheet.totalColumns.get(column)?.name ?? this.sheet.names[column];
    const head = [total.label, ...(name === undefined ? [] : [name])].filter((text) => text !== '').join(' · ');
    if (rows.length === 0) return `${head}: no rows`;
    const [first, last] = [this.sheet.place(rows[0]!, column).row + 1, this.sheet.place(rows.at(-1)!, column).row + 1];
    return `${head}: ${first === last ? `row ${first}` : `rows ${first} to ${last}`}`;
  }

  private add(row: number, column: number, figure: Figure, guessed: Base, coversText: () => string): void {
    const { sheet } = this;
    const place = sheet.place(row, column);
    const said = this.given.coverage === undefined ? undefined : this.said(place);
    const base = said ?? guessed;
    const kind = this.kindOf(column, figure, base);
    const { of, count, size } = this.measures(base);
    const report = { value: of[kind], count, size };
    const table = this.measured(base, (r, c) => (Number.isNaN(sheet.valueAt(r, c)) ? Number.NaN : sheet.amount(r, c)));
    const value = table.of[kind];
    const miss = Math.abs(figure.value - value);
    const isNear = () => miss <= noiseOf(report) || miss <= this.tolerance(figure, base, report, kind);
    let state: TotalState =
      report.count === 0
        ? 'cannot tell'
        : table.count > 0 && isNear()
          ? 'agrees'
          : sheet.isUncalculated(row, column)
            ? 'not calculated'
            : 'disagrees';
    let explanation: Explanation | undefined;
    if (state === 'disagrees') {
      const cells = cellsOf(base, MAX_LOOKED_AT);
      const tolerance = this.tolerance(figure, base, report, kind);
      const found = { sheet, row, column, figure, cells, kind, report: report.value, table: value, tolerance };
      const accepted = this.given.accepts ?? [];
      const more = this.explained < MAX_EXPLAINED;
      if (more || accepted.length > 0) explanation = leftOut(found, accepted);
      if (explanation?.leftOutBy?.every((id) => accepted.includes(id))) state = 'left out';
      else if (more) {
        this.explained++;
        explanation ??= explain(found);
      }
    }
    this.counts[COUNT_OF[state]]++;
    if (state === 'agrees' && this.entries.length >= MAX_ENTRIES) return;
    const covers = coversText();
    const entry: TotalEntry = {
      place,
      covers: said === undefined ? covers : `${covers.split(':')[0]}: as said`,
      kind,
      figure: figure.value,
      report: report.value,
      table: value,
      state,
      cells: cellsOf(base, MAX_CELLS)
        .slice(0, MAX_CELLS)
        .map(([r, c]) => sheet.place(r, c)),
      cellCount: base.rows.length * base.columns.length,
      ...(explanation === undefined ? {} : { explanation }),
    };
    this.entries.push(entry);
  }

  /** Rows and columns that a person said a total covers. */
  private said(place: ReportPlace): Base | undefined {
    const address = `${place.part}!${place.row}:${place.column}`;
    const found = this.given.coverage?.find((one) => one.total === address);
    const match = found === undefined ? null : /^(\d+):(\d+)-(\d+):(\d+)$/.exec(found.cells);
    if (match === null) return undefined;
    const [r1, c1, r2, c2] = match.slice(1).map(Number) as [number, number, number, number];
    const rows: number[] = [];
    const columns = new Set<number>();
    for (let row = 0; row < this.sheet.rows; row++) {
      for (let column = 0; column < this.sheet.columnCount; column++) {
        const at = this.sheet.place(row, column);
        if (at.part !== place.part || at.row < r1 || at.row > r2 || at.column < c1 || at.column > c2) continue;
        if (rows.at(-1) !== row) rows.push(row);
        columns.add(column);
      }
    }
    return { rows, columns: [...columns] };
  }

  private kindOf(column: number, figure: Figure, base: Base): TotalKind {
    if (this.fits(figure, 'sum', base)) return 'sum';
    const other = KINDS.find(
      (kind) => kind !== 'sum' && base.rows.length * base.columns.length > 1 && this.fits(figure, kind, base),
    );
    if (other === undefined) return this.usual.get(column) ?? 'sum';
    // Another measure may fit one figure by chance: it counts where the column's other totals fit it too.
    this.usual.set(column, this.usual.get(column) ?? (this.mostly(column, other) ? other : 'sum'));
    return this.usual.get(column)!;
  }

  private readonly usual = new Map<number, TotalKind>();

  /** What a column of totals mostly is of those beside it. */
  private usualBeside(column: number, columns: readonly number[]): TotalKind {
    const rows: number[] = [];
    for (let row = 0; row < this.sheet.rows && rows.length < SAMPLE; row++)
      if (this.sheet.isData(row) && this.sheet.figure(row, column) !== undefined) rows.push(row);
    if (columns.length < 2) return 'sum';
    const isMostly = (kind: TotalKind) =>
      rows.filter((row) => this.fits(this.sheet.figure(row, column)!, kind, { rows: [row], columns })).length >
      rows.length / 2;
    return KINDS.find(isMostly) ?? 'sum';
  }

  private mostly(column: number, kind: TotalKind): boolean {
    let [fit, all] = [0, 0];
    for (const total of this.totals.slice(0, SAMPLE)) {
      const figure = this.sheet.figure(total.row, column);
      const rows = this.rowsCovered(total, 'since');
      if (figure === undefined || rows.length < 2) continue;
      all++;
      if (this.fits(figure, kind, { rows, columns: [column] })) fit++;
    }
    return all > 0 && fit > all / 2;
  }

  private measured(base: Base, value: (row: number, column: number) => number): Measures {
    const sum = new Sum();
    let [size, count, least, most] = [0, 0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const row of base.rows) {
      for (const column of base.columns) {
        const one = value(row, column);
        if (Number.isNaN(one)) continue;
        sum.add(one);
        size += Math.abs(one);
        count++;
        least = Math.min(least, one);
        most = Math.max(most, one);
      }
    }
    const of =
      count === 0
        ? { sum: 0, mean: 0, count: 0, min: 0, max: 0 }
        : { sum: sum.value, mean: sum.mean(count), count, min: least, max: most };
    return { of, count, size };
  }

  /** By how much a figure may miss: noise of binary fractions, and half of the last digit shown of it and of all it covers. */
  private tolerance(figure: Figure, base: Base, of: { size: number; count: number }, kind: TotalKind): number {
    let unit = 0;
    const hiding = base.columns.filter((column) => this.sheet.hidesDigits(column));
    for (const row of base.rows) for (const column of hiding) unit += this.sheet.unitAt(row, column);
    const addends = kind === 'sum' ? unit : unit / Math.max(1, of.count);
    // A mean is rounded to the digits that it has, also where they are all that is stored.
    const own = kind === 'mean' ? Math.max(figure.unit, 10 ** -decimalsOf(figure.value)) : figure.unit;
    return noiseOf(of) + (own + addends) / 2;
  }
}

/** The cells in the first rows of a base, row by row. */
function cellsOf({ rows, columns }: Base, most: number): (readonly [row: number, column: number])[] {
  return rows.slice(0, most).flatMap((row) => columns.map((column) => [row, column] as const));
}

/** Noise of binary fractions in a sum. */
function noiseOf({ size }: { size: number }): number {
  return NOISE * Math.max(1, size);
}
