import {
  type Column,
  type ColumnType,
  type CountedType,
  Tag,
  type TextColumn,
  type Unreadable,
} from './column-types.ts';
import { spansOf, textsUnmade } from './spanned-column.ts';
import { takenOf } from './taken.ts';

export * from './column-types.ts';

const TYPE_OF_TAG: Partial<Record<number, CountedType>> = {
  [Tag.number]: 'number',
  [Tag.yesno]: 'yesno',
  [Tag.date]: 'date',
  [Tag.time]: 'time',
  [Tag.datetime]: 'datetime',
};

export function columnLength(column: Column): number {
  const taken = takenOf(column);
  if (taken !== undefined) return taken.rows.length;
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
      spans.each((row, bytes, from, to) => {
        // Nearly every cell begins with something that shows.
        const first = to === from ? 0 : bytes[from]!;
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
  const taken = takenOf(column);
  if (taken !== undefined) {
    const source = blankMask(taken.column);
    for (let r = 0; r < n; r++) mask[r] = taken.rows[r]! < 0 ? 1 : source[taken.rows[r]!]!;
    return mask;
  }
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
  // Where none was, none is, whatever was taken.
  const taken = takenOf(column);
  if (taken !== undefined && countUnreadable(taken.column) === 0) return 0;
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

/** The vectors behind a column as it is now, and its dictionary: columns grow when they are looked at. */
export function columnMemory(column: Column): {
  views: readonly ArrayBufferView[];
  dictionary?: readonly string[];
} {
  const taken = takenOf(column);
  if (taken !== undefined) {
    const { views, dictionary } = columnMemory(taken.column);
    return { views: [...views, taken.rows], ...(dictionary === undefined ? {} : { dictionary }) };
  }
  if (column.type === 'text') {
    const spans = spansOf(column);
    if (spans !== undefined) return { views: spans.memory };
    const unmade = textsUnmade(column)?.memory;
    if (unmade !== undefined) return { views: [column.codes, ...unmade] };
    return { views: [column.codes], dictionary: column.dictionary };
  }
  if (column.type === 'received') return { views: [column.tags, column.values], dictionary: column.dictionary };
  const { values, unreadable } = column;
  return { views: unreadable === undefined ? [values] : [values, unreadable.codes] };
}
