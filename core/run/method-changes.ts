/** Two methods step by step, each with what it did to its own report. */
import type { JobStep } from '../document/job.ts';
import { stepKey } from '../steps/try-steps.ts';
import type { MethodRun } from './run.ts';

/** What a step did to a report. */
export interface StepOutcome {
  step: Pick<JobStep, 'kind' | 'params'>;
  /** Rows and columns after it, where its result is known. */
  size?: { rows: number; columns: number };
  /** Rows that it set aside or dropped. */
  aside: number;
  /** Why it has no result: it stopped the method, or a step before it did. */
  failed?: 'stops' | 'not run';
}

/**
 * same: both methods have the step. changed: its params differ. gone, new: only one of them has it.
 */
export interface StepChange {
  state: 'same' | 'changed' | 'gone' | 'new';
  before?: StepOutcome;
  after?: StepOutcome;
}

/** A method, and what its steps did to one report. */
export interface MethodOnReport {
  steps: readonly (Pick<JobStep, 'kind' | 'params'> & { id?: string; muted?: boolean })[];
  run: MethodRun | undefined;
}

/**
 * Pairs the steps of two methods in order: those with one id, then those that do the same.
 *
 * @returns a row for each pair and for each step of one method alone, in the order of both
 */
export function methodChanges(old: MethodOnReport, now: MethodOnReport): StepChange[] {
  const pairs = pairedSteps(old.steps, now.steps);
  const found: StepChange[] = [];
  let next = 0;
  old.steps.forEach((step, k) => {
    const other = pairs.get(k);
    if (other === undefined) {
      found.push({ state: 'gone', before: outcomeOf(old, k) });
      return;
    }
    for (; next < other; next++) found.push({ state: 'new', after: outcomeOf(now, next) });
    next = other + 1;
    const isSame = stepKey(step) === stepKey(now.steps[other]!);
    found.push({ state: isSame ? 'same' : 'changed', before: outcomeOf(old, k), after: outcomeOf(now, other) });
  });
  for (; next < now.steps.length; next++) found.push({ state: 'new', after: outcomeOf(now, next) });
  return found;
}

/** For steps of the first method their partners in the second, both in ascending order. */
function pairedSteps(old: MethodOnReport['steps'], now: MethodOnReport['steps']): Map<number, number> {
  const pairs = new Map<number, number>();
  let from = 0;
  const partners: readonly ((a: MethodOnReport['steps'][number], b: MethodOnReport['steps'][number]) => boolean)[] = [
    (a, b) => a.id !== undefined && a.id === b.id,
    (a, b) => stepKey(a) === stepKey(b),
    (a, b) => a.kind === b.kind,
  ];
  old.forEach((step, k) => {
    for (const isPartner of partners) {
      const at = now.findIndex((other, n) => n >= from && isPartner(step, other));
      if (at < 0) continue;
      pairs.set(k, at);
      from = at + 1;
      return;
    }
  });
  return pairs;
}

function outcomeOf({ steps, run }: MethodOnReport, index: number): StepOutcome {
  const { kind, params } = steps[index]!;
  const done = run?.steps[index];
  const stop = run?.stop;
  const rows = done?.aside
    .filter(({ columns }) => columns === undefined)
    .reduce((sum, pile) => sum + pile.rows.length, 0);
  return {
    step: { kind, params },
    ...(done === undefined ? {} : { size: { rows: done.table.rows, columns: done.table.fields.length } }),
    aside: rows ?? 0,
    ...(stop === undefined || index < stop.index ? {} : { failed: index === stop.index ? 'stops' : 'not run' }),
  };
}
