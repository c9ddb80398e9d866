import type { StepKind } from '../kinds/step.ts';
import { blankTexts } from './cells/blank-texts.ts';
import { cleanText } from './cells/clean-text.ts';
import { dateParts } from './cells/date-parts.ts';
import { expression } from './cells/expression.ts';
import { extract } from './cells/extract.ts';
import { fillBlanks } from './cells/fill-blanks.ts';
import { joinText } from './cells/join-text.ts';
import { recode } from './cells/recode.ts';
import { replace } from './cells/replace.ts';
import { round } from './cells/round.ts';
import { setTypes } from './cells/set-types.ts';
import { append } from './combine/append.ts';
import { join } from './combine/join.ts';
import { lookUp } from './combine/look-up.ts';
import { splitOff } from './combine/split-off.ts';
import { variance } from './combine/variance.ts';
import { carry } from './fill/carry.ts';
import { closeGaps } from './fill/close-gaps.ts';
import { fill } from './fill/fill.ts';
import { levels } from './fill/levels.ts';
import { linesToColumns } from './fill/lines-to-columns.ts';
import { dropColumns } from './header/drop-columns.ts';
import { headerFromRows } from './header/header-from-rows.ts';
import { keepColumns } from './header/keep-columns.ts';
import { moveColumns } from './header/move-columns.ts';
import { namesToRow } from './header/names-to-row.ts';
import { rename } from './header/rename.ts';
import { renameByPattern } from './header/rename-by-pattern.ts';
import { setAsideColumns } from './header/set-aside-columns.ts';
import { tidyNames } from './header/tidy-names.ts';
import { dropRows } from './rows/drop-rows.ts';
import { keepRows } from './rows/keep-rows.ts';
import { numberRows } from './rows/number-rows.ts';
import { removeDuplicates } from './rows/remove-duplicates.ts';
import { setAside } from './rows/set-aside.ts';
import { showDuplicates } from './rows/show-duplicates.ts';
import { sort } from './rows/sort.ts';
import { count } from './shape/count.ts';
import { foldRows } from './shape/fold-rows.ts';
import { group } from './shape/group.ts';
import { pivot } from './shape/pivot.ts';
import { stackBeside } from './shape/stack-beside.ts';
import { transpose } from './shape/transpose.ts';
import { unpivot } from './shape/unpivot.ts';
import { splitToColumns } from './split/split-to-columns.ts';
import { splitToRows } from './split/split-to-rows.ts';
import { unnest } from './split/unnest.ts';

/** A kind whose params are checked by its own schema before they are used. */
export type AnyStepKind = StepKind<unknown>;

/** Forgets the params type; safe because params reach a kind only through its own schema. */
function listed<P>(kind: StepKind<P>): AnyStepKind {
  return kind as unknown as AnyStepKind;
}

/** All kinds of step by their names, with what they do. What they are called and say alone stands in words.ts. */
export const CATALOGUE: ReadonlyMap<string, AnyStepKind> = new Map(
  [
    listed(setAside),
    listed(keepRows),
    listed(dropRows),
    listed(sort),
    listed(numberRows),
    listed(removeDuplicates),
    listed(showDuplicates),
    listed(headerFromRows),
    listed(namesToRow),
    listed(rename),
    listed(renameByPattern),
    listed(tidyNames),
    listed(keepColumns),
    listed(dropColumns),
    listed(setAsideColumns),
    listed(moveColumns),
    listed(fill),
    listed(carry),
    listed(levels),
    listed(linesToColumns),
    listed(closeGaps),
    listed(cleanText),
    listed(replace),
    listed(blankTexts),
    listed(fillBlanks),
    listed(setTypes),
    listed(recode),
    listed(dateParts),
    listed(round),
    listed(extract),
    listed(joinText),
    listed(expression),
    listed(splitToColumns),
    listed(splitToRows),
    listed(unnest),
    listed(unpivot),
    listed(pivot),
    listed(group),
    listed(count),
    listed(transpose),
    listed(stackBeside),
    listed(foldRows),
    listed(append),
    listed(join),
    listed(lookUp),
    listed(variance),
    listed(splitOff),
  ].map((kind) => [kind.kind, kind]),
);
