/** What the steps alone say of a tally, without a look at cells. */

import type { MethodRun, StepRun } from '../run/run.ts';
import { walkedSteps } from '../run/run.ts';
import { STEP_WORDS } from '../steps/words.ts';
import { NAME, type Origin } from '../table/origin.ts';

/** The steps behind the last table of a run, those of other tables that it reads included. */
function* stepsBehind(run: MethodRun, upTo: number): Generator<{ step: StepRun; before: StepRun | undefined }> {
  const steps = walkedSteps(run, upTo);
  for (let k = steps.length - 1; k >= 0; k--) {
    const step = steps[k]!.run;
    yield { step, before: steps[k - 1]?.run };
    if (step.reading !== undefined) return;
    for (const other of step.others) yield* stepsBehind(other.run, other.step);
  }
}

/** No step set aside what the report calls a total: then it has none that could disagree. */
export function hasNoTotals(run: MethodRun): boolean {
  for (const { step } of stepsBehind(run, run.steps.length - 1))
    if (step.aside.some((pile) => pile.mark === 'total')) return false;
  return true;
}

/**
 * Each step either says that it drops cells, or takes each column of its table whole. False says only that cells have
 * to be looked at.
 */
export function isNothingLost(run: MethodRun): boolean {
  for (const { step, before } of stepsBehind(run, run.steps.length - 1)) {
    if (step.reading !== undefined || STEP_WORDS.get(step.step.kind)?.drops) continue;
    if (step.others.length > 0 || before === undefined || !takesAll(step.origin, before.table.fields.length))
      return false;
  }
  return true;
}

/** Every column comes along with its name, all of its rows where they were. */
function takesAll(origin: Origin, columns: number): boolean {
  const cells = new Set<number>();
  const names = new Set<number>();
  for (const of of origin) {
    for (const { rows, column, role } of of.cells)
      if (rows.kind === 'same' && role === 'value' && typeof column === 'number') cells.add(column);
    for (const { rows, column } of of.name)
      if (rows.kind === 'at' && rows.rows.includes(NAME) && typeof column === 'number') names.add(column);
  }
  for (let k = 0; k < columns; k++) if (!cells.has(k) || !names.has(k)) return false;
  return true;
}
