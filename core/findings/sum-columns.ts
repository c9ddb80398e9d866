import { saysSum } from '../glance/hint-words.ts';
import type { ColumnProfile, TableProfile } from '../glance/table-profile.ts';
import { findSumColumns, type SumColumn } from '../rows/sums.ts';
import { isPositioned } from '../table/table.ts';
import { few } from '../values/counted.ts';
import { areSameItems } from '../values/same-items.ts';
import { bodyOf } from './body.ts';
import type { Doubt } from './doubt.ts';
import type { Detector, Proposal } from './finding.ts';
import { TIER_JOIN } from './header-steps.ts';

/** Columns that sum others of the same row: quarters, totals of the year, totals beside a cross table. */
export const sumColumns: Detector = {
  name: 'sum-columns',
  find(input) {
    const body = bodyOf(input);
    const rows = body.rowsOf('data');
    const all = body.figures;
    if (all.length < 2 || rows.length === 0) return [];
    const found = sumColumnsOf(
      all.map((column) => column.values),
      rows,
    );
    const positioned = isPositioned(input.raw);
    const proven = new Set(found.map(({ column }) => column));
    const groups = groupSums(input.profile, all, rows).filter((k) => !proven.has(k));
    // Beside sums that are proven, a column that is called one is one too.
    const named = (found.length + groups.length === 0 && !positioned ? [] : [...all.keys()]).filter(
      (k) => !proven.has(k) && !groups.includes(k) && saysSum(lastTier(all[k]!.name)),
    );
    if (proven.size + named.length + groups.length > all.length - 1) return [];
    const steps: Proposal[] = [];
    const names = (of: readonly number[]) => [...of].sort((a, b) => a - b).map((k) => all[k]!.name);
    const every = input.profile.columns.map((column) => column.name);
    if (proven.size + named.length > 0) {
      const going = names([...proven, ...named]);
      steps.push({
        kind: 'set-aside-columns',
        params: { columns: columnsBy(going, every), pile: 'totals' },
        why: found.length === 0 ? `${few(going)}: called a total` : `${few(going)}: ${sumText(found, all)}`,
      });
    }
    if (groups.length > 0) {
      const going = names(groups);
      steps.push({
        kind: 'set-aside-columns',
        params: { columns: columnsBy(going, every), pile: 'group figures' },
        why: `${few(going)}: repeats the sum of another column on each row of its group`,
      });
    }
    if (steps.length === 0) return [];
    const [called] = named;
    const kept = isMeasureInFront(found, all) ? [{ steps: [], weight: 2.2, gives: 'keep the columns' }] : [];
    return [
      ...kept,
      {
        steps,
        weight: found.length + groups.length === 0 ? 0.3 : 2,
        doubt: doubtOf(found, all, called),
        explained: {
          fit: found.reduce((sum, one) => sum + one.fit, 0),
          of: found.reduce((sum, one) => sum + one.figures, 0),
        },
        sums: found.map(({ column, of }) => ({ name: all[column]!.name, of: of.map((k) => all[k]!.name) })),
      },
    ];
  },
};

/** A sum in front of its parts that is not called one, among other measures: games played before those won and lost. */
function isMeasureInFront(found: readonly SumColumn[], all: readonly ColumnProfile[]): boolean {
  const [one, ...more] = found;
  if (one === undefined || more.length > 0 || saysSum(lastTier(all[one.column]!.name))) return false;
  return one.of.every((k) => k > one.column) && all.length > one.of.length + 1;
}

interface Searched {
  columns: readonly Float64Array[];
  rows: readonly number[];
  found: readonly SumColumn[];
}

const searched = new WeakMap<Float64Array, Searched[]>();

/** Methods that are followed at once ask for the same columns over the same rows. */
function sumColumnsOf(columns: readonly Float64Array[], rows: readonly number[]): readonly SumColumn[] {
  const known = searched.get(columns[0]!) ?? [];
  const same = known.find((one) => areSameItems(one.columns, columns) && areSameItems(one.rows, rows));
  if (same !== undefined) return same.found;
  const found = findSumColumns(columns, rows);
  searched.set(columns[0]!, [...known, { columns, rows, found }]);
  return found;
}

function doubtOf(
  found: readonly SumColumn[],
  all: readonly ColumnProfile[],
  called: number | undefined,
): Doubt | undefined {
  if (called !== undefined) return { code: 'called-total', column: all[called]!.name };
  const pair = found.find((one) => one.of.length === 2 && !saysSum(lastTier(all[one.column]!.name)));
  return pair === undefined ? undefined : { code: 'sum-of-two', column: all[pair.column]!.name };
}

function sumText(found: readonly SumColumn[], all: readonly ColumnProfile[]): string {
  const [{ kind, of }] = found as [SumColumn];
  const fit = found.reduce((sum, one) => sum + one.fit, 0);
  const rows = found.reduce((sum, one) => sum + one.figures, 0);
  const parts = of.slice(0, 3).map((k) => all[k]!.name);
  return `the ${kind} of ${of.length} columns, as ${parts.join(' + ')}${of.length > 3 ? ' …' : ''}, in ${fit} of ${rows} rows`;
}

/**
 * Columns that say the sum of another over a group of rows on each row of the group, as sums inside nested text do.
 * Indexes into the columns of figures.
 */
function groupSums(profile: TableProfile, all: readonly ColumnProfile[], rows: readonly number[]): number[] {
  if (rows.length < 3) return [];
  return [...all.keys()].filter((k) => {
    const column = all[k]!;
    const keys = profile.columns.filter((one) => one.index < column.index && !all.includes(one));
    return all.some((parts, p) => p !== k && isSumOver(column, parts, keys, rows));
  });
}

function isSumOver(
  column: ColumnProfile,
  parts: ColumnProfile,
  keys: readonly ColumnProfile[],
  rows: readonly number[],
): boolean {
  let [groups, several, from, sum] = [0, 0, 0, 0];
  const same = (a: number, b: number) =>
    column.values[a] === column.values[b] && keys.every((key) => key.codes[a] === key.codes[b]);
  for (let n = 0; n < rows.length; n++) {
    const value = parts.values[rows[n]!]!;
    sum += Number.isNaN(value) ? 0 : value;
    if (n + 1 < rows.length && same(rows[n]!, rows[n + 1]!)) continue;
    const whole = column.values[rows[n]!]!;
    if (Number.isNaN(whole) || Math.abs(whole - sum) > 1e-6 + 1e-9 * Math.abs(sum)) return false;
    groups++;
    if (n > from) several++;
    [from, sum] = [n + 1, 0];
  }
  return groups >= 2 && several >= 2;
}

const lastTier = (name: string) => name.split(TIER_JOIN).find(saysSum) ?? name;

/** Columns by what their names have in common, so that next month's are found too; by name where that is all. */
export function columnsBy(names: readonly string[], all: readonly string[]): Record<string, unknown> {
  const others = all.filter((name) => !names.includes(name)).map((name) => name.toLowerCase());
  const lower = names.map((name) => name.toLowerCase());
  if (names.length > 1) {
    const front = common(lower);
    const word = front.replace(/[\d\s]+$/, '');
    if (word.length >= 3 && others.every((name) => !name.startsWith(word)))
      return { by: 'starts', text: names[0]!.slice(0, word.length) };
    const back = [...common(lower.map((name) => [...name].reverse().join('')))].reverse().join('').trim();
    if (back.length >= 3 && others.every((name) => !name.endsWith(back)))
      return { by: 'ends', text: names[0]!.slice(names[0]!.length - back.length) };
  }
  return { by: 'names', names: [...names] };
}

function common(names: readonly string[]): string {
  let front = names[0]!;
  for (const name of names) while (!name.startsWith(front)) front = front.slice(0, -1);
  return front;
}
