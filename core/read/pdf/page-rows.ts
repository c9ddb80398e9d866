/** Lines that go on in the line below, or above and below, as one row. */

import type { PageLine } from '../print.ts';
import { fillsMost } from './page-cuts.ts';

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

const isFigure = (text: string | null) => text !== null && /^[^\p{L}]*\d[^\p{L}]*$/u.test(text);

/** Rows of each page, in order. Nothing is joined where `join` is false. */
export function rowsOfPages(pages: readonly (readonly Line[])[], join: boolean): PageRow[] {
  const pitch = join ? rowPitch(pages) : 0;
  return pages.flatMap((lines, page) => {
    const owners = pitch > 0 ? ownersOf(lines, pitch) : lines.map((_, k) => k);
    const rows: PageRow[] = [];
    lines.forEach((one, k) => {
      if (one.isFrame) return;
      const last = rows.at(-1);
      if (last !== undefined && last.to === k && owners[k] === owners[k - 1]) last.to = k + 1;
      else rows.push({ page, from: k, to: k + 1 });
    });
    return rows;
  });
}

/** For each line the full line whose row it belongs to, or itself. */
function ownersOf(lines: readonly Line[], pitch: number): number[] {
  const owners = lines.map((_, k) => k);
  let above = -1;
  for (let k = 0; k <= lines.length; k++) {
    const isEnd = k === lines.length || lines[k]!.isFrame;
    if (!isEnd && !isFull(lines[k]!)) continue;
    const below = isEnd ? -1 : k;
    const first = above < 0 ? k - run(lines, k) : above + 1;
    share(lines, owners, above, first, k, below, pitch);
    above = below;
  }
  return owners;
}

/** How many lines in front of one follow each other without a frame or a full line. */
function run(lines: readonly Line[], end: number): number {
  let count = 0;
  while (count < end && !lines[end - 1 - count]!.isFrame && !isFull(lines[end - 1 - count]!)) count++;
  return count;
}

/**
 * Gives the lines between two full ones to that above, up to the widest gap, and to that below from there on.
 * @param above -1: there is none, as for below
 */
function share(
  lines: readonly Line[],
  owners: number[],
  above: number,
  first: number,
  end: number,
  below: number,
  pitch: number,
): void {
  if (first >= end) return;
  const gap = (k: number) => lines[k]!.line.baseline - lines[k - 1]!.line.baseline;
  let widest = above < 0 ? first : below < 0 ? end : above + 1;
  if (above >= 0 && below >= 0) {
    for (let k = above + 2; k <= below; k++) if (gap(k) > gap(widest) * 1.05) widest = k;
    // All lines lie equally far apart: what goes on stands below.
    const narrowest = Math.min(...Array.from({ length: below - above }, (_, n) => gap(above + 1 + n)));
    if (gap(widest) < narrowest * 1.1) widest = below;
  }
  for (let k = first; k < widest && above >= 0; k++) {
    if (owners[k - 1] !== above || !goesOn(lines[above]!, lines[k]!, gap(k), pitch, true)) break;
    owners[k] = above;
  }
  for (let k = end - 1; k >= widest && below >= 0; k--) {
    if (owners[k + 1] !== below || !goesOn(lines[below]!, lines[k]!, gap(k + 1), pitch, false)) break;
    owners[k] = below;
  }
}

/** The usual distance from a line that fills most columns to the next such line. */
function rowPitch(pages: readonly (readonly Line[])[]): number {
  const gaps: number[] = [];
  for (const lines of pages)
    for (let k = 1; k < lines.length; k++)
      if (isFull(lines[k - 1]!) && isFull(lines[k]!)) gaps.push(lines[k]!.line.baseline - lines[k - 1]!.line.baseline);
  gaps.sort((a, b) => a - b);
  return gaps[Math.floor(gaps.length / 2)] ?? pitchOver(pages);
}

/** Where no two full lines follow each other: the usual distance from one to the next over what stands between. */
function pitchOver(pages: readonly (readonly Line[])[]): number {
  const gaps = pages.flatMap((lines) => {
    const full = lines.filter(isFull).map((one) => one.line.baseline);
    return full.slice(1).map((baseline, k) => baseline - full[k]!);
  });
  gaps.sort((a, b) => a - b);
  return gaps[Math.floor(gaps.length / 2)] ?? 0;
}

function isFull({ cells, isFrame }: Line): boolean {
  return !isFrame && fillsMost(cells.filter((cell) => cell !== null).length, cells.length);
}

function isDrawn({ cells }: Line): boolean {
  return cells.every((cell) => cell === null || /^[^\p{L}\p{N}]{3,}$/u.test(cell));
}

/** Whether a line belongs to the row of a full one, by what stands in both and how far they are apart. */
function goesOn(full: Line, line: Line, gap: number, pitch: number, isBelow: boolean): boolean {
  // Lines drawn with signs part rows.
  if (isDrawn(full) || isDrawn(line)) return false;
  // Lines that overlap stand in one row: a cell in the middle of its row has its lines above and below the others.
  const overlaps = gap < line.line.size;
  // Texts go on; what stands beside a figure would be another row.
  for (let c = 0; c < line.cells.length; c++) {
    if (line.cells[c] === null) continue;
    if ((full.cells[c] === null && !overlaps) || isFigure(line.cells[c]!) || isFigure(full.cells[c] ?? null))
      return false;
  }
  if (gap < pitch * CLOSE) return true;
  // Lines that all lie equally far apart: what is blank in front, where a row has its name, goes on.
  return isBelow && gap <= pitch * 1.05 && line.cells[0] === null && line.cells[1] === null;
}
