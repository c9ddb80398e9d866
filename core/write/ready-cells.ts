import { type Column, Tag } from '../table/column.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { typedCell } from './typed-cells.ts';

/** How the cells of a format read, by what they hold. */
export interface CellForms {
  blank: string;
  /** Texts, dates and times, and what could not be read. */
  text(text: string): string;
  number(value: number): string;
  yesno(value: boolean): string;
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

/**
 * Writes the cells of a column: amounts without a text for each, each different text made ready once.
 * @param forms of a format in which numbers are their digits, with a decimal point
 */
export function cellWriter(column: Column, forms: CellForms, out: TextBytes): (row: number) => void {
  const ready = readyCells(column, forms);
  if ((column.type !== 'number' && column.type !== 'whole') || !out.isPlain) return (row) => out.add(ready(row));
  const { values } = column;
  return (row) => {
    if (!out.amount(values[row]!)) out.add(ready(row));
  };
}

/** Whole numbers up to this are written digit by digit. */
const MOST_DIGITS = 999_999_999;
/** Bytes of a number of so many digits, with all that may stand among them. */
const MOST_BYTES = 16;
const ZERO = 48;
const MINUS = 45;
const POINT = 46;

/** Bytes that are made before they are put with the others. */
const PIECE = 1 << 20;

const UTF8 = new TextEncoder();

/** Collects text as bytes, to be handed on piece by piece or taken as a whole: no limit of one string is met. */
export class TextBytes {
  private readonly pieces: Uint8Array[] = [];
  private bytes = new Uint8Array(PIECE);
  private length = 0;
  private text = '';

  /**
   * @param encode where it is not UTF-8 that is wanted
   * @param send is handed each piece; without it they are kept for all()
   */
  constructor(
    private readonly encode?: (text: string) => Uint8Array,
    private readonly send: (piece: Uint8Array) => void = (piece) => this.pieces.push(piece),
  ) {}

  /** Whether bytes are those of UTF-8. */
  get isPlain(): boolean {
    return this.encode === undefined;
  }

  add(text: string): void {
    if (this.encode !== undefined) {
      this.text += text;
      if (this.text.length > PIECE) this.flush();
      return;
    }
    const n = text.length;
    this.make(n);
    const { bytes } = this;
    let at = this.length;
    for (let k = 0; k < n; k++) {
      const code = text.charCodeAt(k);
      if (code >= 0x80) {
        this.length = at;
        this.addEncoded(text.slice(k));
        return;
      }
      bytes[at++] = code;
    }
    this.length = at;
  }

  /**
   * A number that is whole or has at most two decimals, as most amounts do.
   * @returns false for any other, of which nothing is added
   */
  amount(value: number): boolean {
    const size = Math.abs(value);
    // No minus before a zero; NaN is neither.
    if (!(size <= MOST_DIGITS) || (value === 0 && Object.is(value, -0))) return false;
    // All that follows is in whole numbers of 32 bits, which are divided by ten without a division.
    let whole = size | 0;
    let rest = 0;
    const isWhole = whole === size;
    if (!isWhole) {
      const hundredths = size < MOST_DIGITS / 100 ? (size * 100 + 0.5) | 0 : 0;
      // A decimal of so few digits is the shortest that reads back as its number.
      if (hundredths / 100 !== size) return false;
      whole = (hundredths / 100) | 0;
      rest = hundredths - whole * 100;
    }
    this.make(MOST_BYTES);
    const { bytes } = this;
    let at = this.length;
    if (value < 0) bytes[at++] = MINUS;
    let behind = at + 1;
    for (let most = 10; whole >= most; most *= 10) behind++;
    for (let k = behind - 1; k >= at; k--) {
      const next = (whole / 10) | 0;
      bytes[k] = ZERO + whole - next * 10;
      whole = next;
    }
    at = behind;
    if (!isWhole) {
      const tenths = (rest / 10) | 0;
      bytes[at++] = POINT;
      bytes[at++] = ZERO + tenths;
      if (rest !== tenths * 10) bytes[at++] = ZERO + rest - tenths * 10;
    }
    this.length = at;
    return true;
  }

  private addEncoded(text: string): void {
    const encoded = UTF8.encode(text);
    this.put(encoded, encoded.length);
  }

  /** The first so many bytes as they are. */
  put(given: Uint8Array, count: number): void {
    this.putRun(given, 0, count);
  }

  /** Bytes as they are. */
  putRun(given: Uint8Array, from: number, to: number): void {
    this.make(to - from);
    const { bytes } = this;
    let at = this.length;
    for (let k = from; k < to; k++) bytes[at++] = given[k]!;
    this.length = at;
  }

  /** Room for so many bytes. */
  private make(count: number): void {
    if (this.length + count <= this.bytes.length) return;
    this.flush();
    if (count > this.bytes.length) this.bytes = new Uint8Array(count);
  }

  /** All that was added. */
  all(): Uint8Array<ArrayBuffer> {
    this.flush();
    return concatenate(this.pieces);
  }

  /** Hands on what was added since the last piece. */
  flush(): void {
    if (this.encode !== undefined) {
      this.send(this.encode(this.text));
      this.text = '';
      return;
    }
    this.send(this.bytes.subarray(0, this.length));
    // What was handed on may still be in use.
    this.bytes = new Uint8Array(PIECE);
    this.length = 0;
  }
}

/** All pieces in one. */
export function concatenate(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}
