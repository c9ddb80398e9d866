/** What a command is given: the job, its table, and files for its sources. */
import { basename } from 'node:path';
import {
  bundleFiles,
  counted,
  type FileRecord,
  few,
  fullTables,
  type Job,
  type JobTable,
  type MethodRun,
  type NamedFile,
  openSource,
  Runner,
  readJobFile,
  stopText,
} from '../core/index.ts';
import { filesAt, isFolder, readBytes, Trouble } from './command-files.ts';
import { type Options, progressLine, USAGE } from './command-options.ts';
import type { Ran } from './command-says.ts';
import { sha256Of } from './sha256.ts';

/** The job file and the table that is asked for. */
export function jobOf({ values, positionals, io }: Options): { job: Job; table: JobTable } {
  const [jobFile] = positionals;
  if (jobFile === undefined || positionals.length > 1) throw new Trouble(`Name one job file.\n\n${USAGE}`);
  const job = readJobFile(new TextDecoder().decode(readBytes(jobFile, io)));
  const table =
    values.table === undefined
      ? job.tables.at(-1)
      : job.tables.find(({ name, id }) => values.table === name || values.table === id);
  if (table === undefined)
    throw new Trouble(
      `The job has no table ${values.table ?? ''}. Its tables are ${job.tables.map(({ name }) => name).join(', ') || 'none'}.`,
    );
  return { job, table };
}

/** NAME=FILE, and which source of the job that is. */
export function sourceOf(job: Job, given: string, option: string): { source: Job['sources'][number]; path: string } {
  const at = given.indexOf('=');
  if (at < 1) throw new Trouble(`${option} takes NAME=FILE, not ${given}.`);
  const [name, path] = [given.slice(0, at), given.slice(at + 1)];
  const source = job.sources.find((one) => one.name === name || one.id === name);
  if (source === undefined)
    throw new Trouble(
      `The job has no source ${name}. Its sources are ${job.sources.map((one) => one.name).join(', ')}.`,
    );
  return { source, path };
}

export function fileRecord(source: string, file: string, bytes: Uint8Array): FileRecord {
  let digest: string | undefined;
  return {
    source,
    file: basename(file),
    size: bytes.length,
    // Only a record of the run says it, and hashing a large file takes as long as reading it.
    get sha256() {
      digest ??= sha256Of(bytes);
      return digest;
    },
  };
}

/** A runner that has the files of --source. Several for one source are one after the other, as a folder of them is. */
export async function filesOf(
  job: Job,
  options: Options,
  budget?: number,
): Promise<{ runner: Runner; files: FileRecord[] }> {
  const runner = new Runner(budget);
  const bySource = new Map<string, { source: Job['sources'][number]; files: NamedFile[] }>();
  for (const one of options.values.source ?? []) {
    const { source, path } = sourceOf(job, one, '--source');
    const files = isFolder(path)
      ? filesAt(path, options.io)
      : [{ name: basename(path), bytes: readBytes(path, options.io) }];
    const before = bySource.get(source.id)?.files ?? [];
    bySource.set(source.id, { source, files: [...before, ...files] });
  }
  const records: FileRecord[] = [];
  for (const { source, files } of bySource.values()) {
    if (files.length > 1 && !job.tables.some((table) => readsFiles(table, source.id)))
      throw new Trouble(
        `${source.name} is read as one file, and ${counted(files.length, 'file')} were given: ${few(files.map((file) => file.name))}. Give one, or run the method on each with --each.`,
      );
    const only = files.length === 1 ? files[0]! : { name: source.name, bytes: bundleFiles(files) };
    await openSource(only.bytes, only.name);
    runner.setSource(source.id, only);
    for (const file of files) records.push(fileRecord(source.name, file.name, file.bytes));
  }
  return { runner, files: records };
}

/** Whether a table reads a source as several files. */
function readsFiles(table: JobTable, sourceId: string): boolean {
  const [first] = table.steps;
  return first?.kind === 'read-files' && first.params['source'] === sourceId;
}

/** Runs the table on the files that are given. @throws Trouble when it stops */
export async function ranOn(options: Options, instead?: Job): Promise<Ran> {
  const given = jobOf(options);
  const job = instead ?? given.job;
  const table = job.tables.find((one) => one.id === given.table.id)!;
  const { runner, files } = await filesOf(job, options);
  const told = progressLine(options);
  try {
    const run = runOf(runner, job, table, (done) => told(`${Math.round(done * 100)}%`));
    return { job, table, run, files };
  } finally {
    told('');
  }
}

/** @throws Trouble when the method stops, or there is none */
export function runOf(
  runner: Runner,
  job: Job,
  table: JobTable,
  progress: (done: number) => void = () => undefined,
): MethodRun {
  const run = runner.runTable(fullTables(job), table.id, { progress });
  if (run.stop !== undefined) throw new Trouble(stopText(job, table, run.stop));
  if (run.steps.length === 0) throw new Trouble(`${table.name} has no steps.`);
  return run;
}
