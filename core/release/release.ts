/** The one way of tables out of a job: checks that stop exports are asked first, whoever exports and however many. */
import type { Job, JobTable } from '../document/job.ts';
import { type ExportSpec, ExportStopped } from '../formats/export-spec.ts';
import type { MethodRun } from '../run/run.ts';
import { stackNamed } from '../table/stack-tables.ts';
import { judge, type Verdict } from '../tally/record.ts';
import { exportAll, exportTable } from '../write/export.ts';
import { type Exported, exportedOf } from '../write/exported.ts';

/** A table whose method ran to its end. */
export interface Finished {
  table: JobTable;
  run: MethodRun;
  /** Rows of the run before, for checks that compare with it. */
  lastRows?: number | undefined;
  /** How the run stands, where that is known already. */
  verdict?: Verdict;
}

/**
 * A table that may leave its job.
 * @throws ExportStopped when a check that stops exports fails, or the method did not come to its end
 */
export function released(job: Job, { table, run, lastRows, verdict }: Finished): Exported {
  if (run.stop !== undefined || run.steps.length === 0)
    throw new ExportStopped(
      `The method of ${table.name} stops before its end, so there is no table to export. Fix the step that stopped first.`,
    );
  // A tally of a large report takes a while: it is made only where a check can forbid the export.
  if (table.checks?.some((check) => check.level === 'stop')) {
    const { stopping } = verdict ?? judge(job, table, run, lastRows);
    if (stopping.length > 0)
      throw new ExportStopped(
        `${table.name} fails a check that stops exports: ${stopping.map((one) => `${one.text} (${one.found})`).join('; ')}`,
      );
  }
  return exportedOf(job, table, run);
}

/** @throws ExportStopped */
export function releaseTable(job: Job, finished: Finished, spec: ExportSpec): Promise<Uint8Array<ArrayBuffer>> {
  return exportTable(released(job, finished), spec);
}

/** All in one file or an archive; nothing where one of them may not leave. @throws ExportStopped */
export function releaseAll(job: Job, all: readonly Finished[], spec: ExportSpec): Promise<Uint8Array<ArrayBuffer>> {
  return exportAll(
    all.map((one) => released(job, one)),
    job.name,
    spec,
  );
}

/** Tables that one method made of many files, released before, under each other with the file's name. @throws ExportStopped */
export function exportStacked(
  name: string,
  tables: readonly { name: string; exported: Exported }[],
  spec: ExportSpec,
): Promise<Uint8Array<ArrayBuffer>> {
  const stacked = stackNamed(
    tables.map((one) => ({ name: one.name, table: one.exported.table })),
    'File',
  );
  return exportTable({ name, table: stacked }, spec);
}

/** The same as a file each. @throws ExportStopped */
export function exportEach(
  name: string,
  tables: readonly { name: string; exported: Exported }[],
  spec: ExportSpec,
): Promise<Uint8Array<ArrayBuffer>> {
  return exportAll(
    tables.map((one) => ({ ...one.exported, name: one.name.replace(/\.[^.]+$/, '') })),
    name,
    spec,
  );
}
