import { ByteDictionary, type ByteTexts } from './byte-dictionary.ts';
import type { TextColumn } from './column-types.ts';
import { type Decoder, decoderOf } from './decoder.ts';

const LONG = 0xffff;

/** Numbers read while cells were found, when their bytes were at hand. */
export interface SpanNumbers {
  values: Float64Array;
  /** A number may have a zero in front of a digit, which it loses. */
  leadingZero: boolean;
  /** A number may have a fraction. */
  fractions: boolean;
  /** How many cells are blank. */
  blanks: number;
  /** Rows of filled cells that are no plain number, ascending. */
  others: Int32Array;
}

/**
 * Text cells that are still runs of a source's bytes, made text only where they are looked at. A column of them costs
 * six bytes a cell, however different its cells are.
 */
export class Spans {
  /**
   * @param bytes of the source, in an encoding that keeps ASCII as it is
   * @param extra bytes of cells that stand nowhere as they read (doubled quotes); positions behind bytes.length
   * @param starts first byte of each cell, or -1 for a blank one
   * @param lengths bytes of each cell; LONG: see longs
   * @param longs lengths of long cells by their start
   */
  constructor(
    private readonly bytes: Uint8Array,
    private readonly extra: Uint8Array,
    private readonly starts: Int32Array,
    private readonly lengths: Uint16Array,
    private readonly longs: ReadonlyMap<number, number>,
    readonly encoding: string,
    /** Numbers that were read on the way, with a decimal point; NaN where a cell is blank or was not plain. */
    readonly numbers?: SpanNumbers | undefined,
  ) {}

  get rows(): number {
    return this.starts.length;
  }

  get byteLength(): number {
    return this.starts.byteLength + this.lengths.byteLength + this.extra.byteLength;
  }

  isBlank(row: number): boolean {
    return this.starts[row]! < 0;
  }

  /** Where all cells stand; those that begin behind the bytes stand elsewhere, and the lengths of long cells are not theirs. */
  get places(): { bytes: Uint8Array; starts: Int32Array; lengths: Uint16Array } {
    const { bytes, starts, lengths } = this;
    return { bytes, starts, lengths };
  }

  /** Calls with where the bytes of each filled cell stand. */
  each(visit: (row: number, bytes: Uint8Array, from: number, to: number) => void): void {
    const { bytes, extra, starts, lengths } = this;
    const base = bytes.length;
    for (let r = 0; r < starts.length; r++) {
      const start = starts[r]!;
      if (start < 0) continue;
      const length = lengths[r] === LONG ? this.longs.get(start)! : lengths[r]!;
      if (start < base) visit(r, bytes, start, start + length);
      else visit(r, extra, start - base, start - base + length);
    }
  }

  /** Calls with where the bytes of a cell stand. @returns what the call gives, or undefined for a blank cell */
  at<T>(row: number, visit: (bytes: Uint8Array, from: number, to: number) => T): T | undefined {
    const start = this.starts[row]!;
    if (start < 0) return undefined;
    const length = this.lengths[row] === LONG ? this.longs.get(start)! : this.lengths[row]!;
    const base = this.bytes.length;
    return start < base
      ? visit(this.bytes, start, start + length)
      : visit(this.extra, start - base, start - base + length);
  }

  text(row: number): string | null {
    const start = this.starts[row]!;
    if (start < 0) return null;
    const length = this.lengths[row] === LONG ? this.longs.get(start)! : this.lengths[row]!;
    const base = this.bytes.length;
    const from = start < base ? start : start - base;
    return decodeRun(start < base ? this.bytes : this.extra, from, from + length, this.encoding);
  }

  /** The cells at these rows; -1 gives a blank cell. */
  take(rows: Int32Array): Spans {
    const starts = new Int32Array(rows.length);
    const lengths = new Uint16Array(rows.length);
    for (let r = 0; r < rows.length; r++) {
      const row = rows[r]!;
      starts[r] = row < 0 ? -1 : this.starts[row]!;
      lengths[r] = row < 0 ? 0 : this.lengths[row]!;
    }
    return new Spans(this.bytes, this.extra, starts, lengths, this.longs, this.encoding, this.takeNumbers(rows));
  }

  private takeNumbers(rows: Int32Array): SpanNumbers | undefined {
    if (this.numbers === undefined) return undefined;
    const from = this.numbers.values;
    const values = new Float64Array(rows.length);
    const others: number[] = [];
    let blanks = 0;
    for (let r = 0; r < rows.length; r++) {
      const row = rows[r]!;
      const value = row < 0 ? Number.NaN : from[row]!;
      values[r] = value;
      if (!Number.isNaN(value)) continue;
      if (row < 0 || this.isBlank(row)) blanks++;
      else others.push(r);
    }
    return { ...this.numbers, values, blanks, others: Int32Array.from(others) };
  }

  /** The cells of a stretch of rows, over the same memory. */
  stretch(from: number, to: number): Spans {
    const { bytes, extra, longs, encoding } = this;
    const own = this.stretchNumbers(from, to);
    const [starts, lengths] = [this.starts.subarray(from, to), this.lengths.subarray(from, to)];
    return new Spans(bytes, extra, starts, lengths, longs, encoding, own);
  }

  private stretchNumbers(from: number, to: number): SpanNumbers | undefined {
    const { numbers } = this;
    if (numbers === undefined) return undefined;
    const blanksIn = (first: number, end: number) => {
      let count = 0;
      for (let row = first; row < end; row++) if (this.isBlank(row)) count++;
      return count;
    };
    // What is cut off is mostly less than what is left.
    const isMost = to - from > this.rows / 2;
    const blanks = isMost ? numbers.blanks - blanksIn(0, from) - blanksIn(to, this.rows) : blanksIn(from, to);
    const others = numbers.others.filter((row) => row >= from && row < to).map((row) => row - from);
    return { ...numbers, values: numbers.values.subarray(from, to), blanks, others };
  }

  /** Whether bytes of digits are digits wherever they stand: they are not in every encoding that keeps ASCII. */
  get keepsDigits(): boolean {
    return /^(?:utf-8|windows-125|iso-8859|koi8|macintosh|us-ascii)/.test(this.encoding);
  }

  /** 1 for each cell that is this text, told by its bytes; undefined where bytes alone do not tell it. */
  rowsOf(text: string): Uint8Array | undefined {
    // biome-ignore lint/suspicious/noControlCharactersInRegex: all of ASCII.
    const isAscii = /^[\x00-\x7f]*$/.test(text);
    // Bytes that are no text read as U+FFFD, whatever they are.
    if (!isAscii && (this.encoding !== 'utf-8' || text.includes('\ufffd'))) return undefined;
    const wanted = new TextEncoder().encode(text);
    const mask = new Uint8Array(this.rows);
    this.each((row, bytes, from, to) => {
      if (to - from !== wanted.length) return;
      for (let k = 0; k < wanted.length; k++) if (bytes[from + k] !== wanted[k]) return;
      mask[row] = 1;
    });
    return mask;
  }

  /** The memory behind the cells, with the source's bytes, which all columns of a reading share. */
  get memory(): readonly ArrayBufferView[] {
    const views = [this.bytes, this.extra, this.starts, this.lengths];
    return this.numbers === undefined ? views : [...views, this.numbers.values];
  }

  toDictionary(): { codes: Int32Array; texts: ByteTexts } {
    const dictionary = new ByteDictionary();
    const codes = new Int32Array(this.rows).fill(-1);
    this.each((row, bytes, from, to) => {
      codes[row] = dictionary.code(bytes, from, to);
    });
    return { codes, texts: dictionary.textsLater(this.encoding) };
  }
}

const decoders = new Map<string, Decoder>();

export function decodeRun(bytes: Uint8Array, from: number, to: number, encoding: string): string {
  let text = '';
  if (to - from <= 24) {
    let k = from;
    for (; k < to && bytes[k]! < 0x80; k++) text += String.fromCharCode(bytes[k]!);
    if (k === to) return text;
  }
  let decoder = decoders.get(encoding);
  if (decoder === undefined) {
    decoder = decoderOf(encoding);
    decoders.set(encoding, decoder);
  }
  return decoder.decode(bytes.subarray(from, to));
}

/** Cells that are looked at before a column is taken for one of numbers. */
const LOOKED_AT = 64;
/** Of them so many may be something else, as names above and notes between are. */
const FEW_OTHERS = 16;
/** One cell in so many may be something else all the way. */
const SELDOM = 64;
/** Digits that a double keeps whatever they are. */
const PLAIN_DIGITS = 15;
const MINUS = 45;
const POINT = 46;

/** Cells that were found elsewhere, none of them long. */
export interface FoundCells {
  /** First byte of each cell, or -1 for a blank one. */
  starts: Int32Array;
  lengths: Uint16Array;
  /** What was read of them as numbers, NaN for all others; always there where the builder reads numbers. */
  read?: Omit<SpanNumbers, 'others'> & {
    /** How many filled cells are no plain number. */
    others: number;
  };
}

/** Collects the cells of one column as runs of bytes. */
export class SpanBuilder {
  private starts: Int32Array;
  private lengths: Uint16Array;
  private readonly longs = new Map<number, number>();
  private rows = 0;
  /** Numbers are read as cells come, for as long as nearly all of them are: their bytes are at hand now. */
  private numbers: Float64Array | undefined;
  private others: number[] = [];
  private blanks = 0;
  private leadingZero = false;
  private fractions = false;
  /** Digits that were read last, without their point, and by what they are to be divided; 0 where no point was. */
  private whole = 0;
  private scale = 0;

  /** @param bytes that cells stand in, where numbers are to be read on the way */
  constructor(
    capacity: number,
    private readonly bytes?: Uint8Array,
  ) {
    this.starts = new Int32Array(capacity);
    this.lengths = new Uint16Array(capacity);
  }

  get length(): number {
    return this.rows;
  }

  /** A cell from start to end; none at all is a blank cell. */
  push(start: number, end: number): void {
    this.roomFor(this.rows + 1);
    const length = end - start;
    this.starts[this.rows] = length === 0 ? -1 : start;
    if (this.numbers !== undefined) this.keep(this.rows, length === 0 ? Number.NaN : this.numberAt(start, end), length);
    this.lengths[this.rows++] = length < LONG ? length : SpanBuilder.lengthOf(start, length, this.longs);
    if (this.rows === LOOKED_AT && this.bytes !== undefined) this.look();
    else this.dropOthers();
  }

  /** Keeps the number of a cell, or that it has none. */
  private keep(row: number, value: number, length: number): void {
    this.numbers![row] = value;
    if (length === 0) this.blanks++;
    else if (Number.isNaN(value)) this.others.push(row);
    else this.fractions ||= !Number.isInteger(value);
  }

  /** A column that is not one of numbers after all is read as one no longer. */
  private dropOthers(): void {
    if (this.others.length <= FEW_OTHERS + this.rows / SELDOM) return;
    this.numbers = undefined;
    this.others = [];
  }

  /** Whether numbers are read as cells come. */
  get readsNumbers(): boolean {
    return this.numbers !== undefined;
  }

  /**
   * Finds the end of a cell, reads the number in it on the way, and adds it.
   * @param stops 1 for each byte that ends a cell
   * @returns where the cell ends
   */
  pushFrom(start: number, stops: Uint8Array): number {
    const bytes = this.bytes!;
    const n = bytes.length;
    let at = this.readDigits(start, n);
    const isPlain = at >= n || stops[bytes[at]!] === 1;
    if (!isPlain) while (at < n && stops[bytes[at]!] === 0) at++;
    this.roomFor(this.rows + 1);
    const { rows } = this;
    const length = at - start;
    this.starts[rows] = length === 0 ? -1 : start;
    this.lengths[rows] = length < LONG ? length : SpanBuilder.lengthOf(start, length, this.longs);
    this.keep(rows, length === 0 ? Number.NaN : this.numberOf(start, at, isPlain), length);
    this.rows = rows + 1;
    this.dropOthers();
    return at;
  }

  /** Adds cells behind the last one. */
  append({ starts, lengths, read }: FoundCells): void {
    const { rows } = this;
    this.roomFor(rows + starts.length);
    this.starts.set(starts, rows);
    this.lengths.set(lengths, rows);
    this.rows = rows + starts.length;
    if (this.numbers === undefined || read === undefined) return;
    this.numbers.set(read.values, rows);
    this.blanks += read.blanks;
    this.leadingZero ||= read.leadingZero;
    this.fractions ||= read.fractions;
    if (read.others > 0) this.noteOthers(starts, read.values, rows);
    this.dropOthers();
  }

  private noteOthers(starts: Int32Array, values: Float64Array, rows: number): void {
    for (let r = 0; r < values.length; r++) if (Number.isNaN(values[r]!) && starts[r]! >= 0) this.others.push(rows + r);
  }

  /**
   * Reads digits with a point among them, a minus before them, into whole and scale.
   * @returns the place behind them
   */
  private readDigits(start: number, end: number): number {
    const bytes = this.bytes!;
    let at = start < end && bytes[start] === MINUS ? start + 1 : start;
    let whole = 0;
    let scale = 0;
    // Nothing is read behind the last byte: a vector that ever was is read slowly from then on.
    for (; at < end; at++) {
      const byte = bytes[at]!;
      if (byte >= 48 && byte <= 57) {
        whole = whole * 10 + byte - 48;
        scale *= 10;
      } else if (byte === POINT && scale === 0) scale = 1;
      else break;
    }
    this.whole = whole;
    this.scale = scale;
    return at;
  }

  /** The number of the digits that were read last, or NaN where they are none. */
  private numberOf(start: number, end: number, isPlain: boolean): number {
    const bytes = this.bytes!;
    const { whole, scale } = this;
    const lead = bytes[start] === MINUS ? start + 1 : start;
    const digits = end - lead - (scale > 0 ? 1 : 0);
    if (!isPlain || digits === 0 || digits > PLAIN_DIGITS) return Number.NaN;
    if (bytes[lead] === 48 && digits > 1 && bytes[lead + 1] !== POINT) this.leadingZero = true;
    // Both are exact below 2^53 and 10^22, so one division rounds correctly.
    const value = scale > 1 ? whole / scale : whole;
    return lead > start && value !== 0 ? -value : value;
  }

  /** The length as it is kept beside a start; a long one goes into longs. */
  static lengthOf(start: number, length: number, longs: Map<number, number>): number {
    if (length < LONG) return length;
    longs.set(start, length);
    return LONG;
  }

  padTo(rows: number): void {
    while (this.rows < rows) this.push(0, 0);
  }

  /** Reads the numbers of the cells so far, and goes on with it where they are numbers. */
  private look(): void {
    this.numbers = new Float64Array(this.starts.length);
    for (let r = 0; r < this.rows; r++) {
      const start = this.starts[r]!;
      const length = start < 0 ? 0 : this.lengths[r]!;
      this.keep(r, start < 0 ? Number.NaN : this.numberAt(start, start + length), length);
    }
    const filled = this.rows - this.blanks;
    if (filled === 0 || this.others.length > Math.min(FEW_OTHERS, filled / 2)) this.numbers = undefined;
  }

  /** Digits with a point, a minus before them; NaN for whatever else stands there. */
  private numberAt(start: number, end: number): number {
    if (end > this.bytes!.length) return Number.NaN;
    const at = this.readDigits(start, end);
    return this.numberOf(start, at, at === end);
  }

  private roomFor(rows: number): void {
    if (rows <= this.starts.length) return;
    const size = Math.max(64, rows, Math.ceil(this.rows * 1.5));
    const starts = new Int32Array(size);
    starts.set(this.starts);
    this.starts = starts;
    const lengths = new Uint16Array(size);
    lengths.set(this.lengths);
    this.lengths = lengths;
    if (this.numbers === undefined) return;
    const numbers = new Float64Array(size);
    numbers.set(this.numbers);
    this.numbers = numbers;
  }

  finish(bytes: Uint8Array, extra: Uint8Array, encoding: string): TextColumn {
    const { rows, numbers, leadingZero, fractions, blanks } = this;
    const isTight = rows > this.starts.length * 0.9;
    const own = <V extends Int32Array | Uint16Array | Float64Array>(vector: V) =>
      (isTight ? vector.subarray(0, rows) : vector.slice(0, rows)) as V;
    const others = Int32Array.from(this.others);
    const read = numbers === undefined ? undefined : { values: own(numbers), leadingZero, fractions, blanks, others };
    return spannedColumn(new Spans(bytes, extra, own(this.starts), own(this.lengths), this.longs, encoding, read));
  }
}

// Beside the column and not in it, so that a copy with other codes can never hold them.
const held = new WeakMap<object, Spans>();
/** What gives a column its runs when they are asked for. */
const later = new WeakMap<object, () => Spans>();

/** The runs behind a text column that has not been looked at as a whole yet. */
export function spansOf(column: TextColumn): Spans | undefined {
  const make = later.get(column);
  if (make === undefined) return held.get(column);
  later.delete(column);
  const spans = make();
  held.set(column, spans);
  return spans;
}

/** Whether a column holds runs, without asking for them. */
export function holdsSpans(column: TextColumn): boolean {
  return held.has(column) || later.has(column);
}

/** A text column over runs of bytes: its codes and dictionary are made when they are first asked for. */
export function spannedColumn(spans: Spans): TextColumn {
  const column = emptySpanned();
  held.set(column, spans);
  return column;
}

/** The same over runs that are made when they are first asked for. */
export function spannedLater(make: () => Spans): TextColumn {
  const column = emptySpanned();
  later.set(column, make);
  return column;
}

function emptySpanned(): TextColumn {
  let made: { codes: Int32Array; texts: ByteTexts } | undefined;
  const column = { type: 'text', distinct: true } as TextColumn;
  const make = () => {
    if (made === undefined) {
      made = spansOf(column)!.toDictionary();
      bytesOf.set(column, made.texts);
      held.delete(column);
    }
    return made;
  };
  Object.defineProperty(column, 'codes', { enumerable: true, get: () => make().codes });
  Object.defineProperty(column, 'dictionary', { enumerable: true, get: () => make().texts.texts });
  return column;
}

/** The texts behind the codes of a column, where they came from bytes. */
const bytesOf = new WeakMap<TextColumn, ByteTexts>();

/** The texts of a column's dictionary that are not made yet; undefined where they are. Its codes are made for it. */
export function textsUnmade(column: TextColumn): ByteTexts | undefined {
  if (holdsSpans(column)) void column.codes;
  const texts = bytesOf.get(column);
  return texts?.memory === undefined ? undefined : texts;
}

/** How many texts stand in the dictionary of a column, which is not made for it. */
export function textCount(column: TextColumn): number {
  return textsUnmade(column)?.count ?? column.dictionary.length;
}

/** A text of a column's dictionary, which is not made for it as a whole. */
export function dictionaryText(column: TextColumn, code: number): string {
  return bytesOf.get(column)?.text(code) ?? column.dictionary[code]!;
}

/** A column of other cells over the same dictionary, which stays unmade if it is. */
export function withCodes(column: TextColumn, codes: Int32Array): TextColumn {
  return Object.assign(withoutCodes(column), { codes });
}

/** All of a column but its codes. */
export function withoutCodes(column: TextColumn): TextColumn {
  const { type, distinct } = column;
  const texts = textsUnmade(column);
  if (texts === undefined) return { type, dictionary: column.dictionary, distinct } as TextColumn;
  const other = { type, distinct } as TextColumn;
  Object.defineProperty(other, 'dictionary', { enumerable: true, get: () => texts.texts });
  bytesOf.set(other, texts);
  return other;
}
