import { saysTotal } from '../glance/hint-words.ts';
import { Seen, type SeenColumn, type Sight } from '../glance/sight.ts';
import { identifyingColumns } from '../rows/identifying.ts';
import type { Table } from '../table/table.ts';
import type { Tally } from '../tally/tally.ts';
import { few } from '../values/counted.ts';
import { groupedBy } from '../values/grouped-by.ts';
import type { Draft } from './draft.ts';
import type { TotalsProof } from './proof.ts';
import { remarkText } from './review/messages.ts';
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
  sight: Sight;
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
  const { candidate, sight, tally, proof, lead, remarks } = evidence;
  const agree = agreeing(evidence);
  const disagree = tally?.ledger.disagrees ?? (proof === undefined ? 0 : proof.of - proof.agree);
  const columns = Math.max(1, sight.columns.length);
  const { pure, filled } = purityOf(sight);
  const words = sight.columns.filter(({ counts }) => counts[Seen.text]! > 0).length;
  const unnamed = sight.columns.filter(({ isUnnamed }) => isUnnamed).length;
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
    Math.log1p(sight.rows),
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
export function surenessOf(known: Evidence): Judged & Pick<Draft, 'probability' | 'isSureByRules' | 'evidence'> {
  const evidence = evidenceOf(known);
  const probability = probabilityOf(evidence);
  const judged = judgedBy(known);
  const isSureByRules = judged.sureness === 'sure';
  // What looks like drafts that were wrong is not sure, unless totals prove it.
  const isDoubted = isSureByRules && agreeing(known) === 0 && probability < FITTED.sure;
  const said: Judged = isDoubted
    ? { sureness: 'likely', why: 'nothing adds up in it, and drafts like it were wrong too often' }
    : judged;
  return { ...said, probability, isSureByRules, evidence };
}

const agreeing = ({ tally, proof }: Evidence) => tally?.ledger.agrees ?? proof?.agree ?? 0;

interface Judged {
  sureness: Sureness;
  why: string;
}

function judgedBy({ candidate, table, sight, tally, proof, unread: left, lead, remarks }: Evidence): Judged {
  const against = speaksAgainst(sight, tally);
  if (against !== undefined) return { sureness: 'guess', why: against };
  const unread = (tally?.cells.fates ?? [])
    .filter((fate) => fate.as === 'unread')
    .reduce((sum, fate) => sum + fate.figures, 0);
  const doubts =
    tally === undefined && proof !== undefined
      ? candidate.doubts.filter((one) => !/do not add up$/.test(one))
      : candidate.doubts;
  const doubt =
    doubts[0] ??
    (left.length > 0 ? `${few(left)} ${left.length === 1 ? 'is' : 'are'} not read` : undefined) ??
    (unread > 0 ? `${unread} figures of the report are not read` : undefined);
  if (doubt !== undefined) return { sureness: 'likely', why: doubt };
  if (remarks.length > 0) return { sureness: 'likely', why: remarkText(remarks[0]!) };
  if (lead < CLEAR) return { sureness: 'likely', why: 'another reading fits almost as well' };
  const mixed = mixesMeasures(sight);
  if (mixed !== undefined) return { sureness: 'likely', why: mixed };
  const { agrees, disagrees, cannotTell } = tally?.ledger ?? {
    agrees: proof?.agree ?? 0,
    disagrees: proof === undefined ? 0 : proof.of - proof.agree,
    cannotTell: 0,
  };
  // A sample cuts rows away from their totals: there the whole report proves.
  const { fit, of } =
    tally === undefined && proof !== undefined ? { fit: proof.agree, of: proof.of } : candidate.explained;
  if (fit >= PROVEN && fit === of && disagrees === 0 && cannotTell === 0 && agrees > 0)
    return { sureness: 'sure', why: `${agrees} of ${agrees} totals agree, and nothing is left over` };
  if (of > 0 && fit < of) return { sureness: 'likely', why: `${of - fit} of ${of} figures of totals do not add up` };
  if (disagrees > 0) return { sureness: 'likely', why: `${disagrees} totals disagree` };
  const key = keyOf(table);
  if (key === undefined)
    return { sureness: 'likely', why: 'no totals prove it, and no column tells every row from the others' };
  const weak = weakStructure(sight);
  if (weak !== undefined) return { sureness: 'likely', why: weak };
  return { sureness: 'sure', why: `every column has one type, and ${key} identifies every row` };
}

/** Rows of a table whose structure alone proves it. */
const LEAST_ROWS = 4;

/** Why structure without totals does not prove a table. */
function weakStructure(sight: Sight): string | undefined {
  if (sight.rows < LEAST_ROWS) return 'few rows prove little';
  if (!sight.columns.some((column) => column.counts[Seen.figure]! + column.counts[Seen.date]! > 0))
    return 'all columns hold words: a header reads like a row';
  const odd = sight.columns.find((column) => !/^[\p{L}\p{N}%€$£#_(]/u.test(column.name));
  return odd === undefined ? undefined : `${odd.name} is an odd name for a column`;
}

/** What makes a draft no more than a guess. */
function speaksAgainst(sight: Sight, tally: Tally | undefined): string | undefined {
  if (sight.rows === 0) return 'no rows are left';
  if (sight.columns.length < 2) return 'only one column was found';
  const named = sight.columns.findIndex((column) => !column.isUnnamed);
  // A corner without a name stands in front of all that have one.
  const unnamed = sight.columns.find(
    (column, k) =>
      column.isUnnamed && column.counts[Seen.blank]! < sight.rows && (k > named || column.counts[Seen.figure]! > 0),
  );
  if (unnamed !== undefined) return `column ${unnamed.name} has no name`;
  if (tally !== undefined) {
    const { cells, ledger } = tally;
    if (cells.accounted < cells.filled) return `${cells.filled - cells.accounted} cells are not accounted for`;
    if (ledger.disagrees > ledger.agrees) return `${ledger.disagrees} totals disagree`;
  }
  for (const column of sight.columns) {
    if (saysTotal(column.name) && column.counts[Seen.figure]! > 0 && column.name.length < 40)
      return `${column.name} is called a total`;
    if (column.counts[Seen.text]! > 0 && column.texts.some((text) => /^[[{]/.test(text) || text.length > 400))
      return `${column.name} holds text that is not taken apart`;
    if (column.counts[Seen.text]! > 0 && isPacked(column)) return `${column.name} holds lists in its cells`;
    const kinds = [column.counts[Seen.figure]!, column.counts[Seen.text]!, column.counts[Seen.date]!];
    const all = kinds.reduce((sum, count) => sum + count, 0);
    const pure = Math.max(...kinds);
    if (pure < all * 0.97) return `${column.name} holds cells of several kinds`;
    if (
      column.counts[Seen.text]! > 0 &&
      column.texts.some((text) => saysTotal(text) && text.length < 40) &&
      kinds[1]! < sight.rows
    )
      return `${column.name} still says total`;
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
function mixesMeasures(sight: Sight): string | undefined {
  const figures = sight.columns.filter((column) => column.counts[Seen.figure]! > 0);
  for (const words of sight.columns) {
    if (words.counts[Seen.text]! < sight.rows) continue;
    const groups = groupedBy(words.codes.keys(), (r) => words.codes[r]!);
    if (groups.size < 2 || groups.size > 12 || groups.size > sight.rows / 2) continue;
    if (figures.some((column) => decimalsDiffer(column, [...groups.values()])))
      return `${words.name} may name what is measured: figures are written otherwise under each`;
  }
  return undefined;
}

/** Under some words all figures are whole, and under others hardly any. */
function decimalsDiffer(column: SeenColumn, groups: readonly (readonly number[])[]): boolean {
  const shares = groups.flatMap((rows) => {
    const values = rows.map((r) => column.values[r]!).filter((value) => !Number.isNaN(value) && Math.abs(value) < 1e6);
    return values.length < 2 ? [] : [values.filter((value) => !Number.isInteger(value)).length / values.length];
  });
  return (
    shares.includes(0) && shares.some((share) => share > 0.6) && shares.every((share) => share === 0 || share > 0.4)
  );
}
