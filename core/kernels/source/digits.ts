/** Digits with a point among them, a minus before them, as numbers that are exact. */

const MINUS: u32 = 45;
const POINT: u8 = 46;
const ZERO: u32 = 48;
/** Digits that a double keeps whatever they are. */
const PLAIN_DIGITS: i32 = 15;

const POWERS = memory.data<f64>([
  1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16,
]);
const WHOLE_POWERS = memory.data<i64>([1, 10, 100, 1000, 10000, 100000, 1000000, 10000000, 100000000]);

/**
 * The number in a cell, or NaN where it is no plain number or has more digits than a double keeps.
 * @param zeros set to 1 where a zero stands in front of a digit
 */
// @ts-ignore: decorator
@inline
export function numberIn(first: usize, last: usize, zeros: usize): f64 {
  const isMinus = <u32>load<u8>(first) === MINUS;
  const lead = first + <usize>isMinus;
  const length = <i32>(last - lead);
  if (length < 1 || length > 16) return NaN;
  const bytes = v128.load(lead);
  const within = (1 << length) - 1;
  const points = i8x16.bitmask(i8x16.eq(bytes, i8x16.splat(POINT))) & within;
  const others = ~i8x16.bitmask(i8x16.lt_u(i8x16.sub(bytes, i8x16.splat(<u8>ZERO)), i8x16.splat(10))) & within;
  // Nothing but digits, and one point at most.
  if (others !== points || (points & (points - 1)) !== 0) return NaN;
  const front = points === 0 ? length : ctz(points);
  const behind = points === 0 ? 0 : length - front - 1;
  const count = front + behind;
  if (count === 0 || count > PLAIN_DIGITS) return NaN;
  if (<u32>load<u8>(lead) === ZERO && count > 1 && front !== 1) store<u8>(zeros, 1);
  let whole: i64;
  if (front <= 8 && behind <= 8) {
    const fraction = eightDigits(lead + front + 1, behind);
    whole = eightDigits(lead, front) * load<i64>(WHOLE_POWERS + (<usize>behind << 3)) + fraction;
  } else {
    whole = 0;
    for (let at = lead; at < last; at++) {
      const digit = <u32>load<u8>(at) - ZERO;
      if (digit < 10) whole = whole * 10 + digit;
    }
  }
  // Both are exact below 2^53 and 10^22, so one division rounds correctly.
  const size = <f64>whole;
  const value = behind > 0 ? size / load<f64>(POWERS + (<usize>behind << 3)) : size;
  return isMinus && whole !== 0 ? -value : value;
}

/** Up to eight digits as a number, all at once: pairs, then pairs of pairs, then all. */
// @ts-ignore: decorator
@inline
function eightDigits(from: usize, digits: i32): i64 {
  if (digits === 0) return 0;
  // Bytes behind the digits fall off; what comes in from below are zeros in front.
  let pairs = (load<u64>(from) - 0x3030303030303030) << (<u64>(8 - digits) << 3);
  pairs = pairs * 10 + (pairs >> 8);
  const left = (pairs & 0x000000ff000000ff) * 0x000f424000000064;
  const right = ((pairs >> 16) & 0x000000ff000000ff) * 0x0000271000000001;
  return <i64>((left + right) >> 32);
}
