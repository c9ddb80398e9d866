import {
  compareTables,
  type Exported,
  type ExportSpec,
  ExportStopped,
  exportEach,
  exportStacked,
  type FileOutcome,
  fullTables,
  type Job,
  type JobTable,
  type NamedFile,
  openSource,
  Runner,
  released,
  runEach,
  sourceFiles,
  type Table,
  type TableNext,
  tryReport,
  verdictText,
} from '../../../core/index.ts';
import type { ComparedRows, ComparedView, FileView, ManyAsked, PastRun } from '../protocol.ts';
import { type EngineState, QUIET } from '../state.ts';
import { tableRows } from '../views.ts';
import { tableOfJob } from './table-of-job.ts';

/** Rows of a comparison that are sent to be looked at. */
const MAX_COMPARED = 500;

/** The method on other files than those of the bench: the next report, many files, files of before. */
export class OtherFiles {
  private exported: { name: string; exported: Exported }[] = [];

  constructor(private readonly state: EngineState) {
    state.whenBegun(() => {
      this.exported = [];
    });
  }

  /** What would be otherwise with another file for a source. @throws ReadFailure */
  async tryNext(job: Job, source: string, file: NamedFile): Promise<TableNext[]> {
    await openSource(file.bytes, file.name);
    return tryReport(this.state.runner, job, source, file);
  }

  /**
   * Runs a table on many files, each as the source on its own. What they gave stays here to be exported.
   * @throws ReadFailure when the archive they came in cannot be unpacked, Cancelled
   */
  async runMany(
    { job, tableId, source, file }: ManyAsked,
    turn: number,
    onFile: (done: number, all: number, view: FileView) => void,
  ): Promise<void> {
    const table = tableOfJob(job, tableId);
    await openSource(file.bytes, file.name);
    const files = sourceFiles({ ...file });
    this.exported = [];
    // A separate runner, which keeps little: the bench keeps what it has in hand.
    const runner = new Runner(0);
    for (const other of job.sources) {
      const known = this.state.runner.source(other.id);
      if (known !== undefined) runner.setSource(other.id, known);
    }
    let done = 0;
    const progress = this.state.watch(turn);
    for await (const outcome of runEach(runner, { job, table, source }, files, { progress })) {
      progress(1);
      onFile(++done, files.length, this.taken(job, table, outcome));
    }
  }

  /** What the many files gave: as a table of all, or as a file for each. @throws ExportStopped */
  exportMany(name: string, spec: ExportSpec, stacked: boolean): Promise<Uint8Array<ArrayBuffer>> {
    return stacked ? exportStacked(name, this.exported, spec) : exportEach(name, this.exported, spec);
  }

  /** Two runs of before, one table of theirs against the other. @throws Error when either does not come to its end */
  async compareRuns(
    before: PastRun,
    after: PastRun,
    table: string,
    key: readonly string[] | undefined,
  ): Promise<ComparedView> {
    const was = await resultOf(before, table);
    const is = await resultOf(after, table);
    const found = compareTables(was, is, key);
    const shared = is.fields.map((field) => field.name).filter((name) => was.fields.some((one) => one.name === name));
    const pick = (of: Table) => ({ ...of, fields: shared.map((name) => of.fields.find((one) => one.name === name)!) });
    const some = (of: Table, rows: readonly number[]): ComparedRows => ({
      count: rows.length,
      columns: of.fields.map((field) => field.name),
      rows: rows.slice(0, MAX_COMPARED).map((row) => tableRows(of, row, row + 1)[0]!),
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
        rows: found.changed.slice(0, MAX_COMPARED).map((one) => ({
          before: tableRows(wasShared, one.before, one.before + 1)[0]!,
          after: tableRows(isShared, one.after, one.after + 1)[0]!,
          columns: one.columns,
        })),
      },
    };
  }

  /** Keeps what a file gave, but for what a check forbids to export. */
  private taken(job: Job, table: JobTable, outcome: FileOutcome): FileView {
    if (outcome.as === 'failed') return { file: outcome.file, text: outcome.why };
    const { file, run, verdict } = outcome;
    try {
      this.exported.push({ name: file, exported: released(job, { table, run, verdict }) });
    } catch (error) {
      if (!(error instanceof ExportStopped)) throw error;
      return { file, text: error.message };
    }
    return { file, rows: run.steps.at(-1)!.table.rows, good: verdict.good, text: verdictText(verdict) };
  }
}

async function resultOf({ job, files }: PastRun, tableName: string): Promise<Table> {
  const table = job.tables.find((one) => one.id === tableName || one.name === tableName);
  if (table === undefined) throw new Error(`${job.name} had no table ${tableName} then.`);
  const runner = new Runner(0);
  for (const { source, name, bytes } of files) {
    await openSource(bytes, name);
    runner.setSource(source, { name, bytes });
  }
  const run = runner.runTable(fullTables(job), table.id, QUIET);
  if (run.stop !== undefined || run.steps.length === 0)
    throw new Error(`The method of ${table.name} stopped then: ${run.stop?.message ?? 'it had no steps'}`);
  return run.steps.at(-1)!.table;
}
