import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { blankMask } from '../../table/column.ts';
import { stackColumns, takeColumn } from '../../table/gather.ts';
import { changedInPlace, changedNotice } from '../result.ts';
import { oneCell } from './one-cell.ts';

const Params = z.object({
  columns: ColumnSet,
  with: z.string().default('0').describe('Read as the type of each column'),
});
type Params = z.infer<typeof Params>;

export const fillBlanksWords: StepDescriptor<Params> = {
  kind: 'fill-blanks',
  title: 'What blanks become',
  summary: 'Blank cells take one value',
  searchTerms: ['replace null', 'default value', 'zero for blank', 'missing to zero', 'empty cells'],
  params: Params,
  headline: ({ columns, with: text }) => `Fill blanks of ${columnsPhrase(columns)} with ${text}`,
  sentence: (params) => [
    'Blanks of ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns' }),
    ' become ',
    blank('with', params.with || 'empty text', { as: 'text', label: 'What blanks become', optional: true, blank: '' }),
  ],
};

export const fillBlanks = /* @__PURE__ */ stepKind<Params>(fillBlanksWords, {
  start: (_, columns) => ({ columns: { by: 'names', names: [...columns] }, with: '0' }),
  run(input, params) {
    const fields = [...input.fields];
    let filled = 0;
    for (const k of chosenColumns(params.columns, input)) {
      const field = input.fields[k]!;
      const blanks = blankMask(field.column);
      const rows = Int32Array.from(blanks, (bit, r) => (bit === 1 ? input.rows : r));
      const count = blanks.reduce((n, bit) => n + bit, 0);
      filled += count;
      if (count > 0)
        fields[k] = {
          ...field,
          column: takeColumn(stackColumns([field.column, oneCell(field.column, params.with, field.name)]), rows),
        };
    }
    return changedInPlace(input, fields, [changedNotice(filled, 'filled')]);
  },
});
