/** What a sceptical colleague would point at in the table of a draft. */

import { numberedNames, readsAs, serialDays, twinColumns, twoNames, valuesAsNames } from './columns.ts';
import { cutTexts } from './cuts.ts';
import {
  groupsInTotals,
  labelPerRow,
  labelsUnproven,
  labelWithMore,
  measuresAsRows,
  totalInLabels,
  unlabelledRows,
} from './labels.ts';
import type { Remark, Reviewer, ReviewInput } from './remark.ts';
import {
  asideLikeRows,
  furnitureInRows,
  gapsInKeys,
  headerInRows,
  oneRowLeft,
  pageHeadsDiffer,
  textDropped,
  unusedPair,
} from './rows.ts';
import { figuresWithMarks, nestedCodes, signsAsValues, textsOfOneForm, titlesDiffer } from './texts.ts';

/** The most telling first: the first remark is the one that a person reads. */
export const REVIEWERS: readonly Reviewer[] = [
  oneRowLeft,
  cutTexts,
  twoNames,
  headerInRows,
  furnitureInRows,
  readsAs,
  serialDays,
  totalInLabels,
  unlabelledRows,
  labelPerRow,
  labelWithMore,
  unusedPair,
  titlesDiffer,
  figuresWithMarks,
  signsAsValues,
  nestedCodes,
  textsOfOneForm,
  asideLikeRows,
  pageHeadsDiffer,
  textDropped,
  gapsInKeys,
  measuresAsRows,
  valuesAsNames,
  numberedNames,
  twinColumns,
  labelsUnproven,
  groupsInTotals,
];

export function review(input: ReviewInput): Remark[] {
  return REVIEWERS.flatMap((reviewer) => reviewer.look(input));
}

/** Remarks that hardly ever fit a table that is right: on the corpus none of them did. */
const GRAVE: ReadonlySet<Remark['code']> = new Set([
  'cut-texts',
  'two-names',
  'header-in-rows',
  'furniture-in-rows',
  'reads-as',
  'unlabelled-rows',
  'label-with-more',
  'groups-in-totals',
  'unused-pair',
  'aside-like-rows',
  'page-heads-differ',
  'text-dropped',
  'one-row-left',
]);

/** Points that a remark takes from a method. */
export function remarkWeight(remark: Remark): number {
  // A few names under each period are measures: plan and actual of each month.
  if (remark.code === 'measures-as-rows' && remark.tiers > 1) return 2;
  return isGrave(remark) ? 1.5 : 0.2;
}

export function isGrave(remark: Remark): boolean {
  // A place may be called Total; several labels that are totals are no labels.
  if (remark.code === 'total-in-labels') return remark.labels > 1;
  return GRAVE.has(remark.code);
}
