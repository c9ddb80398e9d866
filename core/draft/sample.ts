import { runStarts } from '../rules/placed.ts';
import { unseenMask } from '../table/column.ts';
import { takeRows } from '../table/gather.ts';
import type { Table } from '../table/table.ts';

/** Cells of a table that a search looks at, again and again. */
const SEARCHED_CELLS = 7000;
/** Cells of a table that is looked at once. */
export const SEEN_CELLS = 120_000;
/** Rows that the cells of a sample may be at least and at most. */
const MIN_ROWS = 250;
const MAX_ROWS = 4000;
/** Rows of a sheet's end. */
const TAIL = 60;
/** Sheets that are looked at for more than how they begin. */
const MAX_SHEETS = 12;
const MIN_OF_SHEET = 60;
const BEGINNING = 16;
/** Sheets of which the beginning is looked at, evenly from all of them. */
const MAX_BEGINNINGS = 48;

/** Tables of which rows were left out, so that sums have lost some of what they sum. */
const cut = new WeakSet<Table>();

export const isCut = (table: Table): boolean => cut.has(table);

/**
 * The table itself, or of a large one the head and the tail of each sheet: whole neighbourhoods that begin and end where a
 * block does, so that the sums of blocks still have their rows.
 *
 * @param cells how many of them the sample has about
 */
export function sampleOf(table: Table, within: string | undefined, cells = SEARCHED_CELLS): Table {
  const columns = Math.max(1, table.fields.length);
  const limit = Math.min(MAX_ROWS, Math.max(MIN_ROWS, Math.floor(cells / columns)));
  if (table.rows <= limit) return table;
  const starts = runStarts(table, within);
  const runs = starts.length - 1;
  const share = Math.max(MIN_OF_SHEET, Math.floor(limit / Math.min(runs, MAX_SHEETS)));
  const isEdge = edgesOf(table);
  const rows: number[] = [];
  const take = (from: number, to: number) => {
    for (let r = from; r < to; r++) rows.push(r);
  };
  const every = Math.ceil(runs / MAX_BEGINNINGS);
  for (let k = 0; k < runs; k++) {
    const isLookedInto = k < MAX_SHEETS - 1 || k === runs - 1;
    if (!isLookedInto && k % every !== 0) continue;
    const [from, to] = [starts[k]!, starts[k + 1]!];
    const own = isLookedInto ? share : BEGINNING;
    if (to - from <= own) {
      take(from, to);
      continue;
    }
    const tail = Math.min(TAIL, Math.floor(own / 4));
    take(from, edgeNear(from + own - tail, from + Math.floor((own - tail) / 2), isEdge));
    take(edgeNear(to - tail, to - 2 * tail, isEdge), to);
  }
  const sample = {
    ...takeRows(table, Int32Array.from(rows)),
    ...(table.decimal === undefined ? {} : { decimal: table.decimal }),
  };
  if (rows.length < table.rows) cut.add(sample);
  return sample;
}

/** Whether a row has nothing or one cell in it, as those between blocks have. */
function edgesOf(table: Table): (row: number) => boolean {
  const unseen = table.fields.flatMap((field) => (field.nameOrigin === 'beside' ? [] : [unseenMask(field.column)]));
  return (row) => {
    let filled = 0;
    for (const mask of unseen) if (mask[row] === 0 && ++filled > 1) return false;
    return true;
  };
}

/** The nearest edge above a row, down to another; the row itself where there is none. */
function edgeNear(row: number, least: number, isEdge: (row: number) => boolean): number {
  for (let r = row; r > least; r--) if (isEdge(r) && !isEdge(r - 1)) return r;
  return row;
}
