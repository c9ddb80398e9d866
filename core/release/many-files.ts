/** One method over many files, each on its own. */

import type { Job, JobTable } from '../document/job.ts';
import { fullTables } from '../document/step-set.ts';
import { openSource } from '../read/open-source.ts';
import { ReadFailure } from '../read/read-failure.ts';
import { filesOf } from '../read/read-files.ts';
import type { Source } from '../read/read-kind.ts';
import { sniff } from '../read/sniff.ts';
import { unwrapped } from '../read/unwrap.ts';
import type { MethodRun, RunContext, Runner } from '../run/run.ts';
import { judge, stopText, type Verdict } from '../tally/record.ts';

export interface NamedFile {
  name: string;
  bytes: Uint8Array;
}

/** What a method made of one file. */
/** The files of an archive, or the one file that stands alone. @throws ReadFailure */
export function sourceFiles(source: Source): readonly NamedFile[] {
  const own = unwrapped(source);
  return sniff(own.bytes, own.name) === 'files' ? filesOf(own) : [own];
}

export type FileOutcome =
  | { as: 'done'; file: string; run: MethodRun; verdict: Verdict }
  | { as: 'failed'; file: string; why: string };

/**
 * Runs a table with one file after the other as a source. A file that cannot be read, or at which the method stops, is
 * told and the others go on. The source that was there is put back at the end.
 *
 * @throws Cancelled when the context says so
 */
export async function* runEach(
  runner: Runner,
  { job, table, source }: { job: Job; table: JobTable; source: string },
  files: Iterable<NamedFile>,
  context: RunContext,
): AsyncGenerator<FileOutcome> {
  const before = runner.source(source);
  try {
    for (const file of files) {
      await openSource(file.bytes, file.name);
      yield runFile(runner, { job, table, source }, file, context);
    }
  } finally {
    if (before !== undefined) runner.setSource(source, before);
  }
}

/** Runs a table with a file as a source, which stays the runner's. */
export function runFile(
  runner: Runner,
  { job, table, source }: { job: Job; table: JobTable; source: string },
  file: NamedFile,
  context: RunContext,
): FileOutcome {
  try {
    sniff(file.bytes, file.name);
  } catch (error) {
    if (!(error instanceof ReadFailure)) throw error;
    return { as: 'failed', file: file.name, why: error.message };
  }
  runner.setSource(source, { ...file });
  const run = runner.runTable(fullTables(job), table.id, context);
  if (run.stop !== undefined) return { as: 'failed', file: file.name, why: stopText(job, table, run.stop) };
  if (run.steps.length === 0) return { as: 'failed', file: file.name, why: `${table.name} has no steps.` };
  return { as: 'done', file: file.name, run, verdict: judge(job, table, run) };
}
