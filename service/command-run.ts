/** The command 'run': one table, all tables, many files, or one file piece by piece. */
import { statSync } from 'node:fs';
import { join } from 'node:path';
import {
  counted,
  type Exported,
  ExportStopped,
  exportStacked,
  grouped,
  judge,
  releaseAll,
  released,
  releaseTable,
  runEach,
  runRecord,
} from '../core/index.ts';
import { filesAt, outName, pathsAt, specOf, Trouble, write, writeJson } from './command-files.ts';
import { fileRecord, filesOf, jobOf, ranOn, runOf, sourceOf } from './command-given.ts';
import { runMatched } from './command-match.ts';
import { type ExitCode, type Options, progressLine } from './command-options.ts';
import { looksOf, tellChanges, tellLooks, troubleText } from './command-says.ts';
import { makeDataset, shardOf, workersOf } from './dataset/command.ts';
import { methodDigest } from './dataset/run-dataset.ts';
import { runInPieces, WHOLE_BYTES } from './in-pieces.ts';

export async function run(options: Options): Promise<ExitCode> {
  const { out, match } = options.values;
  if (match !== undefined) return runMatched(options, match, run);
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
    tellChanges([ran.run], spec, options.io);
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
    const result = runOf(runner, job, table);
    return { job, table, run: result, files, verdict: judge(job, table, result) };
  });
  let told = 0;
  for (const one of ran) told += tellLooks(one, one.verdict, options.io);
  let held = false;
  try {
    write(out, await releaseAll(job, ran, spec), options.io);
    tellChanges(
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

async function runLarge(options: Options, given: string, out: string): Promise<ExitCode> {
  const { job, table } = jobOf(options);
  const { source, path } = sourceOf(job, given, '--source');
  const spec = specOf(table, out, options.values.as);
  const counts = await runInPieces(
    { job, table, source: source.id },
    path,
    out,
    spec,
    options.io,
    progressLine(options),
  );
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

/** Of many files, results of the last run alone are kept: other tables of the job are in it, and are not made again. */
const OF_RUN = 0;

/** The method on each of many files; a file that fails is reported, and the others are finished. */
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
      tellChanges([result], spec, options.io);
    }
  }
  told('');
  if (tables.length > 0) write(out, await exportStacked(table.name, tables, spec), options.io);
  if (options.values.record !== undefined) writeJson(options.values.record, records, options.io);
  return failed > 0 ? 1 : 0;
}

/** A data set of many files, each a part; a file that fails is reported, and the others are finished. */
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
