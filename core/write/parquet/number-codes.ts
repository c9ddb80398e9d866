/** Entries of a dictionary that is still worth its place, as a part of the cells. */
const WORTH = 1 / 3;
const LOW = new Int32Array(2);
const AS_NUMBER = new Float64Array(LOW.buffer);

/** A dictionary of numbers: each different one once, and for each cell which it is. */
export interface NumberCodes {
  /** -1 for a blank cell. */
  codes: Int32Array;
  entries: Float64Array;
}

/** @returns undefined where too many cells differ. @param values NaN is blank; 0 and -0 are two numbers */
export function numberCodes(values: Float64Array): NumberCodes | undefined {
  const n = values.length;
  const most = Math.ceil(n * WORTH);
  const codes = new Int32Array(n);
  const entries = new Float64Array(most);
  const slots = new Int32Array(2 ** Math.ceil(Math.log2(most * 2 + 2)));
  const mask = slots.length - 1;
  let count = 0;
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) {
      codes[r] = -1;
      continue;
    }
    AS_NUMBER[0] = value;
    let h = Math.imul(LOW[0]!, 0x9e3779b1) ^ Math.imul(LOW[1]!, 0x85ebca6b);
    h ^= h >>> 15;
    let slot = Math.imul(h, 0xc2b2ae35) & mask;
    for (;;) {
      const code = slots[slot]! - 1;
      if (code < 0) {
        if (count === most) return undefined;
        entries[count] = value;
        codes[r] = count++;
        slots[slot] = count;
        break;
      }
      if (entries[code] === value && (value !== 0 || Object.is(entries[code], value))) {
        codes[r] = code;
        break;
      }
      slot = (slot + 1) & mask;
    }
  }
  return { codes, entries: entries.subarray(0, count) };
}
