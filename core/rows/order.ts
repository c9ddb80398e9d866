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

/**
 * For each row a rank, equal for equal values and ascending with the order; blank and unreadable cells rank last,
 * whatever the direction.
 */
export function ranks(column: Column, descending: boolean, order: TextOrder): { of: Uint32Array; count: number } {
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

function countedRanks(values: Float64Array, descending: boolean): { of: Uint32Array; count: number } {
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
  // Whole numbers in a narrow range are looked up, others found by halving.
  const least = count === 0 ? 0 : known[0]!;
  const range = count === 0 ? 0 : known[count - 1]! - least;
  const direct =
    range < 4 * n + 1024 && known.subarray(0, count).every(Number.isInteger) ? new Uint32Array(range + 1) : undefined;
  if (direct !== undefined) for (let k = 0; k < count; k++) direct[known[k]! - least] = k;
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) {
      of[r] = count;
      continue;
    }
    const rank = direct === undefined ? position(known, count, value) : direct[value - least]!;
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

/** Rows sorted by ranks, the first key foremost; rows that tie keep their order. Counting sort, key by key from the last. */
export function sortedRows(keys: readonly { of: Uint32Array; count: number }[], rows: number): Int32Array {
  let order = rowNumbers(rows);
  for (const { of, count } of [...keys].reverse()) {
    // Ranks past 16 bits are sorted by their low and then their high half, so that the counters stay in cache.
    for (let shift = 0; shift === 0 || count > 2 ** shift; shift += 16) {
      const size = Math.min(1 << 16, count);
      const counters = new Uint32Array(size + 1);
      for (let r = 0; r < rows; r++) counters[((of[r]! >>> shift) & 0xffff) + 1]!++;
      for (let k = 0; k < size; k++) counters[k + 1]! += counters[k]!;
      const next = new Int32Array(rows);
      for (let k = 0; k < rows; k++) {
        const row = order[k]!;
        next[counters[(of[row]! >>> shift) & 0xffff]!++] = row;
      }
      order = next;
      if (shift === 16) break;
    }
  }
  return order;
}
