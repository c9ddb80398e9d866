import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { few } from '../../values/counted.ts';
import { idleNotice } from '../result.ts';
import { chooseColumns } from './choose-columns.ts';

const Params = z.object({ columns: ColumnSet.describe('Columns that go') });
type Params = z.infer<typeof Params>;

export const dropColumnsWords: StepDescriptor<Params> = {
  kind: 'drop-columns',
  rowByRow: true,
  drops: true,
  title: 'Drop columns',
  summary: 'Drops the chosen columns and keeps the others',
  searchTerms: ['remove columns', 'delete columns', 'hide columns', 'blank columns', 'constant columns'],
  params: Params,
  headline: ({ columns }) => `Drop ${columnsPhrase(columns)}`,
  sentence: (params) => [
    'Drop ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to drop' }),
  ],
};

export const dropColumns = /* @__PURE__ */ stepKind<Params>(dropColumnsWords, {
  start: (_, columns) => ({
    columns: columns.length > 0 ? { by: 'names', names: [...columns] } : { by: 'blank' },
  }),
  run(input, params) {
    const gone = new Set(chosenColumns(params.columns, input));
    const stay = input.fields.map((_, k) => k).filter((k) => !gone.has(k));
    const names = [...gone].map((k) => input.fields[k]!.name);
    return {
      ...chooseColumns(input, stay),
      notices: [
        names.length === 0 ? idleNotice('no column is dropped') : { severity: 'info', text: `dropped ${few(names)}` },
      ],
    };
  },
});
