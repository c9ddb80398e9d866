/** What a column of found cells holds, counted while it is still in the cache. */

/** How many of some numbers are NaN. @param values their place, 64 bits each */
export function missingIn(values: usize, rows: i32): i32 {
  let both = i64x2.splat(0);
  let at = values;
  const end = values + (<usize>(rows & ~1) << 3);
  for (; at < end; at += 16) {
    const two = v128.load(at);
    // All bits of a number that is not itself, which is -1.
    both = i64x2.sub(both, f64x2.ne(two, two));
  }
  let count = <i32>(i64x2.extract_lane(both, 0) + i64x2.extract_lane(both, 1));
  if (rows & 1) {
    const last = load<f64>(at);
    if (last !== last) count++;
  }
  return count;
}

/** How many of some places are below zero. @param starts their place, 32 bits each */
export function blanksIn(starts: usize, rows: i32): i32 {
  let four = i32x4.splat(0);
  let at = starts;
  const end = starts + (<usize>(rows & ~3) << 2);
  for (; at < end; at += 16) four = i32x4.add(four, i32x4.shr_u(v128.load(at), 31));
  let count =
    i32x4.extract_lane(four, 0) +
    i32x4.extract_lane(four, 1) +
    i32x4.extract_lane(four, 2) +
    i32x4.extract_lane(four, 3);
  for (let k = 0; k < (rows & 3); k++) count += load<u32>(at + (<usize>k << 2)) >>> 31;
  return count;
}

/** 1 where one of some numbers has a fraction. @param values their place, 64 bits each */
export function haveFractions(values: usize, rows: i32): i32 {
  const end = values + (<usize>rows << 3);
  for (let at = values; at < end; at += 8) {
    const value = load<f64>(at);
    if (value === value && value !== Math.trunc(value)) return 1;
  }
  return 0;
}

/** 1 where one of some bytes is none of ASCII. */
function hasHighBytes(from: usize, end: usize): i32 {
  let all = i8x16.splat(0);
  let at = from;
  for (; at + 16 <= end; at += 16) all = v128.or(all, v128.load(at));
  let rest: u32 = 0;
  for (; at < end; at++) rest |= load<u8>(at);
  return i8x16.bitmask(all) !== 0 || rest >= 0x80 ? 1 : 0;
}

/** Stores what callers want to know of a piece of a source: whether it is all ASCII, and what stands behind what was read. */
export function tell(told: usize, from: usize, end: usize, behind: usize): void {
  store<i32>(told, hasHighBytes(from, end));
  store<i32>(told + 4, <i32>behind);
}
