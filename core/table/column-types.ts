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
