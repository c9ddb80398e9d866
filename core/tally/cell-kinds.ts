import { ByteDictionary } from '../table/byte-dictionary.ts';
import { blankMask, type Column, Tag } from '../table/column.ts';
import { spansOf } from '../table/spanned-column.ts';
import { decodeRun, type Spans } from '../table/spans.ts';
import { textView } from '../values/cell-text.ts';
import { NumberForm } from '../values/number-text.ts';
import { figureOfText } from './figure.ts';

/** What a cell of a report is to whoever counts it. */
export const Kind = { blank: 0, words: 1, figure: 2 } as const;

const SPACES = /^[\0- ]*$/;
const FORM = NumberForm.parse({});
const ZERO = 48;
const NINE = 57;
const POINT = 46;
/** Digits that are a figure whatever else is asked of a number. */
const PLAIN_DIGITS = 15;
const MAX_KEPT_LENGTH = 64;

const kept = new WeakMap<Column, Uint8Array>();

/** The kind of each cell of a column. The column of a report stays, so it is looked through once for all tallies. */
export function kindsOf(column: Column): Uint8Array {
  let kinds = kept.get(column);
  if (kinds === undefined) {
    kinds = foundKinds(column);
    kept.set(column, kinds);
  }
  return kinds;
}

/** Whether texts hold figures. It does not matter which digits stand in a text: texts of one shape are looked at once. */
class Shapes {
  private readonly known = new Map<string, number>();

  kind(text: string): number {
    const shape = text.replace(/\d/g, '0');
    let kind = this.known.get(shape);
    if (kind === undefined) {
      // Spaces that fill up a cell say nothing.
      kind = SPACES.test(shape) ? Kind.blank : figureOfText(shape, FORM) === undefined ? Kind.words : Kind.figure;
      this.known.set(shape, kind);
    }
    return kind;
  }
}

function foundKinds(column: Column): Uint8Array {
  const shapes = new Shapes();
  const spans = column.type === 'text' ? spansOf(column) : undefined;
  if (spans?.keepsDigits) return kindsOfSpans(spans, shapes);
  const kinds = blankMask(column).map((blank) => (blank === 1 ? Kind.blank : Kind.words));
  if (column.type === 'text') {
    const { codes, texts } = textView(column);
    const ofText = texts.map((text) => shapes.kind(text));
    for (let r = 0; r < kinds.length; r++) if (kinds[r] !== Kind.blank) kinds[r] = ofText[codes[r]!]!;
  } else if (column.type === 'received') {
    const ofText = column.dictionary.map((text) => shapes.kind(text));
    for (let r = 0; r < kinds.length; r++) {
      const tag = column.tags[r]!;
      if (tag === Tag.number) kinds[r] = Kind.figure;
      else if (tag === Tag.text) kinds[r] = ofText[column.values[r]!]!;
    }
  } else if (column.type === 'number' || column.type === 'whole') {
    for (let r = 0; r < kinds.length; r++) if (kinds[r] !== Kind.blank) kinds[r] = Kind.figure;
  }
  return kinds;
}

/** From the bytes, so that no column gets a dictionary for being counted. */
function kindsOfSpans(spans: Spans, shapes: Shapes): Uint8Array {
  const kinds = new Uint8Array(spans.rows);
  const dictionary = new ByteDictionary();
  const ofShape: number[] = [];
  let shape = new Uint8Array(256);
  // Texts as long as one before mostly have its shape, which is seen sooner than looked up.
  const lastShape: Uint8Array[] = [];
  const lastKind: number[] = [];
  const look = (row: number, bytes: Uint8Array, from: number, to: number) => {
    const length = to - from;
    let digits = 0;
    let points = 0;
    for (let k = from; k < to; k++) {
      const byte = bytes[k]!;
      if (byte >= ZERO && byte <= NINE) digits++;
      else if (byte === POINT) points++;
    }
    if (digits === 0) kinds[row] = isSpace(bytes, from, to) ? Kind.blank : Kind.words;
    else if (digits + points === length && points <= 1 && digits <= PLAIN_DIGITS) kinds[row] = Kind.figure;
    else if (hasShape(lastShape[length], bytes, from)) kinds[row] = lastKind[length]!;
    else {
      if (length > shape.length) shape = new Uint8Array(2 * length);
      for (let k = 0; k < length; k++) {
        const byte = bytes[from + k]!;
        shape[k] = byte >= ZERO && byte <= NINE ? ZERO : byte;
      }
      const code = dictionary.code(shape, 0, length);
      ofShape[code] ??= shapes.kind(decodeRun(shape, 0, length, spans.encoding));
      kinds[row] = ofShape[code];
      if (length > MAX_KEPT_LENGTH) return;
      lastShape[length] = shape.slice(0, length);
      lastKind[length] = ofShape[code];
    }
  };
  const { numbers } = spans;
  if (numbers === undefined) {
    spans.each(look);
    return kinds;
  }
  // What was read as a plain number is a figure, so that only the others have to be looked at.
  kinds.fill(Kind.figure);
  if (numbers.blanks > 0) for (let r = 0; r < kinds.length; r++) if (spans.isBlank(r)) kinds[r] = Kind.blank;
  for (const row of numbers.others) spans.at(row, (bytes, from, to) => look(row, bytes, from, to));
  return kinds;
}

/** By the bytes below 128 alone: other spaces are rare enough to be words. */
function isSpace(bytes: Uint8Array, from: number, to: number): boolean {
  for (let k = from; k < to; k++) if (bytes[k]! > 32) return false;
  return true;
}

function hasShape(shape: Uint8Array | undefined, bytes: Uint8Array, from: number): boolean {
  if (shape === undefined) return false;
  for (let k = 0; k < shape.length; k++) {
    const byte = bytes[from + k]!;
    if ((byte >= ZERO && byte <= NINE ? ZERO : byte) !== shape[k]) return false;
  }
  return true;
}
