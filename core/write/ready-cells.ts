import { type Column, countUnreadable, Tag, type TextColumn } from '../table/column.ts';
import { spansOf, textCount } from '../table/spanned-column.ts';
import type { Spans } from '../table/spans.ts';
import { cellText, countedText, textView } from '../values/cell-text.ts';
import type { PartCells } from './rows/batch.ts';
import type { TextBytes } from './rows/text-bytes.ts';
import { typedCell } from './typed-cells.ts';

/** How the cells of a format read, by what they hold. */
export interface CellForms {
  blank: string;
  /** Texts, dates and times, and what could not be read. */
  text(text: string): string;
  number(value: number): string;
  yesno(value: boolean): string;
}

/** Forms of which it is known how most cells read. */
export interface PartForms extends CellForms {
  /** Every number is its digits with a decimal point between these. */
  aroundNumbers?: { before: string; behind: string } | undefined;
  /** So is every text that has signs, and none of certain ones: stops are 1 for their bytes, and for all beyond ASCII. */
  plain?: { stops: Uint8Array; before: string; behind: string } | undefined;
}

/** 1 for each of some signs, the signs below a code, and what is not of ASCII. */
export function stopsAt(signs: string, below = 0): Uint8Array {
  const stops = new Uint8Array(256).fill(1, 0, below).fill(1, 0x80);
  for (const sign of signs) stops[sign.charCodeAt(0) & 0xff] = 1;
  return stops;
}

/** The cells of a column as they are written; each different text is made ready once. */
export function readyCells(column: Column, forms: CellForms): (row: number) => string {
  const textOf = (text: string | null) => (text === null ? forms.blank : forms.text(text));
  const told = (row: number) => {
    const cell = typedCell(column, row);
    if (typeof cell === 'number') return forms.number(cell);
    return typeof cell === 'boolean' ? forms.yesno(cell) : textOf(cell);
  };
  const memo = (texts: readonly string[]) => {
    const made = new Array<string | undefined>(texts.length);
    return (code: number) => {
      made[code] ??= forms.text(texts[code]!);
      return made[code];
    };
  };
  if (column.type === 'text') {
    const { codes, texts } = textView(column);
    const made = memo(texts);
    return (row) => (codes[row]! < 0 ? forms.blank : made(codes[row]!));
  }
  if (column.type === 'received') {
    const made = memo(column.dictionary);
    return (row) => (column.tags[row] === Tag.text ? made(column.values[row]!) : told(row));
  }
  if (column.type === 'number' || column.type === 'whole')
    return (row) => {
      const value = column.values[row]!;
      return Number.isNaN(value) ? textOf(cellText(column, row)) : forms.number(value);
    };
  return told;
}

/** Different texts that are made ready before rows are written, at most. */
const MAX_CODED = 2048;

/** The cells of a column for the rows of a format. */
export function partCells(column: Column, forms: PartForms): PartCells {
  const spans = column.type === 'text' && forms.plain !== undefined ? spansOf(column) : undefined;
  if (spans !== undefined) {
    const write = spanWriter(spans, forms);
    const { stops, before, behind } = forms.plain!;
    return { write, runs: before + behind === '' ? { ...spans.places, stops, other: write } : undefined };
  }
  if (column.type === 'text' && forms.plain !== undefined && textCount(column) > MAX_CODED)
    return { write: textWriter(column, forms) };
  const ready = readyCells(column, forms);
  const { aroundNumbers, blank } = forms;
  const isNumbers = (column.type === 'number' || column.type === 'whole') && countUnreadable(column) === 0;
  return {
    write: (row, out) => out.add(ready(row)),
    numbers: isNumbers && aroundNumbers !== undefined ? { ...aroundNumbers, values: column.values, blank } : undefined,
    coded: codedCells(column, forms),
  };
}

/** Cells of few different texts, dates or times; undefined where there are many, or other cells among them. */
function codedCells(column: Column, { blank, text }: PartForms): PartCells['coded'] {
  if (column.type === 'text') {
    if (textCount(column) > MAX_CODED) return undefined;
    const { codes, dictionary } = column;
    const isUsed = new Uint8Array(dictionary.length);
    for (let r = 0; r < codes.length; r++) if (codes[r]! >= 0) isUsed[codes[r]!] = 1;
    return { codes, texts: dictionary.map((one, code) => (isUsed[code] === 1 ? text(one) : '')), blank };
  }
  if (column.type !== 'date' && column.type !== 'time' && column.type !== 'datetime') return undefined;
  if (countUnreadable(column) > 0) return undefined;
  const { type, values } = column;
  const codes = new Int32Array(values.length).fill(-1);
  const known = new Map<number, number>();
  const texts: string[] = [];
  for (let r = 0; r < values.length; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) continue;
    let code = known.get(value);
    if (code === undefined) {
      if (texts.length === MAX_CODED) return undefined;
      code = texts.push(text(countedText(type, value))) - 1;
      known.set(value, code);
    }
    codes[r] = code;
  }
  return { codes, texts, blank };
}

/** Cells that are still bytes of their source, without a text for each. */
function spanWriter(spans: Spans, { blank, text, plain }: PartForms): PartCells['write'] {
  const { stops, before, behind } = plain!;
  let to: TextBytes;
  const putPlain = (bytes: Uint8Array, from: number, end: number) => {
    // Delimited text has quotes for an empty one.
    if (from === end) return false;
    for (let k = from; k < end; k++) if (stops[bytes[k]!] === 1) return false;
    to.add(before);
    to.putRun(bytes, from, end);
    to.add(behind);
    return true;
  };
  return (row, out) => {
    to = out;
    const isPut = spans.at(row, putPlain);
    if (isPut === undefined) out.add(blank);
    else if (!isPut) out.add(text(spans.text(row)!));
  };
}

/** Many different texts, of which none is made ready without need. */
function textWriter({ codes, dictionary }: TextColumn, { blank, text, plain }: PartForms): PartCells['write'] {
  const { stops, before, behind } = plain!;
  return (row, out) => {
    const code = codes[row]!;
    if (code < 0) out.add(blank);
    else if (!out.addPlain(dictionary[code]!, stops, before, behind)) out.add(text(dictionary[code]!));
  };
}
