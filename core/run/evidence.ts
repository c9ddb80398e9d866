import { NAME } from '../table/origin.ts';
import type { MethodRun } from './run.ts';
import { cellsOfReport, type ReportCell, reportRowsOf } from './trace.ts';

/** What of the report a step speaks of. */
export interface Evidence {
  /** Rows that it takes out of the table. */
  rows: readonly { part: number; row: number }[];
  /** Cells and names of the columns that it changes or takes out, the first of them. */
  cells: readonly ReportCell[];
}

/** Rows of a changed column whose cells are reported. */
const MAX_ROWS = 60;
const MAX_CELLS = 1500;

/** The rows and columns of the report that a step of a run deals with. */
export function evidenceOf(run: MethodRun, index: number): Evidence {
  const [before, after] = [run.steps[index - 1]?.table, run.steps[index]];
  if (before === undefined || after === undefined) return { rows: [], cells: [] };
  const piles = after.aside.filter((pile) => pile.columns === undefined && pile.rows.length > 0);
  const rows = piles.flatMap((pile) => reportRowsOf(run, index - 1, pile.rows));
  // Where rows go, they are the reason; elsewhere it is what stands in columns.
  if (rows.length > 0) return { rows, cells: [] };
  const kept = new Set(after.table.fields.map((field) => field.column));
  const cells: ReportCell[] = [];
  before.fields.forEach((field, column) => {
    if (kept.has(field.column) || cells.length > MAX_CELLS) return;
    cells.push(...cellsOfReport(run, index - 1, { row: NAME, column }));
    for (let row = 0; row < Math.min(before.rows, MAX_ROWS); row++)
      cells.push(...cellsOfReport(run, index - 1, { row, column }));
  });
  return { rows, cells };
}
