import {
  type DialectName,
  type ExportSpec,
  exportChanges,
  type Finished,
  fullTables,
  guarded,
  htmlTable,
  type Job,
  type MethodSql,
  methodSql,
  type RawFormat,
  rawFile,
  releaseAll,
  released,
  releaseTable,
  writeDelimited,
} from '../../../core/index.ts';
import { type EngineState, QUIET } from '../state.ts';
import { tableOfJob } from './table-of-job.ts';

/** Cells that go to the clipboard as a page too; beyond them as text only. */
const MAX_AS_PAGE = 200_000;

/** Rows of each table by its id, when it was last run. */
type LastRows = Readonly<Record<string, number>>;

/** Tables on their way out. */
export class Exports {
  constructor(private readonly state: EngineState) {}

  /** A table as a file. @throws ExportStopped */
  table(job: Job, tableId: string, spec: ExportSpec, lastRows: LastRows): Promise<Uint8Array<ArrayBuffer>> {
    return releaseTable(job, this.finished(job, tableId, lastRows), spec);
  }

  /** All tables in one file, or an archive of files. @throws ExportStopped */
  all(job: Job, spec: ExportSpec, lastRows: LastRows): Promise<Uint8Array<ArrayBuffer>> {
    return releaseAll(
      job,
      job.tables.map((table) => this.finished(job, table.id, lastRows)),
      spec,
    );
  }

  /** What the export writes in another way than the last run shows it. */
  changesIn(tableIds: readonly string[], spec: ExportSpec): string | undefined {
    const told = tableIds.flatMap((id) => {
      const table = this.state.runs.get(id)?.steps.at(-1)?.table;
      return table === undefined ? [] : exportChanges(table, spec);
    });
    return told.length === 0 ? undefined : `${told.join('; ')}.`;
  }

  /**
   * The whole table for the clipboard: with tabs between cells, and as a page where it is not too long for that.
   * @throws ExportStopped
   */
  clipboard(job: Job, tableId: string, lastRows: LastRows): { text: string; page?: string } {
    const { table, name } = released(job, this.finished(job, tableId, lastRows));
    const text = new TextDecoder().decode(writeDelimited(table, { delimiter: '\t', guard: true }));
    return table.rows * table.fields.length > MAX_AS_PAGE ? { text } : { text, page: htmlTable(table, name, guarded) };
  }

  /** The method of a table as SQL. @throws SqlRefused */
  sql(job: Job, tableId: string, dialect: DialectName): MethodSql {
    const run = this.state.runner.runTable(fullTables(job), tableId, QUIET);
    return methodSql(job, tableId, run, { dialect, file: (raw) => `${raw.name}.parquet` });
  }

  /** The table that a script begins with, as a file. */
  raw(job: Job, tableId: string, step: number, as: RawFormat): Promise<Uint8Array<ArrayBuffer>> {
    const { steps } = this.state.runner.runTable(fullTables(job), tableId, QUIET);
    return rawFile(tableOfJob(job, tableId).name, steps[step]!.table, as);
  }

  private finished(job: Job, tableId: string, lastRows: LastRows): Finished {
    const run = this.state.runner.runTable(fullTables(job), tableId, QUIET);
    return { table: tableOfJob(job, tableId), run, lastRows: lastRows[tableId] };
  }
}
