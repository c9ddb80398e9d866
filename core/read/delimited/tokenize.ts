/** Delimited text to columns, byte by byte (RFC 4180, with what reports do beyond it). */

import { KERNEL_BYTES } from '../../kernels/window.ts';
import type { Context } from '../../kinds/step.ts';
import type { TextColumn } from '../../table/column.ts';
import { SpanBuilder } from '../../table/span-builder.ts';
import { grouped } from '../../values/counted.ts';
import { encodeText, type Stretch } from '../encoding.ts';
import { MAX_COLUMNS, ReadFailure, tooBlank } from '../read-failure.ts';
import { BLOCK_COMMENT, BLOCK_END } from './dialect.ts';
import { DelimitedKernel } from './kernel.ts';

export interface DelimitedForm {
  /** Text of one or more characters. */
  delimiter: string;
  /** Runs of the delimiter count as one, also at the ends of a line. */
  runs: boolean;
  quote: string | null;
  /** A cell that begins with the first of these goes on to the second, blanks and delimiters and all. */
  brackets: string | null;
  /** Lines that begin with this, past spaces, are comments. */
  comment: string | null;
  /** The last comment above the first row that has as many cells as it is a row, without its sign. */
  commentedHeader: boolean;
}

export interface Tokenized {
  columns: TextColumn[];
  rows: number;
  /** Line of the source of each row, from 0. */
  lines: Int32Array;
  /** Rows with another number of cells than the first. */
  ragged: number[];
  /** Rows that are comments, whole in the first column, ascending. */
  comments: number[];
  /** Row of a quote that is never closed, or -1. */
  unclosed: number;
}

const LF = 10;
const CR = 13;

/** So many blanks of a column are made without asking whether there is room. */
const FEW_BLANKS = 1000;
/** Delimiters that numbers are written with as well: where one of them divides, no number is read on the way. */
const OF_NUMBERS = /[\d.-]/;

/** Columns that get room for all rows at once. */
const ROOMY_COLUMNS = 256;
/** Rows after which columns know whether they are numbers. */
const ROWS_BEFORE_KERNEL = 128;

/**
 * @param file for what is said of it
 * @param encoding of the bytes, one that keeps ASCII as it is; or what tells it once all are read, where the signs of the
 *   form are ASCII
 * @param kernelFrom bytes from which plain rows are read by the kernel: the same cells, sooner
 * @throws ReadFailure when a line has too many cells, or if most of the table would be blank
 */
export function tokenizeDelimited(
  file: string,
  bytes: Uint8Array,
  encoding: string | ((ascii: Stretch) => string),
  form: DelimitedForm,
  context: Pick<Context, 'progress'>,
  kernelFrom = KERNEL_BYTES,
): Tokenized {
  const known = typeof encoding === 'string' ? encoding : 'utf-8';
  const tell = typeof encoding === 'string' ? () => encoding : encoding;
  return new Tokenizer(file, bytes, known, form, context).all(kernelFrom, tell);
}

class Tokenizer {
  private readonly columns: SpanBuilder[] = [];
  private lines = new Int32Array(1024);
  private readonly ragged: number[] = [];
  private readonly delimiter: Uint8Array;
  private readonly comment: Uint8Array;
  private readonly blockEnd: Uint8Array;
  private readonly quote: number;
  private readonly opening: number;
  private readonly closing: number;
  private readonly stops = new Uint8Array(256);
  private readonly expected: number;
  /** Cells that stand nowhere as they read: those with doubled quotes. */
  private extra = new Uint8Array(256);
  private extraSize = 0;
  private rows = 0;
  private line = 0;
  private width = -1;
  private cell = 0;
  private readonly comments: number[] = [];
  /** Comments above the first row: where each begins and the line it stands on. */
  private above: { from: number; line: number }[] = [];
  private begun = false;
  private inBlock = false;
  private unclosed = -1;
  private at = 0;
  /** Cells of all rows so far. */
  private cells = 0;
  /** The row with the most cells. */
  private widest = { cells: 0, line: 0 };

  constructor(
    private readonly file: string,
    private readonly bytes: Uint8Array,
    private readonly encoding: string,
    private readonly form: DelimitedForm,
    private readonly context: Pick<Context, 'progress'>,
  ) {
    this.delimiter = encodeText(form.delimiter, encoding);
    this.comment = encodeText(form.comment ?? '', encoding);
    this.blockEnd = encodeText(BLOCK_END, encoding);
    this.quote = form.quote === null || form.quote === '' ? -1 : encodeText(form.quote, encoding)[0]!;
    this.opening = form.brackets?.charCodeAt(0) ?? -1;
    this.closing = form.brackets?.charCodeAt(1) ?? -1;
    for (const stop of [LF, CR, this.delimiter[0]!]) this.stops[stop] = 1;
    this.expected = expectedLines(bytes);
  }

  all(kernelFrom: number, tell: (ascii: Stretch) => string): Tokenized {
    const { bytes } = this;
    const ascii = this.allRows(kernelFrom);
    this.begin();
    this.refuseBlank();
    const extra = this.extra.slice(0, this.extraSize);
    const encoding = tell(ascii);
    return {
      columns: this.columns.map((column) => {
        column.padTo(this.rows);
        return column.finish(bytes, extra, encoding);
      }),
      rows: this.rows,
      lines: this.lines.slice(0, this.rows),
      ragged: this.ragged,
      comments: this.comments,
      unclosed: this.unclosed,
    };
  }

  /** @returns bytes that were seen to be ASCII */
  private allRows(kernelFrom: number): Stretch {
    const { bytes } = this;
    let kernel: DelimitedKernel | undefined;
    while (this.at < bytes.length) {
      if (this.rows === ROWS_BEFORE_KERNEL && bytes.length >= kernelFrom) kernel ??= this.kernel();
      if (kernel !== undefined && !this.inBlock && this.rowsByKernel(kernel)) continue;
      const at = this.comment.length > 0 ? this.commentAt(this.at) : -1;
      if (at >= 0) this.commentLine();
      else {
        if (!this.begun) this.begin();
        this.row();
      }
    }
    return kernel?.ascii ?? { from: 0, to: 0 };
  }

  /** The kernel for this dialect, or undefined where it knows no such thing. */
  private kernel(): DelimitedKernel | undefined {
    const { delimiter, comment, quote, form, width } = this;
    if (delimiter.length !== 1 || form.runs || form.brackets !== null || delimiter[0] === quote || width < 1)
      return undefined;
    const sign = comment.length === 0 ? -1 : comment[0]!;
    // A tab in front of a line may be a blank or the sign itself, and where nothing signs, every line is none.
    if (sign === 9) return undefined;
    return DelimitedKernel.over(this.bytes, { delimiter: delimiter[0]!, quote, comment: sign }, width);
  }

  /** @returns whether there were any */
  private rowsByKernel(kernel: DelimitedKernel): boolean {
    const { columns, width } = this;
    const read = kernel.read(this.at, this.line, (c) => columns[c]!.readsNumbers);
    if (read === undefined) return false;
    for (this.cell = 0; this.cell < width; this.cell++) this.column();
    this.cell = 0;
    for (let c = 0; c < width; c++) columns[c]!.append(kernel.column(c, read.rows));
    this.roomForLines(this.rows + read.rows);
    this.lines.set(read.lines.subarray(0, read.rows), this.rows);
    this.rows += read.rows;
    this.cells += read.rows * width;
    this.at = read.at;
    this.line = read.line;
    this.context.progress(this.at / this.bytes.length);
    return true;
  }

  private roomForLines(rows: number): void {
    if (rows <= this.lines.length) return;
    const lines = new Int32Array(Math.max(rows, this.lines.length * 2));
    lines.set(this.lines);
    this.lines = lines;
  }

  private matches(what: Uint8Array, at: number): boolean {
    for (let k = 0; k < what.length; k++) if (this.bytes[at + k] !== what[k]) return false;
    return true;
  }

  /** Where the comment sign of a line stands, or -1 for a line that is no comment. */
  private commentAt(from: number): number {
    if (this.inBlock) return from;
    let at = from;
    while (this.bytes[at] === 32 || (this.bytes[at] === 9 && this.delimiter[0] !== 9)) at++;
    return this.matches(this.comment, at) ? at : -1;
  }

  private commentLine(): void {
    if (this.form.comment === BLOCK_COMMENT) this.followBlock();
    if (this.begun) this.pushComment();
    else {
      this.above.push({ from: this.at, line: this.line });
      this.at = this.lineEnd(this.at);
      this.endLine();
    }
  }

  /** A block comment goes on to the line that ends it; one that nothing ends is its own line. */
  private followBlock(): void {
    const { bytes, blockEnd } = this;
    const endsBefore = (limit: number) => {
      for (let at = this.at; at < limit; at++) if (this.matches(blockEnd, at)) return true;
      return false;
    };
    if (endsBefore(this.lineEnd(this.at))) this.inBlock = false;
    else this.inBlock ||= endsBefore(bytes.length);
  }

  private lineEnd(from: number): number {
    let at = from;
    while (at < this.bytes.length && this.bytes[at] !== LF && this.bytes[at] !== CR) at++;
    return at;
  }

  private pushComment(): void {
    const end = this.lineEnd(this.at);
    this.comments.push(this.rows);
    this.column().push(this.at, end);
    this.at = end;
    const line = this.line;
    this.endLine();
    this.endRow(line, true);
  }

  /** The comments above the first row become rows, one of them perhaps the header. */
  private begin(): void {
    if (this.begun) return;
    this.begun = true;
    const [at, line] = [this.at, this.line];
    const header = this.headerAbove(at);
    for (const comment of this.above) {
      this.at = comment.from;
      this.line = comment.line;
      if (comment !== header) {
        this.pushComment();
        continue;
      }
      this.at = this.behindSign(comment.from);
      this.row();
    }
    [this.at, this.line] = [at, line];
  }

  private behindSign(from: number): number {
    let at = this.commentAt(from) + this.comment.length;
    while (this.bytes[at] === 32) at++;
    return at;
  }

  private headerAbove(first: number): { from: number; line: number } | undefined {
    if (!this.form.commentedHeader) return undefined;
    const cells = (from: number) =>
      new Tokenizer(
        this.file,
        this.bytes.subarray(from, this.lineEnd(from)),
        this.encoding,
        { ...this.form, comment: null },
        this.context,
      ).firstWidth();
    const wanted = cells(first);
    return this.above.findLast((comment) => cells(this.behindSign(comment.from)) === wanted);
  }

  /** Cells of the first row. */
  private firstWidth(): number {
    if (this.bytes.length === 0) return 0;
    this.row();
    return this.width;
  }

  /** Steps over CR, LF or CR LF. */
  private endLine(): void {
    if (this.bytes[this.at] === CR && this.bytes[this.at + 1] === LF) this.at += 2;
    else this.at++;
    this.line++;
  }

  private row(): void {
    const { bytes, delimiter, stops, columns, rows } = this;
    const n = bytes.length;
    const single = delimiter.length === 1;
    const started = this.line;
    if (this.form.runs) this.overRuns();
    for (;;) {
      const first = bytes[this.at];
      let plain = true;
      if (first === this.quote) {
        this.quoted();
        plain = false;
      } else if (first === this.opening) {
        plain = !this.bracketed();
      }
      if (plain) {
        const from = this.at;
        const known = columns[this.cell];
        const column = known?.length === rows ? known : this.column();
        if (single && column.readsNumbers) this.at = column.pushFrom(from, stops);
        else {
          let at = from;
          if (single) while (at < n && stops[bytes[at]!] === 0) at++;
          else
            for (; at < n; at++) {
              if (stops[bytes[at]!] === 0) continue;
              if (bytes[at] === LF || bytes[at] === CR || this.matches(delimiter, at)) break;
            }
          this.at = at;
          column.push(from, at);
        }
      }
      this.cell++;
      if (this.at >= n) break;
      if (bytes[this.at] === LF || bytes[this.at] === CR) {
        this.endLine();
        break;
      }
      this.at += delimiter.length;
      if (this.form.runs) {
        this.overRuns();
        if (this.at >= n || bytes[this.at] === LF || bytes[this.at] === CR) {
          if (this.at < n) this.endLine();
          break;
        }
      } else if (this.at >= n) {
        this.column().push(0, 0);
        this.cell++;
        break;
      }
    }
    this.endRow(started);
  }

  private overRuns(): void {
    while (this.at < this.bytes.length && this.matches(this.delimiter, this.at)) this.at += this.delimiter.length;
  }

  /** The column of the cell in hand, blank in all rows before. */
  private column(): SpanBuilder {
    let column = this.columns[this.cell];
    if (column === undefined) {
      if (this.cell >= MAX_COLUMNS) this.refuseWidth();
      column = new SpanBuilder(
        this.rows === 0 && this.cell < ROOMY_COLUMNS ? this.expected : 64,
        OF_NUMBERS.test(this.form.delimiter) ? undefined : this.bytes,
      );
      this.columns.push(column);
      this.refuseBlank();
    }
    if (column.length < this.rows) {
      if (this.rows - column.length > FEW_BLANKS) this.refuseBlank();
      column.padTo(this.rows);
    }
    return column;
  }

  private refuseWidth(): never {
    throw new ReadFailure(
      this.file,
      `Line ${count(this.line + 1)} of ${this.file} has more than ${count(MAX_COLUMNS)} cells, by the delimiter '${this.form.delimiter}'; more columns cannot be read. Check the delimiter.`,
    );
  }

  /** One line of very many cells makes a table of blanks, for which there is no room. */
  private refuseBlank(): void {
    const blank = tooBlank(this.rows, this.columns.length, this.cells + this.cell);
    if (blank === undefined) return;
    const widest = this.cell > this.widest.cells ? { cells: this.cell, line: this.line } : this.widest;
    throw new ReadFailure(
      this.file,
      `Line ${count(widest.line + 1)} of ${this.file} has ${count(widest.cells)} cells or more, by the delimiter '${this.form.delimiter}', where others have few: so wide a table would hold ${count(blank)} blank cells, for which there is no room. Check the delimiter, or correct the line.`,
    );
  }

  private endRow(line: number, comment = false): void {
    if (comment) this.cell = 1;
    else if (this.width < 0) this.width = this.cell;
    else if (this.cell !== this.width) this.ragged.push(this.rows);
    this.roomForLines(this.rows + 1);
    this.lines[this.rows++] = line;
    this.cells += this.cell;
    if (this.cell > this.widest.cells) this.widest = { cells: this.cell, line };
    this.cell = 0;
    if ((this.rows & 0x3fff) === 0) this.context.progress(this.at / this.bytes.length);
  }

  /** A quoted cell: a doubled quote is one, and what follows the closing quote still belongs to the cell. */
  private quoted(): void {
    const { bytes, quote, delimiter } = this;
    const n = bytes.length;
    let at = this.at + 1;
    const start = this.extraSize;
    let size = start;
    const from = at;
    let plainTo = -1;
    for (; ; at++) {
      if (at >= n) {
        this.unclosed = this.rows;
        break;
      }
      const byte = bytes[at]!;
      if (byte === quote) {
        if (bytes[at + 1] !== quote) break;
        if (plainTo < 0) size = this.copy(from, at, start);
        plainTo = at;
        at++;
      }
      if (byte === LF || (byte === CR && bytes[at + 1] !== LF)) this.line++;
      if (plainTo >= 0) size = this.put(byte, size);
    }
    const end = Math.min(at, n);
    at = end + 1;
    const behind = at;
    while (at < n && bytes[at] !== LF && bytes[at] !== CR && !this.matches(delimiter, at)) at++;
    this.at = Math.min(at, n);
    if (plainTo < 0 && behind >= this.at) {
      this.column().push(from, end);
      return;
    }
    if (plainTo < 0) size = this.copy(from, end, start);
    size = this.copy(behind, this.at, size);
    this.extraSize = size;
    this.column().push(n + start, n + size);
  }

  private put(byte: number, size: number): number {
    if (size === this.extra.length) {
      const extra = new Uint8Array(size * 2);
      extra.set(this.extra);
      this.extra = extra;
    }
    this.extra[size] = byte;
    return size + 1;
  }

  private copy(from: number, to: number, size: number): number {
    let at = size;
    for (let k = from; k < to; k++) at = this.put(this.bytes[k]!, at);
    return at;
  }

  /** A cell in brackets, up to the closing one on the same line; false when there is none. */
  private bracketed(): boolean {
    const { bytes, delimiter } = this;
    let at = this.at + 1;
    while (at < bytes.length && bytes[at] !== this.closing && bytes[at] !== LF && bytes[at] !== CR) at++;
    if (bytes[at] !== this.closing) return false;
    const next = at + 1;
    const ends = next >= bytes.length || bytes[next] === LF || bytes[next] === CR || this.matches(delimiter, next);
    if (!ends) return false;
    this.column().push(this.at + 1, at);
    this.at = next;
    return true;
  }
}

function count(of: number): string {
  return grouped(of);
}

/** Lines that bytes will have if they go on as they begin. */
export function expectedLines(bytes: Uint8Array): number {
  const sample = bytes.subarray(0, 65_536);
  let lines = 1;
  for (const byte of sample) if (byte === LF || byte === CR) lines++;
  return Math.ceil((lines * bytes.length * 1.02) / Math.max(1, sample.length)) + 16;
}
