import {
  type Column,
  type CountedType,
  columnLength,
  hasValue,
  Tag,
  typeOfTag,
  unreadableAt,
} from '../table/column.ts';
import { dictionaryText, spansOf } from '../table/spanned-column.ts';
import { flags } from '../table/vectors.ts';
import { isoDate, isoDateTime, isoTime } from './civil.ts';
import { numberText } from './number-text.ts';

/** A counted value as it reads, and as it is exported. */
export function countedText(type: CountedType, value: number): string {
  switch (type) {
    case 'date':
      return isoDate(value);
    case 'time':
      return isoTime(value);
    case 'datetime':
      return isoDateTime(value);
    case 'yesno':
      return value === 0 ? 'no' : 'yes';
    default:
      return numberText(value);
  }
}

/** The cell as it reads; null for a blank cell, the kept text for an unreadable one. */
export function cellText(column: Column, row: number): string | null {
  if (column.type === 'text') {
    const spans = spansOf(column);
    if (spans !== undefined) return spans.text(row);
    const code = column.codes[row]!;
    return code < 0 ? null : dictionaryText(column, code);
  }
  if (column.type === 'received') {
    const tag = column.tags[row]!;
    if (tag === Tag.blank) return null;
    const value = column.values[row]!;
    if (tag === Tag.text) return column.dictionary[value]!;
    if (tag === Tag.unreadable) return column.cells[value]!.text;
    return countedText(typeOfTag(tag)!, value);
  }
  const value = column.values[row]!;
  if (!Number.isNaN(value)) return countedText(column.type, value);
  return unreadableAt(column, row)?.text ?? null;
}

/**
 * Every cell as it reads, with equal texts sharing a code (-1 blank): what text rules and text steps work on, so that
 * each different text is looked at once.
 */
export interface TextView {
  codes: Int32Array;
  texts: readonly string[];
}

const views = new WeakMap<Column, TextView>();

export function textView(column: Column): TextView {
  if (column.type === 'text') return { codes: column.codes, texts: column.dictionary };
  let view = views.get(column);
  if (view === undefined) {
    view = buildView(column);
    views.set(column, view);
  }
  return view;
}

function buildView(column: Exclude<Column, { type: 'text' }>): TextView {
  const n = columnLength(column);
  const codes = new Int32Array(n);
  const texts: string[] = [];
  const known = new Map<string, number>();
  const numbers = new Map<number, number>();
  const intern = (text: string) => {
    let code = known.get(text);
    if (code === undefined) {
      code = texts.length;
      known.set(text, code);
      texts.push(text);
    }
    return code;
  };
  const plain = column.type !== 'received';
  for (let r = 0; r < n; r++) {
    const value = column.values[r]!;
    // A counted column formats each different value once.
    if (plain && !Number.isNaN(value)) {
      let code = numbers.get(value);
      if (code === undefined) {
        code = intern(countedText(column.type as CountedType, value));
        numbers.set(value, code);
      }
      codes[r] = code;
      continue;
    }
    const text = cellText(column, r);
    codes[r] = text === null ? -1 : intern(text);
  }
  return { codes, texts };
}

/** 1 for each cell that reads exactly like this text. */
export function rowsReading(column: Column, text: string): Uint8Array {
  const told = column.type === 'text' ? spansOf(column)?.rowsOf(text) : undefined;
  if (told !== undefined) return told;
  const { codes, texts } = textView(column);
  const same = flags(texts, (one) => one === text);
  return flags(codes, (code) => code >= 0 && same[code] === 1);
}

/** Different texts of a column, from cells spread over all of it; for guesses. */
export function sampleTexts(column: Column, most: number): string[] {
  const found = new Set<string>();
  const n = columnLength(column);
  const stride = Math.max(1, Math.floor(n / most));
  for (let r = 0; r < n; r += stride) if (hasValue(column, r)) found.add(cellText(column, r)!);
  return [...found];
}

/** The different texts that a report holds as texts: what it stores as numbers, dates or times is left out. */
export function writtenTexts(column: Column): string[] {
  if (column.type === 'text') return [...usedTexts(column)];
  if (column.type !== 'received') return [];
  const used = new Set<string>();
  column.tags.forEach((tag, r) => {
    if (tag === Tag.text) used.add(column.dictionary[column.values[r]!]!);
  });
  return [...used];
}

/** The different texts of a column as it reads, in the order in which they come. */
export function usedTexts(column: Column): Set<string> {
  const { codes, texts } = textView(column);
  const used = new Set<string>();
  for (const code of codes) if (code >= 0) used.add(texts[code]!);
  return used;
}
