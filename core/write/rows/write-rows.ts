import { roomFor } from '../../kernels/window.ts';
import { Batch, type RowPart } from './batch.ts';
import { RowsKernel } from './rows-kernel.ts';
import type { TextBytes } from './text-bytes.ts';

/** Fewer cells are written as fast without a kernel. */
const MIN_CELLS = 4096;

/**
 * Adds rows of a table to what is written: the same bytes with a kernel and without.
 * @param first number of the table's first row, where rows are numbered
 * @param kernelFrom cells from which a kernel writes them, where there is one
 */
export function writeRows(
  parts: readonly RowPart[],
  { from, to }: { from: number; to: number },
  out: TextBytes,
  { first = 0, kernelFrom = MIN_CELLS } = {},
): void {
  if (to <= from) return;
  if (!out.isPlain) {
    writeTexts(parts, from, to, out, first);
    return;
  }
  const batch = new Batch(parts, Math.min(to - from, roomFor(parts.length)), first);
  const kernel = (to - from) * parts.length < kernelFrom ? undefined : RowsKernel.of(batch);
  for (let row = from; row < to; row += batch.rows) {
    batch.take(row, to, (p) => kernel?.knows(p) === true);
    if (kernel === undefined) batch.addTo(out, 0, batch.rows);
    else kernel.addTo(out);
  }
}

/** In another encoding than UTF-8, whose bytes cannot be put together before they are encoded. */
function writeTexts(parts: readonly RowPart[], from: number, to: number, out: TextBytes, first: number): void {
  for (let row = from; row < to; row++)
    for (const { front, isNumbered, behind, cells } of parts) {
      out.add(front);
      if (isNumbered === true) out.add(String(first + row));
      if (behind !== undefined) out.add(behind);
      cells?.write(row, out);
    }
}
