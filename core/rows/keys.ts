/** Rows grouped by the values of columns, as vectors of group numbers. */

import { type Column, columnLength } from '../table/column.ts';
import { distinctText, maskedRows } from '../table/gather.ts';
import type { RowMap } from '../table/origin.ts';
import { intVector } from '../table/vectors.ts';
import { textView } from '../values/cell-text.ts';

export interface Groups {
  /** Number of each row's group; groups count from 0 in order of first appearance. */
  of: Int32Array;
  count: number;
  /** First row of each group. */
  first: Int32Array;
}

/** A code for each row, equal for equal values; -1 for blank. */
export interface Codes {
  codes: Int32Array;
  /** Codes are below this. */
  count: number;
}

/** Equal values get equal codes; an unreadable cell counts as its text. */
export function columnCodes(column: Column): Codes {
  if (column.type === 'text') {
    const { codes, dictionary } = distinctText(column);
    return { codes, count: dictionary.length };
  }
  if (column.type !== 'received' && column.unreadable === undefined) return numberCodes(column.values);
  const view = distinctText({
    type: 'text',
    codes: textView(column).codes,
    dictionary: textView(column).texts,
    distinct: false,
  });
  return { codes: view.codes, count: view.dictionary.length };
}

/** Codes of numbers in order of first appearance, by open addressing over their values; NaN is blank. */
export function numberCodes(values: Float64Array): Codes {
  const n = values.length;
  const codes = new Int32Array(n);
  let capacity = 1 << 10;
  let slots = new Int32Array(capacity).fill(-1);
  let known = new Float64Array(capacity);
  let count = 0;
  const bits = new Float64Array(1);
  const halves = new Int32Array(bits.buffer);
  const slotOf = (value: number): number => {
    bits[0] = value;
    let h = Math.imul(halves[0]! ^ Math.imul(halves[1]!, 0x9e3779b1), 0x85ebca6b);
    h ^= h >>> 15;
    h &= capacity - 1;
    while (slots[h]! >= 0 && known[slots[h]!] !== value) h = (h + 1) & (capacity - 1);
    return h;
  };
  for (let r = 0; r < n; r++) {
    const value = values[r]! + 0;
    if (Number.isNaN(value)) {
      codes[r] = -1;
      continue;
    }
    // Runs of equal values are common in reports.
    if (r > 0 && values[r - 1] === value) {
      codes[r] = codes[r - 1]!;
      continue;
    }
    let slot = slotOf(value);
    if (slots[slot]! < 0) {
      if (count * 2 >= capacity) {
        capacity *= 4;
        const old = known;
        known = new Float64Array(capacity);
        known.set(old.subarray(0, count));
        slots = new Int32Array(capacity).fill(-1);
        for (let k = 0; k < count; k++) slots[slotOf(known[k]!)] = k;
        slot = slotOf(value);
      }
      known[count] = value;
      slots[slot] = count++;
    }
    codes[r] = slots[slot]!;
  }
  return { codes, count };
}

/** Pairs of codes as one code, in order of first appearance. Blank counts as a value of its own here. */
export function pairCodes(left: Codes, right: Codes): Codes {
  const n = left.codes.length;
  const codes = new Int32Array(n);
  const width = right.count + 1;
  const size = (left.count + 1) * width;
  let count = 0;
  if (size <= Math.max(1 << 23, 32 * n)) {
    // Codes are kept plus one, so that fresh memory need not be filled first.
    const seen = new Int32Array(size);
    for (let r = 0; r < n; r++) {
      const key = (left.codes[r]! + 1) * width + right.codes[r]! + 1;
      let code = seen[key]! - 1;
      if (code < 0) {
        code = count++;
        seen[key] = code + 1;
      }
      codes[r] = code;
    }
    return { codes, count };
  }
  // Keys fit a double exactly: both counts are below 2^31 and their product below 2^53 in any memory there is.
  const keys = new Float64Array(n);
  for (let r = 0; r < n; r++) keys[r] = (left.codes[r]! + 1) * width + right.codes[r]! + 1;
  return numberCodes(keys);
}

/** Blank cells are equal to each other here, as in SQL's GROUP BY. No columns: all rows are one group. */
export function groupRows(columns: readonly Column[], rows: number): Groups {
  if (columns.length === 0) {
    return { of: new Int32Array(rows), count: rows === 0 ? 0 : 1, first: new Int32Array(rows === 0 ? 0 : 1) };
  }
  const all = columns.map(columnCodes);
  if (all.length === 1) return inOrder(all[0]!);
  const heads = runHeads(all, rows);
  // Unpivoted and filled tables come in runs of equal rows: only the first of each run needs to be looked up.
  if (heads.length * 2 > rows) return alreadyInOrder(all.reduce(pairCodes));
  const few = all.map(({ codes, count }) => ({ codes: intVector(heads.length, (h) => codes[heads[h]!]!), count }));
  const { of, count, first } = alreadyInOrder(few.reduce(pairCodes));
  const spread = new Int32Array(rows);
  for (let h = 0; h < heads.length; h++) spread.fill(of[h]!, heads[h]!, h + 1 < heads.length ? heads[h + 1]! : rows);
  return { of: spread, count, first: first.map((h) => heads[h]!) };
}

/** Groups of paired codes, which are numbered in order of first appearance as they are. */
function alreadyInOrder({ codes, count }: Codes): Groups {
  const first = new Int32Array(count);
  for (let r = 0, next = 0; next < count; r++) if (codes[r] === next) first[next++] = r;
  return { of: codes, count, first };
}

/** Rows that differ from the row before in any of the codes. */
function runHeads(all: readonly Codes[], rows: number): Int32Array {
  const differs = new Uint8Array(rows);
  if (rows > 0) differs[0] = 1;
  for (const { codes } of all) for (let r = 1; r < rows; r++) if (codes[r] !== codes[r - 1]) differs[r] = 1;
  return maskedRows(differs);
}

/** Group numbers in order of first appearance, blank included. */
export function inOrder({ codes, count }: Codes): Groups {
  const n = codes.length;
  const of = new Int32Array(n);
  const seen = new Int32Array(count + 1).fill(-1);
  const first: number[] = [];
  for (let r = 0; r < n; r++) {
    const at = codes[r]! + 1;
    let group = seen[at]!;
    if (group < 0) {
      group = first.length;
      seen[at] = group;
      first.push(r);
    }
    of[r] = group;
  }
  return { of, count: first.length, first: Int32Array.from(first) };
}

/** The rows of each group, ascending: group g has items[starts[g]] up to items[starts[g + 1]]. */
export function groupMembers(of: Int32Array, count: number): { starts: Int32Array; items: Int32Array } {
  const starts = new Int32Array(count + 1);
  let members = 0;
  for (const group of of) {
    if (group < 0) continue;
    starts[group + 1]!++;
    members++;
  }
  for (let g = 0; g < count; g++) starts[g + 1]! += starts[g]!;
  const items = new Int32Array(members);
  const at = starts.slice(0, count);
  for (let r = 0; r < of.length; r++) {
    const group = of[r]!;
    if (group >= 0) items[at[group]!++] = r;
  }
  return { starts, items };
}

/** The rows of each group as a row map; groups that stand together need no list. */
export function groupRowMap({ of, count, first }: Groups): RowMap {
  const starts = new Int32Array(count + 1);
  starts.set(first);
  starts[count] = of.length;
  let group = 0;
  let together = true;
  for (let r = 0; r < of.length && together; r++) {
    if (r === starts[group + 1]) group++;
    together = of[r] === group;
  }
  return together ? { kind: 'stretches', starts } : { kind: 'lists', ...groupMembers(of, count) };
}

export interface KeyForm {
  /** Case, blanks and accents do not matter. */
  forgiving: boolean;
}

/** Lower case, without accents and without any blanks. */
export function forgivingText(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/[\p{M}\s]/gu, '')
    .toLowerCase();
}

/**
 * Codes for two columns on one scale, so that rows of both can be compared. Counted columns of one kind are compared
 * by value, others as they read.
 */
export function sharedCodes(left: Column, right: Column, form: KeyForm): [Codes, Codes] {
  const counted =
    left.type !== 'text' && left.type !== 'received' && right.type !== 'text' && right.type !== 'received';
  const sameKind = left.type === right.type || (isNumber(left) && isNumber(right));
  if (counted && sameKind && left.unreadable === undefined && right.unreadable === undefined) {
    const n = columnLength(left);
    const both = new Float64Array(n + columnLength(right));
    both.set(left.values);
    both.set(right.values, n);
    const { codes, count } = numberCodes(both);
    return [
      { codes: codes.subarray(0, n), count },
      { codes: codes.subarray(n), count },
    ];
  }
  const known = new Map<string, number>();
  const of = (column: Column): Int32Array => {
    const { codes, texts } = textView(column);
    const recode = Int32Array.from(texts, (text) => {
      const key = form.forgiving ? forgivingText(text) : text;
      let code = known.get(key);
      if (code === undefined) {
        code = known.size;
        known.set(key, code);
      }
      return code;
    });
    return codes.map((code) => (code < 0 ? code : recode[code]!));
  };
  const [a, b] = [of(left), of(right)];
  return [
    { codes: a, count: known.size },
    { codes: b, count: known.size },
  ];
}

function isNumber(column: Column): boolean {
  return column.type === 'number' || column.type === 'whole';
}
