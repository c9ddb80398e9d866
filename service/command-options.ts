/** What a command is asked: its options, and what it says of itself. */
import { parseArgs } from 'node:util';
import { DIALECTS, EXPORT_FORMATS } from '../core/index.ts';
import { type Io, Trouble } from './command-files.ts';

export const USAGE = `Usage: rimefield COMMAND [JOB] [options]

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
  --match FOLDER      run: files instead of a job; each is run by the job in FOLDER whose last report it is like, into
                      the folder --out
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
  --readable          raw: stop where a typed cell could not be read, which a database would take for blank
  --record FILE       writes a record of the run as JSON: files, counts, tally, checks; - for standard output
  --json              run, check, draft: one JSON document on standard output in place of the sentences
  --schema-only       check: whether JOB is a valid job file, without running it
  draft:              --out JOB writes the drafted job, --table FILE the table it gives; --like FILE drafts
                      towards a finished table or some of its rows, with --whole all of them; other reports given
                      with it may bring columns; --drafts N writes the best N, numbered. Without --like several
                      reports share one method where one fits
  --quiet             says nothing of progress
  --strict            run: warnings make the exit code 1 too
  --port N, --host H  serve: where; port 4173 of this machine by default. Others may come in only with the token
                      that is printed when it starts
  --folder DIR        serve: the drop folder; the folder drop here by default

What is to check (unreadable cells, totals that disagree, keys without a match and the like) is said on standard
error, a line each. Exit code: 0 all well, 1 a check or a total fails or some of many files failed, 2 it could not run.
draft: 0 sure, 1 likely or a guess, 2 nothing to read.
`;

/** 0 all well, 1 a check or a total fails or some of many files failed, 2 it could not run. */
export type ExitCode = 0 | 1 | 2;

export type Options = ReturnType<typeof parseOptions> & { io: Io };

export function parseOptions(args: readonly string[]) {
  return withJson(parsed(args));
}

/** A record on standard output is the one document that is asked for. */
function withJson(options: ReturnType<typeof parsed>): ReturnType<typeof parsed> {
  const { values } = options;
  if (values.json !== true) return options;
  if (values.record !== undefined) throw new Trouble('Give --json or --record, not both: each writes the same record.');
  if (values.out === '-' || values.table === '-')
    throw new Trouble('With --json standard output holds the JSON document: name a file with --out FILE.');
  return { ...options, values: { ...values, record: '-' } };
}

function parsed(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        source: { type: 'string', multiple: true },
        each: { type: 'string' },
        match: { type: 'string' },
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
        json: { type: 'boolean' },
        'schema-only': { type: 'boolean' },
        dialect: { type: 'string' },
        upto: { type: 'string' },
        readable: { type: 'boolean' },
        like: { type: 'string' },
        whole: { type: 'boolean' },
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

/** One line that is written over itself, where standard error is a terminal. */
export function progressLine({ values, io }: Options): (text: string) => void {
  if (values.quiet || !io.terminal) return () => undefined;
  let last = 0;
  return (text) => {
    if (text !== '' && Date.now() - last < 100) return;
    last = Date.now();
    io.error(`\r\u001b[K${text}`);
  };
}
