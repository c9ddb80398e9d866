import { expose } from 'comlink';
import {
  CATALOGUE,
  Cancelled,
  type Comparison,
  compareStep,
  type FullTable,
  filesOf,
  guessReading,
  type JobStep,
  type LineReader,
  leaningOn,
  lineReader,
  type Mark,
  type MethodRun,
  nestedOutline,
  type OutlineNode,
  type Piece,
  READINGS,
  rowFates,
  type SourceFormat,
  type StepAtWork,
  type StepStop,
  sheetsReport,
  sniff,
  templateOfPieces,
} from '../../core/index.ts';
import { MOST_SENT, rawRowsOf } from './looks.ts';
import {
  type ColumnView,
  type LineView,
  type MethodView,
  OVERTAKEN,
  PREVIEW,
  type ReportView,
  type RowView,
  type SourceView,
  type StepView,
  type Suggestion,
  type TextView,
} from './protocol.ts';
import { RunDesk } from './run-desk.ts';
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

const PROGRESS_EVERY_MS = 80;

class Engine extends RunDesk {
  /**
   * @param wanted holds the number of the newest run; an older one stops when it sees a higher number
   * @param onStep told which step is being worked out, and when none is
   * @param leftOff steps that are not to run, by their keys, with what is said in their place
   */
  connect(
    wanted: Int32Array | undefined,
    onStep: (step: StepAtWork | undefined) => void,
    leftOff: ReadonlyMap<string, string>,
  ): void {
    this.wanted = wanted;
    this.runner.onStep = onStep;
    this.runner.leaveOff(leftOff);
  }

  leaveOff(steps: ReadonlyMap<string, string>): void {
    this.runner.leaveOff(steps);
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
  run(tables: readonly FullTable[], tableId: string, turn: number, onProgress: (done: number) => void): MethodView {
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

  /** Rows that a notice of a step speaks of: the first of them, and the column if it names one. */
  noticed(tableId: string, step: number, notice: number): { rows: number[]; column: number } {
    const run = this.runs.get(tableId);
    const found = run?.steps[step]?.notices[notice];
    if (run === undefined || found?.rows === undefined) return { rows: [], column: -1 };
    const { table } = run.steps[found.rows.of === 'after' ? step : step - 1]!;
    return {
      rows: [...found.rows.rows.subarray(0, MOST_SENT)],
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

  /** A step tried behind another, without being kept. The table is then at hand under PREVIEW. @throws Error OVERTAKEN */
  preview(tables: readonly FullTable[], tableId: string, at: number, step: JobStep, turn: number): StepView | StepStop {
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

  /** Steps behind this one that name a column which it brought. */
  leaning(tableId: string, step: number): number[] {
    const run = this.runs.get(tableId);
    return run === undefined ? [] : leaningOn(run, step);
  }

  compare(tableId: string, step: number): Comparison | undefined {
    const run = this.runs.get(tableId);
    return run === undefined ? undefined : compareStep(run, step);
  }

  /** What the rows of a part of the report are after a step. */
  private markOf(run: MethodRun, step: number, part: number): (row: number) => Mark | undefined {
    const at = Math.min(step, run.steps.length - 1);
    const reading = run.steps[0]?.reading;
    if (at === 0 || reading === undefined) return () => undefined;
    const raw = rawRowsOf(reading.places, reading.report)[part]!;
    const fates = rowFates(run, at);
    const aside = new Map<number, Mark>();
    for (const pile of reading.aside) if (pile.part === part) for (const row of pile.rows) aside.set(row, pile.mark);
    return (row) => (raw[row]! < 0 ? aside.get(row) : fates.at(raw[row]!).mark);
  }
}

/** How the reading of a run takes lines apart. */
function readerOf(run: MethodRun): LineReader {
  const { step } = run.steps[0]!;
  const each = step.params['each'] as Omit<JobStep, 'id'> | undefined;
  if (each === undefined) return lineReader(step.kind, step.params);
  return lineReader(each.kind, { ...each.params, source: step.params['source'] });
}

export type EngineApi = Pick<Engine, keyof Engine>;

expose(new Engine());
