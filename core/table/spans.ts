import { ByteDictionary, type ByteTexts } from './byte-dictionary.ts';
import { type Decoder, decoderOf } from './decoder.ts';

/** A length from here on is kept beside. */
export const LONG_RUN = 0xffff;

/** Numbers read while cells were found, when their bytes were available. */
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
   * @param lengths bytes of each cell; LONG_RUN: see longs
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
      const length = lengths[r] === LONG_RUN ? this.longs.get(start)! : lengths[r]!;
      if (start < base) visit(r, bytes, start, start + length);
      else visit(r, extra, start - base, start - base + length);
    }
  }

  /** Calls with where the bytes of a cell stand. @returns what the call gives, or undefined for a blank cell */
  at<T>(row: number, visit: (bytes: Uint8Array, from: number, to: number) => T): T | undefined {
    const start = this.starts[row]!;
    if (start < 0) return undefined;
    const length = this.lengths[row] === LONG_RUN ? this.longs.get(start)! : this.lengths[row]!;
    const base = this.bytes.length;
    return start < base
      ? visit(this.bytes, start, start + length)
      : visit(this.extra, start - base, start - base + length);
  }

  text(row: number): string | null {
    const start = this.starts[row]!;
    if (start < 0) return null;
    const length = this.lengths[row] === LONG_RUN ? this.longs.get(start)! : this.lengths[row]!;
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

  /**
   * The cells of columns side by side, row after row: cell c of row r stands at r * columns.length + c. Undefined where
   * they do not stand in the same bytes.
   */
  static interleaved(columns: readonly Spans[]): Spans | undefined {
    const [first] = columns;
    if (first === undefined) return undefined;
    const { bytes, encoding, rows } = first;
    const own = columns.filter(({ extra }) => extra.length > 0);
    const extra = own[0]?.extra ?? first.extra;
    if (columns.some((one) => one.bytes !== bytes || one.encoding !== encoding || one.rows !== rows)) return undefined;
    if (own.some((one) => one.extra !== extra)) return undefined;
    const width = columns.length;
    const starts = new Int32Array(rows * width);
    const lengths = new Uint16Array(rows * width);
    // By row, so that what is written stays within the processor's cache.
    for (let r = 0, at = 0; r < rows; r++) {
      for (let c = 0; c < width; c++, at++) {
        starts[at] = columns[c]!.starts[r]!;
        lengths[at] = columns[c]!.lengths[r]!;
      }
    }
    const longs = new Map(columns.flatMap((one) => [...one.longs]));
    return new Spans(bytes, extra, starts, lengths, longs, encoding, interleavedNumbers(columns));
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
    // Invalid bytes read as U+FFFD, whatever they are.
    if (!isAscii(text) && (this.encoding !== 'utf-8' || text.includes('\ufffd'))) return undefined;
    const wanted = new TextEncoder().encode(text);
    const mask = new Uint8Array(this.rows);
    this.each((row, bytes, from, to) => {
      if (to - from !== wanted.length) return;
      for (let k = 0; k < wanted.length; k++) if (bytes[from + k] !== wanted[k]) return;
      mask[row] = 1;
    });
    return mask;
  }

  /**
   * 1 for each cell that is this text but for case and outer spaces, told by its bytes.
   *
   * @param wanted of ASCII, in small letters, without outer spaces
   * @param test decides of a cell with other letters up to where it differs
   */
  rowsLike(wanted: string, test: (text: string) => boolean): Uint8Array {
    const sought = Uint8Array.from(wanted, (character) => character.charCodeAt(0));
    const mask = new Uint8Array(this.rows);
    this.each((row, bytes, from, to) => {
      let at = from;
      while (at < to && SPACES[bytes[at]!] === 1) at++;
      let k = 0;
      for (; k < sought.length && at < to && FOLDED[bytes[at]!] === sought[k]; k++) at++;
      if (k === sought.length) while (at < to && SPACES[bytes[at]!] === 1) at++;
      if (at < to && bytes[at]! >= 0x80) mask[row] = test(this.text(row)!) ? 1 : 0;
      else mask[row] = k === sought.length && at === to ? 1 : 0;
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
    // Rows of a group stand below each other in most reports: what the cell above says is looked up once.
    let [above, begin, count, code]: [Uint8Array | undefined, number, number, number] = [undefined, 0, -1, -1];
    this.each((row, bytes, from, to) => {
      const length = to - from;
      // From the end, where numbers that count up differ.
      let k = length === count && bytes === above ? length - 1 : length;
      while (k >= 0 && k < length && bytes[from + k] === bytes[begin + k]) k--;
      if (k >= 0) {
        code = dictionary.code(bytes, from, to);
        [above, begin, count] = [bytes, from, length];
      }
      codes[row] = code;
    });
    return { codes, texts: dictionary.textsLater(this.encoding) };
  }
}

/** Numbers of columns as their cells stand interleaved; undefined where one of the columns has none. */
function interleavedNumbers(columns: readonly Spans[]): SpanNumbers | undefined {
  const all = columns.flatMap(({ numbers }) => numbers ?? []);
  if (all.length < columns.length) return undefined;
  const width = columns.length;
  const values = new Float64Array(columns[0]!.rows * width);
  for (let r = 0, at = 0; at < values.length; r++)
    for (let c = 0; c < width; c++, at++) values[at] = all[c]!.values[r]!;
  const others = Int32Array.from(all.flatMap((one, c) => Array.from(one.others, (row) => row * width + c))).sort();
  return {
    values,
    others,
    leadingZero: all.some(({ leadingZero }) => leadingZero),
    fractions: all.some(({ fractions }) => fractions),
    blanks: all.reduce((sum, { blanks }) => sum + blanks, 0),
  };
}

// biome-ignore lint/suspicious/noControlCharactersInRegex: all of ASCII.
export const isAscii = (text: string): boolean => /^[\x00-\x7f]*$/.test(text);

/** Bytes of ASCII by their small letters. */
const FOLDED = Uint8Array.from({ length: 256 }, (_, byte) => (byte >= 65 && byte <= 90 ? byte + 32 : byte));
/** 1 for white space of ASCII (ECMA-262, WhiteSpace and LineTerminator). */
const SPACES = Uint8Array.from({ length: 256 }, (_, byte) => (byte === 32 || (byte >= 9 && byte <= 13) ? 1 : 0));

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
