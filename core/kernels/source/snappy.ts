/**
 * Packs bytes by Snappy (google/snappy, format_description.txt), to the same bytes as the library does that
 * core/write/parquet uses without kernels.
 */

const MOST_HASH_BITS: i32 = 14;
const FARTHEST: usize = 0xffff;
/** Nothing is looked for in the last bytes. */
const MARGIN: usize = 15;

/**
 * @param from the bytes; memory must go on for 8 bytes behind them
 * @param length how many
 * @param out place for what comes out: length + length / 6 + 32 bytes
 * @param table place for 2^14 x 32 bits
 * @returns how many bytes came out
 */
export function snappy(from: usize, length: usize, out: usize, table: usize): usize {
  let to = out;
  let size = length;
  for (; size > 127; size >>= 7) store<u8>(to++, <u8>(size | 128));
  store<u8>(to++, <u8>size);
  if (length === 0) return to - out;

  let bits: i32 = 1;
  while (<usize>1 << bits <= length && bits <= MOST_HASH_BITS) bits++;
  bits--;
  const shift = <u32>(32 - bits);
  memory.fill(table, 0, <usize>4 << bits);

  const end = from + length;
  let kept = from;
  if (length >= MARGIN) {
    const limit = end - MARGIN;
    let at = from + 1;
    let next = hashAt(at, shift);
    for (;;) {
      let skip: usize = 32;
      let following = at;
      let before: usize = 0;
      let isOver = false;
      do {
        at = following;
        const slot = table + (<usize>next << 2);
        following = at + (skip >> 5);
        skip++;
        if (at > limit) {
          isOver = true;
          break;
        }
        next = hashAt(following, shift);
        before = from + <usize>load<u32>(slot);
        store<u32>(slot, <u32>(at - from));
      } while (at - before > FARTHEST || load<u32>(at) !== load<u32>(before));
      if (isOver) break;
      to = literal(kept, at - kept, to);
      do {
        const length = 4 + alike(before + 4, at + 4, end);
        to = copy(at - before, length, to);
        at += length;
        kept = at;
        if (at >= limit) {
          isOver = true;
          break;
        }
        store<u32>(table + (<usize>hashAt(at - 1, shift) << 2), <u32>(at - 1 - from));
        const slot = table + (<usize>hashAt(at, shift) << 2);
        before = from + <usize>load<u32>(slot);
        store<u32>(slot, <u32>(at - from));
      } while (at - before <= FARTHEST && load<u32>(at) === load<u32>(before));
      if (isOver) break;
      at++;
      next = hashAt(at, shift);
    }
  }
  if (kept < end) to = literal(kept, end - kept, to);
  return to - out;
}

// @ts-ignore: decorator
@inline
function hashAt(at: usize, shift: u32): u32 {
  return (load<u32>(at) * 0x1e35a7bd) >> shift;
}

/** How many bytes from two places on are the same. */
// @ts-ignore: decorator
@inline
export function alike(one: usize, other: usize, end: usize): usize {
  let count: usize = 0;
  while (other + count + 8 <= end) {
    const differ = load<u64>(one + count) ^ load<u64>(other + count);
    if (differ !== 0) return count + (<usize>ctz(differ) >> 3);
    count += 8;
  }
  while (other + count < end && load<u8>(one + count) === load<u8>(other + count)) count++;
  return count;
}

/** Bytes as they are. @returns the place behind them */
// @ts-ignore: decorator
@inline
function literal(from: usize, length: usize, out: usize): usize {
  let to = out;
  if (length <= 60) {
    store<u8>(to++, <u8>((length - 1) << 2));
  } else {
    const value = length - 1;
    const bytes: usize = value < 0x100 ? 1 : value < 0x10000 ? 2 : value < 0x1000000 ? 3 : 4;
    store<u8>(to++, <u8>((59 + bytes) << 2));
    store<u32>(to, <u32>value);
    to += bytes;
  }
  memory.copy(to, from, length);
  return to + length;
}

/** Bytes that stood before. @returns the place behind it */
// @ts-ignore: decorator
@inline
function copy(offset: usize, length: usize, out: usize): usize {
  let to = out;
  let left = length;
  for (; left >= 68; left -= 64) to = shortCopy(offset, 64, to);
  if (left > 64) {
    to = shortCopy(offset, 60, to);
    left -= 60;
  }
  return shortCopy(offset, left, to);
}

function shortCopy(offset: usize, length: usize, to: usize): usize {
  if (length < 12 && offset < 2048) {
    store<u8>(to, <u8>(1 + ((length - 4) << 2) + ((offset >> 8) << 5)));
    store<u8>(to + 1, <u8>offset);
    return to + 2;
  }
  store<u8>(to, <u8>(2 + ((length - 1) << 2)));
  store<u16>(to + 1, <u16>offset);
  return to + 3;
}
