import { KernelWindow, laidOut, type PieceCall, roomFor, WINDOW_BYTES } from '../kernels/window.ts';
import { SpanBuilder } from '../table/span-builder.ts';
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
const MAX_CUTS = 1000;
const CELL_BYTES = 6;

/**
 * The cells between fixed characters of lines, straight from bytes.
 * @param cuts ascending
 * @param rest lines with a word across a cut go whole into their own column
 * @returns undefined where characters are not bytes (tabs, form feeds, letters beyond ASCII), where lines are very
 *   long, or where there are no kernels
 */
export function fixedByKernel(
  bytes: Uint8Array,
  cuts: readonly number[],
  rest: boolean,
  progress: (done: number) => void,
): FixedCells | undefined {
  if (cuts.length > MAX_CUTS || bytes.length === 0) return undefined;
  const count = cuts.length + (rest ? 3 : 2);
  const most = roomFor(count);
  const cells = most * count;
  const size = WINDOW_BYTES + cells * CELL_BYTES + most + cuts.length * 4 + 128;
  const laid = laidOut(size, (places) => {
    const given = places.words(cuts.length);
    given.set(cuts);
    return {
      starts: places.words(cells),
      lengths: places.halves(cells),
      misfits: places.bytes(most),
      given,
      told: places.words(2),
      window: places.window(),
    };
  });
  if (laid === undefined) return undefined;
  const expected = expectedLines(bytes);
  const found: FixedCells = { rows: 0, columns: [], misfits: [] };
  for (let k = 0; k < count; k++) found.columns.push(new SpanBuilder(expected));
  const endsLine = bytes.at(-1) === LINE;
  const window = new KernelWindow(bytes, laid, 'fixedWidth');
  const call: PieceCall<typeof laid.room> = (room, from, end, base, isLast) => [
    from,
    // A last line without its end takes the line feed that follows the bytes.
    isLast && !endsLine ? end + 1 : end,
    base,
    room.given.byteOffset,
    cuts.length,
    rest ? 1 : 0,
    most,
    room.misfits.byteOffset,
    room.starts.byteOffset,
    room.lengths.byteOffset,
    room.told.byteOffset,
  ];
  for (let at = 0; at < bytes.length; ) {
    const read = window.rows(at, call);
    if (read === undefined) return undefined;
    const { rows, room } = read;
    found.columns.forEach((column, k) => {
      const from = k * most;
      const starts = room.starts.subarray(from, from + rows);
      column.append({ starts, lengths: room.lengths.subarray(from, from + rows) });
    });
    for (let r = 0; r < rows; r++) if (room.misfits[r] === 1) found.misfits.push(found.rows + r);
    found.rows += rows;
    at = read.at;
    progress(at / bytes.length);
  }
  return found;
}
