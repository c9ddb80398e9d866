import { grouped } from '../values/counted.ts';

/** How a run went, in words and as a record that other programs can read. */

import { type CheckResult, runChecks } from '../checks/checks.ts';
import { type Job, type JobTable, jobNames } from '../document/job.ts';
import { stepSentence } from '../document/sentence-of.ts';
import { sentenceText } from '../kinds/sentence.ts';
import type { MethodRun, StepStop } from '../run/run.ts';
import type { Table } from '../table/table.ts';
import { type Tally, tallyOf } from './tally.ts';

/** How the tally and the checks of a run stand. */
export interface Verdict extends Tally {
  checks: readonly CheckResult[];
  /** Every filled cell is accounted for, no total disagrees, every check holds. */
  good: boolean;
  /** Failing checks that forbid an export. */
  stopping: readonly CheckResult[];
}

/** @param run one that came to its end */
export function judge(job: Job, table: JobTable, run: MethodRun, lastRows?: number): Verdict {
  const tally = tallyOf(run, table, jobNames(job).table);
  const checks = runChecks(run.steps.at(-1)!.table, table.checks ?? [], { totals: tally.ledger, lastRows });
  const { ledger } = tally;
  return {
    get cells() {
      return tally.cells;
    },
    get isAccounted() {
      return tally.isAccounted;
    },
    ledger,
    checks,
    good: tally.isAccounted && ledger.disagrees === 0 && checks.every((one) => one.ok),
    stopping: checks.filter((one) => one.level === 'stop' && !one.ok),
  };
}

export interface FileRecord {
  source: string;
  file: string;
  size: number;
  sha256: string;
}

export interface RunRecord {
  rimefield: 'record';
  version: 1;
  job: string;
  table: string;
  ok: boolean;
  /** Why the method did not come to its end. */
  stopped?: string;
  files: readonly FileRecord[];
  rows: number;
  /** Of the table that came out. */
  columns: readonly { name: string; type: string }[];
  steps: readonly { step: number; sentence: string; rows: number; columns: number; looks: readonly string[] }[];
  cells?: { filled: number; accounted: number };
  totals?: { agrees: number; disagrees: number; cannotTell: number; leftOut: number };
  checks?: readonly { text: string; ok: boolean; found: string; level: string }[];
}

/** @param verdict how the run stands; undefined for one that stopped */
export function runRecord(
  { job, table, run, files }: { job: Job; table: JobTable; run: MethodRun; files: readonly FileRecord[] },
  verdict?: Verdict,
): RunRecord {
  const names = jobNames(job);
  return {
    rimefield: 'record',
    version: 1,
    job: job.name,
    table: table.name,
    ok: verdict?.good ?? false,
    ...(run.stop === undefined ? {} : { stopped: stopText(job, table, run.stop) }),
    files,
    rows: run.stop === undefined ? (run.steps.at(-1)?.table.rows ?? 0) : 0,
    columns: run.stop === undefined ? columnsOf(run.steps.at(-1)?.table) : [],
    steps: run.steps.map((step, k) => ({
      step: k + 1,
      sentence: sentenceText(stepSentence(step.step, names)),
      rows: step.table.rows,
      columns: step.table.fields.length,
      looks: step.notices.filter((notice) => notice.severity === 'warning').map((notice) => notice.text),
    })),
    ...(verdict === undefined
      ? {}
      : {
          cells: { filled: verdict.cells.filled, accounted: verdict.cells.accounted },
          totals: {
            agrees: verdict.ledger.agrees,
            disagrees: verdict.ledger.disagrees,
            cannotTell: verdict.ledger.cannotTell,
            leftOut: verdict.ledger.leftOut,
          },
          checks: verdict.checks.map(({ text, ok, found, level }) => ({ text, ok, found, level })),
        }),
  };
}

/** Names and types of a table's columns, as records say them. */
export function columnsOf(table: Table | undefined): { name: string; type: string }[] {
  return (table?.fields ?? []).map(({ name, column }) => ({ name, type: column.type }));
}

/** Which step stopped, what it does, and why it stopped. */
export function stopText(job: Job, table: JobTable, stop: StepStop): string {
  const step = table.steps[stop.index];
  const sentence = step === undefined ? '' : ` (${sentenceText(stepSentence(step, jobNames(job)))})`;
  return `${table.name} stopped at step ${stop.index + 1}${sentence}: ${stop.message}`;
}

/** The verdict in a few words: '623 of 623 cells accounted for, 206 of 206 totals agree, 2 checks hold'. */
export function verdictText({
  cells,
  ledger,
  checks,
}: {
  cells: { filled: number; accounted: number };
  ledger: { agrees: number; disagrees: number; cannotTell: number; leftOut: number };
  checks: readonly { ok: boolean }[];
}): string {
  const all = ledger.agrees + ledger.disagrees + ledger.cannotTell + ledger.leftOut;
  const failed = checks.filter((check) => !check.ok).length;
  const parts = [
    cells.filled === 0 ? '' : `${grouped(cells.accounted)} of ${grouped(cells.filled)} cells accounted for`,
    all === 0 ? '' : `${grouped(ledger.agrees)} of ${grouped(all)} totals agree`,
    ledger.leftOut === 0 ? '' : `${grouped(ledger.leftOut)} differ by rows left out`,
    checks.length === 0
      ? ''
      : failed === 0
        ? `${grouped(checks.length)} ${checks.length === 1 ? 'check holds' : 'checks hold'}`
        : `${grouped(failed)} of ${grouped(checks.length)} ${checks.length === 1 ? 'check fails' : 'checks fail'}`,
  ];
  return parts.filter((text) => text !== '').join(', ');
}
