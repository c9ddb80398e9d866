/** Rows of a table as bytes: what stands around the cells of each column, their texts, and their numbers digit by digit. */

/** Bytes of what is said of a part of a row. */
const PART: usize = 48;
// What stands where in it, 32 bits each.
const KIND: usize = 0;
const FRONT: usize = 4;
const FRONT_LENGTH: usize = 8;
/** 1 where the number of the row stands behind the front. */
const IS_NUMBERED: usize = 12;
const BEFORE: usize = 16;
const BEFORE_LENGTH: usize = 20;
const BEHIND: usize = 24;
const BEHIND_LENGTH: usize = 28;
const BLANK: usize = 32;
const BLANK_LENGTH: usize = 36;
/** Of numbers the numbers, of runs where each ends, of others the codes of their texts; BEFORE is then where those end. */
const CELLS: usize = 40;
/** 1 where nothing at all is written for a cell that writes nothing itself. */
const IS_LEFT_OUT: usize = 44;

const SAME: i32 = 0;
const RUNS: i32 = 1;
const NUMBERS: i32 = 2;

const MINUS: u32 = 45;
const POINT: u32 = 46;
const ZERO: u32 = 48;
const ZEROS: u64 = 0x3030303030303030;
/** Digits that a double keeps whatever they are: a decimal of so many is the shortest that reads back as its number. */
const MOST: f64 = 1e15;
/** Smaller ones are written with an exponent. */
const MOST_DECIMALS: usize = 6;
/** Bytes of a number at most, and of what a copy may write behind its end. */
const SLACK: usize = 64;

const DECIMALS = memory.data<f64>([1, 10, 100, 1000, 10000, 100000, 1000000]);
const WHOLE_DECIMALS = memory.data<u64>([1, 10, 100, 1000, 10000, 100000, 1000000]);
/** The digits of the number of a row. */
const ROW = memory.data(32);

/** How many rows the last call wrote. */
export let rowBytesRows: i32 = 0;
/** The part whose number it does not know, or -1 where there was no room for the next row. */
export let rowBytesPart: i32 = -1;

/**
 * @param parts PART bytes for each part of a row
 * @param count of the parts
 * @param row the first row
 * @param rows behind the last
 * @param number of row 0, where rows are numbered
 * @param texts the bytes of cells that are texts
 * @param out place for what comes out
 * @param end behind it
 * @returns the end of the last whole row
 */
export function rowBytes(
  parts: usize,
  count: i32,
  row: i32,
  rows: i32,
  number: i32,
  texts: usize,
  out: usize,
  end: usize,
): usize {
  const partsEnd = parts + <usize>count * PART;
  let to = out;
  let whole = out;
  rowBytesPart = -1;
  for (; row < rows; row++) {
    const numberLength = digits(ROW, <u64>(number + row)) - ROW;
    for (let part = parts; part < partsEnd; part += PART) {
      const kind = load<i32>(part + KIND);
      const frontLength = <usize>load<u32>(part + FRONT_LENGTH);
      if (kind !== NUMBERS) {
        let from: usize = 0;
        let length: usize = 0;
        if (kind === RUNS) {
          const at = <usize>load<u32>(part + CELLS) + (<usize>row << 2);
          from = <usize>load<u32>(at);
          length = <usize>load<u32>(at + 4) - from;
          from += texts;
        } else if (kind === SAME) {
          from = <usize>load<u32>(part + BEFORE);
          length = <usize>load<u32>(part + BEFORE_LENGTH);
        } else {
          const code = load<i32>(<usize>load<u32>(part + CELLS) + (<usize>row << 2));
          if (code < 0) {
            from = <usize>load<u32>(part + BLANK);
            length = <usize>load<u32>(part + BLANK_LENGTH);
          } else {
            const at = <usize>load<u32>(part + BEFORE) + (<usize>code << 2);
            from = <usize>load<u32>(at);
            length = <usize>load<u32>(at + 4) - from;
          }
        }
        if (length === 0 && load<i32>(part + IS_LEFT_OUT) !== 0) continue;
        if (to + frontLength + length + SLACK > end) {
          rowBytesRows = row;
          return whole;
        }
        to = copy(<usize>load<u32>(part + FRONT), frontLength, to);
        if (load<i32>(part + IS_NUMBERED) !== 0) to = copy(ROW, numberLength, to);
        to = copy(from, length, to);
        continue;
      }
      const around = frontLength + load<u32>(part + BEFORE_LENGTH) + load<u32>(part + BEHIND_LENGTH);
      const blankLength = <usize>load<u32>(part + BLANK_LENGTH);
      if (to + around + blankLength + SLACK > end) {
        rowBytesRows = row;
        return whole;
      }
      const value = load<f64>(<usize>load<u32>(part + CELLS) + (<usize>row << 3));
      const isBlank = value !== value;
      if (isBlank && blankLength === 0 && load<i32>(part + IS_LEFT_OUT) !== 0) continue;
      to = copy(<usize>load<u32>(part + FRONT), frontLength, to);
      if (load<i32>(part + IS_NUMBERED) !== 0) to = copy(ROW, numberLength, to);
      if (isBlank) {
        to = copy(<usize>load<u32>(part + BLANK), blankLength, to);
        continue;
      }
      to = copy(<usize>load<u32>(part + BEFORE), <usize>load<u32>(part + BEFORE_LENGTH), to);
      const behind = decimal(to, value);
      if (behind === 0) {
        rowBytesRows = row;
        rowBytesPart = <i32>((part - parts) / PART);
        return whole;
      }
      to = copy(<usize>load<u32>(part + BEHIND), <usize>load<u32>(part + BEHIND_LENGTH), behind);
    }
    whole = to;
  }
  rowBytesRows = row;
  return whole;
}

/** Sixteen bytes at a time; what is written too far is written over next. */
// @ts-ignore: decorator
@inline
function copy(from: usize, length: usize, to: usize): usize {
  for (let k: usize = 0; k < length; k += 16) v128.store(to + k, v128.load(from + k));
  return to + length;
}

/** A number with a decimal point, as ECMAScript writes it; 0 where it has more digits, or wants an exponent. */
// @ts-ignore: decorator
@inline
function decimal(to: usize, value: f64): usize {
  const size = Math.abs(value);
  if (!(size < MOST)) return 0;
  if (value < 0) store<u8>(to++, MINUS);
  if (Math.floor(size) === size) return digits(to, <u64>size);
  let all: f64 = 0;
  let decimals: usize = 0;
  do {
    if (++decimals > MOST_DECIMALS) return 0;
    all = nearest<f64>(size * load<f64>(DECIMALS + (decimals << 3)));
    if (!(all < MOST)) return 0;
  } while (all / load<f64>(DECIMALS + (decimals << 3)) !== size);
  const scale = load<u64>(WHOLE_DECIMALS + (decimals << 3));
  const whole = <u64>all / scale;
  let rest = <u32>(<u64>all - whole * scale);
  to = digits(to, whole);
  store<u8>(to, POINT);
  for (let k = decimals; k > 0; k--) {
    const next = rest / 10;
    store<u8>(to + k, ZERO + rest - next * 10);
    rest = next;
  }
  return to + decimals + 1;
}

// @ts-ignore: decorator
@inline
function digits(to: usize, value: u64): usize {
  if (value < 100_000_000) return shortDigits(to, <u32>value);
  const high = value / 100_000_000;
  const behind = shortDigits(to, <u32>high);
  store<u64>(behind, eightDigits(<u32>(value - high * 100_000_000)) | ZEROS);
  return behind + 8;
}

// @ts-ignore: decorator
@inline
function shortDigits(to: usize, value: u32): usize {
  const eight = eightDigits(value);
  const zeros = value === 0 ? 7 : ctz(eight) >> 3;
  store<u64>(to, (eight | ZEROS) >> (zeros << 3));
  return to + 8 - <usize>zeros;
}

/** Digits of a number below 10^8, a byte each, the first in the lowest: halves of four, then of two, then of one. */
// @ts-ignore: decorator
@inline
function eightDigits(value: u32): u64 {
  const high = value / 10_000;
  const fours = <u64>high | (<u64>(value - high * 10_000) << 32);
  // By 100 and by 10, exact for numbers of so few digits.
  const hundreds = ((fours * 10_486) >> 20) & 0x0000007f0000007f;
  const twos = hundreds | ((fours - hundreds * 100) << 16);
  const tens = ((twos * 103) >> 10) & 0x000f000f000f000f;
  return tens | ((twos - tens * 10) << 8);
}
