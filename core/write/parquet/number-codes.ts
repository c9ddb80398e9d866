import { FREE_FROM } from '../../kernels/kernels.ts';
import { Places } from '../../kernels/window.ts';
import { parquetKernel } from './kernel.ts';

/** Entries of a dictionary that is still worth its place, as a part of the cells. */
const WORTH = 1 / 3;
const LOW = new Int32Array(2);
const AS_NUMBER = new Float64Array(LOW.buffer);

/** Fewer rows are looked at as fast without a kernel. */
const MIN_ROWS = 1024;

/** What is found in the numbers of a column. */
export interface NumberCodes {
  /** 1 where a cell is filled. */
  filled: Uint8Array;
  /** The least above the greatest where all cells are blank. */
  least: number;
  most: number;
  /** Each different number once, and for each filled cell which it is; undefined where too many differ. */
  coded: { codes: Int32Array; entries: Float64Array } | undefined;
}

/**
 * @param values NaN is blank; 0 and -0 are two numbers
 * @param kernelFrom rows from which a kernel looks at them, where there is one
 */
export function numberCodes(values: Float64Array, kernelFrom = MIN_ROWS): NumberCodes {
  return (values.length < kernelFrom ? undefined : byKernel(values)) ?? byNumber(values);
}

/** Entries at most, and how many bits number the slots in which they are searched for: never more than half are taken. */
function sizesFor(rows: number): { most: number; bits: number } {
  const most = Math.ceil(rows * WORTH);
  return { most, bits: Math.ceil(Math.log2(most * 2 + 2)) };
}

function byKernel(values: Float64Array): NumberCodes | undefined {
  const rows = values.length;
  const { most, bits } = sizesFor(rows);
  const places = new Places(FREE_FROM);
  const at = {
    values: places.take(rows * 8),
    filled: places.take(rows),
    codes: places.take(rows * 4),
    entries: places.take(most * 8),
    slots: places.take(4 << bits),
  };
  const made = parquetKernel(places.take(0) - FREE_FROM);
  if (made === undefined) return undefined;
  const { kernels: kernel, memory } = made;
  new Float64Array(memory, at.values, rows).set(values);
  const count = kernel.numberCodes(at.values, rows, at.filled, at.codes, at.entries, most, at.slots, bits);
  const filled = kernel.numberCodesFilled.value;
  return {
    filled: new Uint8Array(memory.slice(at.filled, at.filled + rows)),
    least: kernel.numberCodesLeast.value,
    most: kernel.numberCodesMost.value,
    coded:
      count < 0
        ? undefined
        : {
            codes: new Int32Array(memory.slice(at.codes, at.codes + filled * 4)),
            entries: new Float64Array(memory.slice(at.entries, at.entries + count * 8)),
          },
  };
}

function byNumber(values: Float64Array): NumberCodes {
  const filled = new Uint8Array(values.length);
  let least = Number.POSITIVE_INFINITY;
  let most = Number.NEGATIVE_INFINITY;
  for (let r = 0; r < values.length; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) continue;
    filled[r] = 1;
    if (value < least) least = value;
    if (value > most) most = value;
  }
  return { filled, least, most, coded: codesOf(values) };
}

function codesOf(values: Float64Array): NumberCodes['coded'] {
  const n = values.length;
  const { most, bits } = sizesFor(n);
  const codes = new Int32Array(n);
  const entries = new Float64Array(most);
  const slots = new Int32Array(2 ** bits);
  const mask = slots.length - 1;
  let count = 0;
  let cells = 0;
  for (let r = 0; r < n; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) continue;
    AS_NUMBER[0] = value;
    let h = Math.imul(LOW[0]!, 0x9e3779b1) ^ Math.imul(LOW[1]!, 0x85ebca6b);
    h ^= h >>> 15;
    let slot = Math.imul(h, 0xc2b2ae35) & mask;
    for (;;) {
      const code = slots[slot]! - 1;
      if (code < 0) {
        if (count === most) return undefined;
        entries[count] = value;
        codes[cells++] = count++;
        slots[slot] = count;
        break;
      }
      if (entries[code] === value && (value !== 0 || Object.is(entries[code], value))) {
        codes[cells++] = code;
        break;
      }
      slot = (slot + 1) & mask;
    }
  }
  return { codes: codes.subarray(0, cells), entries: entries.subarray(0, count) };
}
