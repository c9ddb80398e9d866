import { FREE_FROM, kernels } from '../kernels/kernels.ts';
import { KernelWindow, Places, roomFor, WINDOW_BYTES } from '../kernels/window.ts';
import { SpanBuilder } from '../table/spans.ts';
import { LINE } from './ascii.ts';
import { expectedLines } from './delimited/tokenize.ts';

export interface FixedCells {
  rows: number;
  /** What stands before each cut and behind the last, the rest if there is one, and the lines themselves. */
  columns: SpanBuilder[];
  /** Lines with a word across a cut, ascending. */
  misfits: number[];
}

/** More cuts than this are those of no report. */
const MOST_CUTS = 1000;
const CELL_BYTES = 6;

/**
 * The cells between fixed characters of lines, straight from bytes.
 * @param cuts ascending
 * @param rest lines with a word across a cut go whole into a column of their own
 * @returns undefined where characters are not bytes (tabs, form feeds, letters beyond ASCII), where lines are very
 *   long, or where there are no kernels
 */
export function fixedByKernel(
  bytes: Uint8Array,
  cuts: readonly number[],
  rest: boolean,
  progress: (done: number) => void,
): FixedCells | undefined {
  if (cuts.length > MOST_CUTS || bytes.length === 0) return undefined;
  const count = cuts.length + (rest ? 3 : 2);
  const most = roomFor(count);
  const made = kernels(WINDOW_BYTES + most * (1 + count * CELL_BYTES) + cuts.length * 4 + 64);
  if (made === undefined) return undefined;
  const { kernels: kernel, memory } = made;
  const places = new Places(FREE_FROM);
  const starts = new Int32Array(memory, places.take(most * count * 4), most * count);
  const lengths = new Uint16Array(memory, places.take(most * count * 2), most * count);
  const misfits = new Uint8Array(memory, places.take(most), most);
  const given = new Int32Array(memory, places.take(cuts.length * 4), cuts.length);
  given.set(cuts);
  const window = new KernelWindow(made.kernels, bytes, new Uint8Array(memory, places.take(WINDOW_BYTES), WINDOW_BYTES));
  const expected = expectedLines(bytes);
  const found: FixedCells = { rows: 0, columns: [], misfits: [] };
  for (let k = 0; k < count; k++) found.columns.push(new SpanBuilder(expected));
  const endsLine = bytes.at(-1) === LINE;
  const call = (from: number, end: number, base: number, isLast: boolean) =>
    kernel.fixedWidth(
      from,
      // A last line without its end takes the line feed that stands behind the bytes.
      isLast && !endsLine ? end + 1 : end,
      base,
      given.byteOffset,
      cuts.length,
      rest ? 1 : 0,
      most,
      misfits.byteOffset,
      starts.byteOffset,
      lengths.byteOffset,
    );
  for (let at = 0; at < bytes.length; ) {
    const lines = window.rows(at, call);
    if (lines === undefined) return undefined;
    const { rows } = lines;
    found.columns.forEach((column, k) => {
      const from = k * most;
      column.append({ starts: starts.subarray(from, from + rows), lengths: lengths.subarray(from, from + rows) });
    });
    for (let r = 0; r < rows; r++) if (misfits[r] === 1) found.misfits.push(found.rows + r);
    found.rows += rows;
    at = kernel.fixedWidthAt.value + lines.base;
    progress(at / bytes.length);
  }
  return found;
}
