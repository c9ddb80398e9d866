/** Cells between fixed characters of lines that are printable ASCII throughout; any other byte ends the reading. */
import { tell } from './counts';

const LF: u8 = 10;
const CR: u8 = 13;
const SPACE: u8 = 32;
const LONG: usize = 0xffff;

/** Behind the last line that was read. */
let behind: usize = 0;

/**
 * @param from place in memory of the first byte of a line
 * @param end behind the last byte; memory must hold a line feed there, and 32 bytes more
 * @param base what is added to a place to make it one of the source
 * @param cuts 32 bits each, ascending; what stands behind the last is a cell too
 * @param count of cuts
 * @param rest 1: a line with a word across a cut goes whole into one more column
 * @param most lines that there is room for
 * @param misfits 8 bits for each line: 1 where a word stands across a cut
 * @param starts for each column, most x 32 bits: where a cell begins without the blanks around it, else -1; behind the
 *   columns of cells stands one of the lines themselves, with their blanks
 * @param lengths for each column, most x 16 bits
 * @param told 32 bits each for whether a byte is none of ASCII, and the place behind the last line
 * @returns how many lines were read
 */
export function fixedWidth(
  from: usize,
  end: usize,
  base: i32,
  cuts: usize,
  count: i32,
  rest: i32,
  most: i32,
  misfits: usize,
  starts: usize,
  lengths: usize,
  told: usize,
): i32 {
  const lines = printableLines(from, end, base, cuts, count, rest, most, misfits, starts, lengths);
  tell(told, from, end, behind);
  return lines;
}

function printableLines(
  from: usize,
  end: usize,
  base: i32,
  cuts: usize,
  count: i32,
  rest: i32,
  most: i32,
  misfits: usize,
  starts: usize,
  lengths: usize,
): i32 {
  let at = from;
  behind = from;
  for (let row: i32 = 0; row < most; row++) {
    if (at >= end) return row;
    const stop = lineEnd(at);
    const sign = load<u8>(stop);
    if (stop >= end || (sign !== LF && sign !== CR)) return row;
    // Whether a line feed follows is not known at the end of the bytes.
    if (sign === CR && stop + 1 >= end) return row;
    let isMisfit = false;
    for (let k: i32 = 0; k < count; k++) {
      const cut = at + <usize>load<u32>(cuts + (<usize>k << 2));
      if (cut < stop && cut > at && load<u8>(cut) > SPACE && load<u8>(cut - 1) > SPACE) isMisfit = true;
    }
    const isWhole = isMisfit && rest !== 0;
    let first = at;
    for (let k: i32 = 0; k <= count; k++) {
      let last = k === count ? stop : at + <usize>load<u32>(cuts + (<usize>k << 2));
      if (last > stop) last = stop;
      if (!put(isWhole ? last : first, last, base, <usize>(k * most + row), starts, lengths)) return row;
      first = last;
    }
    if (rest !== 0 && !put(isWhole ? at : stop, stop, base, <usize>((count + 1) * most + row), starts, lengths))
      return row;
    if (stop - at >= LONG) return row;
    const line = <usize>((count + 1 + rest) * most + row);
    store<i32>(starts + (line << 2), stop === at ? -1 : <i32>at + base);
    store<u16>(lengths + (line << 1), <u16>(stop - at));
    store<u8>(misfits + row, isMisfit ? 1 : 0);
    at = sign === CR && load<u8>(stop + 1) === LF ? stop + 2 : stop + 1;
    behind = at;
  }
  return most;
}

/** Stores a cell without the blanks around it. @returns whether it is short enough */
// @ts-ignore: decorator
@inline
function put(from: usize, to: usize, base: i32, cell: usize, starts: usize, lengths: usize): bool {
  let first = from;
  let last = to;
  if (last - first <= 16) {
    const filled = ~i8x16.bitmask(i8x16.eq(v128.load(first), i8x16.splat(SPACE))) & ((1 << (<i32>(last - first))) - 1);
    last = filled === 0 ? first : first + 32 - clz(filled);
    if (filled !== 0) first += ctz(filled);
  } else {
    while (first < last && load<u8>(first) === SPACE) first++;
    while (last > first && load<u8>(last - 1) === SPACE) last--;
  }
  if (last - first >= LONG) return false;
  store<i32>(starts + (cell << 2), first === last ? -1 : <i32>first + base);
  store<u16>(lengths + (cell << 1), <u16>(last - first));
  return true;
}

/** The next byte that is no printable ASCII. */
// @ts-ignore: decorator
@inline
function lineEnd(from: usize): usize {
  let at = from;
  let found = unprintable(at);
  while (found === 0) found = unprintable((at += 16));
  return at + ctz(found);
}

// @ts-ignore: decorator
@inline
function unprintable(at: usize): i32 {
  // Bytes beyond ASCII are below zero.
  return i8x16.bitmask(i8x16.lt_s(v128.load(at), i8x16.splat(SPACE)));
}
