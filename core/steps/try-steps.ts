import { type Context, StepFailure } from '../kinds/step.ts';
import type { Table } from '../table/table.ts';
import { CATALOGUE } from './catalogue.ts';

/** For steps that are tried outside of any method: nobody waits, and no other table is available. */
export const ALONE: Context = {
  progress: () => undefined,
  name: 'a step that is tried',
  other(id) {
    throw new StepFailure(`No other table is available, but ${id} is asked for.`);
  },
};

/** A table after some steps; undefined where one of them stops. */
export function tableAfter(
  table: Table,
  steps: readonly { kind: string; params: Record<string, unknown> }[],
  context = ALONE,
): Table | undefined {
  let now = table;
  try {
    for (const { kind, params } of steps) {
      const step = CATALOGUE.get(kind)!;
      now = step.run(now, step.params.parse(params), context).table;
    }
    return now;
  } catch (error) {
    // A pattern may be none.
    if (error instanceof StepFailure || error instanceof SyntaxError) return undefined;
    throw error;
  }
}

/** Equal for steps that do the same: by kind and params, defaults filled in. */
export function stepKey({ kind, params }: { kind: string; params: Record<string, unknown> }): string {
  return JSON.stringify([kind, CATALOGUE.get(kind)?.params.safeParse(params).data ?? params]);
}
