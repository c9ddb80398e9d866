/** Cells of a column of Parquet: numbers with a dictionary, and codes in few bits. */

/** What the last call of numberCodes found: bounds (the least above the greatest where all is blank), and filled cells. */
export let numberCodesLeast: f64 = Infinity;
export let numberCodesMost: f64 = -Infinity;
export let numberCodesFilled: i32 = 0;

/**
 * Tells filled cells, bounds, and for filled cells which number they are.
 * @param values 64 bits for each row; NaN is blank
 * @param filled 8 bits for each row: 1 where it is filled
 * @param codes 32 bits for each filled row
 * @param entries 64 bits for each different number
 * @param most entries at most
 * @param slots 2^bits x 32 bits, of which more than half are never taken
 * @returns how many entries there are, or -1 where there were more; all else is found nonetheless
 */
export function numberCodes(
  values: usize,
  rows: i32,
  filled: usize,
  codes: usize,
  entries: usize,
  most: i32,
  slots: usize,
  bits: i32,
): i32 {
  const mask = (1 << bits) - 1;
  memory.fill(slots, 0, <usize>4 << bits);
  let least: f64 = Infinity;
  let greatest: f64 = -Infinity;
  let count: i32 = 0;
  let different: i32 = 0;
  for (let row: usize = 0; row < <usize>rows; row++) {
    const value = load<f64>(values + (row << 3));
    const isFilled = value === value;
    store<u8>(filled + row, isFilled ? 1 : 0);
    if (!isFilled) continue;
    least = value < least ? value : least;
    greatest = value > greatest ? value : greatest;
    if (different >= 0) {
      const word = load<u64>(values + (row << 3));
      let slot = <i32>((word * 0x9e3779b97f4a7c15) >> <u64>(64 - bits));
      for (;;) {
        const code = load<i32>(slots + (<usize>slot << 2)) - 1;
        if (code < 0) {
          if (different === most) {
            different = -1;
            break;
          }
          store<u64>(entries + (<usize>different << 3), word);
          store<i32>(codes + (<usize>count << 2), different++);
          store<i32>(slots + (<usize>slot << 2), different);
          break;
        }
        // By their bits: 0 and -0 are two numbers.
        if (load<u64>(entries + (<usize>code << 3)) === word) {
          store<i32>(codes + (<usize>count << 2), code);
          break;
        }
        slot = (slot + 1) & mask;
      }
    }
    count++;
  }
  numberCodesLeast = least;
  numberCodesMost = greatest;
  numberCodesFilled = count;
  return different;
}

/** Values that are packed together, and from how many equal ones on they are told as one with their number. */
const GROUP: i32 = 8;
const RUN: i32 = 16;

/**
 * 'RLE / bit-packing hybrid' (apache/parquet-format, Encodings.md), to the same bytes as core/write/parquet/hybrid.ts.
 * @param values 8 or 32 bits each
 * @param shift 0 or 2 accordingly
 * @param width bits of a value, 17 at most
 * @param out place for twice what they take packed, and 32 bytes
 * @returns the end of what came out
 */
export function hybrid(values: usize, count: i32, shift: i32, width: i32, out: usize): usize {
  const valueBytes = (width + 7) >> 3;
  let packedFrom: i32 = 0;
  let at: i32 = 0;
  while (at < count) {
    const value = valueAt(values, at, shift);
    let end = at + 1;
    while (end < count && valueAt(values, end, shift) === value) end++;
    if (end - at < RUN) {
      // Groups are whole: a run begins where one ends.
      at = packedFrom + ((end - packedFrom + GROUP - 1) / GROUP) * GROUP;
      continue;
    }
    out = packed(values, packedFrom, at, shift, width, out);
    out = varint(<u32>(end - at) << 1, out);
    store<u32>(out, value);
    out += valueBytes;
    packedFrom = end;
    at = end;
  }
  return packed(values, packedFrom, count, shift, width, out);
}

// @ts-ignore: decorator
@inline
function valueAt(values: usize, at: i32, shift: i32): u32 {
  return shift === 0 ? <u32>load<u8>(values + <usize>at) : load<u32>(values + (<usize>at << 2));
}

/** Values in groups of eight, the last filled up with zeros. */
function packed(values: usize, from: i32, to: i32, shift: i32, width: i32, out: usize): usize {
  if (from === to) return out;
  const groups = (to - from + GROUP - 1) / GROUP;
  out = varint((<u32>groups << 1) | 1, out);
  let held: u64 = 0;
  let bits: i32 = 0;
  const last = from + groups * GROUP;
  for (let k = from; k < last; k++) {
    if (k < to) held |= <u64>valueAt(values, k, shift) << <u64>bits;
    bits += width;
    store<u64>(out, held);
    out += bits >> 3;
    held >>= <u64>(bits & ~7);
    bits &= 7;
  }
  return out;
}

function varint(value: u32, out: usize): usize {
  for (; value >= 0x80; value >>= 7) store<u8>(out++, <u8>(value | 0x80));
  store<u8>(out++, <u8>value);
  return out;
}

/** Which of some texts are the least and the greatest by their bytes: the first of equal ones. */
export let textBoundsMost: i32 = 0;

/**
 * @param bytes of the texts, one behind the other, each with four bytes before it that are none of its own
 * @param ends 64 bits for each text, a zero before them: where it ends
 * @returns the least
 */
export function textBounds(bytes: usize, ends: usize, count: i32): i32 {
  let least: i32 = 0;
  let most: i32 = 0;
  for (let k = 1; k < count; k++) {
    if (compared(bytes, ends, k, least) < 0) least = k;
    else if (compared(bytes, ends, k, most) > 0) most = k;
  }
  textBoundsMost = most;
  return least;
}

function compared(bytes: usize, ends: usize, one: i32, other: i32): i32 {
  let a = bytes + endAt(ends, one) + 4;
  let b = bytes + endAt(ends, other) + 4;
  const lengthA = <i32>(bytes + endAt(ends, one + 1) - a);
  const lengthB = <i32>(bytes + endAt(ends, other + 1) - b);
  const shared = min(lengthA, lengthB);
  for (let k = 0; k + 8 <= shared; k += 8, a += 8, b += 8) {
    const wordA = bswap(load<u64>(a));
    const wordB = bswap(load<u64>(b));
    if (wordA !== wordB) return wordA < wordB ? -1 : 1;
  }
  for (let rest = shared & 7; rest > 0; rest--, a++, b++) {
    const difference = <i32>load<u8>(a) - <i32>load<u8>(b);
    if (difference !== 0) return difference;
  }
  return lengthA - lengthB;
}

// @ts-ignore: decorator
@inline
function endAt(ends: usize, k: i32): usize {
  return <usize>load<f64>(ends + (<usize>k << 3));
}
