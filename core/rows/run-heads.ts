import { FREE_FROM, kernels } from '../kernels/kernels.ts';
import { Places } from '../kernels/window.ts';
import { maskedRows } from '../table/gather.ts';

/** Rows that are looked at at a time, a column after the other, so that what is marked stays in cache. */
const STRETCH = 8192;
/** Fewer rows are looked at as fast without a kernel. */
const MIN_ROWS = 65_536;

/**
 * The first row of each run of rows with the same codes, ascending.
 * @param all for each column a code for each row
 * @param kernelFrom rows from which a kernel looks at them, where there is one
 */
export function runHeads(all: readonly Int32Array[], rows: number, kernelFrom = MIN_ROWS): Int32Array {
  if (rows === 0) return new Int32Array(0);
  return (rows < kernelFrom ? undefined : byKernel(all, rows)) ?? byRow(all, rows);
}

function byKernel(all: readonly Int32Array[], rows: number): Int32Array | undefined {
  const places = new Places(FREE_FROM);
  const at = {
    codes: places.take((STRETCH + 4) * 4),
    marks: places.take(STRETCH / 8),
    found: places.take(STRETCH * 4),
  };
  const made = kernels(places.take(0) - FREE_FROM);
  if (made === undefined) return undefined;
  const { kernels: kernel, memory } = made;
  const codes = new Int32Array(memory, at.codes, STRETCH + 4);
  const marks = new Uint8Array(memory, at.marks, STRETCH / 8);
  let heads = new Int32Array(STRETCH);
  let count = 1;
  for (let from = 1; from < rows; from += STRETCH) {
    const own = Math.min(STRETCH, rows - from);
    marks.fill(0);
    for (const column of all) {
      // The kernel wants its codes where 128 bits begin, and the one before them.
      codes.set(column.subarray(from - 1, from + own), 3);
      kernel.markHeads(at.codes + 16, (own + 7) & ~7, at.marks);
    }
    // Marks behind the last row are those of codes of a stretch before.
    if (own < STRETCH) clearFrom(marks, own);
    const found = kernel.markedRows(at.marks, own, from, at.found);
    if (count + found > heads.length) {
      const wider = new Int32Array(Math.max(count + found, heads.length * 2));
      wider.set(heads);
      heads = wider;
    }
    heads.set(new Int32Array(memory, at.found, found), count);
    count += found;
  }
  return heads.slice(0, count);
}

function clearFrom(marks: Uint8Array, bit: number): void {
  marks[bit >> 3]! &= (1 << (bit & 7)) - 1;
  marks.fill(0, (bit >> 3) + 1);
}

function byRow(all: readonly Int32Array[], rows: number): Int32Array {
  const heads = new Uint8Array(rows);
  heads[0] = 1;
  for (let from = 1; from < rows; from += STRETCH) {
    const to = Math.min(rows, from + STRETCH);
    for (const codes of all) {
      let before = codes[from - 1]!;
      for (let r = from; r < to; r++) {
        const code = codes[r]!;
        if (code !== before) heads[r] = 1;
        before = code;
      }
    }
  }
  return maskedRows(heads);
}
