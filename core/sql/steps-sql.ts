import { computing, recoding, replacing, typing } from './steps/cells.ts';
import { ofColumns } from './steps/columns.ts';
import { appending, comparing, joining } from './steps/combine.ts';
import { carrying, filling } from './steps/fill.ts';
import { filtered, numbering, settingAside, showingDuplicates, sorting, withoutDuplicates } from './steps/rows.ts';
import { grouping, pivoting, unpivoting } from './steps/shape.ts';
import { splittingToColumns, splittingToRows } from './steps/split.ts';
import type { StepTranslator } from './translate.ts';

/** What SQL says of each kind of step; a kind that is not here is done by Rimefield. */
export const TRANSLATORS: Readonly<Record<string, StepTranslator>> = {
  rename: ofColumns,
  'rename-by-pattern': ofColumns,
  'tidy-names': ofColumns,
  'keep-columns': ofColumns,
  'drop-columns': ofColumns,
  'move-columns': ofColumns,
  'set-aside-columns': ofColumns,
  'keep-rows': filtered(true),
  'drop-rows': filtered(false),
  'set-aside': settingAside,
  'set-types': typing,
  expression: computing,
  recode: recoding,
  replace: replacing,
  fill: filling,
  carry: carrying,
  unpivot: unpivoting,
  pivot: pivoting,
  sort: sorting,
  'remove-duplicates': withoutDuplicates,
  'show-duplicates': showingDuplicates,
  'number-rows': numbering,
  group: grouping,
  'split-to-columns': splittingToColumns,
  'split-to-rows': splittingToRows,
  join: joining,
  append: appending,
  variance: comparing,
};
