/** Why a draft is as sure as it is: a code with what it speaks of, and the sentences of all codes. */

import { type Doubt, doubtText } from '../findings/doubt.ts';
import { few } from '../values/counted.ts';
import { remarkText } from './review/messages.ts';
import type { Remark } from './review/remark.ts';
import type { Ambiguity } from './toward/state.ts';

export type Reason =
  | { code: 'doubt'; doubt: Doubt }
  | { code: 'remark'; remark: Remark }
  | { code: 'unread-parts'; names: readonly string[] }
  | { code: 'unread-figures'; figures: number }
  | { code: 'close-rival' }
  | { code: 'mixed-measures'; column: string }
  | { code: 'unproven' }
  | { code: 'totals-prove'; agree: number }
  | { code: 'totals-disagree'; disagree: number }
  | { code: 'no-key' }
  | { code: 'few-rows' }
  | { code: 'words-only' }
  | { code: 'odd-name'; column: string }
  | { code: 'structure-proves'; key: string }
  | { code: 'no-rows' }
  | { code: 'one-column' }
  | { code: 'no-name'; column: string }
  | { code: 'cells-lost'; cells: number }
  | { code: 'total-column'; column: string }
  | { code: 'total-in-rows'; column: string }
  | { code: 'nested-text'; column: string }
  | { code: 'packed-cells'; column: string }
  | { code: 'mixed-kinds'; column: string }
  | { code: 'all-reproduced' }
  | Ambiguity
  | { code: 'cells-reproduced'; share: number };

/** A sentence without a full stop. */
export function reasonText(reason: Reason): string {
  switch (reason.code) {
    case 'doubt':
      return doubtText(reason.doubt);
    case 'remark':
      return remarkText(reason.remark);
    case 'unread-parts':
      return `${few(reason.names)} ${reason.names.length === 1 ? 'is' : 'are'} not read`;
    case 'unread-figures':
      return `${reason.figures} figures of the report are not read`;
    case 'close-rival':
      return 'Another reading fits almost as well';
    case 'mixed-measures':
      return `${reason.column} may name measures: the figures differ in form under each`;
    case 'unproven':
      return 'No totals prove it, and similar drafts were often wrong';
    case 'totals-prove':
      return `All ${reason.agree} totals agree`;
    case 'totals-disagree':
      return `${reason.disagree} ${reason.disagree === 1 ? 'total disagrees' : 'totals disagree'}`;
    case 'no-key':
      return 'No totals prove it, and no columns identify every row';
    case 'few-rows':
      return 'The table has too few rows to prove anything';
    case 'words-only':
      return 'All columns contain words, so a header looks like a row';
    case 'odd-name':
      return `${reason.column} is an unusual name for a column`;
    case 'structure-proves':
      return `Every column has one type, and ${reason.key} identifies every row`;
    case 'no-rows':
      return 'No rows are left';
    case 'one-column':
      return 'Only one column was found';
    case 'no-name':
      return `Column ${reason.column} has no name`;
    case 'cells-lost':
      return `${reason.cells} cells are not accounted for`;
    case 'total-column':
      return `${reason.column} is called a total`;
    case 'total-in-rows':
      return `${reason.column} still contains totals`;
    case 'nested-text':
      return `${reason.column} contains text that should be split`;
    case 'packed-cells':
      return `${reason.column} contains lists`;
    case 'mixed-kinds':
      return `${reason.column} contains values of several types`;
    case 'all-reproduced':
      return 'All rows of the finished table are reproduced';
    case 'ambiguous':
      return `${reason.column} may be ${reason.chosen} or ${reason.other}: show the row of ${reason.row} too, which decides`;
    case 'codes-not-shown':
      return `No row that was shown says what ${few(reason.codes)} ${reason.codes.length === 1 ? 'becomes' : 'become'} in ${reason.column}`;
    case 'cells-reproduced':
      return `${Math.floor(reason.share * 100)}% of the cells in the finished table match`;
  }
}
