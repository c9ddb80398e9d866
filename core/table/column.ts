import { spansOf } from './spans.ts';

/**
 * Columns are vectors, never arrays of cells.
 *
 * - text: dictionary codes, -1 for a blank cell.
 * - counted (number, whole, yesno, date, time, datetime): one Float64Array, NaN where there is no value.
 *   Dates are days since 1970-01-01, times milliseconds since midnight, date-times milliseconds since 1970-01-01
 *   (local wall clock, no zone), yes/no 1 and 0. One representation serves gather, sort, group and join alike.
 *   Counted values are never NaN, so NaN is a mask that costs no memory.
 * - received: a column as it came, which may mix kinds. A tag for each cell says what its value means.
 *
 * A cell that its column's type could not take is unreadable: it has no value, and its text and the reason are kept.
 */
export type CountedType = 'number' | 'whole' | 'yesno' | 'date' | 'time' | 'datetime';
export type ColumnType = 'text' | CountedType | 'received';

/** A cell that could not be read as its column's type. */
export interface Unreadable {
  text: string;
  reason: string;
}

/** Unreadable cells of a column: codes[row] is an index into cells, or -1. */
export interface UnreadableCells {
  codes: Int32Array;
  cells: readonly Unreadable[];
}

export interface TextColumn {
  type: 'text';
  codes: Int32Array;
  dictionary: readonly string[];
  /** No text stands twice in the dictionary, so equal codes mean equal text. */
  distinct: boolean;
}

export interface CountedColumn {
  type: CountedType;
  values: Float64Array;
  unreadable?: UnreadableCells;
}

/** What a cell of a received column holds. */
export const Tag = {
  blank: 0,
  text: 1,
  number: 2,
  yesno: 3,
  date: 4,
  time: 5,
  datetime: 6,
  unreadable: 7,
} as const;
export type TagValue = (typeof Tag)[keyof typeof Tag];

export interface ReceivedColumn {
  type: 'received';
  tags: Uint8Array;
  /** The counted value; for text the index into dictionary; for unreadable the index into cells. */
  values: Float64Array;
  dictionary: readonly string[];
  cells: readonly Unreadable[];
}

export type Column = TextColumn | CountedColumn | ReceivedColumn;

export const TAG_OF_TYPE: Record<CountedType, TagValue> = {
  number: Tag.number,
  whole: Tag.number,
  yesno: Tag.yesno,
  date: Tag.date,
  time: Tag.time,
  datetime: Tag.datetime,
};

const TYPE_OF_TAG: Partial<Record<number, CountedType>> = {
  [Tag.number]: 'number',
  [Tag.yesno]: 'yesno',
  [Tag.date]: 'date',
  [Tag.time]: 'time',
  [Tag.datetime]: 'datetime',
};

export function columnLength(column: Column): number {
  if (column.type === 'text') return spansOf(column)?.rows ?? column.codes.length;
  return column.values.length;
}

/** Holds a value, as against blank or unreadable. */
export function hasValue(column: Column, row: number): boolean {
  if (column.type === 'text') return !isBlankText(column, row);
  if (column.type === 'received') {
    const tag = column.tags[row]!;
    return tag !== Tag.blank && tag !== Tag.unreadable;
  }
  const value = column.values[row]!;
  return !Number.isNaN(value);
}

export function unreadableAt(column: Column, row: number): Unreadable | undefined {
  if (column.type === 'text') return undefined;
  if (column.type === 'received') {
    return column.tags[row] === Tag.unreadable ? column.cells[column.values[row]!] : undefined;
  }
  const code = column.unreadable?.codes[row] ?? -1;
  return code < 0 ? undefined : column.unreadable!.cells[code];
}

/** Nothing at all stands here: no value, and no text that could not be read. */
export function isBlank(column: Column, row: number): boolean {
  if (column.type === 'text') return isBlankText(column, row);
  if (column.type === 'received') return column.tags[row] === Tag.blank;
  const value = column.values[row]!;
  return Number.isNaN(value) && (column.unreadable === undefined || column.unreadable.codes[row]! < 0);
}

function isBlankText(column: TextColumn, row: number): boolean {
  return spansOf(column)?.isBlank(row) ?? column.codes[row]! < 0;
}

/** A space, a no-break space or another character that shows nothing. */
function isSpaceOnly(text: string): boolean {
  return text.trim() === '';
}

/** 1 where nothing can be seen in this column's cell: it is blank, or holds spaces alone; else 0. */
export function unseenMask(column: Column): Uint8Array {
  const mask = blankMask(column);
  if (column.type === 'text') {
    const spans = spansOf(column);
    if (spans !== undefined) {
      spans.each((row, bytes, from) => {
        // Nearly every cell begins with something that shows.
        const first = bytes[from]!;
        if ((first <= 32 || first >= 0x80) && isSpaceOnly(spans.text(row)!)) mask[row] = 1;
      });
      return mask;
    }
    const spaces = column.dictionary.map(isSpaceOnly);
    if (spaces.includes(true)) for (let r = 0; r < mask.length; r++) if (spaces[column.codes[r]!]) mask[r] = 1;
  } else if (column.type === 'received') {
    const spaces = column.dictionary.map(isSpaceOnly);
    if (spaces.includes(true))
      for (let r = 0; r < mask.length; r++) if (column.tags[r] === Tag.text && spaces[column.values[r]!]) mask[r] = 1;
  }
  return mask;
}

/** 1 where the row is blank in this column, else 0. */
export function blankMask(column: Column): Uint8Array {
  const n = columnLength(column);
  const mask = new Uint8Array(n);
  if (column.type === 'text') {
    const spans = spansOf(column);
    const codes = spans === undefined ? column.codes : undefined;
    for (let r = 0; r < n; r++) mask[r] = (codes === undefined ? spans!.isBlank(r) : codes[r]! < 0) ? 1 : 0;
  } else if (column.type === 'received') {
    const { tags } = column;
    for (let r = 0; r < n; r++) mask[r] = tags[r] === Tag.blank ? 1 : 0;
  } else {
    const { values } = column;
    const codes = column.unreadable?.codes;
    for (let r = 0; r < n; r++) {
      const value = values[r]!;
      mask[r] = Number.isNaN(value) && (codes === undefined || codes[r]! < 0) ? 1 : 0;
    }
  }
  return mask;
}

export function countUnreadable(column: Column): number {
  let count = 0;
  if (column.type === 'received') {
    for (const tag of column.tags) if (tag === Tag.unreadable) count++;
  } else if (column.type !== 'text' && column.unreadable !== undefined) {
    for (const code of column.unreadable.codes) if (code >= 0) count++;
  }
  return count;
}

/** The type that describes one cell: the column's own, or for a received column that of the cell. */
export function cellType(column: Column, row: number): ColumnType | 'blank' | 'unreadable' {
  if (column.type === 'received') {
    const tag = column.tags[row]!;
    if (tag === Tag.blank) return 'blank';
    if (tag === Tag.unreadable) return 'unreadable';
    return tag === Tag.text ? 'text' : TYPE_OF_TAG[tag]!;
  }
  if (hasValue(column, row)) return column.type;
  return isBlank(column, row) ? 'blank' : 'unreadable';
}

/** The type of a tag that stands for a counted value. */
export function typeOfTag(tag: number): CountedType | undefined {
  return TYPE_OF_TAG[tag];
}

export function columnBytes(column: Column): number {
  if (column.type === 'text') {
    return spansOf(column)?.byteLength ?? column.codes.byteLength + dictionaryBytes(column.dictionary);
  }
  if (column.type === 'received') {
    return column.tags.byteLength + column.values.byteLength + dictionaryBytes(column.dictionary);
  }
  return column.values.byteLength + (column.unreadable?.codes.byteLength ?? 0);
}

const dictionarySizes = new WeakMap<readonly string[], number>();

function dictionaryBytes(dictionary: readonly string[]): number {
  let size = dictionarySizes.get(dictionary);
  if (size === undefined) {
    size = 0;
    for (const text of dictionary) size += 24 + text.length;
    dictionarySizes.set(dictionary, size);
  }
  return size;
}
