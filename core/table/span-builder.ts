import type { TextColumn } from './column-types.ts';
import { spannedColumn } from './spanned-column.ts';
import { LONG_RUN, type SpanNumbers, Spans } from './spans.ts';

/** Cells that are looked at before a column is taken for one of numbers. */
const LOOKED_AT = 64;
/** How many of them may be something else, such as names above and notes between. */
const FEW_OTHERS = 16;
/** One cell in this number may be something else throughout. */
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
  /** Numbers are read as cells come, for as long as nearly all of them are: their bytes are available now. */
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
    this.lengths[this.rows++] = length < LONG_RUN ? length : SpanBuilder.lengthOf(start, length, this.longs);
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
    this.lengths[rows] = length < LONG_RUN ? length : SpanBuilder.lengthOf(start, length, this.longs);
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
    if (length < LONG_RUN) return length;
    longs.set(start, length);
    return LONG_RUN;
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
