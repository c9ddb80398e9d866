import {
  Cancelled,
  compareTables,
  type Exported,
  type ExportSpec,
  ExportStopped,
  exportEach,
  exportStacked,
  type FileOutcome,
  type Finished,
  fullTables,
  guarded,
  guardedText,
  htmlTable,
  type Job,
  type JobTable,
  type NamedFile,
  Runner,
  releaseAll,
  released,
  releaseTable,
  runEach,
  sourceFiles,
  type Table,
  type TableNext,
  type TablesCompared,
  tryReport,
  verdictText,
  writeDelimited,
} from '../../core/index.ts';
import { OVERTAKEN, type RowView } from './protocol.ts';
import { TallyDesk } from './tally-desk.ts';
import { tableRows } from './views.ts';

const QUIET = { progress: () => undefined };
/** Cells that go to the clipboard as a page too; beyond them as text only. */
const MOST_AS_PAGE = 200_000;
/** Rows of a comparison that are sent to be looked at. */
const MOST_COMPARED = 500;

/** A job with the files that it read. */
export interface PastRun {
  job: Job;
  files: readonly { source: string; name: string; bytes: Uint8Array<ArrayBuffer> }[];
}

/** Files that come in one archive, and what is to be run on each of them. */
export interface EachAsked {
  job: Job;
  tableId: string;
  source: string;
  file: NamedFile;
}

/** One file of many, as it is told. */
export interface EachView {
  file: string;
  /** Undefined where it failed. */
  rows?: number;
  good?: boolean;
  text: string;
}

export interface ComparedView extends Omit<TablesCompared, 'added' | 'gone' | 'changed'> {
  columns: readonly string[];
  added: ComparedRows;
  gone: ComparedRows;
  changed: { count: number; rows: readonly { before: RowView; after: RowView; columns: readonly string[] }[] };
  rows: { before: number; after: number };
}

interface ComparedRows {
  count: number;
  columns: readonly string[];
  rows: readonly RowView[];
}

/** Runs beside the one on the bench: the next report, many files, runs of before; and tables on their way out. */
export class RunDesk extends TallyDesk {
  override begin(): void {
    super.begin();
    this.each = [];
    this.runner.forgetSources();
  }

  private each: { name: string; exported: Exported }[] = [];

  /** What would be otherwise with another file for a source. @throws ReadFailure */
  tryAgain(job: Job, source: string, file: NamedFile): TableNext[] {
    return tryReport(this.runner, job, source, file);
  }

  /**
   * Runs a table on many files, each as the source on its own. What they gave stays here to be exported.
   * @throws ReadFailure when the archive they came in cannot be unpacked, Error OVERTAKEN
   */
  runEach(
    { job, tableId, source, file }: EachAsked,
    turn: number,
    onFile: (done: number, all: number, view: EachView) => void,
  ): void {
    const table = tableOf(job, tableId);
    const files = sourceFiles({ ...file });
    this.each = [];
    // A runner of its own, which keeps little: the bench keeps what it has in hand.
    const runner = new Runner(0);
    for (const other of job.sources) {
      const known = this.runner.source(other.id);
      if (known !== undefined) runner.setSource(other.id, known);
    }
    let done = 0;
    const progress = () => {
      if (this.wanted !== undefined && Atomics.load(this.wanted, 0) > turn) throw new Cancelled(OVERTAKEN);
    };
    for (const outcome of runEach(runner, { job, table, source }, files, { progress })) {
      progress();
      onFile(++done, files.length, this.taken(job, table, outcome));
    }
  }

  /** What the many files gave: as a table of all, or as a file for each. @throws ExportStopped */
  exportedEach(name: string, spec: ExportSpec, stacked: boolean): Promise<Uint8Array<ArrayBuffer>> {
    return stacked ? exportStacked(name, this.each, spec) : exportEach(name, this.each, spec);
  }

  /** Keeps what a file gave, but for what a check forbids to export. */
  private taken(job: Job, table: JobTable, outcome: FileOutcome): EachView {
    if (outcome.as === 'failed') return { file: outcome.file, text: outcome.why };
    const { file, run, verdict } = outcome;
    try {
      this.each.push({ name: file, exported: released(job, { table, run, verdict }) });
    } catch (error) {
      if (!(error instanceof ExportStopped)) throw error;
      return { file, text: error.message };
    }
    return { file, rows: run.steps.at(-1)!.table.rows, good: verdict.good, text: verdictText(verdict) };
  }

  /**
   * A table as a file.
   * @param lastRows of each table by its id, when it was last run
   * @throws ExportStopped
   */
  exported(
    job: Job,
    tableId: string,
    spec: ExportSpec,
    lastRows: Readonly<Record<string, number>>,
  ): Promise<Uint8Array<ArrayBuffer>> {
    return releaseTable(job, this.finished(job, tableId, lastRows), spec);
  }

  /** Which texts of the last run are guarded against being computed, where the export does so. */
  guardedIn(tableIds: readonly string[], spec: ExportSpec): string | undefined {
    const told = tableIds.flatMap((id) => {
      const table = this.runs.get(id)?.steps.at(-1)?.table;
      return table === undefined ? [] : (guardedText(table, spec) ?? []);
    });
    return told.length === 0 ? undefined : `${told.join('; ')}.`;
  }

  /** All tables in one file, or an archive of files. @throws ExportStopped */
  exportedAll(
    job: Job,
    spec: ExportSpec,
    lastRows: Readonly<Record<string, number>>,
  ): Promise<Uint8Array<ArrayBuffer>> {
    return releaseAll(
      job,
      job.tables.map((table) => this.finished(job, table.id, lastRows)),
      spec,
    );
  }

  /**
   * The whole table for the clipboard: with tabs between cells, and as a page where it is not too long for that.
   * @throws ExportStopped
   */
  clipboard(job: Job, tableId: string, lastRows: Readonly<Record<string, number>>): { text: string; page?: string } {
    const { table, name } = released(job, this.finished(job, tableId, lastRows));
    const text = new TextDecoder().decode(writeDelimited(table, { delimiter: '\t', guard: true }));
    return table.rows * table.fields.length > MOST_AS_PAGE ? { text } : { text, page: htmlTable(table, name, guarded) };
  }

  /** Two runs of before, one table of theirs against the other. @throws Error when either does not come to its end */
  compareRuns(before: PastRun, after: PastRun, table: string, key: readonly string[] | undefined): ComparedView {
    const [was, is] = [before, after].map((past) => resultOf(past, table)) as [Table, Table];
    const found = compareTables(was, is, key);
    const shared = is.fields.map((field) => field.name).filter((name) => was.fields.some((one) => one.name === name));
    const pick = (of: Table) => ({ ...of, fields: shared.map((name) => of.fields.find((one) => one.name === name)!) });
    const some = (of: Table, rows: readonly number[]): ComparedRows => ({
      count: rows.length,
      columns: of.fields.map((field) => field.name),
      rows: rows.slice(0, MOST_COMPARED).map((row) => rowOf(of, row)),
    });
    const [wasShared, isShared] = [pick(was), pick(is)];
    return {
      ...found,
      columns: shared,
      rows: { before: was.rows, after: is.rows },
      added: some(is, found.added),
      gone: some(was, found.gone),
      changed: {
        count: found.changed.length,
        rows: found.changed.slice(0, MOST_COMPARED).map((one) => ({
          before: rowOf(wasShared, one.before),
          after: rowOf(isShared, one.after),
          columns: one.columns,
        })),
      },
    };
  }

  private finished(job: Job, tableId: string, lastRows: Readonly<Record<string, number>>): Finished {
    const run = this.runner.runTable(fullTables(job), tableId, QUIET);
    return { table: tableOf(job, tableId), run, lastRows: lastRows[tableId] };
  }
}

function tableOf(job: Job, tableId: string): JobTable {
  return job.tables.find((one) => one.id === tableId)!;
}

function resultOf({ job, files }: PastRun, tableName: string): Table {
  const table = job.tables.find((one) => one.id === tableName || one.name === tableName);
  if (table === undefined) throw new Error(`${job.name} had no table ${tableName} then.`);
  const runner = new Runner(0);
  for (const { source, name, bytes } of files) runner.setSource(source, { name, bytes });
  const run = runner.runTable(fullTables(job), table.id, QUIET);
  if (run.stop !== undefined || run.steps.length === 0)
    throw new Error(`The method of ${table.name} stopped then: ${run.stop?.message ?? 'it had no steps'}`);
  return run.steps.at(-1)!.table;
}

function rowOf(table: Table, row: number): RowView {
  return tableRows(table, row, row + 1)[0]!;
}
