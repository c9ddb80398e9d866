import type { MethodContext, MethodRun } from '../../../core/index.ts';

/** The method behind the table after a step, as detectors ask for it. */
export function behindOf(run: MethodRun, step: number): MethodContext {
  return { raw: run.steps[0]!.table, done: run.steps.slice(1, step + 1).map((one) => one.step.kind) };
}
