import {
  type ColumnFate,
  columnFates,
  type Found,
  findText,
  type JobStep,
  type LineReader,
  lineReader,
  type Mark,
  type MethodRun,
  type Piece,
  reportRowsOf,
  rowAfter,
  rowFates,
  rulesOfRows,
  stepsOfMarks,
  templateOfPieces,
} from '../../../core/index.ts';
import type {
  LineView,
  PrintLineView,
  PrintView,
  ReportRows,
  ReportView,
  RowOffers,
  RowView,
  TextView,
} from '../protocol.ts';
import { type EngineState, MAX_SENT } from '../state.ts';
import { lineViews, printLines, printView, reportRows, reportView, textProfile } from '../views.ts';
import { rawRowsOf } from './raw-rows.ts';

/** Lines that a template is tried on while it is pointed together. */
const MAX_LINES = 5000;

/** The report behind a table: as it was received, and what became of its rows and columns. */
export class ReceivedReport {
  constructor(private readonly state: EngineState) {}

  view(tableId: string): ReportView | undefined {
    const report = this.state.reportOf(tableId);
    return report === undefined ? undefined : reportView(report);
  }

  rows(tableId: string, step: number, part: number, from: number, to: number): RowView[] {
    const run = this.state.runs.get(tableId);
    const report = this.state.reportOf(tableId);
    if (run === undefined || report === undefined || part >= report.parts.length) return [];
    return reportRows(report, part, from, to, markOf(run, step, part));
  }

  /** Lines of a part as they stand, with the stretches that its cells are. */
  lines(tableId: string, step: number, part: number, from: number, to: number): LineView[] {
    const run = this.state.runs.get(tableId);
    const sheet = this.state.reportOf(tableId)?.parts[part];
    if (run === undefined || sheet === undefined) return [];
    return lineViews(sheet, from, to, markOf(run, step, part), readerOf(run));
  }

  /** The pages of a part; undefined where it is no print. */
  print(tableId: string, part: number): PrintView | undefined {
    const print = this.state.reportOf(tableId)?.parts[part]?.print;
    return print === undefined ? undefined : printView(print);
  }

  /** The lines of a printed page. @param index among the pages that are read */
  printedLines(tableId: string, step: number, part: number, index: number): PrintLineView[] {
    const run = this.state.runs.get(tableId);
    const print = this.state.reportOf(tableId)?.parts[part]?.print;
    const page = print?.pages[index];
    return run === undefined || page === undefined ? [] : printLines(print!, page, markOf(run, step, part));
  }

  /** @throws ReadFailure */
  textProfile(tableId: string, part: number): TextView | undefined {
    const run = this.state.runs.get(tableId);
    const sheet = this.state.reportOf(tableId)?.parts[part];
    return run === undefined || sheet?.text === undefined ? undefined : textProfile(sheet.text, readerOf(run));
  }

  /** A template for the lines of a part out of named stretches of one of them. */
  templateOf(tableId: string, part: number, sample: string, pieces: readonly Piece[]): string {
    const lines = this.state.reportOf(tableId)?.parts[part]?.text ?? [];
    return templateOfPieces(sample, pieces, lines.slice(0, MAX_LINES));
  }

  /** Cells of a part that hold a text. */
  find(tableId: string, part: number, text: string): { cells: Found[]; total: number } {
    const columns = this.state.reportOf(tableId)?.parts[part]?.columns;
    return columns === undefined ? { cells: [], total: 0 } : findText(columns, text, MAX_SENT);
  }

  /** Where each column of a part of the report is after a step; undefined for columns that were not read. */
  columnFates(tableId: string, step: number, part: number): (ColumnFate | undefined)[] {
    const run = this.state.runs.get(tableId);
    const reading = run?.steps[0]?.reading;
    if (run === undefined || reading === undefined) return [];
    const fates = columnFates(run, Math.min(step, run.steps.length - 1));
    const columns = reading.places.ofPart?.[part] ?? reading.places.columns;
    return (reading.report.parts[part]?.columns ?? []).map((_, k) => fates[columns.indexOf(k)]);
  }

  /** Where a row of the report is after a step, and the rules that it follows there; of several, what they follow together. */
  rowOffers(tableId: string, step: number, place: ReportRows, mark: Mark): RowOffers {
    const run = this.state.runs.get(tableId);
    const reading = run?.steps[0]?.reading;
    if (run === undefined || reading === undefined) return { at: 'nowhere' };
    const raws = rawRowsOf(reading.places, reading.report)
      [place.part]?.slice(place.row, (place.to ?? place.row) + 1)
      .filter((raw) => raw >= 0);
    if (raws === undefined || raws.length === 0) return { at: 'nowhere' };
    const fate = rowFates(run, step).at(raws[0]!);
    if (raws.length === 1 && fate.pile !== undefined)
      return { at: 'aside', step: fate.step, pile: fate.pile, mark: fate.mark };
    // Of a selection the rows that are still in the table count.
    const rows = [...new Set([...raws].map((raw) => rowAfter(run, step, raw)))].filter((row) => row >= 0);
    const { table } = run.steps[step]!;
    if (rows.length === 0) return { at: 'nowhere' };
    rows.sort((a, b) => a - b);
    const offers = rulesOfRows(table, rows, mark).map(({ rules, text, rows: followed }) => ({
      text,
      count: followed.length,
      steps: stepsOfMarks(table, rows, mark, rules),
      rows: reportRowsOf(run, step, followed),
    }));
    return { at: 'here', offers };
  }
}

/** What the rows of a part of the report are after a step. */
function markOf(run: MethodRun, step: number, part: number): (row: number) => Mark | undefined {
  const at = Math.min(step, run.steps.length - 1);
  const reading = run.steps[0]?.reading;
  if (at === 0 || reading === undefined) return () => undefined;
  const raw = rawRowsOf(reading.places, reading.report)[part]!;
  const fates = rowFates(run, at);
  const aside = new Map<number, Mark>();
  for (const pile of reading.aside) if (pile.part === part) for (const row of pile.rows) aside.set(row, pile.mark);
  return (row) => (raw[row]! < 0 ? aside.get(row) : fates.at(raw[row]!).mark);
}

/** How the reading of a run takes lines apart. */
function readerOf(run: MethodRun): LineReader {
  const { step } = run.steps[0]!;
  const inner = step.params['each'] as Omit<JobStep, 'id'> | undefined;
  if (inner === undefined) return lineReader(step.kind, step.params);
  return lineReader(inner.kind, { ...inner.params, source: step.params['source'] });
}
