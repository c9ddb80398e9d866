/** Rows grouped by the values of columns, as vectors of group numbers. */

import { ByteDictionary } from '../table/byte-dictionary.ts';
import { type Column, columnLength } from '../table/column.ts';
import { distinctText } from '../table/gather.ts';
import { GroupedRows } from '../table/grouped-rows.ts';
import type { RowMap } from '../table/origin.ts';
import { holdsSpans, spansOf, textCount, textsUnmade } from '../table/spanned-column.ts';
import { intVector, rowNumbers } from '../table/vectors.ts';
import { textView } from '../values/cell-text.ts';
import { runHeads } from './run-heads.ts';

export interface Groups {
  /** Number of each row's group; groups count from 0 in order of first appearance. */
  of: Int32Array;
  count: number;
  /** First row of each group. */
  first: Int32Array;
  /** Rows of one group are known to stand together. */
  together?: true;
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
    const distinct = distinctText(column);
    return { codes: distinct.codes, count: textCount(distinct) };
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

/** Pairs of codes as one code, in order of first appearance. Blank counts as its own value here. */
export function pairCodes(left: Codes, right: Codes): Codes {
  const n = left.codes.length;
  const width = right.count + 1;
  const size = (left.count + 1) * width;
  if (size <= 2 ** 32) return keyCodes(joinedKeys([left, right], n), size);
  // Keys fit a double exactly: both counts are below 2^31 and their product below 2^53 in any memory there is.
  const keys = new Float64Array(n);
  for (let r = 0; r < n; r++) keys[r] = (left.codes[r]! + 1) * width + right.codes[r]! + 1;
  return numberCodes(keys);
}

/** Codes of several columns as one number, blank as 0; their product with one for blank must fit into 32 bits. */
function joinedKeys(all: readonly Codes[], rows: number): Uint32Array {
  const keys = new Uint32Array(rows);
  for (const { codes, count } of all) joinKey(keys, codes, count + 1);
  return keys;
}

/** In whole numbers of 32 bits, of which the store keeps what a sum past 2^31 has. */
function joinKey(keys: Uint32Array, codes: Int32Array, width: number): void {
  for (let r = 0; r < keys.length; r++) keys[r] = (Math.imul(keys[r]!, width) + codes[r]! + 1) | 0;
}

/** So many keys are looked up in a table of all that may be. */
const DIRECT = 1 << 20;
/** Of more, rows are divided into parts by their keys first, so that the table of a part stays in cache. */
const PARTS = 64;

/** Codes of keys, in order of first appearance. @param size keys are below this */
function keyCodes(keys: Uint32Array, size: number): Codes {
  return size <= DIRECT ? directCodes(keys, size) : codesByParts(keys);
}

function directCodes(keys: Uint32Array, size: number): Codes {
  const codes = new Int32Array(keys.length);
  // Codes are kept plus one, so that fresh memory need not be filled first.
  const seen = new Int32Array(size);
  let count = 0;
  for (let r = 0; r < keys.length; r++) {
    const key = keys[r]!;
    if (seen[key] === 0) seen[key] = ++count;
    codes[r] = seen[key]! - 1;
  }
  return { codes, count };
}

function codesByParts(keys: Uint32Array): Codes {
  const n = keys.length;
  const partOf = (key: number) => Math.imul(key, 0x9e3779b1) >>> 26;
  const starts = new Int32Array(PARTS + 1);
  for (let r = 0; r < n; r++) starts[partOf(keys[r]!) + 1]!++;
  let largest = 0;
  for (let p = 0; p < PARTS; p++) {
    largest = Math.max(largest, starts[p + 1]!);
    starts[p + 1]! += starts[p]!;
  }
  // Rows stay in order within their part, so that the first of equal keys is met first.
  const rows = new Int32Array(n);
  const ownKeys = new Uint32Array(n);
  const at = starts.slice(0, PARTS);
  for (let r = 0; r < n; r++) {
    const to = at[partOf(keys[r]!)]!++;
    rows[to] = r;
    ownKeys[to] = keys[r]!;
  }
  let capacity = 16;
  while (capacity < largest * 2) capacity *= 2;
  // For each slot the key in it, and its first row plus one.
  const known = new Uint32Array(capacity);
  const firsts = new Int32Array(capacity);
  const firstOf = new Int32Array(n);
  for (let p = 0; p < PARTS; p++) {
    if (p > 0) firsts.fill(0);
    for (let k = starts[p]!; k < starts[p + 1]!; k++) {
      const key = ownKeys[k]!;
      let slot = Math.imul(key ^ (key >>> 15), 0x85ebca6b) & (capacity - 1);
      while (firsts[slot] !== 0 && known[slot] !== key) slot = (slot + 1) & (capacity - 1);
      if (firsts[slot] === 0) {
        known[slot] = key;
        firsts[slot] = rows[k]! + 1;
      }
      firstOf[rows[k]!] = firsts[slot]! - 1;
    }
  }
  const codes = new Int32Array(n);
  let count = 0;
  for (let r = 0; r < n; r++) codes[r] = firstOf[r] === r ? count++ : codes[firstOf[r]!]!;
  return { codes, count };
}

/** Codes of all columns together: as few lookups as 32 bits allow. */
function allCodes(all: readonly Codes[], rows: number): Codes {
  const size = all.reduce((product, { count }) => product * (count + 1), 1);
  return size <= 2 ** 32 ? keyCodes(joinedKeys(all, rows), size) : all.reduce(pairCodes);
}

/** Blank cells are equal to each other here, as in SQL's GROUP BY. No columns: all rows are one group. */
export function groupRows(columns: readonly Column[], rows: number): Groups {
  if (columns.length === 0) {
    return { of: new Int32Array(rows), count: rows === 0 ? 0 : 1, first: new Int32Array(rows === 0 ? 0 : 1) };
  }
  const all = columns.map(columnCodes);
  if (all.length === 1) return inOrder(all[0]!);
  // Unpivoted and filled tables come in runs of equal rows: only the first of each run needs to be looked up.
  const heads = comesInRuns(all, rows)
    ? runHeads(
        all.map(({ codes }) => codes),
        rows,
      )
    : undefined;
  if (heads === undefined || heads.length * 2 > rows) return alreadyInOrder(allCodes(all, rows));
  const few = all.map(({ codes, count }) => ({ codes: intVector(heads.length, (h) => codes[heads[h]!]!), count }));
  if (few.some(allDiffer)) {
    const of = spreadOver(rowNumbers(heads.length), heads, rows);
    return { of, count: heads.length, first: heads, together: true };
  }
  const { of, count, first } = alreadyInOrder(allCodes(few, heads.length));
  return { of: spreadOver(of, heads, rows), count, first: first.map((h) => heads[h]!) };
}

/** What is said of the first rows of runs, for all of their rows. */
function spreadOver(ofHeads: Int32Array, heads: Int32Array, rows: number): Int32Array {
  const out = new Int32Array(rows);
  for (let h = 0; h < heads.length; h++) {
    const own = ofHeads[h]!;
    const end = h + 1 < heads.length ? heads[h + 1]! : rows;
    for (let r = heads[h]!; r < end; r++) out[r] = own;
  }
  return out;
}

/** No two rows have the same code, so that nothing else tells them apart further. */
function allDiffer({ codes, count }: Codes): boolean {
  if (count + 1 < codes.length) return false;
  const seen = new Uint8Array(count + 1);
  for (let r = 0; r < codes.length; r++) {
    const at = codes[r]! + 1;
    if (seen[at] === 1) return false;
    seen[at] = 1;
  }
  return true;
}

/** Groups of paired codes, which are numbered in order of first appearance as they are. */
function alreadyInOrder({ codes, count }: Codes): Groups {
  const first = new Int32Array(count);
  for (let r = 0, next = 0; next < count; r++) if (codes[r] === next) first[next++] = r;
  return { of: codes, count, first };
}

/** Stretches of rows that are looked at for whether rows come in runs, and rows in each. */
const MAX_PROBES = 32;
const LOOKED_AT = 256;

/** Whether rows of a few stretches are mostly like the row before. */
function comesInRuns(all: readonly Codes[], rows: number): boolean {
  if (rows <= MAX_PROBES * LOOKED_AT) return true;
  let alike = 0;
  for (let look = 0; look < MAX_PROBES; look++) {
    const from = 1 + Math.floor((look * (rows - LOOKED_AT - 1)) / MAX_PROBES);
    for (let r = from; r < from + LOOKED_AT; r++) if (all.every(({ codes }) => codes[r] === codes[r - 1])) alike++;
  }
  return alike * 3 > MAX_PROBES * LOOKED_AT;
}

/** The first row of each code, where codes appear in their order, all of them and none blank; else undefined. */
function firstsInOrder(codes: Int32Array, count: number): Int32Array | undefined {
  const firsts = new Int32Array(count);
  let next = 0;
  for (let r = 0; r < codes.length; r++) {
    const code = codes[r]!;
    if (code >= 0 && code < next) continue;
    if (code !== next) return undefined;
    firsts[next++] = r;
  }
  return next === count ? firsts : undefined;
}

/** Group numbers in order of first appearance, blank included. */
export function inOrder({ codes, count }: Codes): Groups {
  const n = codes.length;
  const firsts = firstsInOrder(codes, count);
  if (firsts !== undefined) return { of: codes, count, first: firsts };
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

/** The rows of each group as a row map; groups that stand together need no list. */
export function groupRowMap({ of, count, first, together: known }: Groups): RowMap {
  const starts = new Int32Array(count + 1);
  starts.set(first);
  starts[count] = of.length;
  if (known === true) return { kind: 'stretches', starts };
  let group = 0;
  let together = true;
  for (let r = 0; r < of.length && together; r++) {
    if (r === starts[group + 1]) group++;
    together = of[r] === group;
  }
  return together ? { kind: 'stretches', starts } : { kind: 'groups', rows: new GroupedRows(of, count) };
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
  const exact = form.forgiving ? undefined : (codesInCommon(left, right) ?? codesByBytes(left, right));
  if (exact !== undefined) return exact;
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

/** Columns that share a dictionary, as a table and what was made of it do, have codes on one scale already. */
function codesInCommon(left: Column, right: Column): [Codes, Codes] | undefined {
  if (left.type !== 'text' || right.type !== 'text' || holdsSpans(left) || holdsSpans(right)) return undefined;
  const [one, other] = [textsUnmade(left), textsUnmade(right)];
  if (one !== other || !left.distinct || !right.distinct) return undefined;
  if (one === undefined && left.dictionary !== right.dictionary) return undefined;
  const count = textCount(left);
  return [
    { codes: left.codes, count },
    { codes: right.codes, count },
  ];
}

const UTF8 = new TextEncoder();

/**
 * Codes of texts by their bytes, so that no text is made of cells that are still bytes of their source.
 * @returns undefined where bytes do not tell all texts apart
 */
function codesByBytes(left: Column, right: Column): [Codes, Codes] | undefined {
  const known = new ByteDictionary();
  const codes = [left, right].map((column) => byteCodes(column, known));
  const [a, b] = codes;
  if (a === undefined || b === undefined) return undefined;
  return [
    { codes: a, count: known.size },
    { codes: b, count: known.size },
  ];
}

function byteCodes(column: Column, known: ByteDictionary): Int32Array | undefined {
  let scratch = new Uint8Array(256);
  const ofText = (text: string) => {
    if (text.length > scratch.length) scratch = new Uint8Array(2 * text.length);
    let at = 0;
    for (; at < text.length; at++) {
      const code = text.charCodeAt(at);
      if (code >= 0x80) break;
      scratch[at] = code;
    }
    if (at === text.length) return known.code(scratch, 0, at);
    const bytes = UTF8.encode(text);
    return known.code(bytes, 0, bytes.length);
  };
  const spans = column.type === 'text' ? spansOf(column) : undefined;
  if (spans === undefined) {
    const { codes, texts } = textView(column);
    // Halves of surrogate pairs have no separate bytes.
    if (texts.some((text) => /[\ud800-\udfff]/.test(text) && /\p{Surrogate}/u.test(text))) return undefined;
    const recode = intVector(texts.length, (code) => ofText(texts[code]!));
    return intVector(codes.length, (r) => (codes[r]! < 0 ? -1 : recode[codes[r]!]!));
  }
  const codes = new Int32Array(spans.rows).fill(-1);
  spans.each((row, bytes, from, to) => {
    let at = from;
    while (at < to && bytes[at]! < 0x80) at++;
    // Other letters may stand in other bytes, or be no letters at all: as a text they are what they read like.
    codes[row] = at === to ? known.code(bytes, from, to) : ofText(spans.text(row)!);
  });
  return codes;
}

function isNumber(column: Column): boolean {
  return column.type === 'number' || column.type === 'whole';
}
