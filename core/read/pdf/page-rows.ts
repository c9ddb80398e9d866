/** Lines that go on in the line below, or above and below, as one row. */

import type { PageLine } from './page-lines.ts';

/** A row: lines of one page that belong together, by their places among its lines. */
export interface PageRow {
  page: number;
  from: number;
  to: number;
}

interface Line {
  line: PageLine;
  /** Texts of its cells; null: blank. */
  cells: readonly (string | null)[];
  /** It is no part of the table. */
  isFrame: boolean;
}

/** Share of the distance between rows under which two lines are one row. */
const CLOSE = 0.88;
const SHORT_OF_FULL = 0.6;

const isFigure = (text: string | null) => text !== null && /^[^\p{L}]*\d[^\p{L}]*$/u.test(text);

/** Rows of each page, in order. Nothing is joined where `join` is false. */
export function rowsOfPages(pages: readonly (readonly Line[])[], join: boolean): PageRow[] {
  const pitch = join ? rowPitch(pages) : undefined;
  return pages.flatMap((lines, page) => {
    const rows: PageRow[] = [];
    lines.forEach((one, k) => {
      if (one.isFrame) return;
      const last = rows.at(-1);
      const isNext = last !== undefined && last.to === k && !lines[k - 1]!.isFrame;
      if (isNext && pitch !== undefined && goesOn(lines.slice(last.from, k), one, pitch)) last.to = k + 1;
      else rows.push({ page, from: k, to: k + 1 });
    });
    return rows;
  });
}

/** The usual distance from a line that fills most columns to the next such line. */
function rowPitch(pages: readonly (readonly Line[])[]): number {
  const gaps: number[] = [];
  for (const lines of pages)
    for (let k = 1; k < lines.length; k++)
      if (isFull(lines[k - 1]!) && isFull(lines[k]!)) gaps.push(lines[k]!.line.baseline - lines[k - 1]!.line.baseline);
  gaps.sort((a, b) => a - b);
  return gaps[Math.floor(gaps.length / 2)] ?? 0;
}

function isFull({ cells, isFrame }: Line): boolean {
  return !isFrame && cells.filter((cell) => cell !== null).length >= Math.max(2, cells.length * SHORT_OF_FULL);
}

function isDrawn({ cells }: Line): boolean {
  return cells.every((cell) => cell === null || /^[^\p{L}\p{N}]{3,}$/u.test(cell));
}

/** Whether a line belongs to the row of the lines above it. */
function goesOn(above: readonly Line[], next: Line, pitch: number): boolean {
  if (pitch === 0 || isFull(next) === above.some(isFull)) return false;
  // Lines drawn with signs part rows.
  if ([...above, next].some(isDrawn)) return false;
  // The texts of the fuller of the two go on; what stands beside a figure would be another row.
  const [full, others] = isFull(next) ? [next, above] : [above.find(isFull)!, [next]];
  for (const { cells } of others)
    for (let c = 0; c < cells.length; c++) {
      if (cells[c] === null) continue;
      if (full.cells[c] === null || isFigure(cells[c]!) || isFigure(full.cells[c]!)) return false;
    }
  const gap = next.line.baseline - above.at(-1)!.line.baseline;
  if (gap < pitch * CLOSE) return true;
  // All lines lie equally far apart: what is blank in front, where the row has its name, goes on.
  return !isFull(next) && gap <= pitch * 1.05 && next.cells[0] === null && next.cells[1] === null;
}
