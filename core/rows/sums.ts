/**
 * Rows that add others up: sums, nested sums, means, and lines that carry a sum forward, found by arithmetic alone.
 *
 * A stack of rows that nothing has summed yet is kept. A row whose figures are the sum of the last k rows on it takes
 * their place, so that sums of sums, grand totals and carried sums come out of the same rule.
 */

export interface SumsInput {
  /** Figures by column, NaN where there is none. */
  columns: readonly Float64Array[];
  rows: number;
  /** Rows before which nothing reaches back: the first of each sheet. */
  starts: readonly number[];
  /** 1: words in the row say that it is a sum. */
  hints?: Uint8Array | undefined;
  /** 1: rows that may be sums; every row without it. */
  only?: Uint8Array | undefined;
  /** Sums stand above what they sum. */
  above?: boolean;
}

export type SumKind = 'sum' | 'mean' | 'again';

export interface SumRow {
  row: number;
  kind: SumKind;
  /** Rows that it sums, themselves sums of others perhaps. */
  of: readonly number[];
  /** How many of its figures fit, of how many. */
  fit: number;
  figures: number;
  /** 1 for sums of plain rows, 2 for sums of those, and so on. */
  level: number;
}

/** Decimal digits that agree by more than chance, which a row without words needs. */
const ENOUGH = 3;
const ENOUGH_HINTED = 0.3;
/** Rows back to which a sum may reach; the stack is shorter where sums stand among the rows. */
const FARTHEST = 20_000;

export function findSums(input: SumsInput): SumRow[] {
  const found: SumRow[] = [];
  const looks = looksOf(input);
  for (let k = 0; k < input.starts.length; k++) {
    const from = input.starts[k]!;
    const to = input.starts[k + 1] ?? input.rows;
    if (to > from) found.push(...new Stack(input, looks).work(from, to));
  }
  return found.sort((a, b) => a.row - b.row);
}

/** Cumulated sums are looked up by thousandths, which is finer than reports write and coarser than binary noise. */
const keyOf = (sum: number) => Math.round(sum * 1000);
const MAX_LEADERS = 3;
const MAX_PLACES = 40;
/** Rows back that are tried one by one, where no sum can be looked up. */
const NEAR = 60;

/** What the columns of an input are like over all of its rows. */
interface Looks {
  /** Decimals of the figures, by column. */
  decimals: Int8Array;
  /** Columns whose sums are looked up: those that tell most. */
  leaders: readonly number[];
}

function looksOf({ columns }: SumsInput): Looks {
  const decimals = Int8Array.from(columns, mostDecimals);
  const worth = columns.map((column, c) => tellingOf(column) + decimals[c]!);
  const leaders = worth
    .map((_, c) => c)
    .sort((one, other) => worth[other]! - worth[one]! || one - other)
    .slice(0, MAX_LEADERS);
  return { decimals, leaders };
}

/** What a figure may miss at most by rounding, with room for binary noise. */
export const HALF_A_UNIT = 0.5000001;
/** Shares of the figures of a row that must fit, without words in it and with them. */
const MIN_FIT = 0.6;
const MIN_FIT_HINTED = 0.3;

class Stack {
  private readonly items: { row: number; level: number }[] = [];
  /** By column, sums of the items up to each place on the stack, from 0 on. */
  private readonly cumulated: number[][];
  private readonly decimals: Int8Array;
  private readonly leaders: readonly number[];
  /** By leader, places on the stack by the sum up to there. */
  private readonly places: readonly Map<number, number[]>[];

  constructor(
    private readonly input: SumsInput,
    { decimals, leaders }: Looks,
  ) {
    this.cumulated = input.columns.map(() => [0]);
    this.decimals = decimals;
    this.leaders = leaders;
    this.places = this.leaders.map(() => new Map([[0, [0]]]));
  }

  work(from: number, to: number): SumRow[] {
    const found: SumRow[] = [];
    const count = to - from;
    for (let n = 0; n < count; n++) {
      const row = this.input.above ? to - 1 - n : from + n;
      if (this.input.only !== undefined && this.input.only[row] === 0) {
        this.push(row, 0);
        continue;
      }
      const own: number[] = [];
      for (let c = 0; c < this.input.columns.length; c++) if (!Number.isNaN(this.input.columns[c]![row]!)) own.push(c);
      if (own.length === 0) continue;
      const sum = this.sumAt(row, own);
      if (sum !== undefined) {
        found.push(sum);
        // A mean adds nothing up: what it covers may still be summed.
        if (sum.kind === 'mean') continue;
        this.drop(sum.of.length);
      }
      this.push(row, sum?.level ?? 0);
    }
    return found;
  }

  private push(row: number, level: number): void {
    this.items.push({ row, level });
    for (let c = 0; c < this.cumulated.length; c++) {
      const value = this.input.columns[c]![row]!;
      const sums = this.cumulated[c]!;
      sums.push(sums[sums.length - 1]! + (Number.isNaN(value) ? 0 : value));
    }
    // Where it is known which rows may be sums, they reach back to one another, and nothing is looked up.
    if (this.input.only !== undefined) return;
    for (let l = 0; l < this.leaders.length; l++) {
      const key = keyOf(this.cumulated[this.leaders[l]!]!.at(-1)!);
      const known = this.places[l]!.get(key);
      if (known === undefined) this.places[l]!.set(key, [this.items.length]);
      else known.push(this.items.length);
    }
  }

  private drop(count: number): void {
    for (let k = 0; k < count; k++) {
      if (this.input.only === undefined)
        this.leaders.forEach((c, l) => {
          const key = keyOf(this.cumulated[c]!.at(-1)!);
          const known = this.places[l]!.get(key)!;
          known.pop();
          if (known.length === 0) this.places[l]!.delete(key);
        });
      for (const sums of this.cumulated) sums.pop();
      this.items.pop();
    }
  }

  private sumAt(row: number, own: readonly number[]): SumRow | undefined {
    const n = this.items.length;
    const hinted = this.input.hints?.[row] === 1;
    if (n === 0) return undefined;
    const value = (c: number) => this.input.columns[c]![row]!;
    let best: SumRow | undefined;
    let bestScore = 0;
    const maxMisses = own.length * (1 - (hinted ? MIN_FIT_HINTED : MIN_FIT)) + 1e-9;
    const consider = (k: number, kind: 'sum' | 'mean') => {
      const fitting: number[] = [];
      for (const [n, c] of own.entries()) {
        if (this.fits(c, k, value(c), kind)) fitting.push(c);
        else if (n + 1 - fitting.length > maxMisses) return;
      }
      if (fitting.length === 0) return;
      const surprise =
        fitting.reduce((sum, c) => sum + digits(value(c), this.decimals[c]!), 0) -
        Math.log10(1 + k) -
        (kind === 'mean' ? 2 : 0) -
        1.5 * (own.length - fitting.length);
      if (surprise < (hinted ? ENOUGH_HINTED : ENOUGH)) return;
      // Of several that fit, as behind rows of zero, the one that fits most and reaches farthest.
      const score = fitting.length + (kind === 'sum' ? 0.5 : 0);
      if (score < bestScore) return;
      bestScore = score;
      const of = this.items.slice(n - k);
      best = {
        row,
        kind: k === 1 && of[0]!.level > 0 ? 'again' : kind,
        of: of.map((item) => item.row),
        fit: fitting.length,
        figures: own.length,
        level: 1 + of.reduce((most, item) => Math.max(most, item.level), 0),
      };
    };
    for (const k of this.reaches(row, own, hinted)) consider(k, 'sum');
    // Means are searched for where a word speaks of a total, or few rows stand above.
    if (best === undefined && (hinted || n <= NEAR))
      for (let k = n; k >= 2 && k > n - FARTHEST; k--) consider(k, 'mean');
    return best;
  }

  /** How many rows back a sum may reach, ascending. */
  private reaches(row: number, own: readonly number[], hinted: boolean): number[] {
    const n = this.items.length;
    const least = hinted ? 1 : 2;
    const found = new Set<number>();
    if (this.input.only !== undefined) {
      found.add(n);
      for (let k = n - 1; k >= 0 && found.size < MAX_PLACES; k--) {
        if (this.items[k]!.level === 0) continue;
        found.add(n - k);
        if (n - k - 1 >= 1) found.add(n - k - 1);
      }
      return [...found].sort((a, b) => a - b);
    }
    let looked = false;
    this.leaders.forEach((c, l) => {
      const value = this.input.columns[c]![row]!;
      if (Number.isNaN(value) || value === 0) return;
      looked = true;
      const before = keyOf(this.cumulated[c]!.at(-1)! - value);
      for (const key of [before - 1, before, before + 1])
        for (const place of (this.places[l]!.get(key) ?? []).slice(-MAX_PLACES))
          if (n - place >= least) found.add(n - place);
    });
    // What is rounded, or has no figure in a leading column, is tried row by row.
    if (hinted || (!looked && own.length > 0))
      for (let k = least; k <= Math.min(n, hinted ? FARTHEST : NEAR); k++) found.add(k);
    return [...found].sort((a, b) => a - b);
  }

  private fits(c: number, k: number, value: number, kind: 'sum' | 'mean'): boolean {
    const sums = this.cumulated[c]!;
    const n = sums.length - 1;
    const sum = sums[n]! - sums[n - k]!;
    const of = kind === 'sum' ? sum : sum / k;
    const gap = Math.abs(of - value);
    if (gap <= 1e-6 + 1e-10 * (Math.abs(value) + Math.abs(sums[n]!))) return true;
    if (gap > HALF_A_UNIT) return false;
    // A figure that was rounded may miss by half of its last digit.
    const own = decimalsOf(value);
    if (kind === 'mean') return gap <= HALF_A_UNIT * 10 ** -own;
    return own < this.decimals[c]! && own > 0 && gap <= HALF_A_UNIT * 10 ** -own;
  }
}

/** How many digits the figures of a column have, for the first of them. */
function tellingOf(column: Float64Array): number {
  let [digitsOf, count] = [0, 0];
  const step = Math.max(1, Math.floor(column.length / 200));
  for (let r = 0; r < column.length; r += step) {
    const value = column[r]!;
    if (Number.isNaN(value)) continue;
    count++;
    digitsOf += Math.log10(1 + Math.abs(value));
  }
  return count === 0 ? -1 : digitsOf / count + Math.min(1, count / 20);
}

/** How much a figure says when it agrees: its digits. */
function digits(value: number, decimals: number): number {
  return value === 0 ? 0 : Math.min(6, Math.max(0.3, Math.log10(Math.abs(value)) + Math.min(3, decimals)));
}

export function decimalsOf(value: number): number {
  if (Number.isInteger(value)) return 0;
  for (let d = 1; d < 7; d++)
    if (Math.abs(value * 10 ** d - Math.round(value * 10 ** d)) < 1e-6 * Math.max(1, Math.abs(value))) return d;
  return 7;
}

function mostDecimals(column: Float64Array): number {
  let most = 0;
  const step = Math.max(1, Math.floor(column.length / 500));
  for (let r = 0; r < column.length; r += step) {
    const value = column[r]!;
    if (!Number.isNaN(value)) most = Math.max(most, decimalsOf(value));
  }
  return most;
}

/** A column that is the sum of others in the same row. */
export interface SumColumn {
  column: number;
  kind: 'sum' | 'mean';
  of: readonly number[];
  fit: number;
  figures: number;
}

/** Share of the rows in which a column of sums may differ. */
const MAX_MISSED = 0.1;

/**
 * Columns whose figures are the sum of two or more others in every row or nearly: of those since the last such column,
 * of such columns themselves, or of every n-th column, as under a header of two tiers.
 *
 * @param rows rows of data to look at
 */
export function findSumColumns(columns: readonly Float64Array[], rows: readonly number[]): SumColumn[] {
  const found = new Map<number, SumColumn>();
  const n = columns.length;
  let told = 0;
  const sample = rows.length <= 400 ? rows : rows.filter((_, k) => k % Math.ceil(rows.length / 400) === 0);
  const test = (column: number, of: readonly number[], kind: 'sum' | 'mean' = 'sum'): SumColumn | undefined => {
    if (of.length < 2) return undefined;
    let [fit, figures, telling, least] = [0, 0, 0, 0];
    for (const row of sample) {
      // No row that is left can make up for it.
      if (figures - fit > sample.length * MAX_MISSED) return undefined;
      const value = columns[column]![row]!;
      if (Number.isNaN(value)) continue;
      let [sum, parts, counted] = [0, 0, 0];
      for (const c of of) {
        const part = columns[c]![row]!;
        if (Number.isNaN(part)) continue;
        sum += part;
        if (part !== 0) parts++;
        counted++;
      }
      if (kind === 'mean') sum /= Math.max(1, counted);
      if (parts === 0 && value === 0) continue;
      figures++;
      const slack =
        1e-6 +
        1e-9 * Math.abs(sum) +
        (decimalsOf(value) < 7 && decimalsOf(sum) > decimalsOf(value) ? 0.51 * 10 ** -decimalsOf(value) : 0);
      if (Math.abs(sum - value) > slack) continue;
      fit++;
      if (parts >= 2) telling += digits(value, 0);
      least++;
    }
    if (figures === 0 || fit < figures * (1 - MAX_MISSED) || least === 0) return undefined;
    if (kind === 'mean' && fit < 3) return undefined;
    // One row or two prove little: there all of the sums together must.
    if (sample.length < 3 && fit === figures && telling >= 2) {
      told += telling;
      return { column, kind, of, fit, figures };
    }
    return telling >= 3 && (fit >= 3 || telling >= 6) ? { column, kind, of, fit, figures } : undefined;
  };
  const open = () => Array.from({ length: n }, (_, c) => c).filter((c) => !found.has(c));
  for (let c = 0; c < n; c++) {
    const before = open().filter((one) => one < c);
    let hit: SumColumn | undefined;
    // Since the last sum, and farther back; then sums alone; then every n-th column.
    for (let k = 2; k <= before.length && hit === undefined; k++) hit = test(c, before.slice(before.length - k));
    if (hit === undefined) {
      const sums = [...found.keys()].filter((one) => one < c).sort((a, b) => a - b);
      for (let k = 2; k <= sums.length && hit === undefined; k++) hit = test(c, sums.slice(sums.length - k));
    }
    for (let stride = 2; stride <= 8 && hit === undefined; stride++) {
      const of: number[] = [];
      for (let one = c - stride; one >= 0; one -= stride) if (!found.has(one)) of.unshift(one);
      for (let k = of.length; k >= 2 && hit === undefined; k--) hit = test(c, of.slice(of.length - k));
    }
    for (let k = before.length; k >= 3 && hit === undefined; k--)
      hit = test(c, before.slice(before.length - k), 'mean');
    if (hit !== undefined) found.set(c, hit);
  }
  // A sum may also stand in front of what it sums.
  for (let c = n - 3; c >= 0; c--) {
    if (found.has(c)) continue;
    const behind = open().filter((one) => one > c);
    for (let k = 2; k <= behind.length; k++) {
      const hit = test(c, behind.slice(0, k));
      if (hit === undefined) continue;
      found.set(c, hit);
      break;
    }
  }
  if (sample.length < 3 && told < 6) return [];
  return [...found.values()].sort((a, b) => a.column - b.column);
}
