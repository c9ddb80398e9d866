import {
  type CellAddress,
  type ChartData,
  type ColumnFate,
  cellOffers,
  cellsOfReport,
  cellsOfTable,
  cellText,
  chartOf,
  columnFates,
  columnOffers,
  type FormulaTrial,
  type Found,
  findText,
  fittingPatterns,
  type Glance,
  glanceAt,
  type Mark,
  type MethodRun,
  type Offer,
  type PatternFit,
  type Places,
  placeText,
  type Report,
  type ReportCell,
  reportRowsOf,
  rowAfter,
  rowFates,
  rulesOfRow,
  stepOfMark,
  stretchOffers,
  type Table,
  textView,
  tryFormula,
} from '../../core/index.ts';
import type { ReportAddress, RowOffers, Selection, Traced, TracedToReport, TracedToTable } from './protocol.ts';

/** Rows and cells beyond this many are counted, not sent. */
export const MOST_SENT = 2000;

/** What is asked about runs that are at hand: nothing here changes them. */
export class Looks {
  protected readonly runs = new Map<string, MethodRun>();

  /** Another job is opened: nothing of the one before is at hand any more. */
  begin(): void {
    this.runs.clear();
  }

  protected tableOf(tableId: string, step: number): Table | undefined {
    return this.runs.get(tableId)?.steps[step]?.table;
  }

  protected reportOf(tableId: string): Report | undefined {
    return this.runs.get(tableId)?.steps[0]?.reading?.report;
  }

  traceToReport(tableId: string, step: number, cell: CellAddress): Traced<TracedToReport> {
    const run = this.runs.get(tableId);
    if (run === undefined || step >= run.steps.length) return { cells: [], total: 0 };
    return this.placed(run, cellsOfReport(run, step, cell));
  }

  /** Where the cells of a rectangle came from, each place once. */
  traceRange(tableId: string, step: number, range: { from: Found; to: Found }): Traced<TracedToReport> {
    const run = this.runs.get(tableId);
    if (run === undefined || step >= run.steps.length) return { cells: [], total: 0 };
    const found = new Map<string, ReportCell>();
    let asked = 0;
    for (let row = range.from.row; row <= range.to.row; row++) {
      for (let column = range.from.column; column <= range.to.column && asked < MOST_SENT; column++, asked++) {
        for (const one of cellsOfReport(run, step, { row, column }))
          found.set(`${one.source}/${one.part}/${one.row}/${one.column}`, one);
      }
    }
    return this.placed(run, [...found.values()]);
  }

  private placed(run: MethodRun, found: readonly ReportCell[]): Traced<TracedToReport> {
    const own = run.steps[0]?.reading;
    const cells = found.slice(0, MOST_SENT).map((one) => ({
      ...one,
      place: placeText(run, one),
      elsewhere: one.source !== own?.source,
    }));
    return { cells, total: found.length };
  }

  traceToTable(tableId: string, step: number, cell: ReportAddress): Traced<TracedToTable> {
    const run = this.runs.get(tableId);
    if (run === undefined || step >= run.steps.length) return { cells: [], total: 0 };
    const source = run.steps[0]?.reading?.source ?? '';
    const found = cellsOfTable(run, step, { ...cell, source });
    return { cells: found.slice(0, MOST_SENT), total: found.length };
  }

  /** The row of the report that a row of the table stems from, for pages that scroll together. */
  besideTable(tableId: string, step: number, row: number): { part: number; row: number } | undefined {
    const run = this.runs.get(tableId);
    if (run?.steps[step] === undefined) return undefined;
    return reportRowsOf(run, step, Int32Array.of(row))[0];
  }

  /** The first row of the table that stems from a row of the report, or from the next one below that is in it. */
  besideReport(tableId: string, step: number, place: { part: number; row: number }): number | undefined {
    const run = this.runs.get(tableId);
    const reading = run?.steps[0]?.reading;
    if (run?.steps[step] === undefined || reading === undefined) return undefined;
    const raws = rawRowsOf(reading.places, reading.report)[place.part];
    for (let row = place.row; raws !== undefined && row < Math.min(raws.length, place.row + NEAR_ROWS); row++) {
      const found = raws[row]! < 0 ? -1 : rowAfter(run, step, raws[row]!);
      if (found >= 0) return found;
    }
    return undefined;
  }

  /** Where each column of a part of the report is after a step; undefined for columns that were not read. */
  reportColumns(tableId: string, step: number, part: number): (ColumnFate | undefined)[] {
    const run = this.runs.get(tableId);
    const reading = run?.steps[0]?.reading;
    if (run === undefined || reading === undefined || run.steps.length === 0) return [];
    const fates = columnFates(run, Math.min(step, run.steps.length - 1));
    const columns = reading.places.ofPart?.[part] ?? reading.places.columns;
    return (reading.report.parts[part]?.columns ?? []).map((_, k) => fates[columns.indexOf(k)]);
  }

  /** Patterns that read every filled cell of the columns, and those that read some. */
  patternsFor(
    tableId: string,
    step: number,
    columns: readonly string[],
    type: 'date' | 'time' | 'datetime',
  ): PatternFit[] {
    const table = this.tableOf(tableId, step);
    return table === undefined ? [] : fittingPatterns(table, columns, type);
  }

  /** What an expression gives in the first rows, or where it goes wrong. */
  tryFormula(tableId: string, step: number, text: string): FormulaTrial {
    const table = this.tableOf(tableId, step);
    return table === undefined ? { first: [] } : tryFormula(table, text);
  }

  /** What can be done with what is selected after a step. */
  offers(tableId: string, step: number, selection: Selection): Offer[] {
    const table = this.runs.get(tableId)?.steps[step]?.table;
    if (table === undefined) return [];
    if ('columns' in selection) return columnOffers(table, selection.columns);
    const column = table.fields[selection.column]?.name ?? '';
    return selection.stretch === undefined
      ? cellOffers(table, selection.row, column)
      : stretchOffers(table, selection.row, column, ...selection.stretch);
  }

  /** Where a row of the report is after a step, and the rules that it follows there. */
  rowOffers(tableId: string, step: number, place: { part: number; row: number }, mark: Mark): RowOffers {
    const run = this.runs.get(tableId);
    const places = run?.steps[0]?.reading?.places;
    if (run === undefined || places === undefined) return { at: 'nowhere' };
    const raw = rawRowsOf(places, run.steps[0]!.reading!.report)[place.part]?.[place.row] ?? -1;
    if (raw < 0) return { at: 'nowhere' };
    const fate = rowFates(run, step).at(raw);
    if (fate.pile !== undefined) return { at: 'aside', step: fate.step, pile: fate.pile, mark: fate.mark };
    const row = rowAfter(run, step, raw);
    const { table } = run.steps[step]!;
    if (row < 0) return { at: 'nowhere' };
    const offers = rulesOfRow(table, row, mark).map(({ rule, text, rows }) => ({
      text,
      count: rows.length,
      ...stepOfMark(table, row, mark, rule),
      rows: reportRowsOf(run, step, rows),
    }));
    return { at: 'here', offers };
  }

  glance(tableId: string, step: number, column: string): Glance | undefined {
    const field = this.runs.get(tableId)?.steps[step]?.table.fields.find((one) => one.name === column);
    return field === undefined ? undefined : glanceAt(field.column);
  }

  chart(
    tableId: string,
    step: number,
    by: string,
    split: string | null,
    measure: string | null,
  ): ChartData | undefined {
    const table = this.runs.get(tableId)?.steps[step]?.table;
    return table === undefined ? undefined : chartOf(table, by, split, measure);
  }

  /** Rows of the table in which a column reads like this. */
  rowsWith(tableId: string, step: number, column: string, text: string | null): { rows: number[]; total: number } {
    const field = this.runs.get(tableId)?.steps[step]?.table.fields.find((one) => one.name === column);
    if (field === undefined) return { rows: [], total: 0 };
    const { codes, texts } = textView(field.column);
    const code = text === null ? -1 : texts.indexOf(text);
    const rows: number[] = [];
    let total = 0;
    codes.forEach((own, row) => {
      if (own !== code || (text !== null && code < 0)) return;
      total++;
      if (rows.length < MOST_SENT) rows.push(row);
    });
    return { rows, total };
  }

  /** Cells of a table, or of a part of its report, that hold a text. */
  find(tableId: string, where: { step: number } | { part: number }, text: string): { cells: Found[]; total: number } {
    const columns =
      'step' in where
        ? this.runs.get(tableId)?.steps[where.step]?.table.fields.map((field) => field.column)
        : this.reportOf(tableId)?.parts[where.part]?.columns;
    return columns === undefined ? { cells: [], total: 0 } : findText(columns, text, MOST_SENT);
  }

  /** Cells from one corner to the other as tab-separated text, with the column names above them if wanted. */
  copyText(tableId: string, step: number, range: { from: Found; to: Found }, names: boolean): string {
    const table = this.runs.get(tableId)?.steps[step]?.table;
    if (table === undefined) return '';
    const fields = table.fields.slice(range.from.column, range.to.column + 1);
    const plain = (text: string) => text.replace(/[\t\r\n]+/g, ' ');
    const lines = names ? [fields.map((field) => plain(field.name)).join('\t')] : [];
    for (let row = range.from.row; row <= Math.min(range.to.row, table.rows - 1); row++)
      lines.push(fields.map((field) => plain(cellText(field.column, row) ?? '')).join('\t'));
    return lines.join('\n');
  }
}

/** Rows looked through for the next one that is in the table. */
const NEAR_ROWS = 60;

const rawRows = new WeakMap<Places, Int32Array[]>();

/** For each part of a report the raw row that each of its rows stands in, or -1. Made once for a reading. */
export function rawRowsOf(places: Places, report: Report): Int32Array[] {
  let found = rawRows.get(places);
  if (found === undefined) {
    found = report.parts.map((part) => new Int32Array(part.rows).fill(-1));
    for (let r = 0; r < places.part.length; r++) {
      const first = places.row[r]!;
      const part = found[places.part[r]!]!;
      if (places.height === undefined) part[first] = r;
      else part.fill(r, first, first + places.height[r]!);
    }
    rawRows.set(places, found);
  }
  return found;
}
