import { expose } from 'comlink';
import {
  CATALOGUE,
  Cancelled,
  type CellAddress,
  type ChartData,
  type Comparison,
  cellOffers,
  cellsOfReport,
  cellsOfTable,
  cellText,
  chartOf,
  columnLetters,
  columnOffers,
  compareStep,
  type Found,
  filesOf,
  findText,
  type Glance,
  glanceAt,
  guessReading,
  type JobStep,
  type JobTable,
  type LineReader,
  leaningOn,
  lineReader,
  type Mark,
  type MethodRun,
  NAME,
  nestedOutline,
  type Offer,
  type OutlineNode,
  type Piece,
  type Places,
  READINGS,
  type Report,
  type ReportCell,
  Runner,
  reportRowsOf,
  rowAfter,
  rowFates,
  rulesOfRow,
  type SourceFormat,
  type StepStop,
  sheetsReport,
  sniff,
  stepOfMark,
  stretchOffers,
  templateOfPieces,
  textView,
  writeDelimited,
} from '../../core/index.ts';
import {
  type ColumnView,
  type LineView,
  type MethodView,
  OVERTAKEN,
  PREVIEW,
  type ReportAddress,
  type ReportView,
  type RowOffers,
  type RowView,
  type Selection,
  type SourceView,
  type StepView,
  type Suggestion,
  type TextView,
  type Traced,
  type TracedToReport,
  type TracedToTable,
} from './protocol.ts';
import {
  lineViews,
  methodView,
  reportRows,
  reportView,
  stepView,
  tableColumns,
  tableRows,
  textProfile,
} from './views.ts';

/** Traced cells beyond this many are counted, not sent. */
const MOST_TRACED = 2000;
const PROGRESS_EVERY_MS = 80;

class Engine {
  private readonly runner = new Runner();
  private readonly runs = new Map<string, MethodRun>();
  private wanted: Int32Array | undefined;

  /** @param wanted holds the number of the newest run; an older one stops when it sees a higher number. */
  connect(wanted: Int32Array): void {
    this.wanted = wanted;
  }

  /** @throws ReadFailure when the bytes are nothing that can be read */
  async setSource(id: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<SourceView> {
    const format: SourceFormat = sniff(bytes, name);
    const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
    this.runner.setSource(id, { name, bytes });
    return { format, sha256: [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('') };
  }

  /** The reading that suits a source. @throws ReadFailure */
  guess(id: string): { step: Omit<JobStep, 'id'>; why: string } {
    const { kind, params, why } = guessReading(id, this.runner.source(id)!);
    return { step: { kind, params }, why };
  }

  /** A reading of this kind with params that suit the source. @throws ReadFailure */
  reread(id: string, kind: string): Omit<JobStep, 'id'> {
    return { kind, params: READINGS.get(kind)!.start(id, this.runner.source(id)!) };
  }

  /** Runs a table of a job and keeps the run under the table's id. @throws Error OVERTAKEN */
  run(tables: readonly JobTable[], tableId: string, turn: number, onProgress: (done: number) => void): MethodView {
    const started = performance.now();
    let told = started;
    const progress = (done: number) => {
      if (this.wanted !== undefined && Atomics.load(this.wanted, 0) > turn) throw new Cancelled(OVERTAKEN);
      const now = performance.now();
      if (now - told < PROGRESS_EVERY_MS) return;
      told = now;
      onProgress(done);
    };
    const run = this.runner.runTable(tables, tableId, { progress });
    this.runs.set(tableId, run);
    return methodView(run, performance.now() - started);
  }

  columns(tableId: string, step: number): ColumnView[] {
    const run = this.runs.get(tableId)?.steps[step];
    return run === undefined ? [] : tableColumns(run.table);
  }

  rows(tableId: string, step: number, from: number, to: number): RowView[] {
    const run = this.runs.get(tableId)?.steps[step];
    return run === undefined ? [] : tableRows(run.table, from, to);
  }

  report(tableId: string): ReportView | undefined {
    const report = this.reportOf(tableId);
    return report === undefined ? undefined : reportView(report);
  }

  reportRows(tableId: string, step: number, part: number, from: number, to: number): RowView[] {
    const run = this.runs.get(tableId);
    const report = this.reportOf(tableId);
    if (run === undefined || report === undefined || part >= report.parts.length) return [];
    return reportRows(report, part, from, to, this.markOf(run, step, part));
  }

  /** Lines of a part as they stand, with the stretches that its cells are. */
  reportLines(tableId: string, step: number, part: number, from: number, to: number): LineView[] {
    const run = this.runs.get(tableId);
    const sheet = this.reportOf(tableId)?.parts[part];
    if (run === undefined || sheet === undefined) return [];
    return lineViews(sheet, from, to, this.markOf(run, step, part), readerOf(run));
  }

  /** @throws ReadFailure */
  textProfile(tableId: string, part: number): TextView | undefined {
    const run = this.runs.get(tableId);
    const sheet = this.reportOf(tableId)?.parts[part];
    return run === undefined || sheet?.text === undefined ? undefined : textProfile(sheet.text, readerOf(run));
  }

  /** The paths of a nested source. @throws ReadFailure */
  outline(sourceId: string): OutlineNode[] {
    return nestedOutline(this.runner.source(sourceId)!);
  }

  /** Names of a source's sheets or files. @throws ReadFailure */
  namesIn(sourceId: string): string[] {
    const source = this.runner.source(sourceId);
    if (source === undefined) return [];
    const format = sniff(source.bytes, source.name);
    if (format === 'text') return [];
    if (format === 'files') return filesOf(source).map((file) => file.name);
    return sheetsReport(source).parts.map((part) => part.name);
  }

  /** A template for the lines of a part out of named stretches of one of them. */
  templateOf(tableId: string, part: number, sample: string, pieces: readonly Piece[]): string {
    const lines = this.reportOf(tableId)?.parts[part]?.text ?? [];
    return templateOfPieces(sample, pieces, lines.slice(0, 5000));
  }

  traceToReport(tableId: string, step: number, cell: CellAddress): Traced<TracedToReport> {
    const run = this.runs.get(tableId);
    const report = this.reportOf(tableId);
    if (run === undefined || step >= run.steps.length) return { cells: [], total: 0 };
    const found = cellsOfReport(run, step, cell);
    const own = run.steps[0]?.reading?.source;
    const cells = found
      .slice(0, MOST_TRACED)
      .map((one) => ({ ...one, place: this.placeOf(run, report, one), elsewhere: one.source !== own }));
    return { cells, total: found.length };
  }

  traceToTable(tableId: string, step: number, cell: ReportAddress): Traced<TracedToTable> {
    const run = this.runs.get(tableId);
    if (run === undefined || step >= run.steps.length) return { cells: [], total: 0 };
    const source = run.steps[0]?.reading?.source ?? '';
    const found = cellsOfTable(run, step, { ...cell, source });
    return { cells: found.slice(0, MOST_TRACED), total: found.length };
  }

  /** Rows that a notice of a step speaks of: the first of them, and the column if it names one. */
  noticed(tableId: string, step: number, notice: number): { rows: number[]; column: number } {
    const run = this.runs.get(tableId);
    const found = run?.steps[step]?.notices[notice];
    if (run === undefined || found?.rows === undefined) return { rows: [], column: -1 };
    const { table } = run.steps[found.rows.of === 'after' ? step : step - 1]!;
    return {
      rows: [...found.rows.rows.subarray(0, MOST_TRACED)],
      column: table.fields.findIndex((field) => field.name === found.column),
    };
  }

  /** A step of this kind with params that suit the table after the given step. */
  suggest(tableId: string, step: number, kind: string, columns: readonly string[]): Suggestion | undefined {
    // Where the method stops earlier, the last table that there is gives the guesses.
    const steps = this.runs.get(tableId)?.steps ?? [];
    const run = steps[Math.min(step, steps.length - 1)];
    const found = CATALOGUE.get(kind);
    if (run === undefined || found === undefined) return undefined;
    return { step: { kind, params: found.start(run.table, columns) as Record<string, unknown> } };
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

  /** A step tried behind another, without being kept. The table is then at hand under PREVIEW. @throws Error OVERTAKEN */
  preview(tables: readonly JobTable[], tableId: string, at: number, step: JobStep, turn: number): StepView | StepStop {
    const table = tables.find((one) => one.id === tableId)!;
    const tried = { ...table, id: tableId, steps: [...table.steps.slice(0, at + 1), step] };
    const progress = () => {
      if (this.wanted !== undefined && Atomics.load(this.wanted, 0) > turn) throw new Cancelled(OVERTAKEN);
    };
    const run = this.runner.runTable(
      tables.map((one) => (one.id === tableId ? tried : one)),
      tableId,
      { progress },
    );
    if (run.stop !== undefined) return run.stop;
    this.runs.set(PREVIEW, run);
    return stepView(run.steps.at(-1)!);
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
      if (rows.length < MOST_TRACED) rows.push(row);
    });
    return { rows, total };
  }

  /** Cells of a table, or of a part of its report, that hold a text. */
  find(tableId: string, where: { step: number } | { part: number }, text: string): { cells: Found[]; total: number } {
    const columns =
      'step' in where
        ? this.runs.get(tableId)?.steps[where.step]?.table.fields.map((field) => field.column)
        : this.reportOf(tableId)?.parts[where.part]?.columns;
    return columns === undefined ? { cells: [], total: 0 } : findText(columns, text, MOST_TRACED);
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

  /** Steps behind this one that name a column which it brought. */
  leaning(tableId: string, step: number): number[] {
    const run = this.runs.get(tableId);
    return run === undefined ? [] : leaningOn(run, step);
  }

  compare(tableId: string, step: number): Comparison | undefined {
    const run = this.runs.get(tableId);
    return run === undefined ? undefined : compareStep(run, step);
  }

  /** The last table as CSV, or undefined when the method did not run to its end. */
  csv(tableId: string): Uint8Array<ArrayBuffer> | undefined {
    const run = this.runs.get(tableId);
    const last = run?.steps.at(-1);
    return run?.stop !== undefined || last === undefined ? undefined : writeDelimited(last.table);
  }

  /** A cell's place, in the report of this table or of another one behind it. */
  private placeOf(run: MethodRun, own: Report | undefined, cell: ReportCell): string {
    if (own !== undefined && run.steps[0]?.reading?.source === cell.source) return placeName(own, cell);
    const reading = readingsOf(run).find((one) => one.source === cell.source);
    return reading === undefined ? 'another report' : placeName(reading.report, cell);
  }

  private reportOf(tableId: string): Report | undefined {
    return this.runs.get(tableId)?.steps[0]?.reading?.report;
  }

  /** What the rows of a part of the report are after a step. */
  private markOf(run: MethodRun, step: number, part: number): (row: number) => Mark | undefined {
    const at = Math.min(step, run.steps.length - 1);
    const reading = run.steps[0]?.reading;
    if (at === 0 || reading === undefined) return () => undefined;
    const raw = rawRowsOf(reading.places, reading.report)[part]!;
    const fates = rowFates(run, at);
    return (row) => (raw[row]! < 0 ? undefined : fates.at(raw[row]!).mark);
  }
}

const rawRows = new WeakMap<Places, Int32Array[]>();

/** For each part of a report the raw row that each of its rows stands in, or -1. Made once for a reading. */
function rawRowsOf(places: Places, report: Report): Int32Array[] {
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

/** How the reading of a run takes lines apart. */
function readerOf(run: MethodRun): LineReader {
  const { step } = run.steps[0]!;
  const each = step.params['each'] as Omit<JobStep, 'id'> | undefined;
  if (each === undefined) return lineReader(step.kind, step.params);
  return lineReader(each.kind, { ...each.params, source: step.params['source'] });
}

function readingsOf(run: MethodRun): NonNullable<MethodRun['steps'][number]['reading']>[] {
  return run.steps.flatMap((step) => [
    ...(step.reading === undefined ? [] : [step.reading]),
    ...step.others.flatMap((other) => readingsOf(other.run)),
  ]);
}

function placeName(report: Report, cell: ReportAddress): string {
  const part = report.parts[cell.part]!;
  if (cell.row === NAME) return `the name of ${part.name}`;
  if (report.format === 'text') {
    const file = report.parts.length > 1 ? `${part.name}, ` : '';
    return `${file}line ${(part.lines?.[cell.row] ?? cell.row) + 1}, cell ${cell.column + 1}`;
  }
  return `${part.name}!${columnLetters(cell.column)}${cell.row + 1}`;
}

export type EngineApi = Pick<Engine, keyof Engine>;

expose(new Engine());
