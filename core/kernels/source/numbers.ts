/** Numbers of cells that were found, as people write them: with a sign, a decimal mark, and groups of three digits. */

import { areDigits, eightDigits, POWERS, WHOLE_POWERS } from './digits';

const MINUS: u32 = 45;
const PLUS: u32 = 43;
const ZERO: u32 = 48;
/** Longer texts are read elsewhere. */
const LONGEST: usize = 20;
/** Digits that a double keeps whatever they are. */
const PLAIN_DIGITS: i32 = 15;

/** 1 where zeros stand before other digits of a cell of the last call. */
export let numbersLeadWithZero: i32 = 0;

/**
 * @param from place in memory of bytes of the source; memory must go on for 16 bytes behind them
 * @param end behind the last
 * @param first place of the first of them in the source
 * @param count of cells
 * @param starts 32 bits for each cell: where it begins in the source, below zero where it is blank
 * @param lengths 16 bits for each cell
 * @param values 64 bits for each cell: NaN for a blank one and for one that is no such number or not in memory
 * @param decimal the decimal mark
 * @param group the mark between groups; no byte where there is none
 * @param isWhole numbers with a fraction are none
 * @returns how many filled cells have no number
 */
export function numbers(
  from: usize,
  end: usize,
  first: i32,
  count: i32,
  starts: usize,
  lengths: usize,
  values: usize,
  decimal: u32,
  group: u32,
  isWhole: i32,
): i32 {
  let others: i32 = 0;
  numbersLeadWithZero = 0;
  for (let cell: usize = 0; cell < <usize>count; cell++) {
    const start = load<i32>(starts + (cell << 2));
    let value: f64 = NaN;
    if (start >= 0) {
      const length = <usize>load<u16>(lengths + (cell << 1));
      const at = from + <usize>(start - first);
      if (start >= first && at + length <= end && length <= LONGEST) value = numberOf(at, at + length, decimal, group);
      if (isWhole !== 0 && value !== Math.trunc(value)) value = NaN;
      if (value !== value) others++;
    }
    store<f64>(values + (cell << 3), value);
  }
  return others;
}

// @ts-ignore: decorator
@inline
function numberOf(from: usize, to: usize, decimal: u32, group: u32): f64 {
  const sign = <u32>load<u8>(from);
  const at = sign === MINUS || sign === PLUS ? from + 1 : from;
  if (<u32>load<u8>(at) === ZERO && at + 1 < to && <u32>load<u8>(at + 1) - ZERO < 10) numbersLeadWithZero = 1;
  let value = to - at <= 16 ? inPieces(at, <i32>(to - at), decimal, group) : NaN;
  if (value !== value) value = byByte(at, to, decimal, group);
  return sign === MINUS && value !== 0 ? -value : value;
}

/** Digits up to the first mark, groups and fraction, each at once; NaN where there is more to look at. */
// @ts-ignore: decorator
@inline
function inPieces(from: usize, length: i32, decimal: u32, group: u32): f64 {
  const digits = i8x16.bitmask(areDigits(v128.load(from)));
  const front = ctz(~digits | (1 << length));
  if (front === 0 || front > 8) return NaN;
  let whole = eightDigits(from, front);
  let at = front;
  while (at < length && <u32>load<u8>(from + at) === group && group !== decimal) {
    if (front > 3 || at + 4 > length || ((digits >> (at + 1)) & 7) !== 7) return NaN;
    const three = from + at + 1;
    whole =
      whole * 1000 +
      (<i64>load<u8>(three) * 100 + <i64>load<u8>(three + 1) * 10 + <i64>load<u8>(three + 2) - 111 * <i64>ZERO);
    at += 4;
  }
  let behind: i32 = 0;
  if (at < length && <u32>load<u8>(from + at) === decimal) {
    behind = length - at - 1;
    if (behind > 8 || ((digits >> (at + 1)) & ((1 << behind) - 1)) !== (1 << behind) - 1) return NaN;
    whole = whole * load<i64>(WHOLE_POWERS + (<usize>behind << 3)) + eightDigits(from + at + 1, behind);
    at = length;
  }
  // Sixteen signs with a mark among them are fifteen digits at most.
  if (at !== length || (at === front && front > PLAIN_DIGITS)) return NaN;
  return behind > 0 ? <f64>whole / load<f64>(POWERS + (<usize>behind << 3)) : <f64>whole;
}

function byByte(from: usize, to: usize, decimal: u32, group: u32): f64 {
  let at = from;
  let whole: i64 = 0;
  let scale: f64 = 0;
  let digits: i32 = 0;
  /** Digits since the last group mark; -1 before the first. */
  let since: i32 = -1;
  for (; at < to; at++) {
    const byte = <u32>load<u8>(at);
    const digit = byte - ZERO;
    if (digit < 10) {
      whole = whole * 10 + digit;
      digits++;
      if (scale > 0) scale *= 10;
      else if (since >= 0) since++;
    } else if (byte === decimal && scale === 0) {
      scale = 1;
    } else if (byte === group && scale === 0 && (since < 0 ? digits >= 1 && digits <= 3 : since === 3)) {
      since = 0;
    } else return NaN;
  }
  if (digits === 0 || digits > PLAIN_DIGITS || (since >= 0 && since !== 3)) return NaN;
  // Both parts are exact below 2^53 and powers of ten up to 10^22 are exact, so one division rounds correctly.
  return scale > 1 ? <f64>whole / scale : <f64>whole;
}
