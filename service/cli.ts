import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import {
  fullTables,
  type Job,
  JobFileError,
  type JobTable,
  jobNames,
  Runner,
  readJobFile,
  type StepStop,
  sentenceText,
  stepSentence,
  writeDelimited,
} from '../core/index.ts';

const USAGE = `Usage: rimefield run JOB --source NAME=FILE [--source NAME=FILE ...] [--table NAME] --out FILE

Runs the method of a job on the given files and writes the tidy table as CSV.
  JOB                 a job file
  --source NAME=FILE  the file for a source of the job, by the source's name or id
  --table NAME        which table; the first by default
  --out FILE          where to write; - for standard output
`;

/** Something the caller has to put right; said on standard error without a stack. */
class Trouble extends Error {}

function main(args: readonly string[]): void {
  const [command, ...rest] = args;
  if (command === undefined || command === '--help' || command === 'help') {
    process.stdout.write(USAGE);
    return;
  }
  if (command !== 'run') throw new Trouble(`There is no command ${command}.\n\n${USAGE}`);
  run(rest);
}

function run(args: readonly string[]): void {
  const { values, positionals } = parseOptions(args);
  const [jobFile] = positionals;
  if (jobFile === undefined || positionals.length > 1) throw new Trouble(`Name one job file.\n\n${USAGE}`);
  if (values.out === undefined)
    throw new Trouble('Say where to write with --out FILE, or --out - for standard output.');
  const job = readJobFile(readText(jobFile));
  const table =
    values.table === undefined
      ? job.tables[0]
      : job.tables.find(({ name, id }) => values.table === name || values.table === id);
  if (table === undefined)
    throw new Trouble(
      `The job has no table ${values.table ?? ''}. Its tables are ${job.tables.map(({ name }) => name).join(', ') || 'none'}.`,
    );

  const runner = new Runner();
  for (const given of values.source ?? []) {
    const at = given.indexOf('=');
    if (at < 1) throw new Trouble(`--source takes NAME=FILE, not ${given}.`);
    const [name, file] = [given.slice(0, at), given.slice(at + 1)];
    const source = job.sources.find((one) => one.name === name || one.id === name);
    if (source === undefined)
      throw new Trouble(
        `The job has no source ${name}. Its sources are ${job.sources.map((one) => one.name).join(', ')}.`,
      );
    runner.setSource(source.id, { name: basename(file), bytes: readBytes(file) });
  }
  const result = runner.runTable(fullTables(job), table.id, { progress: () => undefined });
  if (result.stop !== undefined) throw new Trouble(stopText(job, table, result.stop));
  const last = result.steps.at(-1);
  if (last === undefined) throw new Trouble(`${table.name} has no steps.`);
  write(values.out, writeDelimited(last.table));
}

function parseOptions(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: { source: { type: 'string', multiple: true }, table: { type: 'string' }, out: { type: 'string' } },
    });
  } catch (error) {
    throw new Trouble(`${(error as Error).message}\n\n${USAGE}`);
  }
}

function stopText(job: Job, table: JobTable, stop: StepStop): string {
  const step = table.steps[stop.index]!;
  return `${table.name} stopped at step ${stop.index + 1} (${sentenceText(stepSentence(step, jobNames(job)))}): ${stop.message}`;
}

function readBytes(file: string): Uint8Array {
  try {
    return file === '-' ? readFileSync(0) : readFileSync(file);
  } catch (error) {
    throw new Trouble(`${file} cannot be read: ${(error as Error).message}`);
  }
}

function readText(file: string): string {
  return new TextDecoder().decode(readBytes(file));
}

/** Written aside and renamed, so that nobody meets a half-written file. */
function write(out: string, bytes: Uint8Array): void {
  if (out === '-') {
    writeFileSync(1, bytes);
    return;
  }
  try {
    writeFileSync(`${out}.part`, bytes);
    renameSync(`${out}.part`, out);
  } catch (error) {
    throw new Trouble(`${out} cannot be written: ${(error as Error).message}`);
  }
}

try {
  main(process.argv.slice(2));
} catch (error) {
  if (!(error instanceof Trouble || error instanceof JobFileError)) throw error;
  process.stderr.write(`rimefield: ${error.message}\n`);
  process.exitCode = 2;
}
