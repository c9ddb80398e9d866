import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { few } from '../../values/counted.ts';
import { idleNotice } from '../result.ts';
import { PILES, pileMark } from '../rows/set-aside.ts';
import { chooseColumns } from './choose-columns.ts';

const Params = z.object({
  pile: z.string().min(1).default('totals').describe('Name of the pile'),
  columns: ColumnSet.describe('Columns that go onto it'),
});
type Params = z.infer<typeof Params>;

export const setAsideColumnsWords: StepDescriptor<Params> = {
  kind: 'set-aside-columns',
  drops: true,
  title: 'Set aside columns',
  summary: 'Moves columns to a named pile; the tally compares totals with the table',
  searchTerms: ['remove total column', 'sum column', 'row totals', 'notes column', 'blank columns', 'drop columns'],
  params: Params,
  headline: ({ columns }) => `Set aside ${columnsPhrase(columns)}`,
  sentence: (params) => [
    'Set aside as ',
    blank('pile', params.pile, { as: 'text', label: 'Name of the pile', hint: PILES.join(', ') }),
    ' the columns ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to set aside' }),
  ],
};

export const setAsideColumns = /* @__PURE__ */ stepKind<Params>(setAsideColumnsWords, {
  start: (table, columns) => {
    const total = table.fields.map((field) => field.name).find((name) => /\b(?:total|sum|all)\b/i.test(name));
    if (columns.length > 0) return { pile: 'totals', columns: { by: 'names', names: [...columns] } };
    return total === undefined
      ? { pile: 'blanks', columns: { by: 'blank' } }
      : { pile: 'totals', columns: { by: 'names', names: [total] } };
  },
  run(input, params) {
    const away = [...new Set(chosenColumns(params.columns, input))].sort((a, b) => a - b);
    const stay = input.fields.map((_, k) => k).filter((k) => !away.includes(k));
    return {
      ...chooseColumns(input, stay),
      aside:
        away.length === 0
          ? []
          : [{ name: params.pile, mark: pileMark(params.pile), rows: new Int32Array(), columns: away }],
      notices: [
        away.length === 0
          ? idleNotice('no column is set aside')
          : { severity: 'info', text: few(away.map((k) => input.fields[k]!.name)) },
      ],
    };
  },
});
