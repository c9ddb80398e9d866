/** Orders of values, and stable sorting of rows by them. */

import type { Column } from '../table/column.ts';
import { rowNumbers } from '../table/vectors.ts';
import { textView } from '../values/cell-text.ts';
import { byCodePoint } from '../values/text.ts';

/** natural: numbers inside text count as numbers, case and accents only break ties. plain: by code point. */
export type TextOrder = 'natural' | 'plain';

const natural = new Intl.Collator('en', { numeric: true, sensitivity: 'variant' });

export function compareTexts(a: string, b: string, order: TextOrder): number {
  return order === 'natural' ? natural.compare(a, b) || byCodePoint(a, b) : byCodePoint(a, b);
}

export interface Ranks {
  of: Uint32Array;
  /** Ranks are below this. */
  count: number;
}

/**
 * For each row a rank, equal for equal values and ascending with the order; blank and unreadable cells rank last,
 * whatever the direction.
 */
export function ranks(column: Column, descending: boolean, order: TextOrder): Ranks {
  if (column.type !== 'text' && column.type !== 'received') return countedRanks(column.values, descending);
  const { codes, texts } = textView(column);
  const used = new Uint8Array(texts.length);
  for (const code of codes) if (code >= 0) used[code] = 1;
  const sorted = Array.from(texts.keys()).filter((code) => used[code] === 1);
  sorted.sort((a, b) => compareTexts(texts[a]!, texts[b]!, order));
  const rankOf = new Uint32Array(texts.length);
  let rank = -1;
  sorted.forEach((code, k) => {
    if (k === 0 || texts[sorted[k - 1]!] !== texts[code]) rank++;
    rankOf[code] = rank;
  });
  const count = rank + 1;
  const of = new Uint32Array(codes.length);
  for (let r = 0; r < codes.length; r++) {
    const code = codes[r]!;
    of[r] = code < 0 ? count : descending ? count - 1 - rankOf[code]! : rankOf[code]!;
  }
  return { of, count: count + 1 };
}

function countedRanks(values: Float64Array, descending: boolean): Ranks {
  return wholeRanks(values, descending) ?? sortedRanks(values, descending);
}

/** Whole numbers in a narrow range are ranked by a table of those that are there; undefined for others. */
function wholeRanks(values: Float64Array, descending: boolean): Ranks | undefined {
  const n = values.length;
  let least = Number.POSITIVE_INFINITY;
  let most = Number.NEGATIVE_INFINITY;
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (value < least) least = value;
    if (value > most) most = value;
    if (value !== Math.floor(value) && !Number.isNaN(value)) return undefined;
  }
  const range = most - least;
  if (!(range >= 0 && range < 4 * n + 1024)) return undefined;
  const rankOf = new Uint32Array(range + 1);
  for (let r = 0; r < n; r++) if (!Number.isNaN(values[r]!)) rankOf[values[r]! - least] = 1;
  let count = 0;
  for (let k = 0; k <= range; k++) if (rankOf[k] === 1) rankOf[k] = count++;
  const of = new Uint32Array(n);
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) of[r] = count;
    else of[r] = descending ? count - 1 - rankOf[value - least]! : rankOf[value - least]!;
  }
  return { of, count: count + 1 };
}

function sortedRanks(values: Float64Array, descending: boolean): Ranks {
  const n = values.length;
  let filled = 0;
  const sorted = new Float64Array(n);
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (!Number.isNaN(value)) sorted[filled++] = value;
  }
  const known = sorted.subarray(0, filled).sort();
  let count = 0;
  for (let k = 0; k < filled; k++) if (k === 0 || known[k] !== known[k - 1]) known[count++] = known[k]!;
  const of = new Uint32Array(n);
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) {
      of[r] = count;
      continue;
    }
    const rank = position(known, count, value);
    of[r] = descending ? count - 1 - rank : rank;
  }
  return { of, count: count + 1 };
}

function position(known: Float64Array, count: number, value: number): number {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (known[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Bits that one pass sorts by: its counters and the places it writes to stay in cache. */
const DIGIT = 11;
const BUCKETS = 1 << DIGIT;

/**
 * Rows sorted by ranks, the first key foremost; rows that tie keep their order. Keys are put together as far as they
 * fit into 32 bits, and sorted from their lowest digit up; keys move with their rows, so that reading goes straight on.
 */
export function sortedRows(keys: readonly Ranks[], rows: number): Int32Array {
  let order: Int32Array = rowNumbers(rows);
  for (const { of, count } of joinedKeys(keys, rows).reverse()) {
    let own = new Uint32Array(rows);
    for (let k = 0; k < rows; k++) own[k] = of[order[k]!]!;
    let nextKeys = new Uint32Array(rows);
    let next: Int32Array = new Int32Array(rows);
    for (let shift = 0; shift < 32 && (count - 1) / 2 ** shift >= 1; shift += DIGIT) {
      const counters = new Uint32Array(BUCKETS + 1);
      for (let k = 0; k < rows; k++) counters[((own[k]! >>> shift) & (BUCKETS - 1)) + 1]!++;
      for (let k = 0; k < BUCKETS; k++) counters[k + 1]! += counters[k]!;
      for (let k = 0; k < rows; k++) {
        const key = own[k]!;
        const at = counters[(key >>> shift) & (BUCKETS - 1)]!++;
        nextKeys[at] = key;
        next[at] = order[k]!;
      }
      [own, nextKeys] = [nextKeys, own];
      [order, next] = [next, order];
    }
  }
  return order;
}

/** Keys combined into one, as long as it fits into 32 bits. */
function joinedKeys(keys: readonly Ranks[], rows: number): Ranks[] {
  const joined: Ranks[] = [];
  for (const key of keys) {
    const before = joined.at(-1);
    if (before === undefined || before.count * key.count > 2 ** 32) {
      joined.push(key);
      continue;
    }
    const of = new Uint32Array(rows);
    for (let r = 0; r < rows; r++) of[r] = before.of[r]! * key.count + key.of[r]!;
    joined[joined.length - 1] = { of, count: before.count * key.count };
  }
  return joined;
}
