import { type Column, columnLength, isBlank } from '../table/column.ts';
import { Tag } from '../table/column-types.ts';
import { type Table, unnamedAmong } from '../table/table.ts';
import { type TextView, textView } from '../values/cell-text.ts';
import { leadsWithZero, NumberForm, readNumber } from '../values/number-text.ts';
import { meansMissing } from './hint-words.ts';

/** What a cell holds, as a reader sees it: nothing has been typed yet. */
export const CellKind = { blank: 0, figure: 1, text: 2, date: 3, missing: 4, rule: 5 } as const;

/** One column of the report, cell by cell. */
export interface ColumnProfile {
  /** Index in the table. */
  index: number;
  name: string;
  /** Its name is only that of its place. */
  isUnnamed: boolean;
  /** By row, of Seen. */
  kinds: Uint8Array;
  /** By row, NaN where there is no figure. */
  values: Float64Array;
  /** By row an index into texts, or -1 for blank. */
  codes: Int32Array;
  texts: readonly string[];
  /** How many rows are of each kind, by Seen. */
  counts: readonly number[];
}

/** A table as detectors look at it: columns of the report, without those that stand beside it. */
export interface TableProfile {
  table: Table;
  rows: number;
  columns: readonly ColumnProfile[];
  decimal: '.' | ',';
  /** The file itself says which: in a file divided by commas no comma is a decimal mark. */
  isDecimalKnown: boolean;
  /** Filled cells of each row, those of drawn rules aside. */
  filled: Int32Array;
  figures: Int32Array;
}

/** The first row from this one on that has a filled cell; behind the last row where there is none. */
export function filledFrom({ filled, rows }: TableProfile, row: number): number {
  let at = row;
  while (at < rows && filled[at] === 0) at++;
  return at;
}

/** The last row up to this one that has a filled cell; -1 where there is none. */
export function filledUpTo({ filled }: TableProfile, row: number): number {
  let at = row;
  while (at >= 0 && filled[at] === 0) at--;
  return at;
}

const seen = new WeakMap<Table, TableProfile>();

/**
 * What can be seen in a table; worked out once for each.
 * @param known the decimal mark, where the file that the table came from leaves only one
 */
export function profileTable(table: Table, known?: '.' | ','): TableProfile {
  let profile = seen.get(table);
  if (profile === undefined || (known !== undefined && !profile.isDecimalKnown)) {
    profile = look(table, known);
    seen.set(table, profile);
  }
  return profile;
}

function look(table: Table, known: '.' | ',' | undefined): TableProfile {
  const found = decimalOf(table, known);
  const { decimal } = found;
  const form = NumberForm.parse({ decimal });
  const shown = [...table.fields.entries()].filter(([, field]) => field.nameOrigin !== 'beside');
  const unnamed = unnamedAmong(shown.map(([, { name }]) => name));
  const columns = shown.map(([index, { name, column }], k) => lookAtColumn(column, index, name, unnamed[k]!, form));
  const filled = new Int32Array(table.rows);
  const figures = new Int32Array(table.rows);
  for (const { kinds } of columns)
    for (let r = 0; r < table.rows; r++) {
      if (kinds[r] !== CellKind.blank && kinds[r] !== CellKind.rule) filled[r]!++;
      if (kinds[r] === CellKind.figure) figures[r]!++;
    }
  return { table, rows: table.rows, columns, decimal, isDecimalKnown: found.isKnown, filled, figures };
}

class ProfiledColumn implements ColumnProfile {
  private view: TextView | undefined;

  constructor(
    private readonly column: Column,
    readonly index: number,
    readonly name: string,
    readonly isUnnamed: boolean,
    readonly kinds: Uint8Array,
    readonly values: Float64Array,
    readonly counts: readonly number[],
  ) {}

  get codes(): Int32Array {
    this.view ??= textView(this.column);
    return this.view.codes;
  }

  get texts(): readonly string[] {
    this.view ??= textView(this.column);
    return this.view.texts;
  }
}

/** What the cells of a column hold, whatever the column is called. */
type CellProfile = Pick<ColumnProfile, 'kinds' | 'values' | 'counts'>;

/** Tables along a method share the columns that a step leaves as they are. */
const seenCells: Record<'.' | ',', WeakMap<Column, CellProfile>> = { '.': new WeakMap(), ',': new WeakMap() };

function lookAtColumn(
  column: Column,
  index: number,
  name: string,
  isUnnamed: boolean,
  form: NumberForm,
): ColumnProfile {
  const known = seenCells[form.decimal].get(column);
  const { kinds, values, counts } = known ?? lookAtCells(column, form);
  if (known === undefined) seenCells[form.decimal].set(column, { kinds, values, counts });
  return new ProfiledColumn(column, index, name, isUnnamed, kinds, values, counts);
}

/** Texts are read once each, and only when a row holds them; numbers need no text at all. */
function lookAtCells(column: Column, form: NumberForm): CellProfile {
  const rows = columnLength(column);
  const kinds = new Uint8Array(rows);
  const counts = [0, 0, 0, 0, 0, 0];
  const done = (values: Float64Array) => {
    for (const kind of kinds) counts[kind]!++;
    return { kinds, values, counts };
  };
  if (column.type === 'number' || column.type === 'whole') {
    for (let r = 0; r < rows; r++)
      if (!Number.isNaN(column.values[r]!)) kinds[r] = CellKind.figure;
      else if (!isBlank(column, r)) kinds[r] = CellKind.text;
    return done(column.values);
  }
  const values = new Float64Array(rows).fill(Number.NaN);
  if (column.type !== 'text' && column.type !== 'received') {
    const kind = column.type === 'yesno' ? CellKind.text : CellKind.date;
    for (let r = 0; r < rows; r++) if (!isBlank(column, r)) kinds[r] = kind;
    return done(values);
  }
  const { codes, texts } =
    column.type === 'text' ? textView(column) : { codes: column.values, texts: column.dictionary };
  const { kindOf, figures, read } = readTexts(texts, form);
  for (let r = 0; r < rows; r++) {
    if (column.type === 'received') {
      const tag = column.tags[r]!;
      if (tag === Tag.number) {
        kinds[r] = CellKind.figure;
        values[r] = column.values[r]!;
      } else if (tag === Tag.date || tag === Tag.datetime || tag === Tag.time) kinds[r] = CellKind.date;
      else if (tag === Tag.yesno || tag === Tag.unreadable) kinds[r] = CellKind.text;
      if (tag !== Tag.text) continue;
    }
    const code = codes[r]!;
    if (code < 0) continue;
    if (read[code] === 0) {
      read[code] = 1;
      const { kind, value } = lookAtText(texts[code]!, form);
      kindOf[code] = kind;
      figures[code] = value;
    }
    kinds[r] = kindOf[code]!;
    values[r] = figures[code]!;
  }
  keepWords(kinds, codes as Int32Array, texts);
  return done(values);
}

/**
 * A word that can mean blank is a value where others of its column are written alike: NA beside SE and NO is Namibia,
 * 'none' beside 'low' and 'high' is a level.
 */
function keepWords(kinds: Uint8Array, codes: Int32Array, texts: readonly string[]): void {
  const words = new Set<number>();
  for (let r = 0; r < kinds.length; r++) if (kinds[r] === CellKind.missing) words.add(codes[r]!);
  const named = new Map([...words].map((code) => [code, wordShape(texts[code]!)]));
  const shapes = new Set([...named.values()].filter((shape) => shape !== undefined));
  if (shapes.size === 0) return;
  const alike = new Map<string, Set<number>>();
  const hasFigures = kinds.includes(CellKind.figure);
  // Several such words beside figures are several ways to say that there is none.
  const isWord = (kind: number) => kind === CellKind.text || (kind === CellKind.missing && !hasFigures);
  for (let r = 0; r < kinds.length; r++) {
    if (!isWord(kinds[r]!)) continue;
    const shape = wordShape(texts[codes[r]!] ?? '');
    if (shape === undefined || !shapes.has(shape)) continue;
    const others = alike.get(shape) ?? new Set();
    if (others.size <= ALIKE) alike.set(shape, others.add(codes[r]!));
  }
  const kept = new Set(
    [...named].flatMap(([code, shape]) => {
      const others = [...(alike.get(shape ?? '') ?? [])].filter((other) => other !== code);
      return others.length >= ALIKE ? [code] : [];
    }),
  );
  if (kept.size > 0)
    for (let r = 0; r < kinds.length; r++)
      if (kinds[r] === CellKind.missing && kept.has(codes[r]!)) kinds[r] = CellKind.text;
}

/** Different texts that must be written like a word to make it one of them. */
const ALIKE = 2;

/** How a word is written: its case, and its length where it is short as codes are. Undefined for what is no word. */
function wordShape(text: string): string | undefined {
  const word = text.trim();
  if (!/^\p{L}+$/u.test(word)) return undefined;
  const style = word === word.toUpperCase() ? 'A' : word === word.toLowerCase() ? 'a' : 'Aa';
  return word.length <= 4 ? `${style}${word.length}` : style;
}

/** What some texts hold, as far as they have been read. */
interface ReadTexts {
  kindOf: Uint8Array;
  figures: Float64Array;
  read: Uint8Array;
}

/** Columns of the tables along a method share their texts, in which nothing changes. */
const readOf: Record<'.' | ',', WeakMap<readonly string[], ReadTexts>> = { '.': new WeakMap(), ',': new WeakMap() };

function readTexts(texts: readonly string[], { decimal }: NumberForm): ReadTexts {
  const before = readOf[decimal].get(texts);
  if (before !== undefined && before.read.length === texts.length) return before;
  const own = {
    kindOf: new Uint8Array(texts.length),
    figures: new Float64Array(texts.length).fill(Number.NaN),
    read: new Uint8Array(texts.length),
  };
  readOf[decimal].set(texts, own);
  return own;
}

const RULE = /^[\s\-=_~+|*─═━.·]{3,}$/;
const DATE =
  /^(?:\d{4}[./-]\d{1,2}[./-]\d{1,2}|\d{1,2}[./-]\d{1,2}[./-](?:\d{4}|\d{2}))(?:[ T]\d{1,2}:\d\d.*)?$|^\d{1,2}:\d\d(?::\d\d)?(?:\s?[ap]\.?m\.?)?$|^(?:\p{L}{2,12}\.?,?\s)?\d{1,2}\.?\s(?:de\s)?\p{L}{3,}\.?\s(?:de\s)?\d{2,4}$|^\p{L}{3,}\.?\s\d{1,2},?\s\d{4}$|^\d{1,2}[-/]\p{L}{3,}[-/]\d{2,4}(?::\d\d:\d\d:\d\d(?: [-+]\d{4})?)?$|^\p{L}{3},? (?:\p{L}{3} {1,2}\d{1,2}|\d{1,2} \p{L}{3} \d{4}) \d\d:\d\d:\d\d(?: \d{4}| [-+]\d{4}| GMT)?$/iu;

/** A sign or a letter in brackets behind a figure, as footnotes have them. */
export const MARK =
  /\s?(?:[*†‡§#^]{1,3}|[¹²³⁰⁴-⁹ᵃ-ᵉ]+\)?|\((?:\p{L}{1,2}|\d)\)|(?<=\d)\s?\p{Ll}\)|(?<=\d)\s?[a-z](?![\p{L}]))$/u;

/** A line drawn with signs, as print-outs have it. */
export const isDrawnLine = (text: string): boolean => RULE.test(text) && !/^\.{3}$/.test(text);

/** A text as a cell of a report: what it holds, and its figure. Blank-looking text is blank. */
export function lookAtText(text: string, form: NumberForm): { kind: number; value: number } {
  const plain = text.trim();
  if (plain === '') return { kind: CellKind.blank, value: Number.NaN };
  if (isDrawnLine(plain)) return { kind: CellKind.rule, value: Number.NaN };
  if (plain.length > 60) return { kind: CellKind.text, value: Number.NaN };
  if (meansMissing(plain)) return { kind: CellKind.missing, value: Number.NaN };
  const first = plain.charCodeAt(0);
  // No figure begins with a letter, but for a currency.
  if (first > 0x40 && /^\p{L}/u.test(plain) && !/\d/.test(plain)) return { kind: CellKind.text, value: Number.NaN };
  if (DATE.test(plain)) return { kind: CellKind.date, value: Number.NaN };
  if (leadsWithZero(plain)) return { kind: CellKind.text, value: Number.NaN };
  const value = figureOf(plain, form);
  return Number.isNaN(value) ? { kind: CellKind.text, value } : { kind: CellKind.figure, value };
}

function figureOf(plain: string, form: NumberForm): number {
  if (!/\d/.test(plain)) return Number.NaN;
  const own = readNumber(plain, form).value;
  if (!Number.isNaN(own)) return own;
  const bare = plain.replace(MARK, '');
  return bare === plain || bare === '' ? Number.NaN : readNumber(bare, form).value;
}

/** The decimal mark of a table, by figures that only one of the two can write, or by the file that it came from. */
export function decimalOf(table: Table, known?: '.' | ','): { decimal: '.' | ','; isKnown: boolean } {
  let [point, comma] = [0, 0];
  let isMarked = false;
  for (const field of table.fields) {
    if (field.column.type !== 'text' && field.column.type !== 'received') continue;
    // Stored numbers say nothing of how texts beside them are written.
    const proof = decimalProof(
      field.column.type === 'received' ? field.column.dictionary : textView(field.column).texts,
    );
    point += proof.point;
    comma += proof.comma;
    isMarked ||= proof.isMarked[known === ',' ? '.' : ','];
  }
  // Quoted cells may hold the other mark all the same.
  if (known !== undefined && !isMarked) return { decimal: known, isKnown: true };
  return { decimal: comma > point ? ',' : '.', isKnown: false };
}

interface DecimalProof {
  length: number;
  point: number;
  comma: number;
  /** A figure holds the mark. */
  isMarked: Record<'.' | ',', boolean>;
}

const proofs = new WeakMap<readonly string[], DecimalProof>();

/** What speaks for each of the two marks in some texts. */
function decimalProof(texts: readonly string[]): DecimalProof {
  const before = proofs.get(texts);
  if (before?.length === texts.length) return before;
  let [point, comma] = [0, 0];
  const isMarked = { '.': false, ',': false };
  const step = Math.max(1, Math.floor(texts.length / 2000));
  for (let k = 0; k < texts.length; k += step) {
    const text = texts[k]!.trim().replace(MARK, '');
    if (!/^[\s$€£¥(+−-]*\d[\d.,'\s\u00a0\u202f]*[)%€£$−-]?-?$/.test(text)) continue;
    const last = Math.max(text.lastIndexOf('.'), text.lastIndexOf(','));
    if (last < 0) continue;
    if (text.includes('.')) isMarked['.'] = true;
    if (text.includes(',')) isMarked[','] = true;
    const mark = text[last];
    const behind = /^\d*/.exec(text.slice(last + 1))![0].length;
    const several = text.split(mark!).length > 2;
    const other = mark === '.' ? ',' : '.';
    const proven = text.includes(other) ? 3 : several ? -3 : behind !== 3 ? 2 : -0.25;
    // Three digits behind a mark that stands alone are rather thousands.
    if ((mark === ',') === proven > 0) comma += Math.abs(proven);
    else point += Math.abs(proven);
  }
  const proof = { length: texts.length, point, comma, isMarked };
  proofs.set(texts, proof);
  return proof;
}

/** Whether a cell holds anything but a drawn line. */
export function isFilled({ kinds }: ColumnProfile, row: number): boolean {
  return kinds[row] !== CellKind.blank && kinds[row] !== CellKind.rule;
}

/** The text of a cell, trimmed; '' for blank. */
export function textAt(column: ColumnProfile, row: number): string {
  const code = column.codes[row]!;
  return code < 0 ? '' : column.texts[code]!.trim();
}

/**
 * Different texts of a column in the order of its rows, not those of blank cells.
 * @param max after which no more are looked for
 * @param isWanted by the kind of the cell
 */
export function distinctTexts(column: ColumnProfile, max: number, isWanted?: (kind: number) => boolean): string[] {
  const texts = new Set<string>();
  for (let r = 0; r < column.kinds.length && texts.size < max; r++) {
    if (isWanted?.(column.kinds[r]!) === false) continue;
    const text = textAt(column, r);
    if (text !== '') texts.add(text);
  }
  return [...texts];
}

/** A figure that may stand for a year. */
export function isYear(value: number): boolean {
  return Number.isInteger(value) && value >= 1800 && value <= 2199;
}
