import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { chooseColumns } from './choose-columns.ts';

const Params = z.object({ columns: ColumnSet.describe('Columns that stay') });
type Params = z.infer<typeof Params>;

export const keepColumnsWords: StepDescriptor<Params> = {
  kind: 'keep-columns',
  rowByRow: true,
  drops: true,
  title: 'Keep columns',
  summary: 'Keeps the chosen columns, in the order given, and drops the others',
  searchTerms: ['select columns', 'reorder columns', 'choose columns', 'column order'],
  params: Params,
  headline: ({ columns }) => `Keep ${columnsPhrase(columns)}`,
  sentence: (params) => [
    'Keep ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to keep' }),
  ],
};

export const keepColumns = /* @__PURE__ */ stepKind<Params>(keepColumnsWords, {
  start: (table, columns) => ({
    columns: { by: 'names', names: columns.length > 0 ? [...columns] : table.fields.map((field) => field.name) },
  }),
  run: (input, params) => chooseColumns(input, chosenColumns(params.columns, input)),
});
