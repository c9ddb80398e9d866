import { statSync } from 'node:fs';
import { basename, join } from 'node:path';
import { parseArgs } from 'node:util';
import {
  bundleFiles,
  checkText,
  counted,
  DIALECTS,
  EXPORT_FORMATS,
  type Exported,
  ExportStopped,
  exportStacked,
  type FileRecord,
  few,
  fullTables,
  grouped,
  type Job,
  JobFileError,
  type JobTable,
  jobNames,
  judge,
  type NamedFile,
  openSource,
  PiecesFailure,
  ReadFailure,
  Runner,
  readJobFile,
  releaseAll,
  released,
  releaseTable,
  runEach,
  runRecord,
  SqlRefused,
  sentenceText,
  stepSentence,
  stopText,
} from '../core/index.ts';
import {
  filesAt,
  type Io,
  isFolder,
  outName,
  pathsAt,
  readBytes,
  specOf,
  Trouble,
  write,
  writeJson,
} from './command-files.ts';
import { looksOf, type Ran, tellGuarded, tellLooks, totalText, troubleText } from './command-says.ts';
import { makeDataset, shardOf, workersOf } from './dataset/command.ts';
import { methodDigest } from './dataset/run-dataset.ts';
import { draftReports } from './draft.ts';
import { runInPieces, WHOLE_BYTES } from './in-pieces.ts';
import { sha256Of } from './sha256.ts';
import { dialectOf, rawBytes, sqlScript, stepIndex } from './sql.ts';

const USAGE = `Usage: rimefield COMMAND [JOB] [options]

Commands:
  draft FILES  proposes a method for one or several reports, and says why and how sure it is
  run JOB      runs a method on the given files and writes the table
  sql JOB      prints a method as one SQL script, for the columns of the files that are given
  raw JOB      writes the table after a step, as the script begins with it
  check JOB    runs a method and says how its tally and its checks stand; writes nothing
  show JOB     prints the methods as sentences
  serve        serves the application and watches the drop folder, until it is stopped

Options:
  --source NAME=FILE  the file for a source of the job, by the source's name or id; - for standard input. Where
                      the source is read as several files: a folder or an archive, or the option once for each file
  --each NAME=FILES   run: many files for a source, each on its own: a folder, an archive, or a pattern with * and ?
  --table NAME        which table; the last by default
  --out FILE          where to write; - for standard output; with --each a folder, or a file with --stack
  --all               all tables in one file where the format holds several, else as an archive
  --stack             with --each: one table of all, with the names of the files in its first column
  --dataset           with --each: a Parquet data set, a part for each file, in the folder --out. Run again, it goes on
                      where it was stopped, and runs what is new or has changed
  --workers N         with --dataset: on N processes; as many as there are processors by default
  --shard K/N         with --dataset: the K-th of N fixed parts of the files, for as many machines
  --pieces            run: piece by piece in little memory, to csv or parquet, where every step looks at one row at a
                      time; files over 1 GB always are
  --as FORMAT         ${Object.keys(EXPORT_FORMATS).join(', ')}; by the ending of --out if that is one, else csv
  --dialect NAME      sql: ${DIALECTS.join(', ')}; duckdb by default
  --upto STEP         raw: the number of the step after which the table is written, to parquet or csv
  --record FILE       writes a record of the run as JSON: files, counts, tally, checks; - for standard output
  draft:              --out JOB writes the drafted job, --table FILE the table it gives; --like FILE drafts
                      towards a finished table; --drafts N writes the best N, numbered. Several reports share one
                      method where one fits
  --quiet             says nothing of progress
  --strict            run: what is told to check makes the exit code 1 too
  --port N, --host H  serve: where; port 4173 of this machine by default. Others may come in only with the token
                      that is printed when it starts
  --folder DIR        serve: the drop folder; the folder drop here by default

What is to check (unreadable cells, totals that disagree, keys without a match and the like) is said on standard
error, a line each. Exit code: 0 all well, 1 a check or a total fails or some of many files failed, 2 it could not run.
draft: 0 sure, 1 likely or a guess, 2 nothing to read.
`;

/** 0 all well, 1 a check or a total fails or some of many files failed, 2 it could not run. */
export type ExitCode = 0 | 1 | 2;

const COMMANDS: Record<string, (options: Options) => Promise<ExitCode> | ExitCode> = {
  draft,
  run,
  sql,
  raw,
  check,
  show,
  serve: serveHere,
};
const OURS = [Trouble, JobFileError, ExportStopped, ReadFailure, PiecesFailure, SqlRefused];

/** Does what the arguments say; what the caller has to put right is said on io.error. */
export async function rimefield(args: readonly string[], io: Io): Promise<ExitCode> {
  const [command, ...rest] = args;
  try {
    if (command === undefined || command === '--help' || command === 'help') {
      say(io, USAGE);
      return 0;
    }
    const found = COMMANDS[command];
    if (found === undefined) throw new Trouble(`There is no command ${command}.\n\n${USAGE}`);
    return await found({ ...parseOptions(rest), io });
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    if (OURS.some((kind) => error instanceof kind)) io.error(`rimefield: ${message}\n`);
    else {
      // A defect of ours is never taken for a check that fails: it has an exit code and a sentence of its own.
      io.error(
        `rimefield: something went wrong in Rimefield itself (${message}). Nothing was changed. Please report it, with the job file and what was run.\n`,
      );
    }
    return 2;
  }
}

function say(io: Io, text: string): void {
  io.output(new TextEncoder().encode(text));
}

/** The job file and the table that is asked for. */
function jobOf({ values, positionals, io }: Options): { job: Job; table: JobTable } {
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
function sourceOf(job: Job, given: string, option: string): { source: Job['sources'][number]; path: string } {
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

function fileRecord(source: string, file: string, bytes: Uint8Array): FileRecord {
  return { source, file: basename(file), size: bytes.length, sha256: sha256Of(bytes) };
}

/** A runner that has the files of --source. Several for one source are one after the other, as a folder of them is. */
async function filesOf(job: Job, options: Options, budget?: number): Promise<{ runner: Runner; files: FileRecord[] }> {
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
async function ranOn(options: Options, instead?: Job): Promise<Ran> {
  const given = jobOf(options);
  const job = instead ?? given.job;
  const table = job.tables.find((one) => one.id === given.table.id)!;
  const { runner, files } = await filesOf(job, options);
  const told = progressLine(options);
  const result = runner.runTable(fullTables(job), table.id, { progress: (done) => told(`${Math.round(done * 100)}%`) });
  told('');
  if (result.stop !== undefined) throw new Trouble(stopText(job, table, result.stop));
  if (result.steps.length === 0) throw new Trouble(`${table.name} has no steps.`);
  return { job, table, run: result, files };
}

/** One line that is written over itself, where standard error is a terminal. */
function progressLine({ values, io }: Options): (text: string) => void {
  if (values.quiet || !io.terminal) return () => undefined;
  let last = 0;
  return (text) => {
    if (text !== '' && Date.now() - last < 100) return;
    last = Date.now();
    io.error(`\r\u001b[K${text}`);
  };
}

async function run(options: Options): Promise<ExitCode> {
  const { out } = options.values;
  if (out === undefined) {
    jobOf(options);
    throw new Trouble('Say where to write with --out FILE, or --out - for standard output.');
  }
  if (options.values.dataset) return runParts(options, out);
  if (options.values.each !== undefined) return runMany(options, options.values.each, out);
  if (options.values.all) return runWhole(options, out);
  const large = largeSource(options);
  if (large !== undefined) return runLarge(options, large, out);
  const ran = await ranOn(options);
  const spec = specOf(ran.table, out, options.values.as);
  const verdict = judge(ran.job, ran.table, ran.run);
  const told = tellLooks(ran, verdict, options.io);
  let held = false;
  try {
    write(out, await releaseTable(ran.job, { ...ran, verdict }, spec), options.io);
    tellGuarded([ran.run], spec, options.io);
  } catch (error) {
    // The record of a run whose table is held back is written all the same.
    if (!(error instanceof ExportStopped) || verdict.stopping.length === 0) throw error;
    held = true;
    options.io.error(`rimefield: nothing was written: ${error.message}\n`);
  }
  if (options.values.record !== undefined) writeJson(options.values.record, runRecord(ran, verdict), options.io);
  return verdict.good && !held && !(options.values.strict && told > 0) ? 0 : 1;
}

/** All tables of the job. Nothing is written when one of them stops, or fails a check that stops exports. */
async function runWhole(options: Options, out: string): Promise<ExitCode> {
  const { job } = jobOf(options);
  const spec = specOf(job.tables.at(-1)!, out, options.values.as, true);
  const { runner, files } = await filesOf(job, options);
  const ran = job.tables.map((table) => {
    const result = runner.runTable(fullTables(job), table.id, { progress: () => undefined });
    if (result.stop !== undefined) throw new Trouble(stopText(job, table, result.stop));
    if (result.steps.length === 0) throw new Trouble(`${table.name} has no steps.`);
    return { job, table, run: result, files, verdict: judge(job, table, result) };
  });
  let told = 0;
  for (const one of ran) told += tellLooks(one, one.verdict, options.io);
  let held = false;
  try {
    write(out, await releaseAll(job, ran, spec), options.io);
    tellGuarded(
      ran.map((one) => one.run),
      spec,
      options.io,
    );
  } catch (error) {
    if (!(error instanceof ExportStopped) || ran.every((one) => one.verdict.stopping.length === 0)) throw error;
    held = true;
    options.io.error(`rimefield: nothing was written: ${error.message}\n`);
  }
  if (options.values.record !== undefined)
    writeJson(
      options.values.record,
      ran.map((one) => runRecord(one, one.verdict)),
      options.io,
    );
  return ran.every((one) => one.verdict.good) && !held && !(options.values.strict && told > 0) ? 0 : 1;
}

/** The file that is run piece by piece: the only one, when it is large or that is asked for. */
function largeSource({ values }: Options): string | undefined {
  const [only, ...others] = values.source ?? [];
  if (only === undefined || others.length > 0) return undefined;
  const path = only.slice(only.indexOf('=') + 1);
  const size = statSync(path, { throwIfNoEntry: false });
  return size?.isFile() && (values.pieces === true || size.size >= WHOLE_BYTES) ? only : undefined;
}

function runLarge(options: Options, given: string, out: string): ExitCode {
  const { job, table } = jobOf(options);
  const { source, path } = sourceOf(job, given, '--source');
  const spec = specOf(table, out, options.values.as);
  const counts = runInPieces({ job, table, source: source.id }, path, out, spec, options.io, progressLine(options));
  const piles = Object.entries(counts.aside).map(([name, rows]) => `${grouped(rows)} ${name}`);
  options.io.error(
    `rimefield: ${counted(counts.received, 'row')} received in ${counted(counts.pieces, 'piece')}: ${grouped(counts.rows)} in the table${piles.length === 0 ? '' : `, ${piles.join(', ')}`}; totals and checks are not looked at piece by piece\n`,
  );
  if (counts.unreadable > 0) options.io.error(`rimefield: ${counted(counts.unreadable, 'cell')} unreadable\n`);
  if (options.values.record !== undefined)
    writeJson(
      options.values.record,
      { rimefield: 'record', version: 1, job: job.name, table: table.name, ok: true, inPieces: counts },
      options.io,
    );
  return options.values.strict && counts.unreadable > 0 ? 1 : 0;
}

/** Of many files, results of the last run alone are kept: other tables of the job are in it, and are not made anew. */
const OF_RUN = 0;

/** The method on each of many files; a file that fails is told, and the others are finished. */
async function runMany(options: Options, each: string, out: string): Promise<ExitCode> {
  const { job, table } = jobOf(options);
  const { runner, files } = await filesOf(job, options, OF_RUN);
  const { source, path } = sourceOf(job, each, '--each');
  const inputs = filesAt(path, options.io);
  const stacking = options.values.stack ?? false;
  if (!stacking && out === '-')
    throw new Trouble('With --each the tables go into a folder: name it with --out FOLDER.');
  const spec = specOf(table, stacking ? out : '', options.values.as);
  const told = progressLine(options);
  const tables: { name: string; exported: Exported }[] = [];
  const records: object[] = [];
  let failed = 0;
  const taken = new Set<string>();
  let k = 0;
  for await (const outcome of runEach(runner, { job, table, source: source.id }, inputs, {
    progress: () => undefined,
  })) {
    told(`${k + 1} of ${inputs.length}: ${outcome.file}`);
    const file = fileRecord(source.name, outcome.file, inputs[k++]!.bytes);
    const record = (more: object) => records.push({ ...more, files: [...files, file] });
    if (outcome.as === 'failed') {
      failed++;
      told('');
      options.io.error(`rimefield: ${outcome.file}: ${outcome.why}\n`);
      record({ rimefield: 'record', version: 1, job: job.name, table: table.name, ok: false, stopped: outcome.why });
      continue;
    }
    const { run: result, verdict } = outcome;
    record(runRecord({ job, table, run: result, files: [] }, verdict));
    const looks = looksOf({ job, table, run: result, files: [] });
    if (!verdict.good || (options.values.strict && looks.length > 0)) failed++;
    if (!verdict.good || looks.length > 0) told('');
    if (!verdict.good) options.io.error(`rimefield: ${outcome.file}: ${troubleText(verdict)}\n`);
    for (const line of looks) options.io.error(`rimefield: ${outcome.file}: ${line}\n`);
    if (verdict.stopping.length > 0) continue;
    const finished = { table, run: result, verdict };
    if (stacking) tables.push({ name: outcome.file, exported: released(job, finished) });
    else {
      write(join(out, outName(outcome.file, spec, taken)), await releaseTable(job, finished, spec), options.io);
      tellGuarded([result], spec, options.io);
    }
  }
  told('');
  if (tables.length > 0) write(out, await exportStacked(table.name, tables, spec), options.io);
  if (options.values.record !== undefined) writeJson(options.values.record, records, options.io);
  return failed > 0 ? 1 : 0;
}

/** The method as SQL. */
async function sql(options: Options): Promise<ExitCode> {
  const dialect = dialectOf(options.values.dialect);
  const { text } = sqlScript(await ranOn(options), dialect);
  write(options.values.out ?? '-', new TextEncoder().encode(text), options.io);
  return 0;
}

/** The table after a step, as a script of the method begins with it. */
async function raw(options: Options): Promise<ExitCode> {
  const { job, table } = jobOf(options);
  const { out, upto } = options.values;
  const step = stepIndex(table, upto);
  if (out === undefined) throw new Trouble('Say where to write with --out FILE, or --out - for standard output.');
  // Steps behind it may want what is not there.
  const tables = job.tables.map((one) => (one === table ? { ...one, steps: one.steps.slice(0, step + 1) } : one));
  const { run } = await ranOn(options, { ...job, tables });
  write(out, await rawBytes(table.name, run, specOf(table, out, options.values.as).as), options.io);
  return 0;
}

/** A data set of many files, each a part; a file that fails is told, and the others are finished. */
async function runParts(options: Options, out: string): Promise<ExitCode> {
  const { each, workers, shard } = options.values;
  const { job, table } = jobOf(options);
  if (each === undefined || out === '-')
    throw new Trouble(
      'A data set is made of many files in a folder: say which with --each NAME=FILES, and where with --out FOLDER.',
    );
  const { source, path } = sourceOf(job, each, '--each');
  const { runner } = await filesOf(job, options);
  const others = job.sources.flatMap(({ id }) => {
    const known = id === source.id ? undefined : runner.source(id);
    return known === undefined ? [] : [{ id, ...known }];
  });
  const chosen = { job, table: table.id, source: source.id, others };
  const choices = { workers: workersOf(workers), shard: shardOf(shard) };
  return makeDataset({ ...chosen, out, method: methodDigest(chosen) }, pathsAt(path), choices, {
    io: options.io,
    progress: progressLine(options),
    strict: options.values.strict ?? false,
  });
}

async function check(options: Options): Promise<ExitCode> {
  const ran = await ranOn(options);
  const verdict = judge(ran.job, ran.table, ran.run);
  const { cells, ledger } = verdict;
  const all = ledger.agrees + ledger.disagrees + ledger.cannotTell + ledger.leftOut;
  const lines = [
    `${ran.table.name}: ${grouped(ran.run.steps.at(-1)!.table.rows)} rows`,
    `${grouped(cells.accounted)} of ${grouped(cells.filled)} filled cells accounted for`,
    all === 0 ? 'no rows or columns are marked as totals' : `${grouped(ledger.agrees)} of ${grouped(all)} totals agree`,
    ...ledger.entries
      .filter((entry) => entry.state === 'disagrees')
      .slice(0, 20)
      .map((entry) => `  ${totalText(ran.run, entry)}`),
    ...verdict.checks.map((one) => `${one.ok ? 'holds' : 'FAILS'}: ${one.text} (${one.found})`),
  ];
  if (options.values.record !== '-') say(options.io, `${lines.join('\n')}\n`);
  if (options.values.record !== undefined) writeJson(options.values.record, runRecord(ran, verdict), options.io);
  return verdict.good ? 0 : 1;
}

function show(options: Options): ExitCode {
  const { job } = jobOf(options);
  const wanted = options.values.table;
  const tables = job.tables.filter((one) => wanted === undefined || one.name === wanted || one.id === wanted);
  const lines = tables.flatMap((table) => [
    table.name,
    ...table.steps.flatMap((step, k) => [
      `${String(k + 1).padStart(3)}. ${sentenceText(stepSentence(step, jobNames(job)))}${step.muted ? ' (skipped)' : ''}`,
      ...(step.note === undefined ? [] : [`     ${step.note}`]),
    ]),
    ...(table.checks ?? []).map((one) => `   - ${checkText(one)}`),
    '',
  ]);
  say(options.io, lines.join('\n'));
  return 0;
}

async function draft(options: Options): Promise<ExitCode> {
  const { values, positionals, io } = options;
  if (positionals.length === 0) throw new Trouble(`Name at least one report.\n\n${USAGE}`);
  const { out, table, like, drafts } = values;
  return draftReports({ files: positionals, out, table, like, drafts, io, progress: progressLine(options) });
}

async function serveHere({ values, positionals, io }: Options): Promise<ExitCode> {
  if (positionals.length > 0) throw new Trouble(`serve takes no file, and ${positionals.join(', ')} was given.`);
  // Its libraries are loaded only where they are needed: the other commands start at once.
  const { serve, serveChoices } = await import('./serve.ts');
  await serve(serveChoices(values), (text) => say(io, text));
  return 0;
}

type Options = ReturnType<typeof parseOptions> & { io: Io };

function parseOptions(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        source: { type: 'string', multiple: true },
        each: { type: 'string' },
        stack: { type: 'boolean' },
        pieces: { type: 'boolean' },
        dataset: { type: 'boolean' },
        workers: { type: 'string' },
        shard: { type: 'string' },
        all: { type: 'boolean' },
        quiet: { type: 'boolean' },
        strict: { type: 'boolean' },
        table: { type: 'string' },
        out: { type: 'string' },
        as: { type: 'string' },
        record: { type: 'string' },
        dialect: { type: 'string' },
        upto: { type: 'string' },
        like: { type: 'string' },
        drafts: { type: 'string' },
        port: { type: 'string' },
        host: { type: 'string' },
        folder: { type: 'string' },
      },
    });
  } catch (error) {
    throw new Trouble(`${(error as Error).message}\n\n${USAGE}`);
  }
}
