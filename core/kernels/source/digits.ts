/** Digits with a point among them as numbers that are exact. */

const POINT: u8 = 46;
const ZERO: u8 = 48;
/** Digits that a double keeps whatever they are. */
const PLAIN_DIGITS: i32 = 15;

export const POWERS = memory.data<f64>([
  1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16,
]);
export const WHOLE_POWERS = memory.data<i64>([1, 10, 100, 1000, 10000, 100000, 1000000, 10000000, 100000000]);

/** How many digits and points follow each other, at most 16. */
// @ts-ignore: decorator
@inline
export function numberLength(from: usize): i32 {
  const bytes = v128.load(from);
  const signs = v128.or(areDigits(bytes), i8x16.eq(bytes, i8x16.splat(POINT)));
  return ctz(~i8x16.bitmask(signs));
}

/** The number of some digits, or NaN where there are none, more than a double keeps, or other signs than one point. */
// @ts-ignore: decorator
@inline
export function exactNumber(from: usize, length: i32): f64 {
  if (length < 1 || length > 16) return NaN;
  if (length <= 8) return shortNumber(from, length);
  const bytes = v128.load(from);
  const within = (1 << length) - 1;
  const points = i8x16.bitmask(i8x16.eq(bytes, i8x16.splat(POINT))) & within;
  const others = ~i8x16.bitmask(areDigits(bytes)) & within;
  if (others !== points || (points & (points - 1)) !== 0) return NaN;
  const front = points === 0 ? length : ctz(points);
  const behind = points === 0 ? 0 : length - front - 1;
  const count = front + behind;
  if (count === 0 || count > PLAIN_DIGITS) return NaN;
  let whole: i64 = 0;
  if (front <= 8 && behind <= 8) {
    const fraction = eightDigits(from + front + 1, behind);
    whole = eightDigits(from, front) * load<i64>(WHOLE_POWERS + (<usize>behind << 3)) + fraction;
  } else {
    for (let k = 0; k < length; k++) {
      const digit = <u32>load<u8>(from + k) - ZERO;
      if (digit < 10) whole = whole * 10 + digit;
    }
  }
  // Both are exact below 2^53 and 10^22, so one division rounds correctly.
  const size = <f64>whole;
  return behind > 0 ? size / load<f64>(POWERS + (<usize>behind << 3)) : size;
}

const ZEROS: u64 = 0x3030303030303030;
const POINTS: u64 = 0x2e2e2e2e2e2e2e2e;
const HIGHEST: u64 = 0x8080808080808080;

/** The same of up to eight bytes, all at once in one word: the first byte of the text is its lowest. */
// @ts-ignore: decorator
@inline
function shortNumber(from: usize, length: i32): f64 {
  let word = load<u64>(from);
  let digits = length;
  let behind = 0;
  // The highest bit of each byte that is a point; what is wrong of it stands above the first one.
  const away = word ^ POINTS;
  const points = (away - 0x0101010101010101) & ~away & HIGHEST;
  const place = <i32>ctz(points) >> 3;
  if (place < length) {
    behind = length - place - 1;
    if (--digits === 0) return NaN;
    const below = (<u64>1 << (<u64>place << 3)) - 1;
    word = (word & below) | ((word >> 8) & ~below);
  }
  const pairs = (word ^ ZEROS) << (<u64>(8 - digits) << 3);
  // No byte but those of digits is now under ten.
  if (((pairs | (pairs + 0x7676767676767676)) & HIGHEST) !== 0) return NaN;
  const size = <f64>wholeOf(pairs);
  return behind > 0 ? size / load<f64>(POWERS + (<usize>behind << 3)) : size;
}

/**
 * The number of up to eight bytes that are known to be digits and points, a digit at either end.
 * @param points a bit for each byte that is a point
 * @returns NaN where there are several
 */
// @ts-ignore: decorator
@inline
export function pointedNumber(from: usize, length: i32, points: i32): f64 {
  const word = load<u64>(from) ^ ZEROS;
  if (points === 0) return <f64>wholeOf(word << (<u64>(8 - length) << 3));
  if ((points & (points - 1)) !== 0) return NaN;
  const place = ctz(points);
  const below = (<u64>1 << (<u64>place << 3)) - 1;
  const pairs = ((word & below) | ((word >> 8) & ~below)) << (<u64>(9 - length) << 3);
  return <f64>wholeOf(pairs) / load<f64>(POWERS + (<usize>(length - place - 1) << 3));
}

// @ts-ignore: decorator
@inline
export function areDigits(bytes: v128): v128 {
  return i8x16.lt_u(i8x16.sub(bytes, i8x16.splat(ZERO)), i8x16.splat(10));
}

/** Up to eight digits as a number, all at once: pairs, then pairs of pairs, then all. */
// @ts-ignore: decorator
@inline
export function eightDigits(from: usize, digits: i32): i64 {
  if (digits === 0) return 0;
  // Bytes behind the digits fall off; what comes in from below are zeros in front.
  return wholeOf((load<u64>(from) - ZEROS) << (<u64>(8 - digits) << 3));
}

/** @param digits eight of them from 0 to 9, the first in the lowest byte */
// @ts-ignore: decorator
@inline
function wholeOf(digits: u64): i64 {
  const pairs = digits * 10 + (digits >> 8);
  const left = (pairs & 0x000000ff000000ff) * 0x000f424000000064;
  const right = ((pairs >> 16) & 0x000000ff000000ff) * 0x0000271000000001;
  return <i64>((left + right) >> 32);
}
