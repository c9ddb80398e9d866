/** What a sceptical colleague would point at in the table of a draft. */

import { readsAs, serialDays, twinColumns, valuesAsNames } from './columns.ts';
import { cutTexts } from './cuts.ts';
import { labelPerRow, labelsUnproven, labelWithMore, measuresAsRows, totalInLabels, unlabelledRows } from './labels.ts';
import type { Remark, Reviewer, ReviewInput } from './remark.ts';
import { asideLikeRows, furnitureInRows, gapsInKeys, headerInRows, oneRowLeft, unusedPair } from './rows.ts';

/** In the order in which a person would be told. */
export const REVIEWERS: readonly Reviewer[] = [
  oneRowLeft,
  cutTexts,
  headerInRows,
  furnitureInRows,
  readsAs,
  serialDays,
  totalInLabels,
  unlabelledRows,
  labelPerRow,
  labelWithMore,
  unusedPair,
  asideLikeRows,
  gapsInKeys,
  measuresAsRows,
  valuesAsNames,
  twinColumns,
  labelsUnproven,
];

export function review(input: ReviewInput): Remark[] {
  return REVIEWERS.flatMap((reviewer) => reviewer.look(input));
}

/** Remarks that hardly ever fit a table that is right: on the corpus none of them did. */
const GRAVE: ReadonlySet<Remark['code']> = new Set([
  'cut-texts',
  'header-in-rows',
  'furniture-in-rows',
  'reads-as',
  'total-in-labels',
  'unlabelled-rows',
  'label-with-more',
  'unused-pair',
  'aside-like-rows',
  'one-row-left',
]);

/** Points that a remark takes from a method. */
export function remarkWeight({ code }: Remark): number {
  return GRAVE.has(code) ? 1.5 : 0.2;
}

export function isGrave({ code }: Remark): boolean {
  return GRAVE.has(code);
}
