/** A method tried on the next report, before that takes the place of the last one. */

import { type Job, jobNames } from '../document/job.ts';
import { fullTables } from '../document/step-set.ts';
import { sniff } from '../read/sniff.ts';
import type { NamedFile } from '../release/many-files.ts';
import { methodChanges, type StepChange } from '../run/method-changes.ts';
import type { Runner } from '../run/run.ts';
import { tallyOf } from '../tally/tally.ts';
import { grouped } from '../values/counted.ts';
import { type Difference, fixedSteps, stopOf } from './fixes.ts';
import { runDifferences } from './run-differences.ts';

/** What would be otherwise in one table. */
export interface TableNext {
  table: string;
  differences: readonly Difference[];
  /** The method on the last report and, with its fixes, on this one. */
  steps: readonly StepChange[];
}

const MAX_FIXES = 20;
const QUIET = { progress: () => undefined };

/**
 * Tries another file for a source: what would be otherwise in every table that the source reaches. The file that was
 * there is put back.
 *
 * @throws ReadFailure when the bytes are nothing that can be read
 */
export function tryReport(runner: Runner, job: Job, source: string, file: NamedFile): TableNext[] {
  sniff(file.bytes, file.name);
  const runAll = (of: Job) => of.tables.map((table) => runner.runTable(fullTables(of), table.id, QUIET));
  const before = runAll(job);
  const old = runner.source(source);
  runner.setSource(source, { ...file });
  try {
    // A fix may only lead to the next stop: what is offered is what takes the method to its end, as far as it can be.
    const fixes: TableNext[] = [];
    let fixed = job;
    let after = runAll(fixed);
    for (let turn = 0; turn < MAX_FIXES; turn++) {
      const found = fixed.tables.flatMap((table, k): TableNext[] => {
        const stop = stopOf(before[k]!, after[k]!, table.steps);
        return stop?.fix === undefined ? [] : [{ table: table.id, differences: [stop], steps: [] }];
      });
      if (found.length === 0) break;
      fixes.push(...found);
      fixed = fixedJob(fixed, found);
      after = runAll(fixed);
    }
    return fixed.tables.flatMap((table, k): TableNext[] => {
      const [was, is] = [before[k]!, after[k]!];
      const stops = fixes.filter((one) => one.table === table.id).flatMap((one) => one.differences);
      const same = was.steps.length > 0 && was.steps.at(-1)!.table === is.steps.at(-1)?.table;
      if (same && stops.length === 0 && was.stop === is.stop) return [];
      const differences = [...stops, ...runDifferences(was, is, table.steps)];
      const of = (run: typeof is) =>
        run.stop === undefined ? tallyOf(run, table, jobNames(job).table).ledger.disagrees : 0;
      const disagree = of(is);
      if (disagree > 0 && disagree !== of(was))
        differences.push({
          code: 'totals',
          severity: 'warning',
          text: `${grouped(disagree)} totals of the report disagree`,
        });
      const steps = methodChanges({ steps: job.tables[k]!.steps, run: was }, { steps: table.steps, run: is });
      return [{ table: table.id, differences, steps }];
    });
  } finally {
    if (old !== undefined) runner.setSource(source, old);
  }
}

/** The job with the fixes of all differences made. */
export function fixedJob(job: Job, next: readonly Pick<TableNext, 'table' | 'differences'>[]): Job {
  const fixesOf = (id: string) =>
    next.filter((one) => one.table === id).flatMap((one) => one.differences.flatMap(({ fix }) => fix ?? []));
  return {
    ...job,
    tables: job.tables.map((table) => {
      const fixes = fixesOf(table.id);
      return fixes.length === 0 ? table : { ...table, steps: fixedSteps(table.steps, fixes) };
    }),
  };
}
