import { KERNEL_BYTES } from '../../kernels/window.ts';
import { readDecimalBytes } from '../../values/number-text.ts';
import {
  APOSTROPHE,
  ascii,
  COLON,
  EQUALS,
  EXCLAMATION,
  GREATER,
  isSpace,
  LESS,
  QUESTION,
  QUOTE,
  SLASH,
  SPACE,
  standsAt,
} from '../ascii.ts';
import { NotPlain } from '../not-plain.ts';
import { CellsKernel, type KernelCells } from './cells-kernel.ts';

/** Takes the cells of a sheet one by one. Rows and columns count from 0; style is an index into the formats of cells. */
export interface CellSink {
  /** Rows that are not hidden may be left out. */
  row(row: number, hidden: boolean): void;
  number(row: number, column: number, style: number, value: number): void;
  /** A text by its place among the shared texts. */
  shared(row: number, column: number, style: number, index: number): void;
  /** A text that stands in its cell; rich: with the tags of a shared text around it. */
  text(row: number, column: number, style: number, from: number, to: number, rich: boolean): void;
  yesno(row: number, column: number, style: number, value: boolean): void;
  error(row: number, column: number, style: number, from: number, to: number): void;
  /** A cell without a value; formula: it has a formula all the same. */
  empty(row: number, column: number, style: number, formula: boolean): void;
  /** A whole number of more digits than a number keeps. */
  longNumber(row: number, column: number, style: number, from: number, to: number): void;
  /** Told after a number 0 that a formula stands beside: it may never have been calculated. */
  zeroFormula(row: number, column: number): void;
}

/** Where the rows of a sheet stand among its bytes. */
export interface SheetData {
  /** First byte of the tag that opens it, and first byte behind the tag that closes it. */
  start: number;
  end: number;
  /** Bytes between both. */
  from: number;
  to: number;
  /** Letters before the name of each tag, with the colon: 0 where there are none. */
  prefix: number;
}

const SHEET_DATA = ascii('sheetData');

/** Where the rows of a sheet stand; undefined where it has none. @throws NotPlain */
export function sheetData(bytes: Uint8Array): SheetData | undefined {
  if (!isUtf8(bytes)) throw new NotPlain();
  const open = tagAt(bytes, 0, bytes.length);
  if (open === undefined) return undefined;
  let from = open.at;
  while (from < bytes.length && bytes[from] !== GREATER) from++;
  if (bytes[from - 1] === SLASH) return undefined;
  // From behind: what stands after the rows is short, and the rows are long.
  for (let at = bytes.length - 1; at > from; at--) {
    if (bytes[at] !== LESS || bytes[at + 1] !== SLASH) continue;
    if (!standsAt(bytes, at + 2 + open.prefix, SHEET_DATA)) continue;
    let end = at;
    while (end < bytes.length && bytes[end] !== GREATER) end++;
    if (end === bytes.length) break;
    return { start: open.start, end: end + 1, from: from + 1, to: at, prefix: open.prefix };
  }
  throw new NotPlain();
}

/** Comments and sections of plain text before the rows may hold what looks like a tag: such sheets are not plain. */
function tagAt(bytes: Uint8Array, from: number, to: number): { start: number; at: number; prefix: number } | undefined {
  for (let at = from; at < to; at++) {
    if (bytes[at] !== LESS) continue;
    if (bytes[at + 1] === EXCLAMATION) throw new NotPlain();
    let prefix = 0;
    for (let k = at + 1; k < at + 20 && prefix === 0; k++) {
      const byte = bytes[k]!;
      if (byte === COLON) prefix = k - at;
      else if (byte === SPACE || byte === GREATER || byte === SLASH || byte === EQUALS) break;
    }
    if (standsAt(bytes, at + 1 + prefix, SHEET_DATA) && endsName(bytes[at + 1 + prefix + SHEET_DATA.length]!))
      return { start: at, at: at + 1 + prefix + SHEET_DATA.length, prefix };
  }
  return undefined;
}

/** Its first tag says no other encoding. */
function isUtf8(bytes: Uint8Array): boolean {
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff) || bytes[0] === 0)
    return false;
  let head = '';
  for (let at = 0; at < Math.min(200, bytes.length) && bytes[at] !== GREATER; at++)
    head += String.fromCharCode(bytes[at]!);
  const encoding = /encoding=["']([^"']*)["']/i.exec(head)?.[1];
  return encoding === undefined || /^(?:utf-?8|us-ascii)$/i.test(encoding);
}

/** Whether the name of a tag ends here. */
export function endsName(byte: number): boolean {
  return byte === GREATER || byte === SLASH || isSpace(byte);
}

/** What the attribute t of a cell says that it holds (ISO/IEC 29500-1, 18.18.11); the kernel's too. */
const Held = { number: 0, shared: 1, formulaText: 2, inlineText: 3, yesno: 4, error: 5 } as const;

const LETTER = { r: 114, s: 115, t: 116, c: 99, v: 118, f: 102, i: 105 };

/** How often the rows that are read are reported. */
const ROWS_TOLD = 4096;

/**
 * Goes through the rows of a sheet (ISO/IEC 29500-1, 18.3.1.80) from byte to byte, without a text or an object for a
 * cell, and tells the sink of each cell but empty ones without a formula.
 *
 * @param kernelFrom bytes from which a kernel reads what it knows
 * @param progress told of the part done, 0 to 1; may throw to end it
 * @throws NotPlain at anything that is not in the common form
 */
export function scanCells(
  bytes: Uint8Array,
  data: SheetData,
  sink: CellSink,
  progress?: (done: number) => void,
  kernelFrom = KERNEL_BYTES,
): void {
  const { from, to, prefix } = data;
  const kernel = prefix === 0 && to - from >= kernelFrom ? CellsKernel.of(bytes, to) : undefined;
  let at = from;
  let row = -1;
  let column = -1;
  let told = ROWS_TOLD;
  // What the attributes of the tag in hand said.
  let rowSaid = -1;
  let columnSaid = -1;
  let style = 0;
  let held: number = Held.number;
  let hidden = false;
  let closed = false;

  /** Reads the attributes of a tag up to behind its end. */
  const attributes = (ofRow: boolean): void => {
    rowSaid = -1;
    columnSaid = -1;
    style = -1;
    held = Held.number;
    hidden = false;
    closed = false;
    while (at < to) {
      const byte = bytes[at]!;
      if (byte === GREATER) {
        at++;
        return;
      }
      if (isSpace(byte)) {
        at++;
        continue;
      }
      if (byte === SLASH) {
        if (bytes[at + 1] !== GREATER) throw new NotPlain();
        closed = true;
        at += 2;
        return;
      }
      const name = at;
      while (at < to && bytes[at] !== EQUALS) at++;
      const letters = at - name;
      const quote = bytes[at + 1]!;
      if (quote !== QUOTE && quote !== APOSTROPHE) throw new NotPlain();
      at += 2;
      const value = at;
      while (at < to && bytes[at] !== quote) at++;
      const end = at++;
      if (letters === 1) {
        if (byte === LETTER.r) {
          let k = value;
          if (!ofRow) {
            columnSaid = 0;
            for (; k < end; k++) {
              const letter = bytes[k]! - 64;
              if (letter < 1 || letter > 26) break;
              columnSaid = columnSaid * 26 + letter;
            }
            if (k === value || k > value + 3) throw new NotPlain();
            columnSaid--;
          }
          rowSaid = wholeAt(bytes, k, end) - 1;
          if (rowSaid < 0) throw new NotPlain();
        } else if (byte === LETTER.s) style = wholeAt(bytes, value, end);
        else if (byte === LETTER.t && !ofRow) held = heldAt(bytes, value, end);
      } else if (ofRow && letters === 6 && standsAt(bytes, name, HIDDEN)) {
        const said = bytes[value]!;
        hidden = said === 49 || said === 116;
      }
    }
    throw new NotPlain();
  };

  /** To behind the end of the tag in hand. @returns whether it closes itself */
  const behindTag = (): boolean => {
    while (at < to && bytes[at] !== GREATER) at++;
    return bytes[at++ - 1] === SLASH;
  };

  /** Tells the sink of a value. @throws NotPlain */
  const put = (kind: number, valueFrom: number, valueTo: number): void => {
    if (kind === Held.number) {
      const value = readDecimalBytes(bytes, valueFrom, valueTo);
      if (value === undefined) throw new NotPlain();
      // Programs that write whole numbers beyond 2^53 mean each digit; spreadsheets themselves keep 15.
      if (value > Number.MAX_SAFE_INTEGER && isLongWhole(bytes, valueFrom, valueTo))
        sink.longNumber(row, column, style, valueFrom, valueTo);
      else sink.number(row, column, style, value);
    } else if (kind === Held.shared) {
      const index = wholeAt(bytes, valueFrom, valueTo);
      if (index < 0) throw new NotPlain();
      sink.shared(row, column, style, index);
    } else if (kind === Held.yesno) {
      const said = bytes[valueFrom]!;
      if (valueTo - valueFrom !== 1 || (said !== 48 && said !== 49)) throw new NotPlain();
      sink.yesno(row, column, style, said === 49);
    } else if (kind === Held.error) sink.error(row, column, style, valueFrom, valueTo);
    else sink.text(row, column, style, valueFrom, valueTo, kind === Held.inlineText);
  };

  /** Tells the sink of the cells that a kernel read. */
  const putAll = ({ count, rows, columns, styles, kinds, values, starts, lengths }: KernelCells): void => {
    for (let k = 0; k < count; k++) {
      row = rows[k]!;
      column = columns[k]!;
      style = styles[k]!;
      const kind = kinds[k]!;
      const value = values[k]!;
      if (kind === Held.shared) sink.shared(row, column, style, value);
      else if (kind === Held.number && !Number.isNaN(value)) sink.number(row, column, style, value);
      else put(kind, starts[k]!, starts[k]! + lengths[k]!);
    }
  };

  const cell = (): void => {
    attributes(false);
    if (columnSaid < 0) column++;
    else {
      column = columnSaid;
      row = rowSaid;
    }
    let valueFrom = -1;
    let valueTo = -1;
    let formula = false;
    while (!closed) {
      while (at < to && isSpace(bytes[at]!)) at++;
      if (bytes[at] !== LESS) throw new NotPlain();
      if (bytes[at + 1] === SLASH) {
        if (bytes[at + 2 + prefix] !== LETTER.c || bytes[at + 3 + prefix] !== GREATER) throw new NotPlain();
        at += 4 + prefix;
        break;
      }
      const name = bytes[at + 1 + prefix]!;
      if ((name === LETTER.v || name === LETTER.f) && endsName(bytes[at + 2 + prefix]!)) {
        if (behindTag()) {
          formula ||= name === LETTER.f;
          continue;
        }
        const begin = at;
        while (at < to && bytes[at] !== LESS) at++;
        if (bytes[at + 1] !== SLASH || bytes[at + 2 + prefix] !== name) throw new NotPlain();
        if (name === LETTER.f) formula = true;
        else if (held !== Held.inlineText) {
          valueFrom = begin;
          valueTo = at;
        }
        at += 4 + prefix;
        if (bytes[at - 1] !== GREATER) throw new NotPlain();
      } else if (name === LETTER.i && bytes[at + 2 + prefix] === LETTER.s && bytes[at + 3 + prefix] === GREATER) {
        at += 4 + prefix;
        const begin = at;
        while (at < to && !(bytes[at] === LESS && bytes[at + 1] === SLASH && standsAt(bytes, at + 2 + prefix, INSIDE)))
          at++;
        if (held === Held.inlineText) {
          valueFrom = begin;
          valueTo = at;
        }
        at += 5 + prefix;
      } else throw new NotPlain();
    }
    // A value behind nothing at all is none, whatever the cell says that it holds.
    if (valueFrom < 0 || valueTo === valueFrom) sink.empty(row, column, style, formula);
    else {
      put(held, valueFrom, valueTo);
      if (formula && held === Held.number && readDecimalBytes(bytes, valueFrom, valueTo) === 0)
        sink.zeroFormula(row, column);
    }
  };

  while (at < to) {
    const read = kernel?.read(at, row, column);
    if (read !== undefined) {
      putAll(read);
      ({ at, row, column } = read);
      progress?.((at - from) / (to - from));
      continue;
    }
    while (at < to && isSpace(bytes[at]!)) at++;
    if (at >= to) break;
    if (bytes[at] !== LESS) throw new NotPlain();
    const next = bytes[at + 1]!;
    if (next === EXCLAMATION || next === QUESTION) throw new NotPlain();
    if (next === SLASH) {
      if (!standsAt(bytes, at + 2 + prefix, ROW) || bytes[at + 5 + prefix] !== GREATER) throw new NotPlain();
      at += 6 + prefix;
    } else if (bytes[at + 1 + prefix] === LETTER.c && endsName(bytes[at + 2 + prefix]!)) {
      at += 2 + prefix;
      cell();
    } else if (standsAt(bytes, at + 1 + prefix, ROW) && endsName(bytes[at + 4 + prefix]!)) {
      at += 4 + prefix;
      attributes(true);
      row = rowSaid < 0 ? row + 1 : rowSaid;
      column = -1;
      sink.row(row, hidden);
      if (--told === 0) {
        told = ROWS_TOLD;
        progress?.((at - from) / (to - from));
      }
    } else throw new NotPlain();
  }
}

/** Digits alone, whose value a number does not give back. */
function isLongWhole(bytes: Uint8Array, from: number, to: number): boolean {
  let text = '';
  for (let k = from; k < to; k++) text += String.fromCharCode(bytes[k]!);
  return /^\d+$/.test(text) && String(Number(text)) !== text;
}

const ROW = ascii('row');
const HIDDEN = ascii('hidden');
const INSIDE = ascii('is>');

/** A whole number without a sign; -1 where none stands there. */
function wholeAt(bytes: Uint8Array, from: number, to: number): number {
  if (to <= from || to - from > 9) return -1;
  let value = 0;
  for (let k = from; k < to; k++) {
    const digit = bytes[k]! - 48;
    if (digit < 0 || digit > 9) return -1;
    value = value * 10 + digit;
  }
  return value;
}

/** @throws NotPlain at days written out, which the library reads */
function heldAt(bytes: Uint8Array, from: number, to: number): number {
  const first = bytes[from]!;
  if (to - from === 1) {
    if (first === LETTER.s) return Held.shared;
    if (first === 110) return Held.number;
    if (first === 98) return Held.yesno;
    if (first === 101) return Held.error;
  } else if (to - from === 3 && first === LETTER.s) return Held.formulaText;
  else if (to - from === 9 && first === LETTER.i) return Held.inlineText;
  throw new NotPlain();
}
