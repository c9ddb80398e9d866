/** What a column holds, at a glance. */
import { type Column, type CountedType, columnLength, countUnreadable, isBlank } from '../table/column.ts';
import { intVector } from '../table/vectors.ts';
import { countedText, textView } from '../values/cell-text.ts';
import { isoDate, MS } from '../values/civil.ts';
import { Sum } from '../values/decimal.ts';

export interface Frequency {
  /** As it reads. */
  text: string;
  count: number;
}

export interface Bin {
  /** Ends as they read; from is included, to is not but in the last. */
  from: string;
  to: string;
  count: number;
}

export interface Glance {
  rows: number;
  blank: number;
  unreadable: number;
  distinct: number;
  /** The commonest values, most first; ties as they appear. */
  values: Frequency[];
  /** Characters by kind, '99-AAA': runs longer than four are shortened. */
  patterns: Frequency[];
  /** For columns of numbers, dates and times. */
  range?: { least: string; most: string; mean?: string; median: string; sum?: string };
  /** Equal stretches of a number's range, or the months, days or years of a timeline. */
  bins: Bin[];
  by: 'number' | 'day' | 'month' | 'year' | 'time' | 'none';
}

const MAX_VALUES = 12;
const MAX_PATTERNS = 8;
const BINS = 20;

export function glanceAt(column: Column): Glance {
  const rows = columnLength(column);
  const { codes, texts } = textView(column);
  const counts = new Int32Array(texts.length);
  let blank = 0;
  for (let r = 0; r < rows; r++) {
    if (codes[r]! >= 0) counts[codes[r]!]!++;
    else if (isBlank(column, r)) blank++;
  }
  const used = [...intVector(texts.length, (code) => code)].filter((code) => counts[code]! > 0);
  const values = topOf(used, (code) => counts[code]!, MAX_VALUES).map((code) => ({
    text: texts[code]!,
    count: counts[code]!,
  }));
  const glance: Glance = {
    rows,
    blank,
    unreadable: countUnreadable(column),
    distinct: used.length,
    values,
    patterns: patternsOf(used, texts, counts),
    bins: [],
    by: 'none',
  };
  if (column.type === 'text' || column.type === 'received' || column.type === 'yesno') return glance;
  return { ...glance, ...spread(column.type, column.values) };
}

function topOf(codes: readonly number[], count: (code: number) => number, most: number): number[] {
  return codes.toSorted((a, b) => count(b) - count(a) || a - b).slice(0, most);
}

function patternsOf(codes: readonly number[], texts: readonly string[], counts: Int32Array): Frequency[] {
  const patterns = new Map<string, number>();
  for (const code of codes) {
    const pattern = patternOf(texts[code]!);
    patterns.set(pattern, (patterns.get(pattern) ?? 0) + counts[code]!);
  }
  return [...patterns]
    .map(([text, count]) => ({ text, count }))
    .sort((a, b) => b.count - a.count)
    .slice(0, MAX_PATTERNS);
}

/** Digits as 9, capitals as A, other letters as a; a run past four is shortened to four and a sign. */
export function patternOf(text: string): string {
  return text
    .replace(/\p{Nd}/gu, '9')
    .replace(/\p{L}/gu, (letter) => (/\p{Lu}/u.test(letter) ? 'A' : 'a'))
    .replace(/(9{5,}|A{5,}|a{5,})/g, (run) => `${run.slice(0, 4)}…`);
}

function spread(type: CountedType, all: Float64Array): Pick<Glance, 'range' | 'bins' | 'by'> {
  const values = all.filter((value) => !Number.isNaN(value)).sort();
  if (values.length === 0) return { bins: [], by: 'none' };
  const [least, most] = [values[0]!, values.at(-1)!];
  const middle = values.length >> 1;
  const median = values.length % 2 === 1 ? values[middle]! : (values[middle - 1]! + values[middle]!) / 2;
  const text = (value: number) => countedText(type, value);
  const range: NonNullable<Glance['range']> = { least: text(least), most: text(most), median: text(median) };
  if (type === 'number' || type === 'whole') {
    const sum = new Sum();
    for (const value of values) sum.add(value);
    range.sum = countedText('number', sum.value);
    range.mean = countedText('number', Number(sum.mean(values.length).toPrecision(12)));
    return { range, bins: numberBins(values, type), by: 'number' };
  }
  if (type === 'time') return { range, bins: timeBins(values), by: 'time' };
  const perDay = type === 'date' ? 1 : MS.day;
  const days = values.map((value) => Math.floor(value / perDay));
  range.median = type === 'date' ? isoDate(Math.floor(median)) : text(median);
  return { range, ...timeline(days) };
}

/** Equal stretches with round ends. */
function numberBins(values: Float64Array, type: CountedType): Bin[] {
  const [least, most] = [values[0]!, values.at(-1)!];
  if (least === most) return [{ from: countedText(type, least), to: countedText(type, most), count: values.length }];
  const rough = (most - least) / BINS;
  const power = 10 ** Math.floor(Math.log10(rough));
  let step = [1, 2, 2.5, 5, 10].map((one) => one * power).find((one) => one >= rough)!;
  if (type === 'whole') step = Math.max(1, Math.ceil(step));
  const first = Math.floor(least / step);
  const counts = new Map<number, number>();
  for (const value of values) {
    const bin = Math.floor(value / step) - first;
    counts.set(bin, (counts.get(bin) ?? 0) + 1);
  }
  const last = Math.floor(most / step) - first;
  const end = (bin: number) => countedText('number', Number(((first + bin) * step).toPrecision(12)));
  return Array.from({ length: last + 1 }, (_, bin) => ({
    from: end(bin),
    to: end(bin + 1),
    count: counts.get(bin) ?? 0,
  }));
}

function timeBins(values: Float64Array): Bin[] {
  const counts = new Int32Array(24);
  for (const value of values) counts[Math.floor(value / 3_600_000) % 24]!++;
  const hour = (h: number) => `${String(h).padStart(2, '0')}:00`;
  return [...counts].map((count, h) => ({ from: hour(h), to: hour(h + 1), count }));
}

/** Days, months or years, whichever gives a readable number of bars; gaps are bars of nothing. */
function timeline(days: Float64Array): Pick<Glance, 'bins' | 'by'> {
  const span = days.at(-1)! - days[0]!;
  const by = span <= 45 ? 'day' : span <= 366 * 5 ? 'month' : 'year';
  const length = by === 'day' ? 10 : by === 'month' ? 7 : 4;
  const counts = new Map<string, number>();
  for (let day = days[0]!; day <= days.at(-1)!; day++) {
    const key = isoDate(day).slice(0, length);
    if (!counts.has(key)) counts.set(key, 0);
  }
  for (const day of days) {
    const key = isoDate(day).slice(0, length);
    counts.set(key, counts.get(key)! + 1);
  }
  return { bins: [...counts].map(([from, count]) => ({ from, to: from, count })), by };
}
