/** The command 'run --match': for each file the job whose last report it is like. */
import { readdirSync } from 'node:fs';
import { basename, join } from 'node:path';
import {
  few,
  type Job,
  type KnownSource,
  knownSources,
  likeliestOf,
  likenessText,
  openSource,
  type Recognized,
  readJobFile,
  recognize,
} from '../core/index.ts';
import { filesAt, isFolder, outName, pathsAt, readBytes, specOf, Trouble } from './command-files.ts';
import type { ExitCode, Options } from './command-options.ts';

interface KeptJob {
  path: string;
  job: Job;
}

/** Runs each file by the job that knows it; those that none knows, or two know alike, are said and left. */
export async function runMatched(
  options: Options,
  folder: string,
  run: (options: Options) => Promise<ExitCode>,
): Promise<ExitCode> {
  const { positionals, values, io } = options;
  const { out } = values;
  if (positionals.length === 0) throw new Trouble('Name the files to run: rimefield run --match FOLDER FILE...');
  if (out === undefined || out === '-')
    throw new Trouble('With --match the tables go into a folder: name it with --out FOLDER.');
  const kept = jobsIn(folder, options);
  const known = kept.flatMap(({ path, job }) => knownSources(job, path));
  if (known.length === 0)
    throw new Trouble(
      `No job in ${folder} says what its reports look like. Draft one again with rimefield draft REPORT --out JOB, or open it once in the application and save it.`,
    );
  const paths = positionals.flatMap((path) => (isFolder(path) ? pathsAt(path).map((one) => one.path) : [path]));
  const taken = new Set<string>();
  let worst: ExitCode = 0;
  for (const path of paths) {
    const found = await jobFor(path, kept, known, options);
    if (found === undefined) {
      worst = worst === 2 ? 2 : 1;
      continue;
    }
    const { job, jobPath, source } = found;
    const spec = specOf(job.tables.at(-1)!, '', values.as);
    const own = {
      ...options,
      positionals: [jobPath],
      values: {
        ...values,
        match: undefined,
        source: [`${source}=${path}`, ...(values.source ?? [])],
        out: join(out, outName(path, spec, taken)),
      },
    };
    try {
      worst = Math.max(worst, await run(own)) as ExitCode;
    } catch (error) {
      if (!(error instanceof Trouble)) throw error;
      io.error(`rimefield: ${basename(path)}: ${error.message}\n`);
      worst = worst === 2 ? 2 : 1;
    }
  }
  return worst;
}

function jobsIn(folder: string, { io }: Options): KeptJob[] {
  if (!isFolder(folder))
    throw new Trouble(`${folder} is not a folder. --match takes the folder in which job files are.`);
  return readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .sort()
    .flatMap((name) => {
      const path = join(folder, name);
      const text = new TextDecoder().decode(readBytes(path, io));
      return isJobText(text) ? [{ path, job: readJobFile(text) }] : [];
    });
}

/** Reports may be JSON too: only what says that it is a job is one, and must be a whole one. */
function isJobText(text: string): boolean {
  try {
    return (JSON.parse(text) as { rimefield?: unknown } | null)?.rimefield === 'job';
  } catch {
    return false;
  }
}

/** The job for a file, which is said; undefined where there is none, which is said too. */
async function jobFor(path: string, kept: readonly KeptJob[], known: readonly KnownSource[], { values, io }: Options) {
  const [file] = filesAt(path, io);
  if (file === undefined) throw new Trouble(`${path} holds no file.`);
  const say = (text: string) => io.error(`rimefield: ${basename(path)}: ${text}\n`);
  await openSource(file.bytes, file.name);
  const [first, ...alike] = likeliestOf(recognize(file, known));
  const nameOf = (one: Recognized) => kept.find((job) => job.path === one.job)!.job.name;
  if (first === undefined) {
    say('no job has a report like it.');
    return undefined;
  }
  if (alike.length > 0) {
    say(
      `${few([first, ...alike].map(nameOf))} have reports like it. Run it with the one that is meant: rimefield run JOB --source NAME=${path}`,
    );
    return undefined;
  }
  const { job } = kept.find((one) => one.path === first.job)!;
  const given = new Set((values.source ?? []).map((one) => one.slice(0, one.indexOf('='))));
  const missing = job.sources.filter((one) => one.id !== first.source && !given.has(one.name) && !given.has(one.id));
  if (missing.length > 0) {
    say(
      `${job.name} reads ${few(missing.map(({ name }) => name))} too. Give ${missing.length === 1 ? 'it' : 'them'} with --source NAME=FILE.`,
    );
    return undefined;
  }
  say(`${job.name}, as ${likenessText(first)}.`);
  return { job, jobPath: first.job, source: first.source };
}
