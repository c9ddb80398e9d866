/**
 * Rows of delimited text, for as long as they are plain: as many cells as said, quoted cells without doubled quotes.
 * What is not plain ends the call in front of its row, and is read by core/read/delimited/tokenize.ts.
 */
import { blanksIn, haveFractions, missingIn, tell } from './counts';
import { exactNumber } from './digits';

const LF: u32 = 10;
const CR: u32 = 13;
const SPACE: u32 = 32;
const TAB: u32 = 9;
const MINUS: u32 = 45;
const POINT: u32 = 46;
const ZERO: u32 = 48;
const NONE: u32 = 256;
/** Lengths from here on are kept elsewhere. */
const LONG: usize = 0xffff;

/** Behind the last row that was read. */
let behind: usize = 0;
/** Line of that place. */
let lineBehind: i32 = 0;

/** 32-bit words that are told of a call, and of each column behind them. */
const TOLD: usize = 3;
const TOLD_OF_COLUMN: usize = 3;

/**
 * @param from place in memory of the first byte of a row
 * @param end behind the last byte; memory must hold a line feed there, and 16 bytes more
 * @param base what is added to a place to make it one of the source
 * @param columns cells of a row
 * @param most rows that there is room for
 * @param delimiter its byte
 * @param quote its byte, or 256 for none
 * @param comment first byte of the sign of comments, or 256 for none
 * @param flags for each column: 1 where numbers are read
 * @param zeros for each column: set to 1 where a number has a zero in front of a digit
 * @param line of the first row
 * @param lines 32 bits for the line of each row
 * @param starts for each column, most x 32 bits
 * @param lengths for each column, most x 16 bits
 * @param numbers for each column, most x 64 bits
 * @param told 32 bits each for whether a byte is none of ASCII, the place behind the last row and its line; then for each
 *   column with numbers how many cells are blank, how many have no number, and whether one has a fraction
 * @returns how many rows were read
 */
export function delimitedRows(
  from: usize,
  end: usize,
  base: i32,
  columns: i32,
  most: i32,
  delimiter: u32,
  quote: u32,
  comment: u32,
  flags: usize,
  zeros: usize,
  line: i32,
  lines: usize,
  starts: usize,
  lengths: usize,
  numbers: usize,
  told: usize,
): i32 {
  const rows = plainRows(
    from, end, base, columns, most, delimiter, quote, comment, flags, zeros, line, lines, starts, lengths, numbers,
  );
  tell(told, from, end, behind);
  store<i32>(told + 8, lineBehind);
  for (let column: usize = 0; column < <usize>columns; column++) {
    if (load<u8>(flags + column) === 0) continue;
    const ofColumn = told + ((TOLD + column * TOLD_OF_COLUMN) << 2);
    const values = numbers + column * (<usize>most << 3);
    store<i32>(ofColumn, blanksIn(starts + column * (<usize>most << 2), rows));
    store<i32>(ofColumn + 4, missingIn(values, rows));
    store<i32>(ofColumn + 8, haveFractions(values, rows));
  }
  return rows;
}

function plainRows(
  from: usize,
  end: usize,
  base: i32,
  columns: i32,
  most: i32,
  delimiter: u32,
  quote: u32,
  comment: u32,
  flags: usize,
  zeros: usize,
  line: i32,
  lines: usize,
  starts: usize,
  lengths: usize,
  numbers: usize,
): i32 {
  const isDelimiter = i8x16.splat(<u8>delimiter);
  const isQuote = i8x16.splat(<u8>quote);
  let at = from;
  let rows: i32 = 0;
  behind = from;
  lineBehind = line;
  for (; rows < most; rows++) {
    if (at >= end) break;
    if (comment !== NONE && begins(at, comment)) break;
    let start32 = starts + (<usize>rows << 2);
    let length16 = lengths + (<usize>rows << 1);
    let number64 = numbers + (<usize>rows << 3);
    const started = line;
    let column: i32 = 0;
    for (;;) {
      if (column === columns) return rows;
      let first = at;
      let last: usize;
      if (<u32>load<u8>(at) === quote) {
        first = ++at;
        for (;;) {
          at = next(at, isQuote);
          const inside = <u32>load<u8>(at);
          // The sentinel behind the last byte is no line end.
          if (at >= end) return rows;
          if (inside === quote) break;
          if (inside === LF || <u32>load<u8>(at + 1) !== LF) line++;
          at++;
        }
        last = at++;
        const sign = <u32>load<u8>(at);
        if (sign !== delimiter && sign !== LF && sign !== CR) return rows;
      } else {
        at = next(at, isDelimiter);
        last = at;
      }
      if (load<u8>(flags + column)) number(number64, first, last, column, zeros);
      const length = last - first;
      if (length >= LONG || at >= end) return rows;
      store<i32>(start32, length === 0 ? -1 : <i32>first + base);
      store<u16>(length16, <u16>length);
      start32 += <usize>most << 2;
      length16 += <usize>most << 1;
      number64 += <usize>most << 3;
      column++;
      if (<u32>load<u8>(at) === delimiter) {
        at++;
        continue;
      }
      if (<u32>load<u8>(at) === CR) {
        // Whether a line feed follows is not known at the end of the bytes.
        if (at + 1 >= end) return rows;
        if (<u32>load<u8>(at + 1) === LF) at++;
      }
      at++;
      break;
    }
    if (column !== columns) return rows;
    store<i32>(lines + (<usize>rows << 2), started);
    behind = at;
    lineBehind = ++line;
  }
  return rows;
}

/** Whether a line begins with a byte, past blanks. */
// @ts-ignore: decorator
@inline
function begins(from: usize, sign: u32): bool {
  let at = from;
  while (<u32>load<u8>(at) === SPACE || <u32>load<u8>(at) === TAB) at++;
  return <u32>load<u8>(at) === sign;
}

/** The next place of a byte, or of a line end. */
// @ts-ignore: decorator
@inline
function next(from: usize, sign: v128): usize {
  let at = from;
  let found = ends(at, sign);
  while (found === 0) found = ends((at += 16), sign);
  return at + ctz(found);
}

// @ts-ignore: decorator
@inline
function ends(at: usize, sign: v128): i32 {
  const bytes = v128.load(at);
  const isEnd = v128.or(i8x16.eq(bytes, i8x16.splat(<u8>LF)), i8x16.eq(bytes, i8x16.splat(<u8>CR)));
  return i8x16.bitmask(v128.or(i8x16.eq(bytes, sign), isEnd));
}

/** Stores the number in a cell, or NaN where it is blank or holds no plain number. */
// @ts-ignore: decorator
@inline
function number(to: usize, first: usize, last: usize, column: i32, zeros: usize): void {
  if (first === last) {
    store<f64>(to, NaN);
    return;
  }
  let lead = first;
  if (<u32>load<u8>(first) === MINUS) {
    lead++;
    const size = exactNumber(lead, <i32>(last - lead));
    store<f64>(to, size === 0 ? 0 : -size);
  } else {
    store<f64>(to, exactNumber(first, <i32>(last - first)));
  }
  if (<u32>load<u8>(lead) === ZERO && last - lead > 1 && <u32>load<u8>(lead + 1) !== POINT) {
    store<u8>(zeros + column, 1);
  }
}
