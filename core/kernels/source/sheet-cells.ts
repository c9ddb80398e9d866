/**
 * Cells of a sheet in the form that programs write (ISO/IEC 29500-1, 18.3.1.80). A tag of any other form, or one that
 * the bytes end in, ends the call in front of it, and is read by core/read/sheet-xml/scan-cells.ts.
 */
import { tell } from './counts';
import { exactNumber, numberLength } from './digits';

const TAB: u8 = 9;
const LF: u8 = 10;
const CR: u8 = 13;
const SPACE: u8 = 32;
const QUOTE: u8 = 34;
const MINUS: u8 = 45;
const SLASH: u8 = 47;
const ZERO: u32 = 48;
const LESS: u8 = 60;
const EQUALS: u8 = 61;
const GREATER: u8 = 62;
const LETTER_B: u8 = 98;
const LETTER_C: u8 = 99;
const LETTER_E: u8 = 101;
const LETTER_F: u8 = 102;
const LETTER_I: u8 = 105;
const LETTER_N: u8 = 110;
const LETTER_R: u8 = 114;
const LETTER_S: u8 = 115;
const LETTER_T: u8 = 116;
const LETTER_V: u8 = 118;

/** What a cell holds; those of core/read/sheet-xml/cells-kernel.ts. */
const NUMBER: u8 = 0;
const SHARED: u8 = 1;
const FORMULA_TEXT: u8 = 2;
const INLINE_TEXT: u8 = 3;
const YES_NO: u8 = 4;
const ERROR: u8 = 5;

/** `str`, `row`, `</row>` and `</v>` with the bytes in the order of memory, the first the lowest. */
const STR: u32 = 0x727473;
const ROW: u32 = 0x776f72;
const END_ROW: u64 = 0x3e776f722f3c;
const END_CELL: u32 = 0x3e632f3c;
const END_VALUE: u32 = 0x3e762f3c;
const END_FORMULA: u32 = 0x3e662f3c;
const END_INSIDE: u64 = 0x3e73692f3c;
const LOW_3: u32 = 0xffffff;
const LOW_5: u64 = 0xffffffffff;
const LOW_6: u64 = 0xffffffffffff;

/** Behind the last tag that was read, and the row and column that were come to. */
let readTo: usize = 0;
let lastRow: i32 = 0;
let lastColumn: i32 = 0;

/** Of the tag whose attributes were read last: where it ends, 0 where it is not known. */
let behind: usize = 0;
let saidRow: i32 = 0;
let saidColumn: i32 = 0;
let style: i32 = 0;
let held: u8 = 0;
let isClosed: bool = false;

/**
 * @param from place in memory of the first byte of a tag of a row or a cell
 * @param end behind the last byte that may be read as part of a tag; memory must go on for 32 bytes
 * @param base what is added to a place to make it one of the source
 * @param row of the cell before, from 0; -1 before the first row
 * @param column likewise
 * @param most cells that there is room for
 * @param rows 32 bits for each cell
 * @param columns 32 bits for each cell
 * @param styles 32 bits for each cell: the index of its format, -1 where it has none
 * @param kinds 8 bits for each cell
 * @param values 64 bits for each cell: its number, NaN where that has to be read from the text; the place of a shared
 *   text; 0 or 1
 * @param starts 32 bits for each cell: where its value begins
 * @param lengths 32 bits for each cell
 * @param told 32 bits each for whether a byte is none of ASCII, the place behind the last tag, the row and the column
 *   that were come to, and how many filled cells were read
 * @returns how many bytes of tags were read
 */
export function sheetCells(
  from: usize,
  end: usize,
  base: i32,
  row: i32,
  column: i32,
  most: i32,
  rows: usize,
  columns: usize,
  styles: usize,
  kinds: usize,
  values: usize,
  starts: usize,
  lengths: usize,
  told: usize,
): i32 {
  const count = filledCells(
    from, end, base, row, column, most, rows, columns, styles, kinds, values, starts, lengths,
  );
  tell(told, from, end, readTo);
  store<i32>(told + 8, lastRow);
  store<i32>(told + 12, lastColumn);
  store<i32>(told + 16, count);
  return <i32>(readTo - from);
}

function filledCells(
  from: usize,
  end: usize,
  base: i32,
  row: i32,
  column: i32,
  most: i32,
  rows: usize,
  columns: usize,
  styles: usize,
  kinds: usize,
  values: usize,
  starts: usize,
  lengths: usize,
): i32 {
  let count: i32 = 0;
  let at = from;
  readTo = from;
  lastRow = row;
  lastColumn = column;
  while (count < most) {
    while (at < end && isSpace(load<u8>(at))) at++;
    if (at + 6 > end || load<u8>(at) !== LESS) return count;
    if ((load<u64>(at) & LOW_6) === END_ROW) {
      at += 6;
    } else if ((load<u32>(at + 1) & LOW_3) === ROW) {
      if (!attributes(at + 4, end, true)) return count;
      row = saidRow < 0 ? row + 1 : saidRow;
      column = -1;
      at = behind;
    } else if (load<u8>(at + 1) === LETTER_C) {
      if (!attributes(at + 2, end, false)) return count;
      if (saidColumn < 0) column++;
      else {
        column = saidColumn;
        row = saidRow;
      }
      at = behind;
      let value: usize = 0;
      let length: usize = 0;
      let hasFormula = false;
      while (!isClosed) {
        while (at < end && isSpace(load<u8>(at))) at++;
        if (at + 4 > end || load<u8>(at) !== LESS) return count;
        if (load<u32>(at) === END_CELL) {
          at += 4;
          break;
        }
        const name = load<u8>(at + 1);
        if (name === LETTER_V && load<u8>(at + 2) === GREATER) {
          const begin = at + 3;
          at = toLess(begin, end);
          if (at + 4 > end || load<u32>(at) !== END_VALUE) return count;
          if (held !== INLINE_TEXT) {
            value = begin;
            length = at - begin;
          }
          at += 4;
        } else if (name === LETTER_F && (load<u8>(at + 2) === GREATER || load<u8>(at + 2) === SPACE)) {
          at += 2;
          while (at < end && load<u8>(at) !== GREATER) at++;
          at++;
          hasFormula = true;
          if (load<u8>(at - 2) === SLASH) continue;
          at = toLess(at, end);
          if (at + 4 > end || load<u32>(at) !== END_FORMULA) return count;
          at += 4;
        } else if (name === LETTER_I && load<u8>(at + 2) === LETTER_S && load<u8>(at + 3) === GREATER) {
          const begin = at + 4;
          at = toLess(begin, end);
          while (at + 5 <= end && (load<u64>(at) & LOW_5) !== END_INSIDE) at = toLess(at + 1, end);
          if (at + 5 > end) return count;
          if (held === INLINE_TEXT) {
            value = begin;
            length = at - begin;
          }
          at += 5;
        } else return count;
      }
      if (at > end) return count;
      if (length === 0) {
        // Formulas without a value are counted.
        if (hasFormula) return count;
      } else {
        let number: f64 = 0;
        if (held === NUMBER) {
          number = numberAt(value, length);
          // A formula that gives 0 may never have been calculated: the plain way tells it.
          if (hasFormula && (number === 0 || isNaN(number))) return count;
        }
        else if (held === SHARED) {
          const index = wholeAt(value, length);
          if (index < 0) return count;
          number = <f64>index;
        } else if (held === YES_NO) {
          const said = <u32>load<u8>(value) - ZERO;
          if (length !== 1 || said > 1) return count;
          number = <f64>said;
        }
        const cell = <usize>count;
        store<i32>(rows + (cell << 2), row);
        store<i32>(columns + (cell << 2), column);
        store<i32>(styles + (cell << 2), style);
        store<u8>(kinds + cell, held);
        store<f64>(values + (cell << 3), number);
        store<i32>(starts + (cell << 2), <i32>value + base);
        store<i32>(lengths + (cell << 2), <i32>length);
        count++;
      }
    } else return count;
    readTo = at;
    lastRow = row;
    lastColumn = column;
  }
  return count;
}

/**
 * Reads the attributes of a tag up to behind its end.
 * @param from behind the name of the tag
 * @returns false where they are in another form, or end behind the bytes
 */
function attributes(from: usize, end: usize, isRow: bool): bool {
  let at = from;
  saidRow = -1;
  saidColumn = -1;
  style = -1;
  held = NUMBER;
  isClosed = false;
  while (at < end) {
    const sign = load<u8>(at);
    if (sign === GREATER) {
      behind = at + 1;
      return true;
    }
    if (sign === SLASH) {
      if (load<u8>(at + 1) !== GREATER) return false;
      isClosed = true;
      behind = at + 2;
      return behind <= end;
    }
    // The name of the tag ends with a blank, and so does each attribute but the last.
    if (!isSpace(sign)) return false;
    at++;
    const name = load<u8>(at);
    if (isSpace(name) || name === GREATER || name === SLASH) continue;
    if (name === EQUALS) return false;
    if (load<u8>(at + 1) === EQUALS && load<u8>(at + 2) === QUOTE) {
      at += 3;
      if (name === LETTER_R) {
        if (!isRow) {
          let letters: i32 = 0;
          let place: i32 = 0;
          let letter = <u32>load<u8>(at) - 64;
          while (letter - 1 < 26 && letters < 4) {
            place = place * 26 + <i32>letter;
            letters++;
            letter = <u32>load<u8>(++at) - 64;
          }
          if (letters < 1 || letters > 3) return false;
          saidColumn = place - 1;
        }
        const digits = digitsAt(at);
        saidRow = wholeAt(at, digits) - 1;
        at += digits;
        if (saidRow < 0 || load<u8>(at) !== QUOTE) return false;
      } else if (name === LETTER_S) {
        const digits = digitsAt(at);
        style = wholeAt(at, digits);
        at += digits;
        if (style < 0 || load<u8>(at) !== QUOTE) return false;
      } else if (name === LETTER_T && !isRow) {
        const first = load<u8>(at);
        if (load<u8>(at + 1) === QUOTE) {
          if (first === LETTER_S) held = SHARED;
          else if (first === LETTER_N) held = NUMBER;
          else if (first === LETTER_B) held = YES_NO;
          else if (first === LETTER_E) held = ERROR;
          else return false;
          at++;
        } else if ((load<u32>(at) & LOW_3) === STR && load<u8>(at + 3) === QUOTE) {
          held = FORMULA_TEXT;
          at += 3;
        } else if (first === LETTER_I && load<u8>(at + 9) === QUOTE) {
          // Nothing else of nine letters stands there (18.18.11).
          held = INLINE_TEXT;
          at += 9;
        } else return false;
      } else {
        while (at < end && load<u8>(at) !== QUOTE) at++;
      }
    } else {
      const begin = at;
      while (at < end && load<u8>(at) !== EQUALS) at++;
      // Rows that are hidden are told one by one.
      if (isRow && at - begin === 6) return false;
      if (load<u8>(at + 1) !== QUOTE) return false;
      at += 2;
      while (at < end && load<u8>(at) !== QUOTE) at++;
    }
    at++;
  }
  return false;
}

/** The number of a text; NaN where it has more digits, an exponent, or no digits. */
// @ts-ignore: decorator
@inline
function numberAt(from: usize, length: usize): f64 {
  const isMinus = load<u8>(from) === MINUS;
  const size = isMinus ? <i32>length - 1 : <i32>length;
  if (size > 16 || numberLength(isMinus ? from + 1 : from) < size) return NaN;
  const value = exactNumber(isMinus ? from + 1 : from, size);
  // Which zero it is is left to who reads the text.
  return isMinus ? (value === 0 ? NaN : -value) : value;
}

// @ts-ignore: decorator
@inline
function digitsAt(from: usize): usize {
  let at = from;
  while (<u32>load<u8>(at) - ZERO < 10) at++;
  return at - from;
}

/** A whole number without a sign of at most nine digits; -1 where none stands there. */
// @ts-ignore: decorator
@inline
function wholeAt(from: usize, length: usize): i32 {
  if (length === 0 || length > 9) return -1;
  let whole: i32 = 0;
  for (let k: usize = 0; k < length; k++) {
    const digit = <u32>load<u8>(from + k) - ZERO;
    if (digit > 9) return -1;
    whole = whole * 10 + <i32>digit;
  }
  return whole;
}

/** The next byte that opens a tag, or a place at or behind the end. */
// @ts-ignore: decorator
@inline
function toLess(from: usize, end: usize): usize {
  let at = from;
  while (at < end) {
    const found = i8x16.bitmask(i8x16.eq(v128.load(at), i8x16.splat(LESS)));
    if (found !== 0) return at + ctz(found);
    at += 16;
  }
  return at;
}

// @ts-ignore: decorator
@inline
function isSpace(byte: u8): bool {
  return byte === SPACE || byte === LF || byte === CR || byte === TAB;
}
