import type { StepDescriptor } from '../kinds/step.ts';
import { blankTextsWords } from './cells/blank-texts.ts';
import { cleanTextWords } from './cells/clean-text.ts';
import { datePartsWords } from './cells/date-parts.ts';
import { expressionWords } from './cells/expression.ts';
import { extractWords } from './cells/extract.ts';
import { fillBlanksWords } from './cells/fill-blanks.ts';
import { joinTextWords } from './cells/join-text.ts';
import { recodeWords } from './cells/recode.ts';
import { replaceWords } from './cells/replace.ts';
import { roundWords } from './cells/round.ts';
import { setTypesWords } from './cells/set-types.ts';
import { appendWords } from './combine/append.ts';
import { joinWords } from './combine/join.ts';
import { lookUpWords } from './combine/look-up.ts';
import { splitOffWords } from './combine/split-off.ts';
import { varianceWords } from './combine/variance.ts';
import { carryWords } from './fill/carry.ts';
import { closeGapsWords } from './fill/close-gaps.ts';
import { fillWords } from './fill/fill.ts';
import { levelsWords } from './fill/levels.ts';
import { linesToColumnsWords } from './fill/lines-to-columns.ts';
import { dropColumnsWords } from './header/drop-columns.ts';
import { headerFromRowsWords } from './header/header-from-rows.ts';
import { keepColumnsWords } from './header/keep-columns.ts';
import { moveColumnsWords } from './header/move-columns.ts';
import { namesToRowWords } from './header/names-to-row.ts';
import { renameWords } from './header/rename.ts';
import { renameByPatternWords } from './header/rename-by-pattern.ts';
import { setAsideColumnsWords } from './header/set-aside-columns.ts';
import { tidyNamesWords } from './header/tidy-names.ts';
import { dropRowsWords } from './rows/drop-rows.ts';
import { keepRowsWords } from './rows/keep-rows.ts';
import { numberRowsWords } from './rows/number-rows.ts';
import { removeDuplicatesWords } from './rows/remove-duplicates.ts';
import { setAsideWords } from './rows/set-aside.ts';
import { showDuplicatesWords } from './rows/show-duplicates.ts';
import { sortWords } from './rows/sort.ts';
import { countWords } from './shape/count.ts';
import { foldRowsWords } from './shape/fold-rows.ts';
import { groupWords } from './shape/group.ts';
import { pivotWords } from './shape/pivot.ts';
import { stackBesideWords } from './shape/stack-beside.ts';
import { transposeWords } from './shape/transpose.ts';
import { unpivotWords } from './shape/unpivot.ts';
import { splitToColumnsWords } from './split/split-to-columns.ts';
import { splitToRowsWords } from './split/split-to-rows.ts';
import { unnestWords } from './split/unnest.ts';

/** A kind whose params are checked by its own schema before they reach it. */
export type AnyStepDescriptor = StepDescriptor<unknown>;

/** Forgets the params type; safe because params reach a kind only through its own schema. */
function listed<P>(kind: StepDescriptor<P>): AnyStepDescriptor {
  return kind as unknown as AnyStepDescriptor;
}

/** All kinds of step, in the order of the work. */
export const STEP_GROUPS: readonly { title: string; kinds: readonly AnyStepDescriptor[] }[] = [
  {
    title: 'Rows',
    kinds: [
      listed(setAsideWords),
      listed(keepRowsWords),
      listed(dropRowsWords),
      listed(sortWords),
      listed(numberRowsWords),
      listed(removeDuplicatesWords),
      listed(showDuplicatesWords),
    ],
  },
  {
    title: 'Header and columns',
    kinds: [
      listed(headerFromRowsWords),
      listed(namesToRowWords),
      listed(renameWords),
      listed(renameByPatternWords),
      listed(tidyNamesWords),
      listed(keepColumnsWords),
      listed(dropColumnsWords),
      listed(setAsideColumnsWords),
      listed(moveColumnsWords),
    ],
  },
  {
    title: 'Fill',
    kinds: [
      listed(fillWords),
      listed(carryWords),
      listed(levelsWords),
      listed(linesToColumnsWords),
      listed(closeGapsWords),
    ],
  },
  {
    title: 'Cells',
    kinds: [
      listed(cleanTextWords),
      listed(replaceWords),
      listed(blankTextsWords),
      listed(fillBlanksWords),
      listed(setTypesWords),
      listed(recodeWords),
      listed(datePartsWords),
      listed(roundWords),
      listed(extractWords),
      listed(joinTextWords),
      listed(expressionWords),
    ],
  },
  { title: 'Split', kinds: [listed(splitToColumnsWords), listed(splitToRowsWords), listed(unnestWords)] },
  {
    title: 'Shape',
    kinds: [
      listed(unpivotWords),
      listed(pivotWords),
      listed(groupWords),
      listed(countWords),
      listed(transposeWords),
      listed(stackBesideWords),
      listed(foldRowsWords),
    ],
  },
  {
    title: 'Combine',
    kinds: [listed(appendWords), listed(joinWords), listed(lookUpWords), listed(varianceWords), listed(splitOffWords)],
  },
];

/** What kinds of step are called, ask and say, by their names. */
export const STEP_WORDS: ReadonlyMap<string, AnyStepDescriptor> = new Map(
  STEP_GROUPS.flatMap((group) => group.kinds.map((kind) => [kind.kind, kind])),
);
