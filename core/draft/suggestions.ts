/** What is seen in a table as it is now, under whatever method: each thing with the steps that deal with it. */

import { ADVISORY_DETECTORS, STAGES } from '../findings/catalogue.ts';
import type { Detector, DetectorInput, Finding, Proposal } from '../findings/finding.ts';
import { profileTable } from '../glance/table-profile.ts';
import { CATALOGUE } from '../steps/catalogue.ts';
import { stepKey, tableAfter } from '../steps/try-steps.ts';
import { isPlaceName, isPositioned, type Table, unreadableCells } from '../table/table.ts';
import { SEEN_CELLS, sampleOf } from './sample.ts';

/** A thing seen in a table, with the steps that deal with it. */
export interface Suggestion {
  /** The detector that saw it. */
  by: string;
  /** What was seen, as a sentence without its stop. */
  text: string;
  steps: readonly Proposal[];
}

/** The method behind a table, as far as detectors ask for it. */
export interface MethodContext {
  /** The table as it was read. */
  raw: Table;
  /** Kinds of the steps since. */
  done: readonly string[];
}

/** Suggestions shown at once: more would not be read. */
const MAX_FINDINGS = 5;
/** What must speak for a finding that is reported where nobody asked. */
const TOLD = 0.3;

/**
 * What is seen in a table, in the order in which it is dealt with; of a large table what is seen in a sample.
 *
 * @param waved steps that a person does not want to see
 */
export function seenIn(
  table: Table,
  behind: MethodContext,
  waved: readonly Pick<Proposal, 'kind' | 'params'>[] = [],
): Suggestion[] {
  const input = handOf(table, behind);
  const away = new Set(waved.map(stepKey));
  const found: Suggestion[] = [];
  for (const detector of [...STAGES.flat(), ...ADVISORY_DETECTORS]) {
    if (found.length === MAX_FINDINGS) break;
    if (detector.draftOnly === true) continue;
    if (isPositioned(table) && detector.beforeHeader !== true) continue;
    const best = bestOf(detector, input);
    if (best === undefined || away.has(stepKey(best.steps[0]!)) || !runs(input.profile.table, best.steps)) continue;
    found.push({ by: detector.name, text: best.steps[0]!.why, steps: best.steps });
  }
  return found;
}

/** Params for a step of a kind, as the data suggest them; undefined where no detector sees a reason for one. */
export function seenFor(table: Table, behind: MethodContext, kind: string): Record<string, unknown> | undefined {
  const input = handOf(table, behind);
  for (const detector of [...STAGES.flat(), ...ADVISORY_DETECTORS]) {
    const step = bestOf(detector, input)?.steps.find((one) => one.kind === kind);
    if (step !== undefined && runs(input.profile.table, [step]))
      return CATALOGUE.get(kind)!.params.parse(step.params) as Record<string, unknown>;
  }
  return undefined;
}

function handOf(table: Table, { raw, done }: MethodContext): DetectorInput {
  const within = table.fields.find((field) => field.nameOrigin === 'beside' && !isPlaceName(field.name))?.name;
  const sample = sampleOf(table, within, SEEN_CELLS);
  const isSample = sample.rows < table.rows;
  return {
    profile: profileTable(sample, raw.decimal),
    raw,
    isSample,
    done,
    childless: new Set(),
    within,
    titles: new Set(),
    sums: [],
  };
}

function bestOf(detector: Detector, input: DetectorInput): Finding | undefined {
  const findings = detector.find(input).filter((finding) => finding.weight >= TOLD);
  const [best] = [...findings].sort((a, b) => b.weight - a.weight);
  return best === undefined || best.steps.length === 0 ? undefined : best;
}

/** Steps that run, and leave no cell unreadable that was not. */
function runs(table: Table, steps: readonly Proposal[]): boolean {
  const after = tableAfter(table, steps);
  if (after === undefined) return false;
  return unreadableCells(after) <= unreadableCells(table);
}
