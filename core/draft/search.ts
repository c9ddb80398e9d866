import { rowPattern } from '../findings/body.ts';
import { STAGES } from '../findings/catalogue.ts';
import type { Doubt } from '../findings/doubt.ts';
import type { DetectorInput, Finding, Proposal, SumOf } from '../findings/finding.ts';
import { sumColumns } from '../findings/sum-columns.ts';
import { profileTable } from '../glance/table-profile.ts';
import { StepFailure } from '../kinds/step.ts';
import { CATALOGUE } from '../steps/catalogue.ts';
import { setAsideColumns } from '../steps/header/set-aside-columns.ts';
import { ALONE, stepKey } from '../steps/try-steps.ts';
import { isPositioned, type Table } from '../table/table.ts';
import { isCut } from './sample.ts';
import { quality } from './score.ts';

/** A method on its way: what it gives so far, and what speaks for it. */
export interface Candidate {
  steps: readonly Proposal[];
  table: Table;
  weight: number;
  /** Figures of totals that agree with what they sum, of how many. */
  explained: { fit: number; of: number };
  /** The choices that were made, for telling drafts apart. */
  gives: readonly string[];
  /** Other ways that were open, each for the steps from one index to another. */
  choices: readonly Choice[];
  titles: ReadonlySet<string>;
  sums: readonly SumOf[];
  /** Why it may be otherwise. */
  doubts: readonly Doubt[];
}

/** Another way than the steps from one index to another of a method. */
export interface Choice {
  from: number;
  to: number;
  /** What it gives, in a few words. */
  gives: string;
  /** The steps in their place; none where nothing is to be done. */
  steps: readonly Proposal[];
}

/** What is settled before a search begins. */
export interface Given {
  /** Steps behind the reading that the method begins with. */
  steps: readonly Proposal[];
  /** Steps that are not to be proposed: a person has left them out. */
  without: readonly Pick<Proposal, 'kind' | 'params'>[];
}

const NOTHING_GIVEN: Given = { steps: [], without: [] };

/** Methods that are followed at once. */
const WIDTH = 8;
/** Points behind the best at which a method is followed no further. */
const BEHIND = 4;
const NAMED = 2.2;
/** What must speak for another way to name it as a choice. */
const OFFERED = 0.9;

/**
 * Whole methods for a table, the best first: each stage's detectors add their choices to every method that is followed,
 * and the most promising go on.
 *
 * @param raw the table as it was read, or a sample of it
 * @param progress told from 0 to 1; may throw to give up
 * @returns none where a given step does not run on the sample
 */
export function searchMethods(
  raw: Table,
  within: string | undefined,
  progress: (done: number) => void,
  childless: ReadonlySet<number> = new Set(),
  given: Given = NOTHING_GIVEN,
): Candidate[] {
  const start = begun(raw, given.steps, within, childless);
  if (start === undefined) return [];
  const left = new Set(given.without.map(stepKey));
  let beam: Candidate[] = [start];
  STAGES.forEach((detectors, stage) => {
    const next: Candidate[] = [];
    for (const one of beam) {
      progress(stage / STAGES.length);
      const findings = detectors
        .flatMap((detector) => detector.find(handOf(one, raw, within, childless)))
        .filter((finding) => !finding.steps.some((step) => left.has(stepKey(step))));
      const gone = findings.flatMap((finding) => {
        const after = apply(one, finding, findings, raw.decimal);
        return after === undefined ? [] : [after];
      });
      next.push(...(gone.length === 0 ? [one] : gone));
    }
    next.sort((a, b) => b.weight - a.weight);
    beam = next.slice(0, WIDTH).filter((one) => one.weight >= next[0]!.weight - BEHIND);
  });
  // A reading that names its columns needs no header, which elsewhere speaks for a method.
  const headed = isPositioned(raw) ? 0 : NAMED;
  const scored = beam.map((one) => ({
    ...one,
    weight: one.weight + headed + quality(one.steps.length, handOf(one, raw, within, childless)),
  }));
  const seen = new Set<string>();
  return scored
    .sort((a, b) => b.weight - a.weight)
    .filter((one) => {
      const key = one.steps.map(stepKey).join();
      if (seen.has(key)) return false;
      seen.add(key);
      return true;
    });
}

/** A method that begins with these steps; undefined where one of them does not run. */
function begun(
  raw: Table,
  steps: readonly Proposal[],
  within: string | undefined,
  childless: ReadonlySet<number>,
): Candidate | undefined {
  let one: Candidate | undefined = {
    steps: [],
    table: raw,
    weight: 0,
    explained: { fit: 0, of: 0 },
    gives: [],
    choices: [],
    titles: new Set(),
    sums: [],
    doubts: [],
  };
  for (const step of steps) {
    // What columns sum is seen no more once they are set aside.
    const sums: readonly SumOf[] =
      step.kind === setAsideColumns.kind
        ? sumColumns.find(handOf(one, raw, within, childless)).flatMap((finding) => finding.sums ?? [])
        : [];
    one = apply(one, { steps: [step], weight: 0, sums }, [], raw.decimal);
    if (one === undefined) return undefined;
  }
  return one;
}

function handOf(one: Candidate, raw: Table, within: string | undefined, childless: ReadonlySet<number>): DetectorInput {
  return {
    profile: profileTable(one.table, raw.decimal),
    raw,
    isSample: isCut(raw),
    childless: one.table === raw ? childless : new Set(),
    done: one.steps.map(({ kind }) => kind),
    within: one.table.fields.some((field) => field.name === within) ? within : undefined,
    titles: one.titles,
    sums: one.sums,
  };
}

/** The method with the steps of a finding; undefined where one of them does not run. */
function apply(
  one: Candidate,
  finding: Finding,
  all: readonly Finding[],
  decimal: Table['decimal'],
): Candidate | undefined {
  let { table, titles } = one;
  const steps = [...one.steps];
  try {
    for (const step of finding.steps) {
      const kind = CATALOGUE.get(step.kind)!;
      const params = kind.params.parse(step.params) as Record<string, unknown>;
      const result = kind.run(table, params, ALONE);
      const above = result.aside.filter((pile) => pile.mark === 'title');
      if (above.length > 0) {
        const profile = profileTable(table, decimal);
        titles = new Set([...titles, ...above.flatMap((pile) => [...pile.rows].map((r) => rowPattern(profile, r)))]);
      }
      table = result.table;
      steps.push({ ...step, params });
    }
  } catch (error) {
    if (error instanceof StepFailure) return undefined;
    throw error;
  }
  // What hardly anything speaks for is no choice to offer.
  const others = all.filter(
    (other) =>
      other !== finding &&
      other.gives !== undefined &&
      finding.gives !== undefined &&
      (other.steps.length === 0 || other.weight >= OFFERED),
  );
  return {
    steps,
    table,
    titles,
    weight: one.weight + finding.weight,
    explained: {
      fit: one.explained.fit + (finding.explained?.fit ?? 0),
      of: one.explained.of + (finding.explained?.of ?? 0),
    },
    gives: finding.gives === undefined || finding.steps.length === 0 ? one.gives : [...one.gives, finding.gives],
    choices: [
      ...one.choices,
      ...(finding.steps.length === 0
        ? []
        : others.map((other) => ({
            from: one.steps.length,
            to: steps.length,
            gives: other.gives!,
            steps: other.steps,
          }))),
    ],
    doubts: finding.doubt === undefined ? one.doubts : [...one.doubts, finding.doubt],
    sums: finding.sums === undefined ? one.sums : [...one.sums, ...finding.sums],
  };
}
