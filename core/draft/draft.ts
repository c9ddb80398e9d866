/** Methods proposed from a report alone: readings, the search over them, the run on the whole, and how sure each is. */
import type { Proposal } from '../findings/finding.ts';
import { types } from '../findings/types.ts';
import { profileTable } from '../glance/table-profile.ts';
import { guessReading, READINGS } from '../read/catalogue.ts';
import type { Source } from '../read/read-kind.ts';
import type { ReportPart } from '../read/report.ts';
import { unwrapped } from '../read/unwrap.ts';
import { type MethodRun, Runner, type StepRun } from '../run/run.ts';
import { setTypes } from '../steps/cells/set-types.ts';
import { stepKey, tableAfter } from '../steps/try-steps.ts';
import { unseenMask } from '../table/column.ts';
import { isPositioned, type Table } from '../table/table.ts';
import { type Tally, tallyOf } from '../tally/tally.ts';
import { type Likeness, likenessTo, stepsToward } from './like.ts';
import { mendingSteps } from './mend.ts';
import { proofOnWhole, type TotalsProof } from './proof.ts';
import { readingsOf } from './readings.ts';
import { type Reason, reasonText } from './reason.ts';
import type { Remark } from './review/remark.ts';
import { isGrave, remarkWeight, review } from './review/review.ts';
import { SEEN_CELLS, sampleOf } from './sample.ts';
import { type Candidate, type Choice, type Given, searchMethods } from './search.ts';
import { type Sureness, surenessOf } from './sureness.ts';
import { goalOf } from './toward/goal.ts';
import { areNamesAlike } from './toward/pair-rows.ts';
import type { Ambiguity, OtherTable } from './toward/state.ts';
import { stepsTowardGoal } from './toward/toward.ts';

/** A method as it is proposed, with what it gives for the whole report. */
export interface Draft {
  steps: readonly Proposal[];
  sureness: Sureness;
  /** Why it is as sure as it is, and the same as a sentence. */
  because: Reason;
  why: string;
  /** That it is right, by what was fitted on reports with known tables. */
  probability: number;
  /** It would be sure by rules alone, whatever its probability. */
  isSureByRules: boolean;
  /** What the probability comes from, in the order of EVIDENCE. */
  evidence: readonly number[];
  run: MethodRun;
  /** Undefined for a report too large to wait for it: then totals alone are proven. */
  tally: Tally | undefined;
  totals: TotalsProof;
  /** The choices in it, in a few words each. */
  gives: readonly string[];
  /** Other ways for some of the steps. */
  choices: readonly Choice[];
  /** The score of its method, less what a review of its table points at. */
  score: number;
  /** What a sceptical colleague would point at. */
  remarks: readonly Remark[];
  /** Beside the finished table that was given. */
  likeness?: Likeness;
  /** From which step on it goes beyond the tidy table, toward the finished one. */
  towardFrom?: number;
  /** Other ways to columns of the finished table, which the rows that were shown do not rule out. */
  ambiguities?: readonly Ambiguity[];
}

/** What a draft should become, as far as that is known. */
export interface Wanted {
  table: Table;
  /** Only some of the rows are given. */
  partial: boolean;
  /** Reports of which columns may be brought. */
  others?: readonly OtherReport[];
}

/** A report beside the one that is drafted, with its own draft. */
export interface OtherReport {
  /** Of its table and its source in a job. */
  id: string;
  sourceId: string;
  name: string;
  source: Source;
  draft: Draft;
}

/** What is asked of drafts beside the report. */
export interface DraftAsked {
  /** How many at most. */
  most?: number;
  wanted?: Wanted | undefined;
  /** The reading and the steps behind it that every draft begins with; without them the reading is guessed. */
  given?: readonly Proposal[];
  /** Steps that are not to be proposed. */
  without?: Given['without'];
}

export interface DraftContext {
  /** Told from 0 to 1; may throw to give up. */
  progress(done: number): void;
  /** Told the most promising steps before they are run whole and proven; another method may yet stand before them. */
  first?(steps: readonly Proposal[]): void;
}

/** A search over another reading must be this much better, since the guess at a reading has its own reasons. */
const READING_LEAD = 3;
/** What a draft must score for no other reading to be tried. */
const GOOD = 1;

/** Share of the wanted cells that a point of the score weighs as much as. */
const WORTH_OF_SCORE = 0.02;
/** Methods that are run whole to compare them with a finished table. */
const MAX_LIKE = 16;
/** Methods from which a search goes on toward a finished table. */
const MAX_TOWARD = 6;

/** Methods of which the first is chosen, however few are wanted. */
const MIN_PROVEN = 3;
/** Methods that are run beyond these, where totals disagree. */
const MAX_DISPROVED = 2;
/** Cells of a report beyond which its draft does not wait for the whole tally. */
const LARGE = 600_000;

interface Found {
  reading: Proposal;
  /** Tables of other reports that its steps may ask for. */
  others?: readonly OtherReport[];
  candidate: Candidate;
  score: number;
  /** The search once more, over the same reading, without a step. */
  searchWithout(step: Proposal): Candidate[];
}

/**
 * Methods for a report, the best first; none where nothing of it can be read as a table.
 *
 * The same bytes give the same drafts. Large reports are searched on a sample and run whole.
 *
 * @throws ReadFailure when the file cannot be read at all; whatever the context's progress throws
 */
export function draftsOf(
  sourceId: string,
  packed: Source,
  context: DraftContext,
  { most = 3, wanted, given, without = [] }: DraftAsked = {},
): Draft[] {
  const source = unwrapped(packed);
  const runner = new Runner();
  runner.setSource(sourceId, source);
  const found: Found[] = [];
  let k = 0;
  for (const proposed of given === undefined ? readingsOf(sourceId, source) : given.slice(0, 1)) {
    const reading: Proposal = {
      ...proposed,
      params: READINGS.get(proposed.kind)!.params.parse(proposed.params) as Record<string, unknown>,
    };
    const read = readingRun(runner, reading, context);
    const raw = read?.table;
    if (raw !== undefined && !isBlankTable(raw)) {
      const within = withinOf(raw);
      const sample = sampleOf(raw, within);
      const search = (left: Given['without'], share: number) =>
        searchMethods(sample, within, (done) => context.progress(done * share), childlessOf(read!), {
          steps: given?.slice(1) ?? [],
          without: left,
        });
      // Searching a large sample again and again would take longer than a person waits.
      const searchWithout = (step: Proposal) =>
        sample.rows * sample.fields.length > MAX_REPAIRED ? [] : search([...without, step], 0);
      for (const candidate of search(without, 0.6))
        found.push({ reading, candidate, score: candidate.weight - (k === 0 ? 0 : READING_LEAD), searchWithout });
      found.sort((a, b) => b.score - a.score);
    }
    k++;
    // Another reading is tried where this one leads to nothing good, or to find what was asked for.
    if ((found[0]?.score ?? Number.NEGATIVE_INFINITY) >= GOOD && wanted === undefined) break;
  }
  if (wanted !== undefined) return towards(found, wanted, runner, context, most);
  const [likeliest] = found;
  if (likeliest !== undefined) context.first?.([likeliest.reading, ...likeliest.candidate.steps]);
  const drafts: Draft[] = [];
  const enough = Math.max(most, MIN_PROVEN);
  for (const [n, one] of found.entries()) {
    const [first] = judged(drafts);
    // A review only takes points away: those behind a draft that keeps its lead cannot pass it.
    if (first !== undefined && drafts.length >= most && !isDisproved(first) && first.score >= one.score) break;
    // One more is run where the report's totals speak against what is there.
    if (drafts.length >= enough && !drafts.every(isDisproved)) break;
    if (drafts.length >= enough + MAX_DISPROVED) break;
    const draft = finish(one, found.slice(n + 1), runner, (done) => context.progress(0.6 + 0.4 * done));
    if (draft !== undefined) drafts.push(draft);
  }
  const [best] = judged(drafts);
  const ofBest = found.find(
    (one) =>
      best !== undefined &&
      one.candidate.steps.every((step, n) => best.steps[n + 1] === step || step.kind === setTypes.kind),
  );
  if (best !== undefined && ofBest !== undefined && best.remarks.some(isGrave))
    drafts.push(...repaired(best, ofBest, runner));
  return judged(drafts).slice(0, most);
}

/** Cells of a sample beyond which no method is searched for again. */
const MAX_REPAIRED = 8000;
/** Steps that are left out in turn. */
const MAX_LEFT_OUT = 8;

/** Methods without one of the steps of a draft that a review objects to, where the review likes them better. */
function repaired(draft: Draft, one: Found, runner: Runner): Draft[] {
  const grave = (of: Draft) => of.remarks.filter(isGrave).length;
  const known = new Set([methodKey(draft.steps.slice(1))]);
  return one.candidate.steps.slice(0, MAX_LEFT_OUT).flatMap((step) => {
    const [candidate] = one.searchWithout(step);
    if (candidate === undefined || known.has(methodKey(candidate.steps))) return [];
    known.add(methodKey(candidate.steps));
    const score = one.score + candidate.weight - one.candidate.weight;
    const made = finish({ ...one, candidate, score }, [one], runner, () => undefined);
    return made !== undefined && grave(made) < grave(draft) ? [made] : [];
  });
}

const methodKey = (steps: readonly Proposal[]) => steps.map(stepKey).join();

/** Those that come nearest to a finished table, with its columns under its names. */
function towards(
  found: readonly Found[],
  wanted: Wanted,
  runner: Runner,
  context: DraftContext,
  most: number,
): Draft[] {
  const others = wanted.others ?? [];
  for (const { sourceId, source } of others) runner.setSource(sourceId, source);
  const near = mostlyWhole(nearest(found, wanted, runner, context), wanted, () =>
    nearest(found, { ...wanted, partial: false }, runner, context),
  );
  const finished = near.slice(0, most + MAX_DISPROVED).flatMap(({ one, tidySteps, table, likeness, ambiguities }) => {
    const steps = stepsToward(table, wanted.table, likeness);
    const candidate = withSteps(one.candidate, steps);
    const draft = finish({ ...one, others, candidate }, [], runner, () => context.progress(1));
    if (draft === undefined) return [];
    const isWhole = draft.run.steps.at(-1)!.table.rows === wanted.table.rows;
    const judgement = judgedByGoal(isWhole, likeness, ambiguities);
    // The reading stands before them.
    return [{ ...draft, ...judgement, likeness, ambiguities, towardFrom: tidySteps + 1 }];
  });
  // Totals choose among methods that meet as much of what was shown.
  const provenFirst = finished.toSorted(
    (a, b) => b.likeness.share - a.likeness.share || Number(isDisproved(a)) - Number(isDisproved(b)),
  );
  return (wanted.partial ? provenFirst : finished).slice(0, most);
}

/** Rows from which on some rows of a finished table may well be all of them. */
const MIN_WHOLE = 8;

/** Where the rows given are most of what a method makes, they are taken for all rows, if a method makes just these. */
function mostlyWhole(near: readonly Near[], { table, partial }: Wanted, asWhole: () => Near[]): readonly Near[] {
  const rows = near[0]?.table.rows ?? 0;
  if (!partial || rows === table.rows || table.rows < Math.max(MIN_WHOLE, rows / 2)) return near;
  const whole = asWhole();
  return whole[0]?.likeness.share === 1 ? whole : near;
}

/** How sure a draft is by the finished table that it was made for, and whether it has its rows and no others. */
function judgedByGoal(
  isWhole: boolean,
  { share }: Likeness,
  [ambiguity]: readonly Ambiguity[],
): Pick<Draft, 'sureness' | 'because' | 'why'> {
  const reason = (sureness: Sureness, because: Reason) => ({ sureness, because, why: reasonText(because) });
  if (share < 1) return reason('guess', { code: 'cells-reproduced', share });
  if (ambiguity !== undefined) return reason('guess', ambiguity);
  return reason(isWhole ? 'sure' : 'likely', { code: 'all-reproduced' });
}

/** A method whose table is compared with the finished one. */
interface Near {
  one: Found;
  /** Steps of its tidy table; those behind them go toward the finished one. */
  tidySteps: number;
  table: Table;
  likeness: Likeness;
  ambiguities: readonly Ambiguity[];
}

/** Methods by how near they come to the finished table, the nearest first. */
function nearest(found: readonly Found[], wanted: Wanted, runner: Runner, context: DraftContext): Near[] {
  const others = (wanted.others ?? []).map(
    ({ id, name, draft }): OtherTable => ({ id, name, table: draft.run.steps.at(-1)!.table }),
  );
  const drafts = found.slice(0, MAX_LIKE).flatMap((one, k): Near[] => {
    context.progress(0.6 + (0.2 * k) / Math.min(MAX_LIKE, found.length));
    const run = runOf(one, runner);
    if (run === undefined) return [];
    const table = run.steps.at(-1)!.table;
    const likeness = likenessTo(table, wanted.table, wanted.partial);
    return [{ one, tidySteps: one.candidate.steps.length, table, likeness, ambiguities: [] }];
  });
  const best = Math.max(...drafts.map(({ one }) => one.score));
  // A few rows are met by many methods: of two that do, the plainer is meant.
  const worth = ({ likeness, one }: Near) => likeness.share - WORTH_OF_SCORE * (best - one.score);
  const byWorth = (all: readonly Near[]) => all.toSorted((a, b) => worth(b) - worth(a) || b.one.score - a.one.score);
  const goal = goalOf(wanted.table, !wanted.partial);
  const isReached = ({ likeness }: Near) => likeness.share === 1;
  if (drafts.some((near) => isReached(near) && areNamesAlike(near.table, goal, near.likeness.columns)))
    return byWorth(drafts);
  const shapes = drafts.filter((near, k) => drafts.findIndex((other) => isSameShape(other.table, near.table)) === k);
  const reached: Near[] = [];
  for (const [k, { one, tidySteps, table, likeness }] of shapes.slice(0, MAX_TOWARD).entries()) {
    context.progress(0.8 + (0.2 * k) / MAX_TOWARD);
    const made = stepsTowardGoal(table, wanted.table, wanted.partial, others);
    if (made.steps.length === 0 || made.likeness.share < likeness.share) continue;
    if (made.likeness.share === likeness.share && likeness.share < 1) continue;
    reached.push({ ...made, tidySteps, one: { ...one, candidate: withSteps(one.candidate, made.steps) } });
    if (made.likeness.share === 1) break;
  }
  if (reached.some(isReached)) return byWorth([...reached, ...drafts]);
  return byWorth([...reached, ...shapes.map((near) => mended(near, wanted))]);
}

const withSteps = (candidate: Candidate, steps: readonly Proposal[]): Candidate => ({
  ...candidate,
  steps: [...candidate.steps, ...steps],
});

/** A method with the steps that close what still differs, where they do. */
function mended(near: Near, { table: wanted, partial }: Wanted): Near {
  const { one, table, likeness } = near;
  const steps = likeness.share === 1 ? [] : mendingSteps(table, wanted, likeness);
  const after = steps.length === 0 ? undefined : tableAfter(table, steps);
  if (after === undefined) return near;
  const better = likenessTo(after, wanted, partial);
  if (better.share <= likeness.share) return near;
  return { ...near, one: { ...one, candidate: withSteps(one.candidate, steps) }, table: after, likeness: better };
}

function readingRun(runner: Runner, { kind, params }: Proposal, context: DraftContext): StepRun | undefined {
  return runner.run([{ id: 's1', kind, params }], { progress: () => context.progress(0) }).steps[0];
}

function isBlankTable(table: Table): boolean {
  return table.fields.every((field) => field.nameOrigin === 'beside' || !unseenMask(field.column).includes(0));
}

/** Rows that the reading tells are outer items without inner ones. */
function childlessOf({ notices }: StepRun): ReadonlySet<number> {
  return new Set(notices.flatMap((notice) => (notice.about === 'childless' ? [...(notice.rows?.rows ?? [])] : [])));
}

function finish(
  { reading, candidate, score, others: tables }: Pick<Found, 'reading' | 'candidate' | 'score' | 'others'>,
  others: readonly Found[],
  runner: Runner,
  progress: (done: number) => void,
): Draft | undefined {
  const sampled = runOf({ reading, candidate, others: tables }, runner, (done) => progress(done * 0.5));
  if (sampled === undefined || sampled.steps.at(-1)!.table.rows === 0) return undefined;
  const typed = typedByWhole(sampled, candidate);
  const run = typed === candidate ? sampled : runOf({ reading, candidate: typed, others: tables }, runner);
  if (run === undefined) return undefined;
  const steps = [reading, ...typed.steps];
  const large = run.steps[0]!.table.rows * run.steps[0]!.table.fields.length > LARGE;
  const tally = large ? undefined : tallyOf(run, { id: 'table' }, undefined, (done) => progress(0.5 + done * 0.5));
  const proof = large ? proofOnWhole(run, withinOf(run.steps[0]!.table)) : undefined;
  const table = run.steps.at(-1)!.table;
  const profile = profileTable(sampleOf(table, undefined, SEEN_CELLS));
  const remarks = review({ table, profile, run, sums: candidate.sums });
  const rival = others.find(({ candidate: other }) => !isSameShape(other.table, candidate.table));
  const judgement = surenessOf({
    candidate: typed,
    table,
    profile,
    tally,
    proof,
    unread: unreadParts(run),
    remarks,
    lead: rival === undefined ? Number.POSITIVE_INFINITY : score - rival.score,
  });
  return {
    steps,
    ...judgement,
    run,
    tally,
    totals: tally === undefined ? (proof ?? { agree: 0, of: 0 }) : totalsOf(tally),
    gives: candidate.gives,
    // The reading stands before the steps that were searched for.
    choices: candidate.choices.map(({ from, to, ...choice }) => ({ ...choice, from: from + 1, to: to + 1 })),
    score: score - remarks.reduce((sum, remark) => sum + remarkWeight(remark), 0),
    remarks,
  };
}

/** The method with types that all cells of its columns allow, where a sample of them was typed. */
function typedByWhole(run: MethodRun, candidate: Candidate): Candidate {
  const last = candidate.steps.at(-1);
  const [raw, before] = [run.steps[0]!.table, run.steps.at(-2)?.table];
  if (last?.kind !== setTypes.kind || before === undefined || before.rows * before.fields.length > LARGE)
    return candidate;
  if (sampleOf(raw, withinOf(raw)).rows === raw.rows) return candidate;
  const [found] = types.find({
    profile: profileTable(before, raw.decimal),
    raw,
    isSample: false,
    done: [],
    childless: new Set(),
    within: withinOf(raw),
    titles: new Set(),
    sums: [],
  });
  const steps = candidate.steps.slice(0, -1);
  const set = found?.steps[0];
  if (set === undefined) return { ...candidate, steps };
  const params = setTypes.params.parse(set.params) as Record<string, unknown>;
  // The step itself stays where its types do: drafts differ by their steps.
  if (stepKey({ ...set, params }) === stepKey(last)) return candidate;
  const doubts = found?.doubt === undefined ? candidate.doubts : [...candidate.doubts, found.doubt];
  return { ...candidate, steps: [...steps, { ...set, params }], doubts };
}

/** The method on the whole report; undefined where a step of it stops there. */
function runOf(
  { reading, candidate, others = [] }: Pick<Found, 'reading' | 'candidate' | 'others'>,
  runner: Runner,
  progress: (done: number) => void = () => undefined,
): MethodRun | undefined {
  const stepsOf = (steps: readonly Proposal[]) =>
    steps.map(({ kind, params }, k) => ({ id: `s${k + 1}`, kind, params }));
  const tables = [
    ...others.map(({ id, name, draft }) => ({ id, name, steps: stepsOf(draft.steps) })),
    { id: 'table', name: 'Table', steps: stepsOf([reading, ...candidate.steps]) },
  ];
  const run = runner.runTable(tables, 'table', { progress });
  return run.stop !== undefined || run.steps.length === 0 ? undefined : run;
}

function isSameShape(a: Table, b: Table): boolean {
  return (
    a.rows === b.rows &&
    a.fields.length === b.fields.length &&
    a.fields.every((field, k) => field.name === b.fields[k]!.name)
  );
}

/** Names of sheets or tables that are in sight and not read, where they hold more than by the way. */
function unreadParts(run: MethodRun): string[] {
  const { report, places } = run.steps[0]!.reading!;
  const read = new Set(places.part);
  const size = (part: ReportPart) => part.rows * part.columns.length;
  const shown = report.parts.filter((part) => !part.hidden && part.rows > 1);
  const left = shown.filter((part) => !read.has(report.parts.indexOf(part)));
  const cells = (parts: readonly ReportPart[]) => parts.reduce((sum, part) => sum + size(part), 0);
  // One as wide as those that are read may be one of them.
  const widths = new Set(shown.filter((part) => !left.includes(part)).map((part) => part.columns.length));
  const alike = left.filter((part) => widths.has(part.columns.length));
  return cells(left) > cells(shown) * 0.25 ? left.map((part) => part.name) : alike.map((part) => part.name);
}

function totalsOf({ ledger }: Tally): TotalsProof {
  return { agree: ledger.agrees, of: ledger.agrees + ledger.disagrees };
}

/** The column that tells sheets or files apart, if the reading gave one. */
function withinOf(table: Table): string | undefined {
  return table.fields.find((field) => field.nameOrigin === 'beside')?.name;
}

/** The report's totals are the judge: a method under which more of them disagree is ranked after the next. */
function judged(drafts: readonly Draft[]): Draft[] {
  return drafts
    .map((draft, k) => ({ draft, k }))
    .sort(
      (a, b) =>
        Number(isDisproved(a.draft)) - Number(isDisproved(b.draft)) || b.draft.score - a.draft.score || a.k - b.k,
    )
    .map(({ draft }) => draft);
}

/** More totals of the report disagree than a slip of the pen explains. */
function isDisproved({ totals }: Draft): boolean {
  return totals.of - totals.agree > totals.agree * 0.2;
}

/** The table of a file that is tidy already, by its header and its types; undefined where it holds none. @throws ReadFailure */
export function tidyTable(source: Source): Table | undefined {
  const runner = new Runner();
  runner.setSource('table', source);
  const { kind, params } = guessReading('table', source);
  const raw = runner.run([{ id: 's1', kind, params }], { progress: () => undefined }).steps[0]?.table;
  if (raw === undefined || raw.rows === 0) return undefined;
  if (!isPositioned(raw)) return raw;
  const header = { id: 's2', kind: 'header-from-rows', params: { rows: 1, at: null } };
  return runner.run([{ id: 's1', kind, params }, header], { progress: () => undefined }).steps[1]?.table;
}
