import { FREE_FROM, kernels } from '../kernels/kernels.ts';
import { VectorPlaces } from '../kernels/window.ts';

/** Cells at a time, and the bytes that they may lie apart: all of it stays in the processor's cache. */
const MAX_CELLS = 8200;
const MAX_BYTES = 262_144;
/** How many of them must lie this close; of few cells, one in this number. */
const MIN_CLOSE = 64;
/** Fewer cells are read as fast without. */
const MIN_CELLS = 4096;

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
 * @returns undefined where there are no kernels, too few cells, or where they lie too far apart, as after a sort
 */
export function numbersByKernel(
  { bytes, starts, lengths }: { bytes: Uint8Array; starts: Int32Array; lengths: Uint16Array },
  marks: NumberMarks,
): KernelNumbers | undefined {
  const rows = starts.length;
  const made = rows < MIN_CELLS ? undefined : kernels(MAX_BYTES + MAX_CELLS * 14 + 64);
  if (made === undefined) return undefined;
  const { kernels: kernel, memory } = made;
  const places = new VectorPlaces(FREE_FROM, memory);
  const window = places.bytes(MAX_BYTES);
  const startsThere = places.words(MAX_CELLS);
  const lengthsThere = places.halves(MAX_CELLS);
  const valuesThere = places.doubles(MAX_CELLS);
  const found: KernelNumbers = { values: new Float64Array(rows), filled: 0, others: 0, leadingZero: false };
  for (let row = 0; row < rows; ) {
    const close = closeCells(starts, lengths, row, bytes.length);
    if (close === undefined) return undefined;
    const { to, first, last, filled } = close;
    found.filled += filled;
    window.set(bytes.subarray(first, last));
    startsThere.set(starts.subarray(row, to));
    lengthsThere.set(lengths.subarray(row, to));
    found.others += kernel.numbers(
      window.byteOffset,
      window.byteOffset + last - first,
      first,
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

/**
 * As many cells as lie close to each other in the source, in whatever order; those that stand nowhere as they read are
 * not in memory, and left. Undefined where too few do for a window to be filled.
 */
function closeCells(
  starts: Int32Array,
  lengths: Uint16Array,
  row: number,
  size: number,
): { to: number; first: number; last: number; filled: number } | undefined {
  const end = Math.min(starts.length, row + MAX_CELLS);
  const fewest = Math.min(MIN_CLOSE, Math.ceil((end - row) / MIN_CLOSE));
  for (let to = end; to - row >= fewest; to = row + Math.floor((to - row) / 4)) {
    let first = size;
    let last = 0;
    let filled = 0;
    for (let k = row; k < to; k++) {
      const start = starts[k]!;
      if (start < 0) continue;
      filled++;
      if (start >= size) continue;
      if (start < first) first = start;
      const behind = start + lengths[k]!;
      if (behind > last) last = behind;
    }
    last = Math.min(last, size);
    if (last - first <= MAX_BYTES) return { to, first: Math.min(first, last), last, filled };
  }
  return undefined;
}
