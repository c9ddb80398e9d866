import { KERNEL_BYTES } from '../../kernels/window.ts';
import type { Notice } from '../../kinds/step.ts';
import { Tag } from '../../table/column.ts';
import { decodeRun } from '../../table/spans.ts';
import { isObject, type Json } from '../../values/json.ts';
import {
  ascii,
  BACKSLASH,
  CLOSE,
  CLOSE_LIST,
  COLON,
  COMMA,
  LINE,
  MINUS,
  NINE,
  OPEN,
  OPEN_LIST,
  PLUS,
  POINT,
  QUOTE,
  RETURN,
  SPACE,
  TAB,
  ZERO,
} from '../ascii.ts';
import { brokenNotices, declaredInXml, decodeOpen, type Stretch, settled } from '../encoding.ts';
import {
  badLine,
  badNotices,
  countedKeys,
  firstRepeated,
  isExact,
  keysOf,
  repeatedNotices,
  tryParse,
  withExactNumbers,
} from '../json-source.ts';
import { KeptNumbers } from '../kept-numbers.ts';
import { listCell, MAX_LEVELS, type NestedRows, put, RowWalk, type Slot } from '../nested-rows.ts';
import { NotPlain } from '../not-plain.ts';
import { ReadFailure } from '../read-failure.ts';
import type { Source } from '../read-kind.ts';
import { LinesKernel, type LineValue } from './lines-kernel.ts';
import { ExtraTexts, SpanCells } from './span-cells.ts';

/** More digits are read by the platform, and looked at for whether none is lost. */
const PLAIN_DIGITS = 15;
const LINES_TOLD = 8192;

/** A field of an object, as lines before had it. */
interface Field {
  /** Its name in quotes. */
  key: Uint8Array;
  slot: Slot;
  inside: ObjectPlan | undefined;
  /** Which field mostly comes next. */
  next: number;
  /** The last row that had it: what stands twice in one object is not plain. */
  row: number;
}

interface ObjectPlan {
  fields: Field[];
  known: Map<string, Field>;
}

/**
 * The rows of newline-delimited JSON, from bytes into columns: fields that lines before had are put where they belong
 * without an object or a text for a line. What is not plain is parsed by the platform: a value, or a whole line.
 *
 * @param names of the lists on the way; the first is that of the lines themselves
 * @param kernelFrom bytes from which lines are read by the kernel: the same cells, sooner
 * @returns undefined where the source is another text, or its rows are not those of its lines
 * @throws ReadFailure as the plain way does
 */
export function rowsOfLines(
  source: Source,
  names: readonly string[],
  joinWith: string,
  badLines: 'stop' | 'skip',
  progress: (done: number) => void,
  kernelFrom = KERNEL_BYTES,
): { found: NestedRows; notices: Notice[] } | undefined {
  if (names[0] !== '') return undefined;
  const encoded = decodeOpen(source.bytes, declaredInXml(source.bytes), source.name);
  if (encoded.now !== 'utf-8' || encoded.lost === true || !areLines(encoded.bytes)) return undefined;
  const lines = new Lines(source, encoded.bytes, names, joinWith, badLines);
  const isUtf8 = () => !encoded.isOpen || settled(encoded, lines.ascii).now === 'utf-8';
  try {
    lines.read(progress, kernelFrom);
    const found = lines.walk.end();
    return isUtf8() ? { found, notices: [...brokenNotices(encoded), ...lines.notices()] } : undefined;
  } catch (error) {
    if (error instanceof NotPlain) return undefined;
    // What is wrong in another encoding is reported by its reader.
    if (error instanceof ReadFailure && !isUtf8()) return undefined;
    throw error;
  }
}

/** Whether the first line that holds anything is an object, and others follow. */
function areLines(bytes: Uint8Array): boolean {
  let from = 0;
  while (from < bytes.length && (isBlank(bytes[from]!) || bytes[from] === LINE)) from++;
  if (bytes[from] !== OPEN) return false;
  const end = bytes.indexOf(LINE, from);
  if (end < 0) return false;
  let next = end;
  while (next < bytes.length && (isBlank(bytes[next]!) || bytes[next] === LINE)) next++;
  return next < bytes.length && tryParse(decodeRun(bytes, from, end, 'utf-8')).value !== undefined;
}

/** Lines enough to see what stands in them. */
const SEEN_BYTES = 8_388_608;

/** The first lines of newline-delimited JSON that is large; another source as it is. */
export function firstLines(source: Source): Source {
  const { bytes, name } = source;
  if (bytes.length <= SEEN_BYTES || !areLines(bytes)) return source;
  const end = bytes.lastIndexOf(LINE, SEEN_BYTES);
  return end < 0 ? source : { name, bytes: bytes.subarray(0, end + 1) };
}

function isBlank(byte: number): boolean {
  return byte === SPACE || byte === RETURN || byte === TAB;
}

class Lines {
  readonly walk: RowWalk;
  private readonly plan: ObjectPlan = { fields: [], known: new Map() };
  private readonly extra: ExtraTexts;
  private readonly bad: number[] = [];
  private line = 0;
  private row = 0;
  /** Bytes that are read. */
  private reached = 0;
  /** Numbers that were kept as text, and values lost to others of their name. */
  private readonly kept = new KeptNumbers();
  private repeated = 0;
  private first: { name?: string | undefined; line?: number | undefined } = {};
  // What the line in hand adds when it is read to its end.
  private cells = 0;
  private keptNow = new KeptNumbers();
  private besidesNow: string[] = [];
  private kernel: LinesKernel | undefined;
  /** The values of the line in hand, where its shape is to be learnt. */
  private values: LineValue[] | undefined;

  constructor(
    private readonly source: Source,
    private readonly bytes: Uint8Array,
    private readonly names: readonly string[],
    private readonly joinWith: string,
    private readonly badLines: 'stop' | 'skip',
  ) {
    this.extra = new ExtraTexts(bytes.length);
    this.walk = new RowWalk(source, names, joinWith, () => new SpanCells(bytes, this.extra, () => this.expected()));
  }

  read(progress: (done: number) => void, kernelFrom: number): void {
    const { bytes } = this;
    const end = bytes.length;
    const isPlain = this.names.length === 1;
    const kernel = isPlain && end >= kernelFrom ? new LinesKernel(bytes) : undefined;
    this.kernel = kernel;
    for (let at = 0; at < end; ) {
      this.reached = at;
      const behindKernel = kernel === undefined ? -1 : this.linesByKernel(kernel, at);
      if (behindKernel >= 0) {
        at = behindKernel;
        progress((0.8 * at) / end);
        continue;
      }
      this.line++;
      if (this.line % LINES_TOLD === 0) progress((0.8 * at) / end);
      const from = this.skip(at);
      if (from >= end) break;
      if (bytes[from] === LINE) {
        at = from + 1;
        continue;
      }
      this.values = kernel?.learns ? [] : undefined;
      const behind = isPlain && bytes[from] === OPEN ? this.plainLine(from) : -1;
      if (behind >= 0) {
        if (this.values !== undefined) kernel!.learn(at, behind, this.values);
        at = behind;
        continue;
      }
      const next = bytes.indexOf(LINE, from);
      const to = next < 0 ? end : next;
      this.parsedLine(at, to);
      at = to + 1;
    }
  }

  /** Bytes that were seen to be ASCII. */
  get ascii(): Stretch | undefined {
    return this.kernel?.ascii;
  }

  /** Rows that there will be if lines go on as they are. */
  private expected(): number {
    const { rows } = this.walk.found;
    return rows < LINES_TOLD ? 0 : Math.ceil((1.02 * rows * this.bytes.length) / Math.max(1, this.reached));
  }

  /** @returns what follows the lines that the kernel read; -1 where it read none */
  private linesByKernel(kernel: LinesKernel, at: number): number {
    const read = kernel.read(at);
    if (read === undefined) return -1;
    const { found } = this.walk;
    for (let k = 0; k < read.columns; k++) {
      const cells = read.cells(k);
      if (cells !== undefined) (found.columns[k]!.builder as SpanCells).found(found.rows, cells);
    }
    this.walk.rowsPut(read.rows, read.values);
    this.line += read.rows;
    return read.at;
  }

  notices(): Notice[] {
    const repeated = this.repeated === 0 ? [] : repeatedNotices(this.repeated, this.first);
    return [...this.kept.notices(), ...badNotices(this.bad), ...repeated];
  }

  private skip(from: number): number {
    const { bytes } = this;
    let at = from;
    while (at < bytes.length && isBlank(bytes[at]!)) at++;
    return at;
  }

  /** Reads a line of fields that are known. @returns what follows it; -1 where it is not plain */
  private plainLine(from: number): number {
    const { bytes } = this;
    this.row = this.walk.found.rows;
    this.cells = 0;
    if (this.keptNow.count > 0) this.keptNow = new KeptNumbers();
    let at = this.object(this.plan, from + 1);
    if (at < 0) return -1;
    at = this.skip(at);
    if (at < bytes.length && bytes[at] !== LINE) return -1;
    this.kept.addAll(this.keptNow);
    for (const name of this.besidesNow) this.walk.found.besides.add(name);
    this.besidesNow = [];
    this.walk.rowsPut(1, this.cells);
    return at + 1;
  }

  /** Parses a line by the platform, and learns its fields. */
  private parsedLine(from: number, to: number): void {
    const text = decodeRun(this.bytes, from, to, 'utf-8');
    this.besidesNow = [];
    if (text.trim() === '') return;
    const keys = countedOrNot(text, this.source.name);
    const { text: exact, kept } = withExactNumbers(text);
    this.kept.addAll(kept);
    const { value, trouble } = tryParse(exact);
    const { found } = this.walk;
    // What was put of it before it was seen not to be plain.
    for (const { builder } of found.columns) (builder as SpanCells).clear(found.rows);
    if (value === undefined) {
      if (this.badLines === 'stop') throw badLine(this.source.name, this.line, trouble);
      this.bad.push(this.line);
      return;
    }
    const repeated = keys - keysOf(value);
    if (repeated > 0) {
      if (this.repeated === 0) this.first = { name: firstRepeated(text).name, line: this.line };
      this.repeated += repeated;
    }
    this.walk.item(value);
    if (this.names.length === 1 && isObject(value)) learn(this.plan, value, this.walk.slots, 0);
  }

  /** Reads the fields of an object from behind its bracket. @returns what follows it; -1 where it is not plain */
  private object(plan: ObjectPlan, from: number): number {
    const { bytes } = this;
    let at = this.skip(from);
    if (bytes[at] === CLOSE) return at + 1;
    let guess = 0;
    for (;;) {
      if (bytes[at] !== QUOTE) return -1;
      const index = this.fieldAt(plan, at, guess);
      if (index < 0) return -1;
      const field = plan.fields[index]!;
      if (field.row === this.row) return -1;
      field.row = this.row;
      at = this.skip(at + field.key.length);
      if (bytes[at] !== COLON) return -1;
      const from = this.skip(at + 1);
      at = this.value(field, from);
      if (at < 0) return -1;
      if (this.values !== undefined && bytes[from] !== OPEN)
        this.values.push({ from, to: at, column: this.walk.found.columns.indexOf(field.slot.column!) });
      at = this.skip(at);
      const byte = bytes[at];
      if (byte === CLOSE) return at + 1;
      if (byte !== COMMA) return -1;
      at = this.skip(at + 1);
      guess = field.next;
      // The next line that comes here looks first for what comes next here.
      if (bytes[at] === QUOTE && !this.isKey(plan.fields[guess], at)) {
        const found = this.fieldAt(plan, at, 0);
        if (found < 0) return -1;
        field.next = found;
        guess = found;
      }
    }
  }

  private fieldAt(plan: ObjectPlan, at: number, guess: number): number {
    if (this.isKey(plan.fields[guess], at)) return guess;
    for (let k = 0; k < plan.fields.length; k++) if (this.isKey(plan.fields[k], at)) return k;
    return -1;
  }

  private isKey(field: Field | undefined, at: number): boolean {
    if (field === undefined) return false;
    const { bytes } = this;
    const { key } = field;
    for (let k = 0; k < key.length; k++) if (bytes[at + k] !== key[k]) return false;
    return true;
  }

  /** Puts the value of a field. @returns what follows it; -1 where it is not plain */
  private value(field: Field, from: number): number {
    const { bytes, row } = this;
    const first = bytes[from]!;
    if (first === OPEN) return field.inside === undefined ? -1 : this.object(field.inside, from + 1);
    const builder = field.slot.column?.builder as SpanCells | undefined;
    if (builder === undefined) return -1;
    this.cells++;
    if (first === QUOTE) {
      let at = from + 1;
      for (let byte = bytes[at]!; byte !== QUOTE; byte = bytes[++at]!) {
        if (byte === BACKSLASH) return this.escaped(builder, from);
        // Also behind the last byte.
        if (!(byte >= SPACE)) return -1;
      }
      builder.span(row, from + 1, at - from - 1);
      return at + 1;
    }
    if (first === MINUS || (first >= ZERO && first <= NINE)) return this.number(builder, from);
    if (first === OPEN_LIST) return this.list(field, builder, from);
    if (this.reads(from, TRUE)) {
      builder.counted(row, Tag.yesno, 1);
      return from + 4;
    }
    if (this.reads(from, FALSE)) {
      builder.counted(row, Tag.yesno, 0);
      return from + 5;
    }
    return this.reads(from, NULL) ? from + 4 : -1;
  }

  private reads(at: number, word: Uint8Array): boolean {
    for (let k = 0; k < word.length; k++) if (this.bytes[at + k] !== word[k]) return false;
    return true;
  }

  /** RFC 8259, 6. */
  private number(builder: SpanCells, from: number): number {
    const { bytes } = this;
    let at = bytes[from] === MINUS ? from + 1 : from;
    let whole = 0;
    let digits = 0;
    let scale = 1;
    const lead = at;
    for (let byte = bytes[at]!; byte >= ZERO && byte <= NINE; byte = bytes[++at]!) {
      whole = whole * 10 + byte - ZERO;
      digits++;
    }
    if (digits === 0 || (digits > 1 && bytes[lead] === ZERO)) return -1;
    if (bytes[at] === POINT) {
      const point = at++;
      for (let byte = bytes[at]!; byte >= ZERO && byte <= NINE; byte = bytes[++at]!) {
        whole = whole * 10 + byte - ZERO;
        scale *= 10;
        digits++;
      }
      if (at === point + 1) return -1;
    }
    const next = bytes[at]!;
    if (next === 101 || next === 69 || digits > PLAIN_DIGITS) return this.longNumber(builder, from);
    // Both are exact below 2^53 and 10^22, so one division rounds correctly.
    const value = scale > 1 ? whole / scale : whole;
    builder.counted(this.row, Tag.number, bytes[from] === MINUS ? -value : value);
    return at;
  }

  private longNumber(builder: SpanCells, from: number): number {
    const { bytes } = this;
    let to = from;
    for (let byte = bytes[to]!; isOfNumber(byte); byte = bytes[++to]!);
    const text = decodeRun(bytes, from, to, 'utf-8');
    if (!/^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][-+]?\d+)?$/.test(text)) return -1;
    if (isExact(text)) builder.counted(this.row, Tag.number, Number(text));
    else {
      builder.span(this.row, from, to - from);
      this.keptNow.add(text);
    }
    return to;
  }

  private escaped(builder: SpanCells, from: number): number {
    const to = this.behindText(from);
    if (to < 0) return -1;
    const { value } = tryParse(decodeRun(this.bytes, from, to, 'utf-8'));
    if (typeof value !== 'string') return -1;
    builder.text(this.row, value);
    return to;
  }

  /** Behind the quote that ends a text in the same line; -1 where none does. */
  private behindText(from: number): number {
    const { bytes } = this;
    for (let at = from + 1; at < bytes.length; at++) {
      const byte = bytes[at]!;
      if (byte === QUOTE) return at + 1;
      if (byte === BACKSLASH) at++;
      else if (byte === LINE) return -1;
    }
    return -1;
  }

  /** A list is one cell: its plain values joined, or as it stands. */
  private list(field: Field, builder: SpanCells, from: number): number {
    const { bytes } = this;
    let depth = 0;
    let to = from;
    for (; to < bytes.length; to++) {
      const byte = bytes[to]!;
      if (byte === QUOTE) {
        to = this.behindText(to) - 1;
        if (to < 0) return -1;
      } else if (byte === OPEN_LIST) depth++;
      else if (byte === CLOSE_LIST && --depth === 0) break;
      else if (byte === LINE) return -1;
    }
    const text = decodeRun(bytes, from, to + 1, 'utf-8');
    const keys = countedOrNot(text, this.source.name);
    const { text: exact, kept } = withExactNumbers(text);
    const { value } = tryParse(exact);
    if (!Array.isArray(value) || keysOf(value) !== keys) return -1;
    this.keptNow.addAll(kept);
    const besides = new Set<string>();
    const cell = listCell(value, field.slot.name, this.joinWith, besides);
    this.besidesNow.push(...besides);
    put(builder, this.row, cell);
    return to + 1;
  }
}

const TRUE = ascii('true');
const FALSE = ascii('false');
const NULL = ascii('null');

function isOfNumber(byte: number): boolean {
  const isDigit = byte >= ZERO && byte <= NINE;
  return isDigit || byte === POINT || byte === MINUS || byte === PLUS || byte === 101 || byte === 69;
}

/** @throws NotPlain where it is too deep, which the plain way tells with its place */
function countedOrNot(text: string, file: string): number {
  try {
    return countedKeys(text, file);
  } catch (error) {
    if (error instanceof ReadFailure) throw new NotPlain();
    throw error;
  }
}

/** Adds the fields of an object that are not known yet. */
function learn(
  plan: ObjectPlan,
  value: { [key: string]: Json },
  slots: ReadonlyMap<string, Slot>,
  depth: number,
): void {
  for (const key in value) {
    const slot = slots.get(key);
    if (slot === undefined) continue;
    let field = plan.known.get(key);
    if (field === undefined) {
      const next = plan.fields.length + 1;
      field = { key: new TextEncoder().encode(JSON.stringify(key)), slot, inside: undefined, next, row: -1 };
      plan.known.set(key, field);
      plan.fields.push(field);
    }
    const one = value[key]!;
    if (!isObject(one) || depth >= MAX_LEVELS) continue;
    field.inside ??= { fields: [], known: new Map() };
    learn(field.inside, one, slot.inside, depth + 1);
  }
}
