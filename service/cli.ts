import { createHash } from 'node:crypto';
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import {
  checkText,
  EXPORT_FORMATS,
  ExportSpec,
  ExportStopped,
  exportTable,
  fullTables,
  type Job,
  JobFileError,
  type JobTable,
  jobNames,
  type MethodRun,
  placeText,
  Runner,
  readJobFile,
  runChecks,
  type StepStop,
  sentenceText,
  stepSentence,
  tallyOf,
} from '../core/index.ts';

const USAGE = `Usage: rimefield COMMAND JOB [options]

Commands:
  run JOB      runs a method on the given files and writes the table
  check JOB    runs a method and says how its tally and its checks stand; writes nothing
  show JOB     prints the methods as sentences

Options:
  --source NAME=FILE  the file for a source of the job, by the source's name or id; - for standard input
  --table NAME        which table; the last by default
  --out FILE          where to write; - for standard output
  --as FORMAT         ${Object.keys(EXPORT_FORMATS).join(', ')}; by the ending of --out if that is one, else csv
  --record FILE       writes a record of the run as JSON: files, counts, tally, checks; - for standard output

Exit code: 0 all well, 1 a check or a total fails, 2 it could not run.
`;

/** Something the caller has to put right; said on standard error without a stack. */
class Trouble extends Error {}

const COMMANDS: Record<string, (options: Options) => void> = { run, check, show };

function main(args: readonly string[]): void {
  const [command, ...rest] = args;
  if (command === undefined || command === '--help' || command === 'help') {
    process.stdout.write(USAGE);
    return;
  }
  const found = COMMANDS[command];
  if (found === undefined) throw new Trouble(`There is no command ${command}.\n\n${USAGE}`);
  found(parseOptions(rest));
}

/** The job file and the table that is asked for. */
function jobOf({ values, positionals }: Options): { job: Job; table: JobTable } {
  const [jobFile] = positionals;
  if (jobFile === undefined || positionals.length > 1) throw new Trouble(`Name one job file.\n\n${USAGE}`);
  const job = readJobFile(readText(jobFile));
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

interface Ran {
  job: Job;
  table: JobTable;
  run: MethodRun;
  files: { source: string; file: string; size: number; sha256: string }[];
}

/** Runs the table on the files that are given. @throws Trouble when it stops */
function ranOn(options: Options): Ran {
  const { job, table } = jobOf(options);
  const runner = new Runner();
  const files: Ran['files'] = [];
  for (const given of options.values.source ?? []) {
    const at = given.indexOf('=');
    if (at < 1) throw new Trouble(`--source takes NAME=FILE, not ${given}.`);
    const [name, file] = [given.slice(0, at), given.slice(at + 1)];
    const source = job.sources.find((one) => one.name === name || one.id === name);
    if (source === undefined)
      throw new Trouble(
        `The job has no source ${name}. Its sources are ${job.sources.map((one) => one.name).join(', ')}.`,
      );
    const bytes = readBytes(file);
    runner.setSource(source.id, { name: basename(file), bytes });
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    files.push({ source: source.name, file: basename(file), size: bytes.length, sha256 });
  }
  const result = runner.runTable(fullTables(job), table.id, { progress: () => undefined });
  if (result.stop !== undefined) throw new Trouble(stopText(job, table, result.stop));
  if (result.steps.length === 0) throw new Trouble(`${table.name} has no steps.`);
  return { job, table, run: result, files };
}

function run(options: Options): void {
  if (options.values.out === undefined) {
    jobOf(options);
    throw new Trouble('Say where to write with --out FILE, or --out - for standard output.');
  }
  const ran = ranOn(options);
  const verdict = judged(ran);
  const { out } = options.values;
  const stopping = verdict.checks.filter((one) => one.level === 'stop' && !one.ok);
  if (stopping.length === 0) {
    const spec = specOf(ran.table, out, options.values.as);
    write(out, exportTable(ran.run.steps.at(-1)!.table, ran.table.name, spec));
  } else {
    process.stderr.write(
      `rimefield: nothing was written: ${stopping.map((one) => `${one.text} (${one.found})`).join('; ')}\n`,
    );
  }
  finish(ran, verdict, options);
}

/** The export that is asked for: by name, by the ending of the file, or as the job has it. */
function specOf(table: JobTable, out: string, as: string | undefined): ExportSpec {
  const ending = /\.([a-z]+)$/i.exec(out)?.[1]?.toLowerCase();
  const named = Object.entries(EXPORT_FORMATS).find(([, format]) => format.ending === ending)?.[0];
  const wanted = as ?? named ?? 'csv';
  if (!(wanted in EXPORT_FORMATS))
    throw new Trouble(`There is no format ${wanted}. The formats are ${Object.keys(EXPORT_FORMATS).join(', ')}.`);
  return table.export?.as === wanted ? table.export : ExportSpec.parse({ as: wanted });
}

function check(options: Options): void {
  const ran = ranOn(options);
  const verdict = judged(ran);
  const { cells, ledger } = verdict;
  const all = ledger.agrees + ledger.disagrees + ledger.cannotTell;
  const n = (count: number) => count.toLocaleString('en-GB');
  const lines = [
    `${ran.table.name}: ${n(ran.run.steps.at(-1)!.table.rows)} rows`,
    `${n(cells.accounted)} of ${n(cells.filled)} filled cells accounted for`,
    all === 0 ? 'the report has no totals of its own' : `${n(ledger.agrees)} of ${n(all)} totals agree`,
    ...ledger.entries
      .filter((entry) => entry.state === 'disagrees')
      .slice(0, 20)
      .map(
        (entry) =>
          `  ${placeText(ran.run, entry.place)} says ${entry.figure}, the table adds to ${entry.table}. ${entry.explanation?.text ?? ''}`,
      ),
    ...verdict.checks.map((one) => `${one.ok ? 'holds' : 'FAILS'}: ${one.text} (${one.found})`),
  ];
  if (options.values.record !== '-') process.stdout.write(`${lines.join('\n')}\n`);
  finish(ran, verdict, options);
}

function judged({ job, table, run: result }: Ran) {
  const tally = tallyOf(result, table, (id) => job.tables.find((one) => one.id === id)?.name ?? id);
  const checks = runChecks(result.steps.at(-1)!.table, table.checks ?? [], { totals: tally.ledger });
  return { ...tally, checks };
}

/** Writes the record, and says by the exit code how it went. */
function finish(
  { job, table, run: result, files }: Ran,
  verdict: ReturnType<typeof judged>,
  { values }: Options,
): void {
  const { cells, ledger, checks } = verdict;
  const good = cells.accounted === cells.filled && ledger.disagrees === 0 && checks.every((one) => one.ok);
  if (values.record !== undefined) {
    const record = {
      rimefield: 'record',
      version: 1,
      job: job.name,
      table: table.name,
      ok: good,
      files,
      steps: result.steps.map((step, k) => ({
        step: k + 1,
        sentence: sentenceText(stepSentence(step.step, jobNames(job))),
        rows: step.table.rows,
        columns: step.table.fields.length,
        looks: step.notices.filter((notice) => notice.tone === 'look').map((notice) => notice.text),
      })),
      cells: { filled: cells.filled, accounted: cells.accounted },
      totals: { agrees: ledger.agrees, disagrees: ledger.disagrees, cannotTell: ledger.cannotTell },
      checks: checks.map(({ text, ok, found, level }) => ({ text, ok, found, level })),
    };
    write(values.record, new TextEncoder().encode(`${JSON.stringify(record, null, 2)}\n`));
  }
  if (!good) process.exitCode = 1;
}

function show(options: Options): void {
  const { job } = jobOf(options);
  const wanted = options.values.table;
  const tables = job.tables.filter((one) => wanted === undefined || one.name === wanted || one.id === wanted);
  const lines = tables.flatMap((table) => [
    table.name,
    ...table.steps.flatMap((step, k) => [
      `${String(k + 1).padStart(3)}. ${sentenceText(stepSentence(step, jobNames(job)))}${step.muted ? ' (muted)' : ''}`,
      ...(step.note === undefined ? [] : [`     ${step.note}`]),
    ]),
    ...(table.checks ?? []).map((one) => `   - ${checkText(one)}`),
    '',
  ]);
  process.stdout.write(lines.join('\n'));
}

type Options = ReturnType<typeof parseOptions>;

function parseOptions(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        source: { type: 'string', multiple: true },
        table: { type: 'string' },
        out: { type: 'string' },
        as: { type: 'string' },
        record: { type: 'string' },
      },
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
  if (!(error instanceof Trouble || error instanceof JobFileError || error instanceof ExportStopped)) throw error;
  process.stderr.write(`rimefield: ${error.message}\n`);
  process.exitCode = 2;
}
