import { z } from 'zod';
import { blank, choiceBlank, type Phrase } from '../../kinds/sentence.ts';
import type { Notice, StepResult } from '../../kinds/step.ts';
import { anyRuleMask, Rule, ruleMask, ruleText } from '../../rules/rules.ts';
import type { Table } from '../../table/table.ts';
import { idleNotice } from '../result.ts';
import { setAsideRows } from './set-aside.ts';

/** Params of keep-rows and drop-rows. */
export const FilterParams = z.object({
  rules: z.array(Rule),
  match: z.enum(['all', 'any']).default('all').describe('Whether a row must follow all rules, or any of them'),
});
export type FilterParams = z.infer<typeof FilterParams>;

export function filterSentence(verb: string, params: FilterParams): Phrase[] {
  const joined = params.rules.map(ruleText).join(params.match === 'all' ? ', and ' : ', or ');
  return [
    `${verb} rows where `,
    ...(params.rules.length > 1
      ? [
          choiceBlank('match', params.match, 'How many rules must hold', [
            ['all', 'all hold:'],
            ['any', 'any holds:'],
          ]),
          ' ',
        ]
      : []),
    blank('rules', joined || 'no rule yet', { as: 'rules', label: 'Rules for rows' }),
  ];
}

/** Rows that are not wanted are kept on the pile 'dropped', so that every cell stays accounted for. */
export function filterRows(input: Table, params: FilterParams, keep: boolean): StepResult {
  const masks =
    params.match === 'any' ? [anyRuleMask(params.rules, input)] : params.rules.map((rule) => ruleMask(rule, input));
  const away = new Uint8Array(input.rows);
  for (let r = 0; r < away.length; r++) {
    const follows = masks.length > 0 && masks.every((mask) => mask[r] === 1);
    away[r] = follows === keep ? 0 : 1;
  }
  const result = setAsideRows(input, away, 'dropped');
  if (result.aside.length > 0 && result.table.rows > 0) return result;
  const notice: Notice =
    result.aside.length === 0 ? idleNotice('every row stays') : { severity: 'warning', text: 'no row is left' };
  return { ...result, notices: [notice] };
}
