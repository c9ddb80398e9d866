import { nameKinds } from '../glance/period-names.ts';
import type { ColumnProfile } from '../glance/table-profile.ts';
import { decimalsOf } from '../rows/sums.ts';
import { few } from '../values/counted.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';
import { TIER_JOIN } from './header-steps.ts';
import { columnsBy } from './sum-columns.ts';

/** Rows in which a change must be met, and the share of them. */
const MIN_ROWS = 3;
const MIN_SHARE = 0.95;
/** Periods of a report that are compared with each other. */
const MAX_PERIODS = 24;

/** Columns that say how much one period of the same row differs from another, as a difference or in percent. */
export const changeColumns: Detector = {
  name: 'change-columns',
  find(input) {
    const body = bodyOf(input);
    const rows = body.rowsOf('data');
    const periods = periodsOf(body.figures, rows);
    if (rows.length < MIN_ROWS || periods.length < 2 || periods.length > MAX_PERIODS) return [];
    const used = new Set(periods.flatMap(({ columns }) => columns));
    const found = body.figures.flatMap((column) => {
      if (used.has(column)) return [];
      const said = changeOf(column, periods, rows);
      return said === undefined ? [] : [{ column, said }];
    });
    if (found.length === 0) return [];
    const names = found.map(({ column }) => column.name);
    const every = input.profile.columns.map((column) => column.name);
    return [
      {
        steps: [
          {
            kind: 'set-aside-columns',
            params: { columns: columnsBy(names, every), pile: 'changes' },
            why: `${few(names)}: ${found[0]!.said}, calculated from them`,
          },
        ],
        weight: 1.5,
      },
    ];
  },
};

/** What a row says of one period: the sum of its columns. */
interface Period {
  name: string;
  columns: readonly ColumnProfile[];
  values: Float64Array;
}

/** Columns under the name of a period, alone or as the upper tier over others. */
function periodsOf(figures: readonly ColumnProfile[], rows: readonly number[]): Period[] {
  const groups = [...groupedBy(figures, ({ name }) => name.split(TIER_JOIN)[0]!)];
  const kinds = nameKinds(groups.map(([name]) => name));
  return groups.flatMap(([name, columns], k) => {
    if (kinds[k] === undefined || kinds[k] === 'class') return [];
    const values = Float64Array.from(rows, (r) => columns.reduce((sum, column) => sum + column.values[r]!, 0));
    return [{ name, columns, values }];
  });
}

/** How a column follows from two periods, in a few words; undefined where it does not. */
function changeOf(column: ColumnProfile, periods: readonly Period[], rows: readonly number[]): string | undefined {
  const ways: readonly [said: (a: string, b: string) => string, of: (a: number, b: number) => number][] = [
    [(a, b) => `the change from ${a} to ${b} in percent`, (a, b) => 100 * (b / a - 1)],
    [(a, b) => `the change from ${a} to ${b}`, (a, b) => b / a - 1],
    [(a, b) => `${b} in percent of ${a}`, (a, b) => (100 * b) / a],
    [(a, b) => `the difference between ${b} and ${a}`, (a, b) => b - a],
  ];
  const decimals = Math.max(...rows.map((r) => (Number.isNaN(column.values[r]!) ? 0 : decimalsOf(column.values[r]!))));
  const slack = 0.5 * 10 ** -Math.min(6, decimals) + 1e-9;
  const pairs = periods.flatMap((from) => periods.flatMap((to) => (to === from ? [] : [[from, to] as const])));
  for (const [from, to] of pairs)
    for (const [said, of] of ways)
      if (isMet(column, rows, (n) => of(from.values[n]!, to.values[n]!), slack)) return said(from.name, to.name);
  return undefined;
}

/** Nearly all rows that can be compared hold what is wanted in the n-th of them. */
function isMet(
  column: ColumnProfile,
  rows: readonly number[],
  wantedAt: (n: number) => number,
  slack: number,
): boolean {
  const mostMissed = rows.length * (1 - MIN_SHARE);
  let [missed, all] = [0, 0];
  for (const [n, r] of rows.entries()) {
    const [value, wanted] = [column.values[r]!, wantedAt(n)];
    if (Number.isNaN(value) || !Number.isFinite(wanted)) continue;
    all++;
    if (Math.abs(value - wanted) > slack) missed++;
    // No row that is left can make up for it.
    if (missed > mostMissed) return false;
  }
  return all >= MIN_ROWS && all - missed >= all * MIN_SHARE;
}
