import { saysTotal } from '../glance/hint-words.ts';
import { CellKind, type ColumnProfile, type TableProfile } from '../glance/table-profile.ts';
import { identifyingColumns } from '../rows/identifying.ts';
import type { Table } from '../table/table.ts';
import type { Tally } from '../tally/tally.ts';
import { groupedBy } from '../values/grouped-by.ts';
import type { Draft } from './draft.ts';
import type { TotalsProof } from './proof.ts';
import { type Reason, reasonText } from './reason.ts';
import type { Remark } from './review/remark.ts';
import { isGrave } from './review/review.ts';
import { purityOf } from './score.ts';
import type { Candidate } from './search.ts';
import FITTED from './sureness-weights.json' with { type: 'json' };

/** sure: arithmetic or structure proves it. likely: nothing speaks against it. guess: something does. */
export type Sureness = 'sure' | 'likely' | 'guess';

/** Points by which a method must lead the next that gives another table, to be sure. */
const CLEAR = 0.6;
/** Figures of totals that must agree to prove a layout. */
const PROVEN = 3;

export interface Evidence {
  candidate: Candidate;
  /** What the method gives for the whole report. */
  table: Table;
  /** A sample of that table, as it is seen. */
  profile: TableProfile;
  /** Where every cell went, and the report's totals; undefined for a report too large to wait for it. */
  tally: Tally | undefined;
  /** In its place, totals that agree. */
  proof: TotalsProof | undefined;
  /** Sheets that are in sight and not read. */
  unread: readonly string[];
  /** Points before the next method with another table. */
  lead: number;
  /** What a review of the finished table points at. */
  remarks: readonly Remark[];
}

/** Kinds of step that move cells to other rows or columns: a wrong one of them is not seen in any cell. */
const RESHAPING = new Set([
  'unpivot',
  'pivot',
  'carry',
  'fold-rows',
  'transpose',
  'levels',
  'extract',
  'stack-beside',
  'fill',
]);

/** What the probability that a draft is right is worked out from, in the order of the fitted weights. */
export const EVIDENCE = [
  'lead',
  'totals that agree',
  'share of totals that disagree',
  'steps',
  'steps that reshape without a total',
  'remarks',
  'grave remarks',
  'doubts',
  'cells of a column in another kind',
  'columns of words',
  'rows',
  'columns without a name',
] as const;

/** The evidence as numbers of a size: counts as logarithms, leads up to 5 points. */
function evidenceOf(evidence: Evidence): number[] {
  const { candidate, profile, tally, proof, lead, remarks } = evidence;
  const agree = agreeing(evidence);
  const disagree = tally?.ledger.disagrees ?? (proof === undefined ? 0 : proof.of - proof.agree);
  const columns = Math.max(1, profile.columns.length);
  const { pure, filled } = purityOf(profile);
  const words = profile.columns.filter(({ counts }) => counts[CellKind.text]! > 0).length;
  const unnamed = profile.columns.filter(({ isUnnamed }) => isUnnamed).length;
  const reshaping = candidate.steps.filter(({ kind }) => RESHAPING.has(kind)).length;
  return [
    Math.max(0, Math.min(5, lead)),
    Math.log1p(agree),
    disagree / Math.max(1, agree + disagree),
    candidate.steps.length,
    agree === 0 ? reshaping : 0,
    Math.min(4, remarks.length),
    Math.min(4, remarks.filter(isGrave).length),
    Math.min(4, candidate.doubts.length),
    filled === 0 ? 1 : 1 - pure / filled,
    words / columns,
    Math.log1p(profile.rows),
    unnamed / columns,
  ];
}

/** The probability that a draft with this evidence gives the right table, by weights that `npm run draft:fit` found. */
export function probabilityOf(
  evidence: readonly number[],
  { weights, bias }: Pick<typeof FITTED, 'weights' | 'bias'> = FITTED,
): number {
  return 1 / (1 + Math.exp(-evidence.reduce((sum, value, k) => sum + value * weights[k]!, bias)));
}

/** How sure a method is, and why. Sure is said only with proof: a draft that is wrong must never be. */
export function surenessOf(
  known: Evidence,
): Judged & Pick<Draft, 'why' | 'probability' | 'isSureByRules' | 'evidence'> {
  const evidence = evidenceOf(known);
  const probability = probabilityOf(evidence);
  const judged = judgedBy(known);
  const isSureByRules = judged.sureness === 'sure';
  // What looks like drafts that were wrong is not sure, unless totals prove it.
  const isDoubted = isSureByRules && agreeing(known) === 0 && probability < FITTED.sure;
  const said: Judged = isDoubted ? { sureness: 'likely', because: { code: 'unproven' } } : judged;
  return { ...said, why: reasonText(said.because), probability, isSureByRules, evidence };
}

const agreeing = ({ tally, proof }: Evidence) => tally?.ledger.agrees ?? proof?.agree ?? 0;

interface Judged {
  sureness: Sureness;
  because: Reason;
}

function judgedBy({ candidate, table, profile, tally, proof, unread: left, lead, remarks }: Evidence): Judged {
  const against = speaksAgainst(profile, tally);
  if (against !== undefined) return { sureness: 'guess', because: against };
  const unread = (tally?.cells.fates ?? [])
    .filter((fate) => fate.as === 'unread')
    .reduce((sum, fate) => sum + fate.figures, 0);
  const doubts =
    tally === undefined && proof !== undefined
      ? candidate.doubts.filter(({ code }) => code !== 'totals-off')
      : candidate.doubts;
  const [doubt] = doubts;
  if (doubt !== undefined) return { sureness: 'likely', because: { code: 'doubt', doubt } };
  if (left.length > 0) return { sureness: 'likely', because: { code: 'unread-parts', names: left } };
  if (unread > 0) return { sureness: 'likely', because: { code: 'unread-figures', figures: unread } };
  const [remark] = remarks;
  if (remark !== undefined) return { sureness: 'likely', because: { code: 'remark', remark } };
  if (lead < CLEAR) return { sureness: 'likely', because: { code: 'close-rival' } };
  const mixed = mixesMeasures(profile);
  if (mixed !== undefined) return { sureness: 'likely', because: { code: 'mixed-measures', column: mixed } };
  const { agrees, disagrees, cannotTell } = tally?.ledger ?? {
    agrees: proof?.agree ?? 0,
    disagrees: proof === undefined ? 0 : proof.of - proof.agree,
    cannotTell: 0,
  };
  // A sample cuts rows away from their totals: there the whole report proves.
  const { fit, of } =
    tally === undefined && proof !== undefined ? { fit: proof.agree, of: proof.of } : candidate.explained;
  if (fit >= PROVEN && fit === of && disagrees === 0 && cannotTell === 0 && agrees > 0)
    return { sureness: 'sure', because: { code: 'totals-prove', agree: agrees } };
  if (of > 0 && fit < of)
    return { sureness: 'likely', because: { code: 'doubt', doubt: { code: 'totals-off', off: of - fit, of } } };
  if (disagrees > 0) return { sureness: 'likely', because: { code: 'totals-disagree', disagree: disagrees } };
  const key = keyOf(table);
  if (key === undefined) return { sureness: 'likely', because: { code: 'no-key' } };
  const weak = weakStructure(profile);
  if (weak !== undefined) return { sureness: 'likely', because: weak };
  return { sureness: 'sure', because: { code: 'structure-proves', key } };
}

/** Rows of a table whose structure alone proves it. */
const MIN_ROWS = 4;

/** Why structure without totals does not prove a table. */
function weakStructure(profile: TableProfile): Reason | undefined {
  if (profile.rows < MIN_ROWS) return { code: 'few-rows' };
  if (!profile.columns.some((column) => column.counts[CellKind.figure]! + column.counts[CellKind.date]! > 0))
    return { code: 'words-only' };
  const odd = profile.columns.find((column) => !/^[\p{L}\p{N}%€$£#_(]/u.test(column.name));
  return odd === undefined ? undefined : { code: 'odd-name', column: odd.name };
}

/** What makes a draft no more than a guess. */
function speaksAgainst(profile: TableProfile, tally: Tally | undefined): Reason | undefined {
  if (profile.rows === 0) return { code: 'no-rows' };
  if (profile.columns.length < 2) return { code: 'one-column' };
  const named = profile.columns.findIndex((column) => !column.isUnnamed);
  // A corner without a name stands in front of all that have one.
  const unnamed = profile.columns.find(
    (column, k) =>
      column.isUnnamed &&
      column.counts[CellKind.blank]! < profile.rows &&
      (k > named || column.counts[CellKind.figure]! > 0),
  );
  if (unnamed !== undefined) return { code: 'no-name', column: unnamed.name };
  if (tally !== undefined) {
    const { cells, ledger } = tally;
    if (cells.accounted < cells.filled) return { code: 'cells-lost', cells: cells.filled - cells.accounted };
    if (ledger.disagrees > ledger.agrees) return { code: 'totals-disagree', disagree: ledger.disagrees };
  }
  for (const column of profile.columns) {
    if (saysTotal(column.name) && column.counts[CellKind.figure]! > 0 && column.name.length < 40)
      return { code: 'total-column', column: column.name };
    if (column.counts[CellKind.text]! > 0 && column.texts.some((text) => /^[[{]/.test(text) || text.length > 400))
      return { code: 'nested-text', column: column.name };
    if (column.counts[CellKind.text]! > 0 && isPacked(column)) return { code: 'packed-cells', column: column.name };
    const kinds = [column.counts[CellKind.figure]!, column.counts[CellKind.text]!, column.counts[CellKind.date]!];
    const all = kinds.reduce((sum, count) => sum + count, 0);
    const pure = Math.max(...kinds);
    if (pure < all * 0.97) return { code: 'mixed-kinds', column: column.name };
    if (
      column.counts[CellKind.text]! > 0 &&
      column.texts.some((text) => saysTotal(text) && text.length < 40) &&
      kinds[1]! < profile.rows
    )
      return { code: 'total-in-rows', column: column.name };
  }
  return undefined;
}

/** Most texts hold signs between items. */
function isPacked({ codes, texts }: { codes: Int32Array; texts: readonly string[] }): boolean {
  let [packed, all] = [0, 0];
  const signs = texts.map((text) => /[|;\n]/.test(text));
  for (const code of codes) {
    if (code < 0) continue;
    all++;
    if (signs[code]) packed++;
  }
  return packed > all * 0.3;
}

/** The fewest columns of words, dates and years whose values together tell every row apart; undefined where none do. */
function keyOf(table: Table): string | undefined {
  const fields = table.fields.filter(
    ({ name, column }) =>
      (column.type !== 'number' && column.type !== 'whole') || /^\P{L}*(?:year|jahr|ann[ée]e|año)/iu.test(name),
  );
  return identifyingColumns({ rows: table.rows, fields })?.join(' and ');
}

/** Figures of one column are written with other decimals under each of a few words: measures that stand down a column. */
function mixesMeasures(profile: TableProfile): string | undefined {
  const figures = profile.columns.filter((column) => column.counts[CellKind.figure]! > 0);
  for (const words of profile.columns) {
    if (words.counts[CellKind.text]! < profile.rows) continue;
    const groups = groupedBy(words.codes.keys(), (r) => words.codes[r]!);
    if (groups.size < 2 || groups.size > 12 || groups.size > profile.rows / 2) continue;
    if (figures.some((column) => decimalsDiffer(column, [...groups.values()]))) return words.name;
  }
  return undefined;
}

/** Under some words all figures are whole, and under others hardly any. */
function decimalsDiffer(column: ColumnProfile, groups: readonly (readonly number[])[]): boolean {
  const shares = groups.flatMap((rows) => {
    const values = rows.map((r) => column.values[r]!).filter((value) => !Number.isNaN(value) && Math.abs(value) < 1e6);
    return values.length < 2 ? [] : [values.filter((value) => !Number.isInteger(value)).length / values.length];
  });
  return (
    shares.includes(0) && shares.some((share) => share > 0.6) && shares.every((share) => share === 0 || share > 0.4)
  );
}
