/**
 * Lines of JSON of shapes that are known: the bytes between their values stand as they did in a line before. A line of
 * no such shape ends the call in front of it, as does a value that is not plain (escapes, lists, long numbers), and is
 * read by core/read/json-lines/.
 */
import { tell } from './counts';
import { areDigits, exactNumber, pointedNumber } from './digits';

const QUOTE: u8 = 34;
const BACKSLASH: u8 = 92;
const SPACE: u8 = 32;
const MINUS: u32 = 45;
const ZERO: u32 = 48;
const POINT: u8 = 46;
const LONG: usize = 0xffff;

/** Tags of core/table/column-types.ts. */
const BLANK: u8 = 0;
const TEXT: u8 = 1;
const NUMBER: u8 = 2;
const YES_NO: u8 = 3;

const TRUE: u32 = 0x65757274;
const ALSE: u32 = 0x65736c61;
const NULL: u32 = 0x6c6c756e;

/** Bytes of what is said of a piece, and what stands where in it, 32 bits each. */
const PIECE: usize = 32;
const COLUMN: usize = 8;
const TAGS: usize = 12;
const STARTS: usize = 16;
const LENGTHS: usize = 20;
const VALUES: usize = 24;
const MET: usize = 28;

/** Behind the last line that was read. */
let readTo: usize = 0;

/**
 * @param from place in memory of the first byte of a line
 * @param end behind the last byte; memory must hold a line feed there, and 32 bytes more
 * @param base what is added to a place to make it one of the source
 * @param shapes for each shape 32 bits, the place of its pieces: for each value the blocks of the bytes in front of it,
 *   their length, the value's column, and the places of that column's tags (8 bits for each line), starts (32), lengths
 *   (16), values (64) and of 8 bits for the tags that came, of a line that was then left too. The same for what ends
 *   the line, with the column -1. All are 32 bits each. A block is 16 bytes, and 16 bytes that are 255 where a byte
 *   counts.
 * @param count of shapes
 * @param columns that values go to
 * @param most lines that there is room for
 * @param tags for each column, most x 8 bits
 * @param starts for each column, most x 32 bits: where a text begins, -1 in blank cells; of others it says nothing
 * @param counts 32 bits for each shape: the lines of it are counted up
 * @param told 32 bits each for whether a byte is none of ASCII, and the place behind the last line
 * @returns how many lines were read
 */
export function jsonLines(
  from: usize,
  end: usize,
  base: i32,
  shapes: usize,
  count: i32,
  columns: i32,
  most: i32,
  tags: usize,
  starts: usize,
  counts: usize,
  told: usize,
): i32 {
  const lines = knownLines(from, end, base, shapes, count, columns, most, tags, starts, counts);
  tell(told, from, end, readTo);
  return lines;
}

function knownLines(
  from: usize,
  end: usize,
  base: i32,
  shapes: usize,
  count: i32,
  columns: i32,
  most: i32,
  tags: usize,
  starts: usize,
  counts: usize,
): i32 {
  let at = from;
  let shape: i32 = 0;
  readTo = from;
  for (let row: i32 = 0; row < most; row++) {
    if (at >= end) return row;
    if (count > 1) {
      for (let c: i32 = 0; c < columns; c++) {
        const cell = <usize>(c * most + row);
        store<u8>(tags + cell, BLANK);
        store<i32>(starts + (cell << 2), -1);
      }
    }
    let behind: usize = 0;
    for (let tried: i32 = 0; tried < count; tried++) {
      const pieces = <usize>load<u32>(shapes + (<usize>shape << 2));
      behind = lineOf(pieces, at, end, base, row);
      if (behind !== 0) break;
      if (++shape === count) shape = 0;
    }
    if (behind === 0) return row;
    const counted = counts + (<usize>shape << 2);
    store<i32>(counted, load<i32>(counted) + 1);
    at = behind;
    readTo = at;
  }
  return most;
}

/** Reads a line by a shape. @returns what stands behind it; 0 where it is another */
function lineOf(pieces: usize, from: usize, end: usize, base: i32, row: i32): usize {
  let piece = pieces;
  let at = behindPiece(piece, from, end);
  while (at !== 0) {
    if (load<i32>(piece + COLUMN) < 0) return at;
    const first = <u32>load<u8>(at);
    let tag = TEXT;
    if (first === QUOTE) {
      const text = ++at;
      at = textEnd(at);
      if (load<u8>(at) !== QUOTE || at - text >= LONG) return 0;
      store<i32>(<usize>load<u32>(piece + STARTS) + (<usize>row << 2), <i32>text + base);
      store<u16>(<usize>load<u32>(piece + LENGTHS) + (<usize>row << 1), <u16>(at - text));
      at++;
    } else if (first - ZERO < 10 || first === MINUS) {
      const isMinus = first === MINUS;
      if (isMinus) at++;
      const signs = v128.load(at);
      const digits = i8x16.bitmask(areDigits(signs));
      const points = i8x16.bitmask(i8x16.eq(signs, i8x16.splat(POINT)));
      const size = ctz(~(digits | points));
      // A zero in front of a digit, and a point at either end, are no JSON (RFC 8259, 6).
      const leads = <i32>(<u32>load<u8>(at) === ZERO) & (digits >> 1);
      if ((~digits & 1) | (~(digits >> (size - 1)) & 1) | leads) return 0;
      const within = (1 << size) - 1;
      const value = size <= 8 ? pointedNumber(at, size, points & within) : exactNumber(at, size);
      if (value !== value) return 0;
      store<f64>(<usize>load<u32>(piece + VALUES) + (<usize>row << 3), isMinus ? -value : value);
      tag = NUMBER;
      at += size;
    } else if (load<u32>(at) === TRUE) {
      store<f64>(<usize>load<u32>(piece + VALUES) + (<usize>row << 3), 1);
      tag = YES_NO;
      at += 4;
    } else if (load<u32>(at + 1) === ALSE && first === 102) {
      store<f64>(<usize>load<u32>(piece + VALUES) + (<usize>row << 3), 0);
      tag = YES_NO;
      at += 5;
    } else if (load<u32>(at) === NULL) {
      store<i32>(<usize>load<u32>(piece + STARTS) + (<usize>row << 2), -1);
      tag = BLANK;
      at += 4;
    } else return 0;
    store<u8>(<usize>load<u32>(piece + TAGS) + row, tag);
    const metAt = <usize>load<u32>(piece + MET);
    const met = load<u8>(metAt);
    if ((met & (1 << tag)) === 0) store<u8>(metAt, met | (1 << tag));
    piece += PIECE;
    at = behindPiece(piece, at, end);
  }
  return 0;
}

/** @returns what stands behind the bytes of a piece, or 0 where others stand */
// @ts-expect-error: decorator
@inline
function behindPiece(piece: usize, from: usize, most: usize): usize {
  let block = <usize>load<u32>(piece);
  const end = from + <usize>load<u32>(piece + 4);
  if (end > most) return 0;
  for (let at = from; at < end; at += 16) {
    const other = v128.and(v128.xor(v128.load(at), v128.load(block)), v128.load(block, 16));
    if (v128.any_true(other)) return 0;
    block += 32;
  }
  return end;
}

/** The next quote, backslash or control character. */
// @ts-expect-error: decorator
@inline
function textEnd(from: usize): usize {
  let at = from;
  let found = textEnds(at);
  while (found === 0) found = textEnds((at += 16));
  return at + ctz(found);
}

// @ts-expect-error: decorator
@inline
function textEnds(at: usize): i32 {
  const bytes = v128.load(at);
  const signs = v128.or(i8x16.eq(bytes, i8x16.splat(QUOTE)), i8x16.eq(bytes, i8x16.splat(BACKSLASH)));
  return i8x16.bitmask(v128.or(signs, i8x16.lt_u(bytes, i8x16.splat(SPACE))));
}
