import { runStarts } from '../rules/placed.ts';
import { takeRows } from '../table/gather.ts';
import type { Table } from '../table/table.ts';

/** Rows of a table that a search looks at. */
const MOST_ROWS = 4000;
const TAIL = 150;

/**
 * The table itself, or of a large one the head and the tail of each sheet and stretches between: whole neighbourhoods, so
 * that sums still have their rows.
 */
export function sampleOf(table: Table, within: string | undefined): Table {
  if (table.rows <= MOST_ROWS) return table;
  const starts = runStarts(table, within);
  const runs = starts.length - 1;
  const share = Math.max(60, Math.floor(MOST_ROWS / runs));
  const rows: number[] = [];
  for (let k = 0; k < runs; k++) {
    const [from, to] = [starts[k]!, starts[k + 1]!];
    if (to - from <= share) {
      for (let r = from; r < to; r++) rows.push(r);
      continue;
    }
    const tail = Math.min(TAIL, Math.floor(share / 4));
    for (let r = from; r < from + share - tail; r++) rows.push(r);
    for (let r = to - tail; r < to; r++) rows.push(r);
    if (rows.length > MOST_ROWS * 3) break;
  }
  return {
    ...takeRows(table, Int32Array.from(rows)),
    ...(table.decimal === undefined ? {} : { decimal: table.decimal }),
  };
}
