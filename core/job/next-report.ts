/** A method tried on the next report, before that takes the place of the last one. */
import { sniff } from '../read/sniff.ts';
import { tallyOf } from '../tally/tally.ts';
import { type Difference, runDifferences } from './again.ts';
import type { NamedFile } from './each.ts';
import { type Job, jobNames } from './job.ts';
import type { Runner } from './run.ts';
import { fullTables } from './step-set.ts';

/** What would be otherwise in one table. */
export interface TableNext {
  table: string;
  differences: readonly Difference[];
}

const QUIET = { progress: () => undefined };

/**
 * Tries another file for a source: what would be otherwise in every table that the source reaches. The file that was
 * there is put back.
 *
 * @throws ReadFailure when the bytes are nothing that can be read
 */
export function tryReport(runner: Runner, job: Job, source: string, file: NamedFile): TableNext[] {
  sniff(file.bytes, file.name);
  const tables = fullTables(job);
  const before = tables.map((table) => runner.runTable(tables, table.id, QUIET));
  const old = runner.source(source);
  runner.setSource(source, { ...file });
  try {
    return tables.flatMap((table, k): TableNext[] => {
      const [was, is] = [before[k]!, runner.runTable(tables, table.id, QUIET)];
      const same = was.steps.length > 0 && was.steps.at(-1)!.table === is.steps.at(-1)?.table;
      if (same && was.stop === is.stop) return [];
      const differences = runDifferences(was, is, table.steps);
      const of = (run: typeof is) =>
        run.stop === undefined ? tallyOf(run, table, jobNames(job).table).ledger.disagrees : 0;
      const disagree = of(is);
      if (disagree > 0 && disagree !== of(was))
        differences.push({ tone: 'look', text: `${disagree.toLocaleString('en-GB')} totals of the report disagree` });
      return [{ table: table.id, differences }];
    });
  } finally {
    if (old !== undefined) runner.setSource(source, old);
  }
}

/** The job with the mends of all differences made. */
export function mendedJob(job: Job, next: readonly TableNext[]): Job {
  return {
    ...job,
    tables: job.tables.map((table) => {
      const mends = next.find((one) => one.table === table.id)?.differences.flatMap((one) => one.mend ?? []) ?? [];
      return {
        ...table,
        steps: table.steps.map((step, k) => {
          const mend = mends.find((one) => one.step === k);
          return mend === undefined ? step : { ...step, params: mend.params };
        }),
      };
    }),
  };
}
