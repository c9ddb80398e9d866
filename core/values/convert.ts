/** From what a column holds to one type, cell by cell; what does not fit stays as unreadable text. */
import { UnreadableBuilder } from '../table/builder.ts';
import {
  type Column,
  type CountedColumn,
  type CountedType,
  columnLength,
  Tag,
  type TextColumn,
  typeOfTag,
  unreadableAt,
} from '../table/column.ts';
import { spansOf } from '../table/spanned-column.ts';
import type { Spans } from '../table/spans.ts';
import { countedText, textView } from './cell-text.ts';
import { daysFromSerial, MS } from './civil.ts';
import { compilePattern, type DatePattern, readDate } from './date-text.ts';
import {
  decimalByte,
  exceedsExact,
  groupByte,
  leadsWithZero,
  type NumberForm,
  readNumber,
  readPlain,
  readPlainBytes,
} from './number-text.ts';
import { numbersByKernel } from './numbers-kernel.ts';

/** How texts of the wanted type are written in this column. */
export interface TypeForm {
  type: CountedType;
  number: NumberForm;
  /** Tried in order; the first that fits is taken. */
  patterns: readonly DatePattern[];
  /** Numbers are workbook serials in this date system. */
  serial?: 1900 | 1904;
}

export const DEFAULT_PATTERNS: Record<'date' | 'time' | 'datetime', readonly string[]> = {
  date: ['yyyy-MM-dd'],
  time: ['HH:mm', 'HH:mm:ss', 'HH:mm:ss.SSS'],
  datetime: [
    "yyyy-MM-dd'T'HH:mm",
    "yyyy-MM-dd'T'HH:mm:ss",
    "yyyy-MM-dd'T'HH:mm:ss.SSS",
    'yyyy-MM-dd HH:mm',
    'yyyy-MM-dd HH:mm:ss',
    'yyyy-MM-dd HH:mm:ss.SSS',
    "yyyy-MM-dd'T'HH:mmXXX",
    "yyyy-MM-dd'T'HH:mm:ssXXX",
    "yyyy-MM-dd'T'HH:mm:ss.SSSXXX",
    'yyyy-MM-dd HH:mm:ssXXX',
    'yyyy-MM-dd HH:mm:ss XXX',
  ],
};

/** @throws Error when a pattern cannot be compiled */
export function compilePatterns(
  type: CountedType,
  patterns: readonly string[] | undefined,
  language: string,
  windowFrom: number,
  zone?: (utc: number) => number,
): DatePattern[] {
  if (type !== 'date' && type !== 'time' && type !== 'datetime') return [];
  const given = patterns === undefined || patterns.length === 0 ? DEFAULT_PATTERNS[type] : patterns;
  return given.map((pattern) => compilePattern(pattern, language, windowFrom, zone));
}

type Reading = { value: number; reason?: string };

const YES = new Set(['yes', 'y', 'true', 't', '1', 'x', 'on', 'ja', 'oui', 'sí', 'si', 'sì', 'sim', 'tak']);
const NO = new Set(['no', 'n', 'false', 'f', '0', 'off', 'nein', 'non', 'não', 'nee', 'nej', 'nei', 'nie']);

/** Whether texts are yes and no, both or one of them spelt out: figures and single letters may be anything else. */
export function areYesNo(texts: readonly string[]): boolean {
  const words = new Set(texts.map((text) => text.trim().toLowerCase()));
  words.delete('');
  const known = [...words].every((word) => YES.has(word) || NO.has(word));
  if (!known || words.size === 0 || words.size > 2) return false;
  const both = [...words].some((word) => YES.has(word)) && [...words].some((word) => NO.has(word));
  return [...words].every((word) => word.length > 1) && (both || words.has('true') || words.has('false'));
}

/** @returns a value, or NaN with the reason */
export function readText(text: string, form: TypeForm): Reading {
  // Spaces alone are a blank.
  if (text.trim() === '') return { value: Number.NaN };
  switch (form.type) {
    case 'number':
      return readNumber(text, form.number);
    case 'whole':
      return asWhole(readNumber(text, form.number));
    case 'yesno': {
      const word = text.trim().toLowerCase();
      if (YES.has(word)) return { value: 1 };
      return NO.has(word) ? { value: 0 } : unread('neither yes nor no');
    }
    default: {
      if (form.serial !== undefined) {
        const { value } = readNumber(text, form.number);
        if (!Number.isNaN(value)) return fromSerial(value, form.type, form.serial);
      }
      let reason = '';
      for (const pattern of form.patterns) {
        const read = readDate(text, pattern);
        if (typeof read === 'string') {
          reason ||= `${read} (${pattern.pattern})`;
          continue;
        }
        return convertCounted(read, pattern.kind, form.type);
      }
      return unread(reason);
    }
  }
}

/** A workbook serial number as a date, a time of day or both. */
function fromSerial(serial: number, type: CountedType, system: 1900 | 1904): Reading {
  const ms = Math.round((serial - Math.floor(serial)) * MS.day);
  if (type === 'time') return { value: ms % MS.day };
  const days = daysFromSerial(serial, system);
  if (days === undefined) return unread(`${serial} is no day of the ${system} date system`);
  return { value: type === 'date' ? days : days * MS.day + ms };
}

function asWhole(reading: Reading): Reading {
  if (Number.isNaN(reading.value) || Number.isInteger(reading.value)) return reading;
  return unread('has a fraction');
}

function unread(reason: string): Reading {
  return { value: Number.NaN, reason };
}

/** A value of one counted type as another. */
function convertCounted(value: number, from: CountedType, to: CountedType, serial?: 1900 | 1904): Reading {
  if (
    serial !== undefined &&
    (from === 'number' || from === 'whole') &&
    (to === 'date' || to === 'time' || to === 'datetime')
  ) {
    return fromSerial(value, to, serial);
  }
  if (from === to) return to === 'whole' ? asWhole({ value }) : { value };
  if (to === 'number' || to === 'whole') {
    if (from === 'number' || from === 'whole' || from === 'yesno')
      return to === 'whole' ? asWhole({ value }) : { value };
    return unread(`a ${from} is not a number`);
  }
  if (from === 'datetime' && to === 'date') return { value: Math.floor(value / MS.day) };
  if (from === 'datetime' && to === 'time') return { value: value - Math.floor(value / MS.day) * MS.day };
  if (from === 'date' && to === 'datetime') return { value: value * MS.day };
  if (to === 'yesno' && (value === 0 || value === 1) && (from === 'number' || from === 'whole')) return { value };
  return unread(`a ${from} is not a ${to}`);
}

/** A column of one counted type, and what was counted while it was made: going over long columns again costs as much. */
export interface Converted {
  column: CountedColumn;
  /** Cells that hold a value. */
  filled: number;
  /** Rows of cells that could not be read, ascending. */
  unreadable: readonly number[];
  /** A text may lose something as a number: zeros in front, or digits. */
  mayLose: boolean;
}

/** Any column as one counted type. */
export function toCounted(column: Column, form: TypeForm): Converted {
  if (column.type === form.type) return asItIs(column as CountedColumn);
  const spans = column.type === 'text' ? spansOf(column) : undefined;
  if (spans !== undefined && (form.type === 'number' || form.type === 'whole')) return spansToNumbers(spans, form);
  const n = columnLength(column);
  const values = new Float64Array(n);
  const unreadable = new UnreadableBuilder(n);
  const converted = (filled: number, mayLose = true): Converted => ({
    column: unreadable.attach(form.type, values),
    filled,
    unreadable: unreadable.rowsSet,
    mayLose,
  });
  if (column.type === 'text') {
    const { codes, dictionary } = column;
    const reasons = new Map<number, string>();
    const { values: read, mayLose } = readDictionary(dictionary, form, reasons);
    let filled = 0;
    for (let r = 0; r < n; r++) {
      const code = codes[r]!;
      const value = code < 0 ? Number.NaN : read[code]!;
      values[r] = value;
      if (!Number.isNaN(value)) filled++;
      else if (code >= 0) {
        const reason = reasons.get(code);
        if (reason !== undefined) unreadable.set(r, dictionary[code]!, reason);
      }
    }
    return converted(filled, mayLose);
  }
  const read = column.type === 'received' ? readings(column.dictionary, form) : [];
  for (let r = 0; r < n; r++) {
    const value = column.values[r]!;
    let type: CountedType | undefined;
    if (column.type === 'received') {
      const tag = column.tags[r]!;
      if (tag === Tag.blank) {
        values[r] = Number.NaN;
        continue;
      }
      if (tag === Tag.text) {
        const reading = read[value]!;
        values[r] = reading.value;
        if (reading.reason !== undefined) unreadable.set(r, column.dictionary[value]!, reading.reason);
        continue;
      }
      type = typeOfTag(tag);
    } else if (!Number.isNaN(value)) {
      type = column.type;
    }
    if (type === undefined) {
      const cell = unreadableAt(column, r);
      // What an earlier type could not take, this one may.
      const reading: Reading = cell === undefined ? { value: Number.NaN } : readText(cell.text, form);
      values[r] = reading.value;
      if (reading.reason !== undefined) unreadable.set(r, cell!.text, reading.reason);
      continue;
    }
    const reading = convertCounted(value, type, form.type, form.serial);
    values[r] = reading.value;
    if (reading.reason !== undefined) unreadable.set(r, countedText(type, value), reading.reason);
  }
  return converted(filledIn(values));
}

function filledIn(values: Float64Array): number {
  let count = 0;
  for (let r = 0; r < values.length; r++) if (!Number.isNaN(values[r]!)) count++;
  return count;
}

function asItIs(column: CountedColumn): Converted {
  const unreadable: number[] = [];
  column.unreadable?.codes.forEach((code, row) => {
    if (code >= 0) unreadable.push(row);
  });
  return { column, filled: filledIn(column.values), unreadable, mayLose: false };
}

/** Numbers straight from a source's bytes, without a text for each, or as they were read when the cells were found. */
function spansToNumbers(spans: Spans, form: TypeForm): Converted {
  const unreadable = new UnreadableBuilder(spans.rows);
  const dressed = new Map<string, Reading>();
  let mayLose = false;
  /** The value of a cell that is not plainly a number of this type. */
  const readCell = (row: number): number => {
    const text = spans.text(row)!;
    mayLose ||= losesAsNumber(text);
    let reading = dressed.get(text);
    if (reading === undefined) {
      reading = readText(text, form);
      dressed.set(text, reading);
    }
    if (reading.reason !== undefined) unreadable.set(row, text, reading.reason);
    return reading.value;
  };
  const isWhole = form.type === 'whole';
  let values: Float64Array;
  let filled = 0;
  if (spans.numbers !== undefined && form.number.decimal === '.') {
    const { numbers } = spans;
    mayLose = numbers.leadingZero;
    values = numbers.values;
    filled = spans.rows - numbers.blanks;
    let own: Float64Array | undefined;
    const reread = (row: number) => {
      const read = readCell(row);
      if (Number.isNaN(read)) filled--;
      if (Number.isNaN(read) && Number.isNaN(values[row]!)) return;
      // What was read stays as it is for the others that look at it.
      own ??= values.slice();
      own[row] = read;
    };
    if (isWhole && numbers.fractions)
      for (let row = 0; row < values.length; row++) {
        if (Number.isInteger(values[row]!) || spans.isBlank(row)) continue;
        reread(row);
      }
    else for (const row of numbers.others) reread(row);
    values = own ?? values;
  } else {
    const fast = numbersByKernel(spans.places, {
      decimal: decimalByte(form.number),
      group: groupByte(form.number),
      whole: isWhole,
    });
    const own = fast?.values ?? new Float64Array(spans.rows).fill(Number.NaN);
    filled = fast === undefined ? 0 : fast.filled - fast.others;
    mayLose = fast?.leadingZero ?? false;
    if (fast === undefined || fast.others > 0)
      spans.each((row, bytes, from, to) => {
        if (!Number.isNaN(own[row]!)) return;
        const plain = readPlainBytes(bytes, from, to, form.number);
        const first = bytes[from]!;
        const lead = first === 43 || first === 45 ? from + 1 : from;
        if (bytes[lead] === 48 && lead + 1 < to && bytes[lead + 1]! >= 48 && bytes[lead + 1]! <= 57) mayLose = true;
        const value = plain !== undefined && (!isWhole || Number.isInteger(plain)) ? plain : readCell(row);
        own[row] = value;
        if (!Number.isNaN(value)) filled++;
      });
    values = own;
  }
  return { column: unreadable.attach(form.type, values), filled, unreadable: unreadable.rowsSet, mayLose };
}

/** Each text's value, NaN where it has none and a reason in its place. */
function readDictionary(
  dictionary: readonly string[],
  form: TypeForm,
  reasons: Map<number, string>,
): { values: Float64Array; mayLose: boolean } {
  const values = new Float64Array(dictionary.length);
  const numbers = form.type === 'number' || form.type === 'whole';
  let mayLose = false;
  dictionary.forEach((text, code) => {
    // Plain numbers are by far the most, and need no object each.
    const plain = numbers ? readPlain(text, form.number) : undefined;
    // No plain number has more digits than are kept, and a zero or a sign stands before all other digits.
    if (plain === undefined || text.charCodeAt(0) <= ZERO) mayLose ||= losesAsNumber(text);
    if (plain !== undefined && (form.type === 'number' || Number.isInteger(plain))) {
      values[code] = plain;
      return;
    }
    const { value, reason } = readText(text, form);
    values[code] = value;
    if (reason !== undefined) reasons.set(code, reason);
  });
  return { values, mayLose };
}

function losesAsNumber(text: string): boolean {
  return leadsWithZero(text) || exceedsExact(text);
}

const ZERO = 48;

function readings(dictionary: readonly string[], form: TypeForm): Reading[] {
  return dictionary.map((text) => readText(text, form));
}

/** A column of one kind, for where nothing else may stand in it: cells that could not be read are blank. */
export function readableColumn(column: Column): Column {
  if (column.type === 'text') return column;
  return column.type === 'received' ? toText(column) : { type: column.type, values: column.values };
}

/** Any column as text, as it reads. */
export function toText(column: Column): TextColumn {
  if (column.type === 'text') return column;
  const view = textView(column);
  return { type: 'text', codes: view.codes, dictionary: view.texts, distinct: true };
}
