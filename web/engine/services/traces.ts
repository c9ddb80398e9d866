import {
  type CellAddress,
  cellsOfReport,
  cellsOfTable,
  type Evidence,
  evidenceOf,
  type Found,
  type MethodRun,
  placeText,
  type ReportCell,
  reportRowsOf,
  rowAfter,
} from '../../../core/index.ts';
import type { ReportAddress, Traced, TracedToReport, TracedToTable } from '../protocol.ts';
import { type EngineState, MAX_SENT } from '../state.ts';
import { rawRowsOf } from './raw-rows.ts';

/** Rows looked through for the next one that is in the table. */
const NEAR_ROWS = 60;
const NOWHERE = { cells: [], total: 0 };

/** Where cells came from, and where they went. */
export class Traces {
  constructor(private readonly state: EngineState) {}

  toReport(tableId: string, step: number, cell: CellAddress): Traced<TracedToReport> {
    const run = this.runWith(tableId, step);
    return run === undefined ? NOWHERE : placed(run, cellsOfReport(run, step, cell));
  }

  /** Where the cells of a rectangle came from, each place once. */
  rangeToReport(tableId: string, step: number, range: { from: Found; to: Found }): Traced<TracedToReport> {
    const run = this.runWith(tableId, step);
    if (run === undefined) return NOWHERE;
    const found = new Map<string, ReportCell>();
    let asked = 0;
    for (let row = range.from.row; row <= range.to.row; row++) {
      for (let column = range.from.column; column <= range.to.column && asked < MAX_SENT; column++, asked++) {
        for (const one of cellsOfReport(run, step, { row, column }))
          found.set(`${one.source}/${one.part}/${one.row}/${one.column}`, one);
      }
    }
    return placed(run, [...found.values()]);
  }

  toTable(tableId: string, step: number, cell: ReportAddress): Traced<TracedToTable> {
    const run = this.runWith(tableId, step);
    if (run === undefined) return NOWHERE;
    const source = run.steps[0]?.reading?.source ?? '';
    const found = cellsOfTable(run, step, { ...cell, source });
    return { cells: found.slice(0, MAX_SENT), total: found.length };
  }

  /** What of the report a step speaks of. */
  evidence(tableId: string, step: number): { rows: Evidence['rows']; cells: readonly TracedToReport[] } {
    const run = this.runWith(tableId, step);
    if (run === undefined) return { rows: [], cells: [] };
    const { rows, cells } = evidenceOf(run, step);
    return { rows, cells: placed(run, cells).cells };
  }

  /** The row of the report that a row of the table stems from, for pages that scroll together. */
  reportRowBeside(tableId: string, step: number, row: number): { part: number; row: number } | undefined {
    const run = this.runWith(tableId, step);
    return run === undefined ? undefined : reportRowsOf(run, step, Int32Array.of(row))[0];
  }

  /** The first row of the table that stems from a row of the report, or from the next one below that is in it. */
  tableRowBeside(tableId: string, step: number, place: { part: number; row: number }): number | undefined {
    const run = this.runWith(tableId, step);
    const reading = run?.steps[0]?.reading;
    if (run === undefined || reading === undefined) return undefined;
    const raws = rawRowsOf(reading.places, reading.report)[place.part];
    for (let row = place.row; raws !== undefined && row < Math.min(raws.length, place.row + NEAR_ROWS); row++) {
      const found = raws[row]! < 0 ? -1 : rowAfter(run, step, raws[row]!);
      if (found >= 0) return found;
    }
    return undefined;
  }

  /** The newest run of a table, if it got as far as this step. */
  private runWith(tableId: string, step: number): MethodRun | undefined {
    const run = this.state.runs.get(tableId);
    return run?.steps[step] === undefined ? undefined : run;
  }
}

function placed(run: MethodRun, found: readonly ReportCell[]): Traced<TracedToReport> {
  const own = run.steps[0]?.reading;
  const cells = found.slice(0, MAX_SENT).map((one) => ({
    ...one,
    place: placeText(run, one),
    elsewhere: one.source !== own?.source,
  }));
  return { cells, total: found.length };
}
