import { FREE_FROM, kernels } from '../kernels/kernels.ts';
import { Places } from '../kernels/window.ts';

/** Cells at a time, and the bytes that they may lie apart: all of it stays in the processor's cache. */
const MOST_CELLS = 8200;
const MOST_BYTES = 262_144;
/** Fewer cells are read as fast without. */
const FEWEST_CELLS = 4096;

/** How numbers are written, by bytes. */
export interface NumberMarks {
  decimal: number;
  /** Between groups of three digits; -1 for none. */
  group: number;
  /** Numbers with a fraction are none. */
  whole: boolean;
}

export interface KernelNumbers {
  /** NaN where a cell is blank or has to be read another way. */
  values: Float64Array;
  filled: number;
  /** How many of the filled cells have no number. */
  others: number;
  /** Zeros stand before other digits of a cell. */
  leadingZero: boolean;
}

/**
 * Numbers of cells that are runs of a source's bytes.
 * @param starts first byte of each cell, below zero for a blank one
 * @param lengths in bytes
 * @returns undefined where there are no kernels, or too few cells
 */
export function numbersByKernel(
  { bytes, starts, lengths }: { bytes: Uint8Array; starts: Int32Array; lengths: Uint16Array },
  marks: NumberMarks,
): KernelNumbers | undefined {
  const rows = starts.length;
  const made = rows < FEWEST_CELLS ? undefined : kernels(MOST_BYTES + MOST_CELLS * 14 + 64);
  if (made === undefined) return undefined;
  const { kernels: kernel, memory } = made;
  const places = new Places(FREE_FROM);
  const window = new Uint8Array(memory, places.take(MOST_BYTES), MOST_BYTES);
  const startsThere = new Int32Array(memory, places.take(MOST_CELLS * 4), MOST_CELLS);
  const lengthsThere = new Uint16Array(memory, places.take(MOST_CELLS * 2), MOST_CELLS);
  const valuesThere = new Float64Array(memory, places.take(MOST_CELLS * 8), MOST_CELLS);
  const found: KernelNumbers = { values: new Float64Array(rows), filled: 0, others: 0, leadingZero: false };
  for (let row = 0; row < rows; ) {
    // As many cells as lie close to each other in the source, in whatever order.
    let first = -1;
    let last = 0;
    let to = row;
    for (const end = Math.min(rows, row + MOST_CELLS); to < end; to++) {
      const start = starts[to]!;
      if (start < 0) continue;
      const behind = start + lengths[to]!;
      // Cells that stand nowhere as they read are not in memory, and left.
      if (behind <= bytes.length) {
        const from = first < 0 || start < first ? start : first;
        const until = Math.max(last, behind);
        if (until - from <= MOST_BYTES) {
          first = from;
          last = until;
        } else if (first >= 0) break;
      }
      found.filled++;
    }
    const base = Math.max(first, 0);
    window.set(bytes.subarray(base, last));
    startsThere.set(starts.subarray(row, to));
    lengthsThere.set(lengths.subarray(row, to));
    found.others += kernel.numbers(
      window.byteOffset,
      window.byteOffset + last - base,
      base,
      to - row,
      startsThere.byteOffset,
      lengthsThere.byteOffset,
      valuesThere.byteOffset,
      marks.decimal,
      marks.group,
      marks.whole ? 1 : 0,
    );
    if (kernel.numbersLeadWithZero.value === 1) found.leadingZero = true;
    found.values.set(valuesThere.subarray(0, to - row), row);
    row = to;
  }
  return found;
}
