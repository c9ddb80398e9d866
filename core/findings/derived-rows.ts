import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { decimalsOf, HALF_A_UNIT } from '../rows/sums.ts';
import { counted } from '../values/counted.ts';
import { type Body, bodyOf } from './body.ts';
import { chooseRules } from './choose-rule.ts';
import type { Detector, Proposal } from './finding.ts';
import { sumsBelow } from './totals.ts';

/** Sums above a row that it may be the difference of. */
const MAX_BACK = 6;
/** Decimal digits that agree in a row, added over its columns, beyond what chance gives. */
const MIN_DIGITS = 4;
/** Figures of a row of shares that must follow from the total, beside the whole. */
const MIN_SHARES = 2;

const RESULTS = 'results';
const SHARES = 'shares';
/** Piles of rows that follow from totals by arithmetic. */
export const DERIVED_PILES: readonly string[] = [RESULTS, SHARES];

/** Rows calculated from totals: what is left of one sum without another, and the shares of a total. */
export const derivedRows: Detector = {
  name: 'derived-rows',
  find(input) {
    const body = bodyOf(input);
    if (input.isSample || body.figures.length === 0) return [];
    const sums = sumsBelow(body).below.filter(({ kind, fit, figures }) => kind !== 'mean' && fit === figures);
    const sumRows = new Set(sums.map(({ row }) => row));
    const shares = sharesOf(body, sumRows);
    const results = resultsOf(body, sumRows, shares);
    const steps = [
      ...settingAside(body, results, RESULTS, ', each one sum less another'),
      ...settingAside(body, shares, SHARES, ' of shares of the total above'),
    ];
    return steps.length === 0 ? [] : [{ steps, weight: 1.5 }];
  },
};

function settingAside(body: Body, rows: readonly number[], pile: string, what: string): Proposal[] {
  if (rows.length === 0) return [];
  const own = new Set(rows);
  const others = body.roles.flatMap((role, r) => (!own.has(r) && (role === 'data' || role === 'lone') ? [r] : []));
  const rules = chooseRules(body.profile, rows, others);
  const label = body.keys.map((column) => textAt(column, rows[0]!)).find((text) => text !== '') ?? '';
  const why = `${counted(rows.length, 'row')}${what}: ${label}`;
  return rules === undefined ? [] : [{ kind: 'set-aside', params: { pile, mark: 'other', rules }, why }];
}

/** Rows of which every figure is one sum, or result of sums, less another. */
function resultsOf(body: Body, sums: ReadonlySet<number>, shares: readonly number[]): number[] {
  const found: number[] = [];
  const known: number[] = [];
  for (const r of body.rowsOf('data')) {
    if (shares.includes(r)) continue;
    if (sums.has(r)) known.push(r);
    else if (known.length >= 2 && isDifference(body.figures, r, known.slice(-MAX_BACK))) {
      found.push(r);
      known.push(r);
    }
  }
  return found;
}

function isDifference(figures: readonly ColumnProfile[], row: number, known: readonly number[]): boolean {
  const own = figures.filter((column) => column.kinds[row] === CellKind.figure);
  const digits = own.reduce((sum, { values }) => sum + Math.log10(1 + Math.abs(values[row]!)), 0);
  if (own.length === 0 || digits < MIN_DIGITS) return false;
  const isLeft = (a: number, b: number) =>
    own.every(({ values }) => {
      const left = values[a]! - values[b]!;
      return Math.abs(left - values[row]!) <= 1e-6 * Math.max(1, Math.abs(values[a]!), Math.abs(values[b]!));
    });
  return known.some((a) => known.some((b) => a !== b && isLeft(a, b)));
}

/** Rows below a sum that say what share of it, in percent or as a fraction, each column has. */
function sharesOf(body: Body, sums: ReadonlySet<number>): number[] {
  return body.rowsOf('data').filter((r) => {
    const total = [r - 1, r - 2].find((one) => sums.has(one));
    return total !== undefined && !sums.has(r) && isShares(body.figures, r, total);
  });
}

function isShares(figures: readonly ColumnProfile[], row: number, total: number): boolean {
  const own = figures.filter((column) => column.kinds[row] === CellKind.figure);
  return own.some((whole) => {
    const all = whole.values[row]!;
    if ((all !== 100 && all !== 1) || !(whole.values[total]! > 0)) return false;
    const parts = own.filter((column) => column !== whole);
    const fitting = parts.filter(({ values }) => {
      const share = (all * values[total]!) / whole.values[total]!;
      return Math.abs(share - values[row]!) <= HALF_A_UNIT * 10 ** -Math.min(6, decimalsOf(values[row]!));
    });
    return fitting.length === parts.length && fitting.length >= MIN_SHARES;
  });
}
