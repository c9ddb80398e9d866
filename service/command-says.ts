/** What a command says of a run on standard error. */
import {
  counted,
  countUnreadable,
  type ExportSpec,
  exportChanges,
  type FileRecord,
  few,
  grouped,
  type Job,
  type JobTable,
  jobNames,
  type MethodRun,
  placeText,
  sentenceText,
  stepSentence,
  type Verdict,
  verdictText,
} from '../core/index.ts';
import type { Io } from './command-files.ts';

export interface Ran {
  job: Job;
  table: JobTable;
  run: MethodRun;
  files: FileRecord[];
}

/** What the steps of a run, and of the tables that it reads, say is to check; then what could not be read. */
export function looksOf({ table, run, job }: Ran): string[] {
  const found = new Set<string>();
  const walk = (of: MethodRun, title: string) => {
    of.steps.forEach((step, k) => {
      for (const { severity, text } of step.notices)
        if (severity === 'warning') found.add(`${title}step ${k + 1}: ${text}`);
      for (const other of step.others) {
        const name = job.tables.find((one) => one.id === other.tableId)?.name ?? other.tableId;
        walk(other.run, `${name}, `);
      }
    });
  };
  walk(run, '');
  const cells = (run.steps.at(-1)?.table.fields ?? []).flatMap((field) => {
    const count = countUnreadable(field.column);
    return count === 0 ? [] : [`${field.name} (${grouped(count)})`];
  });
  if (cells.length > 0) found.add(`unreadable cells in ${table.name}: ${cells.join(', ')}`);
  return [...found];
}

/** Totals that disagree; those that one step's left-out rows explain are one line. */
function totalTexts({ run, job }: Ran, verdict: Verdict): string[] {
  const lines: string[] = [];
  const byStep = new Map<string, { text: string; places: string[] }>();
  for (const entry of verdict.ledger.entries) {
    if (entry.state !== 'disagrees') continue;
    const { explanation } = entry;
    if (explanation?.leftOutBy === undefined) {
      lines.push(totalText(run, entry));
      continue;
    }
    const key = explanation.leftOutBy.join();
    const { step } = explanation;
    const table = job.tables.find((one) => one.id === step?.table);
    const sentence = table?.steps[step!.index];
    const text = `left out by step ${step!.index + 1}${sentence === undefined ? '' : ` (${sentenceText(stepSentence(sentence, jobNames(job)))})`}`;
    const group = byStep.get(key) ?? { text, places: [] };
    byStep.set(key, group);
    group.places.push(placeText(run, entry.place));
  }
  for (const { text, places } of byStep.values())
    lines.push(
      `${counted(places.length, 'total')} of the report ${places.length === 1 ? 'counts' : 'count'} rows ${text}: ${few(places)}. Accept it in the job's tally if that is meant.`,
    );
  return lines;
}

export function totalText(run: MethodRun, entry: Verdict['ledger']['entries'][number]): string {
  const why = entry.explanation === undefined ? '' : ` ${entry.explanation.text}`;
  return `${placeText(run, entry.place)} says ${entry.figure}, the table adds to ${entry.table}.${why}`;
}

export function troubleText(verdict: Verdict): string {
  return [
    verdictText(verdict),
    ...verdict.checks.filter((one) => !one.ok).map((one) => `${one.text} (${one.found})`),
  ].join('; ');
}

/**
 * Says what is to check on standard error, a line each: what steps told, unreadable cells, totals that disagree.
 * @returns how many lines
 */
export function tellLooks(ran: Ran, verdict: Verdict, io: Io): number {
  const lines = [...looksOf(ran)];
  lines.push(...totalTexts(ran, verdict));
  for (const check of verdict.checks) if (!check.ok) lines.push(`check fails: ${check.text} (${check.found})`);
  for (const line of lines) io.error(`rimefield: ${line}\n`);
  return lines.length;
}

/** Texts that were written otherwise than they are. */
export function tellChanges(runs: readonly MethodRun[], spec: ExportSpec, io: Io): void {
  for (const run of runs) {
    for (const change of exportChanges(run.steps.at(-1)!.table, spec)) io.error(`rimefield: ${change}\n`);
  }
}
