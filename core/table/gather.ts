import { Dictionary } from './builder.ts';
import {
  blankMask,
  type Column,
  type CountedColumn,
  columnLength,
  type ReceivedColumn,
  TAG_OF_TYPE,
  Tag,
  type TextColumn,
  type Unreadable,
  type UnreadableCells,
} from './column.ts';
import { spannedColumn, spansOf, withCodes } from './spanned-column.ts';
import { Spans } from './spans.ts';
import type { Table } from './table.ts';
import { takenColumn, takenOf } from './taken.ts';
import { firstOfStretch } from './vectors.ts';

/** Rows from which on columns are gathered when they are looked at. */
const MANY_ROWS = 50_000;

/** The cells at these rows, in this order; a row of -1 gives a blank cell. */
export function takeColumn(column: Column, rows: Int32Array): Column {
  const before = takenOf(column);
  if (before !== undefined) return takeColumn(before.column, throughRows(before.rows, rows));
  const n = rows.length;
  if (column.type === 'text') {
    const spans = spansOf(column);
    if (spans !== undefined) return spannedColumn(spans.take(rows));
    return withCodes(column, takeCodes(column.codes, rows));
  }
  const values = new Float64Array(n);
  const from = column.values;
  if (column.type === 'received') {
    const tags = new Uint8Array(n);
    for (let r = 0; r < n; r++) {
      const row = rows[r]!;
      if (row < 0) continue;
      tags[r] = column.tags[row]!;
      values[r] = from[row]!;
    }
    return { ...column, tags, values };
  }
  for (let r = 0; r < n; r++) {
    const row = rows[r]!;
    values[r] = row < 0 ? Number.NaN : from[row]!;
  }
  if (column.unreadable === undefined) return { type: column.type, values };
  return withUnreadable(column.type, values, takeCodes(column.unreadable.codes, rows), column.unreadable.cells);
}

function takeCodes(codes: Int32Array, rows: Int32Array): Int32Array {
  const out = new Int32Array(rows.length);
  for (let r = 0; r < rows.length; r++) {
    const row = rows[r]!;
    out[r] = row < 0 ? -1 : codes[row]!;
  }
  return out;
}

/** Attaches unreadable cells, or none when no code is set. */
export function withUnreadable(
  type: CountedColumn['type'],
  values: Float64Array,
  codes: Int32Array,
  cells: readonly Unreadable[],
): CountedColumn {
  return codes.some((code) => code >= 0) ? { type, values, unreadable: { codes, cells } } : { type, values };
}

export function takeRows(table: Table, rows: Int32Array): Table {
  const from = firstOfStretch(rows);
  const taken = (column: Column) => {
    if (from >= 0) return stretchOf(column, from, from + rows.length);
    return rows.length < MANY_ROWS ? takeColumn(column, rows) : takenLater(column, rows);
  };
  return { rows: rows.length, fields: table.fields.map((field) => ({ ...field, column: taken(field.column) })) };
}

/** The cells at these rows, gathered when they are looked at. */
function takenLater(column: Column, rows: Int32Array): Column {
  const before = takenOf(column);
  const [source, through] = before === undefined ? [column, rows] : [before.column, throughRows(before.rows, rows)];
  return takenColumn(source, through, (taken) => takeColumn(taken.column, taken.rows));
}

const through = new WeakMap<Int32Array, WeakMap<Int32Array, Int32Array>>();

/** The rows of rows, worked out once for all columns that ask; -1 stays -1. */
function throughRows(first: Int32Array, next: Int32Array): Int32Array {
  let known = through.get(first);
  if (known === undefined) {
    known = new WeakMap();
    through.set(first, known);
  }
  let rows = known.get(next);
  if (rows === undefined) {
    rows = takeCodes(first, next);
    known.set(next, rows);
  }
  return rows;
}

/** The cells of a stretch of rows, over the same memory. */
export function stretchOf(column: Column, from: number, to: number): Column {
  if (from === 0 && to === columnLength(column)) return column;
  const before = takenOf(column);
  if (before !== undefined) return takeColumn(before.column, before.rows.subarray(from, to));
  if (column.type === 'text') {
    const spans = spansOf(column);
    if (spans !== undefined) return spannedColumn(spans.stretch(from, to));
    return withCodes(column, column.codes.subarray(from, to));
  }
  const values = column.values.subarray(from, to);
  if (column.type === 'received') return { ...column, tags: column.tags.subarray(from, to), values };
  if (column.unreadable === undefined) return { type: column.type, values };
  const { codes, cells } = column.unreadable;
  return withUnreadable(column.type, values, codes.subarray(from, to), cells);
}

/** The rows where mask is 1. */
export function maskedRows(mask: Uint8Array): Int32Array {
  let count = 0;
  for (let r = 0; r < mask.length; r++) count += mask[r]!;
  const rows = new Int32Array(count);
  for (let r = 0, k = 0; r < mask.length; r++) if (mask[r] === 1) rows[k++] = r;
  return rows;
}

export function invertMask(mask: Uint8Array): Uint8Array {
  const out = new Uint8Array(mask.length);
  for (let r = 0; r < out.length; r++) out[r] = 1 - mask[r]!;
  return out;
}

export function blankColumn(rows: number): TextColumn {
  return { type: 'text', codes: new Int32Array(rows).fill(-1), dictionary: [], distinct: true };
}

/** A received column with the same cells, so that columns of different types can stand in one. */
export function asReceived(column: Column): ReceivedColumn {
  if (column.type === 'received') return column;
  const n = columnLength(column);
  const tags = new Uint8Array(n);
  if (column.type === 'text') {
    const values = new Float64Array(n);
    for (let r = 0; r < n; r++) {
      const code = column.codes[r]!;
      if (code < 0) continue;
      tags[r] = Tag.text;
      values[r] = code;
    }
    return { type: 'received', tags, values, dictionary: column.dictionary, cells: [] };
  }
  const values = column.values.slice();
  const tag = TAG_OF_TYPE[column.type];
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (!Number.isNaN(value)) {
      tags[r] = tag;
    } else {
      const code = column.unreadable?.codes[r] ?? -1;
      values[r] = Math.max(0, code);
      if (code >= 0) tags[r] = Tag.unreadable;
    }
  }
  return { type: 'received', tags, values, dictionary: [], cells: column.unreadable?.cells ?? [] };
}

/** The type that columns share when they stand in one: their own if equal, number for number and whole, else received. */
function commonType(columns: readonly Column[]): Column['type'] {
  const filled = columns.filter((column) => !isAllBlankText(column));
  const types = new Set((filled.length === 0 ? columns : filled).map((column) => column.type));
  if (types.size === 1) return [...types][0]!;
  if (types.size === 2 && types.has('number') && types.has('whole')) return 'number';
  return 'received';
}

function isAllBlankText(column: Column): boolean {
  if (column.type === 'text' && spansOf(column) !== undefined) return blankMask(column).every((bit) => bit === 1);
  return column.type === 'text' && (column.dictionary.length === 0 || column.codes.every((code) => code < 0));
}

/**
 * One column of columns.length * rows cells in which row r of column c stands at r * columns.length + c:
 * the value column of an unpivot.
 */
export function interleaveColumns(columns: readonly Column[], rows: number): Column {
  const spans = columns.flatMap((column) => (column.type === 'text' ? (spansOf(column) ?? []) : []));
  const woven = spans.length === columns.length ? Spans.interleaved(spans) : undefined;
  if (woven !== undefined) return spannedColumn(woven);
  return weave(
    columns,
    rows * columns.length,
    (c, r) => r * columns.length + c,
    () => rows,
  );
}

/** The columns one under the other. */
export function stackColumns(columns: readonly Column[]): Column {
  const starts: number[] = [];
  let total = 0;
  for (const column of columns) {
    starts.push(total);
    total += columnLength(column);
  }
  return weave(
    columns,
    total,
    (c, r) => starts[c]! + r,
    (c) => columnLength(columns[c]!),
  );
}

function weave(
  columns: readonly Column[],
  total: number,
  at: (column: number, row: number) => number,
  rowsOf: (column: number) => number,
): Column {
  const type = commonType(columns);
  // Positions are affine in the row, so the inner loops need only a start and a stride.
  const starts = columns.map((_, c) => at(c, 0));
  const strides = columns.map((_, c) => at(c, 1) - at(c, 0));
  if (type === 'text') {
    const merged = mergeDictionaries(columns.map((column) => (column as TextColumn).dictionary));
    const codes = new Int32Array(total);
    const sources = columns.map((column) => (column as TextColumn).codes);
    eachRowTogether(columns.length, rowsOf, (c, from, to) => {
      const source = sources[c]!;
      const recode = merged.recodes[c];
      const stride = strides[c]!;
      let k = starts[c]! + from * stride;
      for (let r = from; r < to; r++, k += stride) {
        const code = source[r]!;
        codes[k] = code < 0 || recode === undefined ? code : recode[code]!;
      }
    });
    return { type: 'text', codes, dictionary: merged.dictionary, distinct: merged.distinct(columns) };
  }
  if (type !== 'received') {
    const values = new Float64Array(total);
    const sources = columns.map((column) => (column.type === 'text' ? undefined : column.values));
    eachRowTogether(columns.length, rowsOf, (c, from, to) => {
      const source = sources[c];
      const stride = strides[c]!;
      let k = starts[c]! + from * stride;
      for (let r = from; r < to; r++, k += stride) values[k] = source === undefined ? Number.NaN : source[r]!;
    });
    const unreadable = weaveUnreadable(columns, total, starts, strides, rowsOf);
    return unreadable === undefined ? { type, values } : { type, values, unreadable };
  }
  const tags = new Uint8Array(total);
  const values = new Float64Array(total);
  const cells: Unreadable[] = [];
  const sources = columns.map(asReceived);
  const merged = mergeDictionaries(sources.map((source) => source.dictionary));
  sources.forEach((source, c) => {
    const recode = merged.recodes[c];
    const cellsFrom = cells.length;
    cells.push(...source.cells);
    const n = rowsOf(c);
    const stride = strides[c]!;
    for (let r = 0, k = starts[c]!; r < n; r++, k += stride) {
      const tag = source.tags[r]!;
      const value = source.values[r]!;
      tags[k] = tag;
      if (tag === Tag.text) values[k] = recode === undefined ? value : recode[value]!;
      else values[k] = tag === Tag.unreadable ? cellsFrom + value : value;
    }
  });
  return { type: 'received', tags, values, dictionary: merged.dictionary, cells };
}

/** Visits all columns a stretch of rows at a time, so that interleaved writes stay within the processor's cache. */
function eachRowTogether(
  columns: number,
  rowsOf: (column: number) => number,
  visit: (column: number, from: number, to: number) => void,
): void {
  const stretch = 2048;
  let most = 0;
  for (let c = 0; c < columns; c++) most = Math.max(most, rowsOf(c));
  for (let from = 0; from < most; from += stretch) {
    for (let c = 0; c < columns; c++) {
      const to = Math.min(from + stretch, rowsOf(c));
      if (from < to) visit(c, from, to);
    }
  }
}

function weaveUnreadable(
  columns: readonly Column[],
  total: number,
  starts: readonly number[],
  strides: readonly number[],
  rowsOf: (column: number) => number,
): UnreadableCells | undefined {
  let codes: Int32Array | undefined;
  const cells: Unreadable[] = [];
  columns.forEach((column, c) => {
    const source = column.type === 'text' || column.type === 'received' ? undefined : column.unreadable;
    if (source === undefined) return;
    codes ??= new Int32Array(total).fill(-1);
    const n = rowsOf(c);
    for (let r = 0, k = starts[c]!; r < n; r++, k += strides[c]!) {
      const code = source.codes[r]!;
      if (code >= 0) codes[k] = cells.length + code;
    }
    cells.push(...source.cells);
  });
  return codes === undefined ? undefined : { codes, cells };
}

interface MergedDictionaries {
  dictionary: readonly string[];
  /** Old code to new code for each part, or undefined where codes stay as they are. */
  recodes: (Int32Array | undefined)[];
  distinct(columns: readonly Column[]): boolean;
}

function mergeDictionaries(dictionaries: readonly (readonly string[])[]): MergedDictionaries {
  const first = dictionaries[0] ?? [];
  if (dictionaries.every((dictionary) => dictionary === first)) {
    return {
      dictionary: first,
      recodes: dictionaries.map(() => undefined),
      distinct: (columns) => columns.every((column) => column.type === 'text' && column.distinct),
    };
  }
  const merged = new Dictionary();
  const recodes = dictionaries.map((dictionary) => Int32Array.from(dictionary, (text) => merged.code(text)));
  return { dictionary: merged.texts, recodes, distinct: () => true };
}

/** The same column with every text once in its dictionary, so that equal codes mean equal text. */
export function distinctText(column: TextColumn): TextColumn {
  if (column.distinct) return column;
  const merged = new Dictionary();
  const recode = Int32Array.from(column.dictionary, (text) => merged.code(text));
  return {
    type: 'text',
    codes: column.codes.map((code) => (code < 0 ? code : recode[code]!)),
    dictionary: merged.texts,
    distinct: true,
  };
}
