import {
  checkText,
  counted,
  ExportStopped,
  grouped,
  JobFileError,
  jobNames,
  judge,
  PiecesFailure,
  ReadFailure,
  runRecord,
  SqlRefused,
  sentenceText,
  stepHeadline,
  stepSentence,
} from '../core/index.ts';
import { type Io, specOf, Trouble, write, writeJson } from './command-files.ts';
import { jobOf, ranOn } from './command-given.ts';
import { type ExitCode, type Options, parseOptions, progressLine, USAGE } from './command-options.ts';
import { run } from './command-run.ts';
import { totalText } from './command-says.ts';

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
      // An internal error is never reported as a failed check: it has its own exit code and sentence.
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

/** The method as SQL. */
async function sql(options: Options): Promise<ExitCode> {
  const { dialectOf, sqlScript } = await import('./sql.ts');
  const dialect = dialectOf(options.values.dialect);
  const { text } = sqlScript(await ranOn(options), dialect);
  write(options.values.out ?? '-', new TextEncoder().encode(text), options.io);
  return 0;
}

/** The table after a step, as a script of the method begins with it. */
async function raw(options: Options): Promise<ExitCode> {
  const { job, table } = jobOf(options);
  const { out, upto } = options.values;
  const { rawBytes, stepIndex } = await import('./sql.ts');
  const step = stepIndex(table, upto);
  if (out === undefined) throw new Trouble('Say where to write with --out FILE, or --out - for standard output.');
  // Steps behind it may want what is not there.
  const tables = job.tables.map((one) => (one === table ? { ...one, steps: one.steps.slice(0, step + 1) } : one));
  const { run } = await ranOn(options, { ...job, tables });
  write(
    out,
    await rawBytes(table.name, run, specOf(table, out, options.values.as).as, options.values.readable),
    options.io,
  );
  return 0;
}

async function check(options: Options): Promise<ExitCode> {
  if (options.values['schema-only']) return checkFile(options);
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

/** Whether a job file is one, with nothing run. A file that is none is a JobFileError, which says where. */
function checkFile(options: Options): ExitCode {
  const { job } = jobOf(options);
  const steps = job.tables.reduce((sum, { steps: own }) => sum + own.length, 0);
  if (options.values.json)
    writeJson('-', { rimefield: 'job', valid: true, name: job.name, tables: job.tables.length, steps }, options.io);
  else
    say(
      options.io,
      `${job.name}: a valid job of ${counted(job.tables.length, 'table')} and ${counted(steps, 'step')}\n`,
    );
  return 0;
}

function show(options: Options): ExitCode {
  const { job } = jobOf(options);
  const wanted = options.values.table;
  const tables = job.tables.filter((one) => wanted === undefined || one.name === wanted || one.id === wanted);
  const lines = tables.flatMap((table) => [
    table.name,
    ...table.steps.flatMap((step, k) => [
      `${String(k + 1).padStart(3)}. ${stepHeadline(step, {}, jobNames(job))}${step.muted ? ' (skipped)' : ''}`,
      `     ${sentenceText(stepSentence(step, jobNames(job)))}`,
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
  const { out, table, like, whole = false, drafts, json = false } = values;
  const { draftReports } = await import('./draft.ts');
  return draftReports({
    files: positionals,
    out,
    table,
    like,
    whole,
    drafts,
    json,
    io,
    progress: progressLine(options),
  });
}

async function serveHere({ values, positionals, io }: Options): Promise<ExitCode> {
  if (positionals.length > 0) throw new Trouble(`serve takes no file, and ${positionals.join(', ')} was given.`);
  // Its libraries are loaded only where they are needed: the other commands start at once.
  const { serve, serveChoices } = await import('./serve.ts');
  await serve(serveChoices(values), (text) => say(io, text));
  return 0;
}
