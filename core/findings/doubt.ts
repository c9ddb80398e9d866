/** Why a finding may be otherwise, where nothing proves it: a code with what it speaks of, and the sentences of all codes. */

import { counted, few } from '../values/counted.ts';
import { type NumberDoubt, doubtText as numberDoubtText } from '../values/number-column.ts';

export type Doubt =
  | { code: 'totals-off'; off: number; of: number }
  | { code: 'called-total'; column: string }
  | { code: 'sum-of-two'; column: string }
  | { code: 'may-be-quarters'; names: readonly string[] }
  | { code: 'may-be-measures'; names: readonly string[] }
  | { code: 'may-be-classes' }
  | { code: 'open-tiers' }
  | { code: 'classes-of-one-measure'; column: string }
  | { code: 'blocks-by-first-name'; name: string }
  | { code: 'name-value-rows' }
  | { code: 'letters-beside-figures' }
  | { code: 'repeated-lines' }
  | { code: 'no-header' }
  | { code: 'few-groups' }
  | { code: 'single-label'; text: string }
  | { code: 'repeated-labels' }
  | { code: 'long-labels' }
  | { code: 'lone-row'; text: string }
  | { code: 'details-by-blank' }
  | { code: 'groups-by-numbering'; column: string }
  | { code: 'lines-as-headings' }
  | { code: 'sparse-rows' }
  | { code: 'may-be-no-list'; column: string }
  | { code: 'records-by-code' }
  | { code: 'records-by-kind' }
  | { code: 'lines-above-or-below' }
  | { code: 'beside-table' }
  | { code: 'shifted-cells' }
  | { code: 'texts-of-one-form' }
  | { code: 'other-forms' }
  | { code: 'columns-as-records' }
  | { code: 'two-in-one'; columns: readonly string[] }
  | { code: 'number'; column: string; doubt: NumberDoubt }
  | { code: 'serial-days'; column: string; beside: string }
  | { code: 'dates-and-serials'; column: string; serials: number }
  | { code: 'day-or-month'; column: string };

/** A sentence without a full stop. */
export function doubtText(doubt: Doubt): string {
  switch (doubt.code) {
    case 'totals-off':
      return `${doubt.off} of ${doubt.of} figures in total rows do not add up`;
    case 'called-total':
      return `${doubt.column} is called a total, but nothing adds up to it`;
    case 'sum-of-two':
      return `${doubt.column} is the sum of two other columns and may be a separate measure`;
    case 'may-be-quarters':
      return `${few(doubt.names)} may be quarters`;
    case 'may-be-measures':
      return `${few(doubt.names)} may be separate measures`;
    case 'may-be-classes':
      return 'Columns with similar figures may be classes of one measure';
    case 'open-tiers':
      return 'Nothing proves which header row names the measures';
    case 'classes-of-one-measure':
      return `The values of ${doubt.column} may be classes of one measure`;
    case 'blocks-by-first-name':
      return `Only the name ${doubt.name} shows where each record begins`;
    case 'name-value-rows':
      return 'Rows of names and values may be the table itself';
    case 'letters-beside-figures':
      return 'Letters next to figures may be separate columns';
    case 'repeated-lines':
      return 'Repeated lines may contain more than page headings';
    case 'no-header':
      return 'No row names the columns';
    case 'few-groups':
      return 'Too few groups to tell an omitted key from an empty cell';
    case 'single-label':
      return `Only '${doubt.text}' stands alone above data`;
    case 'repeated-labels':
      return 'Some labels appear more than once';
    case 'long-labels':
      return 'Some labels are as long as remarks';
    case 'lone-row':
      return `'${doubt.text}' is alone in its row and may be the label of the rows below`;
    case 'details-by-blank':
      return 'Only the empty first cell shows which rows belong to the row above';
    case 'groups-by-numbering':
      return `Only the numbering in ${doubt.column} separates groups from their rows`;
    case 'lines-as-headings':
      return 'Lines between the blocks may not be headings';
    case 'sparse-rows':
      return 'Rows without most fields may or may not be records';
    case 'may-be-no-list':
      return `${doubt.column} may contain plain text, not lists`;
    case 'records-by-code':
      return 'Only the leading codes show what each row is';
    case 'records-by-kind':
      return 'Only the types of the cells show which rows belong together';
    case 'lines-above-or-below':
      return 'Lines of text may belong to the record above or below';
    case 'beside-table':
      return 'Cells beside the table may belong to it';
    case 'shifted-cells':
      return 'Only gaps show where cells shifted';
    case 'texts-of-one-form':
      return 'Texts with the same form may be one column';
    case 'other-forms':
      return 'Rows with another form of text may be records';
    case 'columns-as-records':
      return 'No figure proves that each column is a record';
    case 'two-in-one':
      return `Values in ${few(doubt.columns)} may belong together`;
    case 'number':
      return numberDoubtText(doubt.column, doubt.doubt);
    case 'serial-days':
      return `${doubt.column} is read as days, because its numbers are close to the dates in ${doubt.beside}`;
    case 'dates-and-serials':
      return `${doubt.column} contains dates and ${counted(doubt.serials, 'serial number')} of days`;
    case 'day-or-month':
      return `Every date in ${doubt.column} could also be read month first`;
  }
}
