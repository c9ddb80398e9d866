import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { groupRows } from '../../rows/keys.ts';
import { counted } from '../../values/counted.ts';
import { idleNotice } from '../result.ts';
import { setAsideRows } from './set-aside.ts';

const Params = z.object({
  columns: ColumnSet.default({ by: 'all' }).describe('Rows that agree in these are duplicates'),
  keep: z.enum(['first', 'last']).default('first'),
});
type Params = z.infer<typeof Params>;

export const removeDuplicatesWords: StepDescriptor<Params> = {
  kind: 'remove-duplicates',
  drops: true,
  title: 'Remove duplicates',
  summary: 'Of rows that agree in the chosen columns keeps one; the others go on the pile duplicates',
  searchTerms: ['distinct', 'unique rows', 'dedupe', 'repeated rows', 'twice'],
  params: Params,
  headline: (_, { aside }) => `Remove ${aside ?? ''} duplicate rows`.replace('  ', ' '),
  sentence: (params) => [
    'Remove duplicates in ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns in which duplicates agree' }),
    ', keeping the ',
    choiceBlank('keep', params.keep, 'Which one stays', [
      ['first', 'first'],
      ['last', 'last'],
    ]),
  ],
};

export const removeDuplicates = /* @__PURE__ */ stepKind<Params>(removeDuplicatesWords, {
  start: (_, columns) => ({
    columns: columns.length === 0 ? { by: 'all' } : { by: 'names', names: [...columns] },
    keep: 'first',
  }),
  run(input, params) {
    const { of, count } = groupRows(
      chosenColumns(params.columns, input).map((k) => input.fields[k]!.column),
      input.rows,
    );
    const seen = new Uint8Array(count);
    const away = new Uint8Array(input.rows);
    for (let k = 0; k < input.rows; k++) {
      const r = params.keep === 'first' ? k : input.rows - 1 - k;
      away[r] = seen[of[r]!]!;
      seen[of[r]!] = 1;
    }
    const result = setAsideRows(input, away, 'duplicates');
    const gone = result.aside[0]?.rows.length ?? 0;
    return {
      ...result,
      notices: [
        gone === 0
          ? idleNotice('no row stands twice', 'info')
          : { severity: 'info', text: `${counted(gone, 'duplicate')} on a pile` },
      ],
    };
  },
});
