/** All sentences of the review, each without a full stop. */

import { counted, few } from '../../values/counted.ts';
import type { Remark } from './remark.ts';

export function remarkText(remark: Remark): string {
  switch (remark.code) {
    case 'reads-as':
      return `${Math.round(remark.share * 100)}% of ${remark.column} reads as ${remark.as === 'date' ? 'dates' : 'numbers'}, the rest does not`;
    case 'serial-days':
      return `${remark.column} may contain days as serial numbers, like the dates in ${remark.beside}`;
    case 'header-in-rows':
      return `${counted(remark.rows, 'row')} may be a repeated header: ${remark.column} contains its own name`;
    case 'furniture-in-rows':
      return `${remark.column} contains '${remark.text}', which looks like a part of the page`;
    case 'cut-texts':
      return `A column edge cuts words in two: '${remark.text}' in ${remark.column} and ${remark.next}`;
    case 'two-names':
      return `'${remark.column}' may be two names over two columns`;
    case 'gaps-in-keys':
      return `${remark.column} is blank in ${counted(remark.rows, 'row')} between rows that fill it`;
    case 'unlabelled-rows':
      return `The first ${counted(remark.rows, 'row')} ${remark.rows === 1 ? 'has' : 'have'} no ${remark.column}`;
    case 'label-per-row':
      return `Each ${remark.column} covers a single row`;
    case 'total-in-labels':
      return `${remark.column} contains '${remark.text}', which looks like a total`;
    case 'label-with-more':
      return `The row of '${remark.text}' contains more than the label in ${remark.column}`;
    case 'labels-unproven':
      return `${remark.column} comes from lone rows, and nothing proves which rows they belong to`;
    case 'groups-in-totals':
      return `'${remark.text}' is set aside as a total, and no column says the groups that ${counted(remark.names, 'total')} name`;
    case 'measures-as-rows':
      return `${few(remark.names)} in ${remark.column} may be separate measures`;
    case 'values-as-names':
      return `The column names ${few(remark.names)} may be values`;
    case 'numbered-names':
      return `The column names ${few(remark.names)} may be values of one column`;
    case 'aside-like-rows':
      return `${counted(remark.rows, 'row')} on the pile ${remark.pile} ${remark.rows === 1 ? 'looks' : 'look'} like rows of the table`;
    case 'unused-pair':
      return `'${remark.text}' is set aside and not used as a column`;
    case 'page-heads-differ':
      return `'${remark.text}' is set aside as part of the page, though it differs each time`;
    case 'text-dropped':
      return `'${remark.text}' in ${remark.column} stands alone in its row and is dropped${remark.rows > 1 ? `, like ${counted(remark.rows - 1, 'other')}` : ''}`;
    case 'one-row-left':
      return 'Only one row is left';
    case 'figures-with-marks':
      return `${remark.column} contains numbers followed by text, such as '${remark.text}'`;
    case 'signs-as-values':
      return `${remark.column} contains '${remark.text}', which may stand for the value above it`;
    case 'texts-of-one-form':
      return `Texts in ${remark.column} are built alike and may be several columns: '${remark.text}'`;
    case 'nested-codes':
      return `The row of ${remark.text} in ${remark.column} may be the group or the sum of the rows below it`;
    case 'titles-differ':
      return `'${remark.text}' differs from sheet to sheet and is not used as a column`;
    case 'twin-columns':
      return `${remark.column} and ${remark.other} contain the same`;
  }
}
