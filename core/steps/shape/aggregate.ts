/** Measures over groups of rows, shared by group and pivot. */
import { z } from 'zod';
import { StepFailure } from '../../kinds/step.ts';
import { columnCodes } from '../../rows/keys.ts';
import { ranks } from '../../rows/order.ts';
import { textColumn } from '../../table/builder.ts';
import { type Column, hasValue, isBlank, Tag } from '../../table/column.ts';
import { asReceived, takeColumn } from '../../table/gather.ts';
import { GroupedRows, type Members } from '../../table/grouped-rows.ts';
import { intVector } from '../../table/vectors.ts';
import { cellText } from '../../values/cell-text.ts';
import { add, commonPlaces, divide, POWERS, Sum } from '../../values/decimal.ts';

export const MEASURES = [
  'only',
  'sum',
  'mean',
  'median',
  'min',
  'max',
  'count',
  'distinct',
  'first',
  'last',
  'joined',
] as const;
export const Measure = z.enum(MEASURES);
export type Measure = z.infer<typeof Measure>;

export const MEASURE_WORDS: Record<Measure, string> = {
  only: 'the only value',
  sum: 'sum',
  mean: 'mean',
  median: 'median',
  min: 'least',
  max: 'greatest',
  count: 'count',
  distinct: 'number of different values',
  first: 'first value',
  last: 'last value',
  joined: 'joined text',
};

export interface Measured {
  column: Column;
  /** Groups in which 'the only value' met several. */
  several: number[];
}

/**
 * One value for each group. Blank and unreadable cells do not count; a group without any value gives a blank, but for
 * count and distinct, which give 0.
 *
 * @throws StepFailure when the measure needs numbers and the column holds none
 */
export function measure(column: Column, by: Measure, members: Members, name: string): Measured {
  switch (by) {
    case 'only':
      return onlyValue(column, members);
    case 'sum':
    case 'mean':
    case 'median':
      return { column: numeric(column, by, members, name), several: [] };
    case 'count':
    case 'distinct':
      return { column: { type: 'whole', values: counts(column, by, members) }, several: [] };
    case 'joined':
      return { column: joined(column, members), several: [] };
    default:
      return { column: takeColumn(column, pickedRows(column, by, members)), several: [] };
  }
}

function perGroup(members: Members, of: (from: number, to: number) => number): Float64Array {
  const n = members.starts.length - 1;
  const values = new Float64Array(n);
  for (let g = 0; g < n; g++) values[g] = of(members.starts[g]!, members.starts[g + 1]!);
  return values;
}

function numeric(column: Column, by: 'sum' | 'mean' | 'median', members: Members, name: string): Column {
  if (column.type === 'text' || column.type === 'received' || column.type === 'yesno') {
    throw new StepFailure(
      `The ${by} of ${name} cannot be taken: it is ${column.type === 'received' ? 'as received' : column.type}. Set its type to number first.`,
      name,
    );
  }
  const { values } = column;
  if (by === 'median') {
    const { items } = members;
    const median = perGroup(members, (from, to) => {
      const own: number[] = [];
      for (let k = from; k < to; k++) if (!Number.isNaN(values[items[k]!]!)) own.push(values[items[k]!]!);
      own.sort((a, b) => a - b);
      const half = own.length >> 1;
      return own.length === 0
        ? Number.NaN
        : own.length % 2 === 1
          ? own[half]!
          : divide(add(own[half - 1]!, own[half]!), 2);
    });
    return { type: column.type === 'whole' ? 'number' : column.type, values: median };
  }
  if (by === 'sum' && column.type !== 'number' && column.type !== 'whole') {
    throw new StepFailure(`The sum of ${name} has no meaning: it holds ${column.type}.`, name);
  }
  const type = by === 'sum' ? column.type : column.type === 'whole' ? 'number' : column.type;
  const plain = members instanceof GroupedRows ? wholeSums(values, by, members) : undefined;
  if (plain !== undefined) return { type, values: plain };
  const { items } = members;
  const sum = new Sum();
  const sums = perGroup(members, (from, to) => {
    sum.clear();
    let count = 0;
    for (let k = from; k < to; k++) {
      const value = values[items[k]!]!;
      if (Number.isNaN(value)) continue;
      sum.add(value);
      count++;
    }
    return count === 0 ? Number.NaN : by === 'sum' ? sum.value : sum.mean(count);
  });
  return { type, values: sums };
}

/** Places that amounts are kept at while they are added up. */
const MAX_PLACES = 6;

/**
 * Sums or means in one pass over the rows, where all numbers are decimals of few places whose sum cannot outgrow 2^53:
 * they are added up as whole numbers, and rounded once, as Sum does.
 * @returns undefined where they are not
 */
function wholeSums(values: Float64Array, by: 'sum' | 'mean', { of, count }: GroupedRows): Float64Array | undefined {
  const places = commonPlaces(values, MAX_PLACES);
  if (places === undefined) return undefined;
  const power = POWERS[places]!;
  if (power * values.length > Number.MAX_SAFE_INTEGER) return undefined;
  const sums = new Float64Array(count);
  const counts = new Int32Array(count);
  if (places === 0) addWhole(values, of, sums, counts);
  else addDecimal(values, of, power, sums, counts);
  for (let g = 0; g < count; g++) {
    const n = counts[g]!;
    if (n === 0) sums[g] = Number.NaN;
    else if (by === 'mean') sums[g] = sums[g]! / (power * n);
    else if (places > 0) sums[g] = sums[g]! / power;
  }
  return sums;
}

function addWhole(values: Float64Array, of: Int32Array, sums: Float64Array, counts: Int32Array): void {
  for (let r = 0; r < of.length; r++) {
    const value = values[r]!;
    const group = of[r]!;
    if (group < 0 || Number.isNaN(value)) continue;
    sums[group]! += value;
    counts[group]!++;
  }
}

function addDecimal(values: Float64Array, of: Int32Array, power: number, sums: Float64Array, counts: Int32Array): void {
  for (let r = 0; r < of.length; r++) {
    const value = values[r]!;
    const group = of[r]!;
    if (group < 0 || Number.isNaN(value)) continue;
    sums[group]! += Math.round(value * power);
    counts[group]!++;
  }
}

function counts(column: Column, by: 'count' | 'distinct', members: Members): Float64Array {
  const { items } = members;
  if (by === 'count') {
    return perGroup(members, (from, to) => {
      let count = 0;
      for (let k = from; k < to; k++) if (hasValue(column, items[k]!)) count++;
      return count;
    });
  }
  const { codes, count } = columnCodes(column);
  const seen = new Int32Array(count).fill(-1);
  let turn = 0;
  return perGroup(members, (from, to) => {
    let different = 0;
    for (let k = from; k < to; k++) {
      const code = codes[items[k]!]!;
      if (code < 0 || seen[code] === turn || !hasValue(column, items[k]!)) continue;
      seen[code] = turn;
      different++;
    }
    turn++;
    return different;
  });
}

function pickedRows(column: Column, by: 'min' | 'max' | 'first' | 'last', { starts, items }: Members): Int32Array {
  const rank = by === 'min' || by === 'max' ? ranks(column, by === 'max', 'plain').of : undefined;
  return intVector(starts.length - 1, (g) => {
    let picked = -1;
    for (let k = starts[g]!; k < starts[g + 1]!; k++) {
      const row = items[k]!;
      if (!hasValue(column, row)) continue;
      if (picked < 0 || by === 'last' || (rank !== undefined && rank[row]! < rank[picked]!)) picked = row;
      if (by === 'first') break;
    }
    return picked;
  });
}

function joined(column: Column, { starts, items }: Members): Column {
  return textColumn(
    Array.from({ length: starts.length - 1 }, (_, g) => {
      const texts: string[] = [];
      for (let k = starts[g]!; k < starts[g + 1]!; k++) {
        const text = cellText(column, items[k]!);
        if (text !== null) texts.push(text);
      }
      return texts.length === 0 ? null : texts.join('; ');
    }),
  );
}

function onlyValue(column: Column, { starts, items }: Members): Measured {
  const n = starts.length - 1;
  const rows = new Int32Array(n).fill(-1);
  const several: number[] = [];
  for (let g = 0; g < n; g++) {
    let found = 0;
    for (let k = starts[g]!; k < starts[g + 1]!; k++) {
      if (isBlank(column, items[k]!)) continue;
      found++;
      rows[g] = items[k]!;
    }
    if (found > 1) {
      several.push(g);
      rows[g] = -1;
    }
  }
  const taken = takeColumn(column, rows);
  if (several.length === 0) return { column: taken, several };
  return { column: withSeveral(column, taken, { starts, items }, several), several };
}

/** Cells in which several values met are unreadable, with the values as their text. */
function withSeveral(column: Column, taken: Column, { starts, items }: Members, several: readonly number[]): Column {
  const text = (g: number) => {
    const own = Array.from(items.subarray(starts[g]!, starts[g + 1]!)).filter((row) => !isBlank(column, row));
    return {
      text:
        own
          .slice(0, 5)
          .map((row) => cellText(column, row))
          .join(' | ') + (own.length > 5 ? ' | …' : ''),
      reason: `${own.length} values meet here`,
    };
  };
  if (taken.type === 'text' || taken.type === 'received') {
    const received = asReceived(taken);
    const tags = received.tags.slice();
    const values = received.values.slice();
    const cells = [...received.cells];
    for (const g of several) {
      tags[g] = Tag.unreadable;
      values[g] = cells.length;
      cells.push(text(g));
    }
    return { ...received, tags, values, cells };
  }
  const codes = taken.unreadable?.codes.slice() ?? new Int32Array(starts.length - 1).fill(-1);
  const cells = [...(taken.unreadable?.cells ?? [])];
  for (const g of several) {
    codes[g] = cells.length;
    cells.push(text(g));
  }
  return { ...taken, unreadable: { codes, cells } };
}
