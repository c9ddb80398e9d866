/** The draft of the next report beside the method that was made for the last one. */

import type { JobStep } from '../document/job.ts';
import type { Proposal } from '../findings/finding.ts';
import { FROM_TABLE } from '../read/from-table.ts';
import type { Source } from '../read/read-kind.ts';
import { methodChanges, type StepChange } from '../run/method-changes.ts';
import { CATALOGUE } from '../steps/catalogue.ts';
import { stepKey, tableAfter } from '../steps/try-steps.ts';
import { type Draft, type DraftContext, draftsOf } from './draft.ts';

/** What a draft would change of a method. */
export interface NextDraft {
  draft: Draft;
  /** The whole method: the draft, and what of the old one gives columns their names and places. */
  steps: readonly Proposal[];
  rows: number;
  columns: readonly string[];
  /** Steps of the old method that it has no more, and those that it has instead. */
  gone: readonly JobStep[];
  come: readonly Proposal[];
  /** The old method beside the draft on the new report; the old one has no results here. */
  changes: readonly StepChange[];
}

/**
 * A draft for another report in place of a method's last one.
 *
 * @param steps the method as it is, its reading first
 * @returns undefined where no table is found in the report
 * @throws ReadFailure; whatever the context's progress throws
 */
export function draftForNext(
  sourceId: string,
  source: Source,
  steps: readonly JobStep[],
  context: DraftContext,
): NextDraft | undefined {
  const [reading] = steps;
  // The reading says what sheets and pieces of lines are called: it stays where it still leads to a table.
  const read =
    reading === undefined || reading.kind === FROM_TABLE
      ? []
      : draftsOf(sourceId, source, context, { most: 1, given: [{ ...reading, why: reading.note ?? 'as until now' }] });
  const holds = read[0] !== undefined && read[0].sureness !== 'guess';
  const [draft] = holds ? read : [...draftsOf(sourceId, source, context, { most: 1 }), ...read];
  if (draft === undefined) return undefined;
  let table = draft.run.steps.at(-1)!.table;
  const all: Proposal[] = [...draft.steps];
  for (const step of steps.slice(1)) {
    if (step.muted || CATALOGUE.get(step.kind)?.presentation !== true || all.some((one) => isSame(one, step))) continue;
    const after = tableAfter(table, [step]);
    if (after === undefined) continue;
    table = after;
    all.push({ kind: step.kind, params: step.params, why: step.note ?? 'as in the method until now' });
  }
  return {
    draft,
    steps: all,
    rows: table.rows,
    columns: table.fields.map((field) => field.name),
    changes: methodChanges({ steps, run: undefined }, { steps: all, run: draft.run }),
    gone: steps.filter((step) => !all.some((one) => isSame(one, step))),
    come: all.filter((one) => !steps.some((step) => isSame(one, step))),
  };
}

function isSame(a: Pick<Proposal, 'kind' | 'params'>, b: Pick<Proposal, 'kind' | 'params'>): boolean {
  return stepKey(a) === stepKey(b);
}
