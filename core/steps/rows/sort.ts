import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { ranks, sortedRows } from '../../rows/order.ts';
import { takeRows } from '../../table/gather.ts';
import { sameColumns, takenRows } from '../../table/origin.ts';

const Params = z.object({
  keys: z.array(z.object({ column: columnName(), descending: z.boolean().default(false) })).min(1),
  order: z
    .enum(['natural', 'plain'])
    .default('natural')
    .describe('natural: 2 before 10 in text too; plain: by code point'),
});
type Params = z.infer<typeof Params>;

export const sortWords: StepDescriptor<Params> = {
  kind: 'sort',
  presentation: true,
  title: 'Sort rows',
  summary: 'Sorts rows by one or more columns; blanks last, ties keep their order',
  searchTerms: ['order', 'arrange', 'ascending', 'descending', 'rank', 'top'],
  params: Params,
  headline: ({ keys }) => `Sort by ${namesPhrase(keys.map(({ column }) => column))}`,
  sentence: (params) => [
    'Sort by ',
    blank(
      'keys',
      params.keys.map(({ column, descending }) => `${column}${descending ? ' downwards' : ''}`).join(', then '),
      {
        as: 'items',
        label: 'Columns to sort by',
        fresh: { column: '', descending: false },
        fields: [
          { key: 'column', edit: { as: 'column', label: 'Column' } },
          {
            key: 'descending',
            edit: {
              as: 'choice',
              label: 'Direction',
              choices: [
                { value: false, label: 'upwards' },
                { value: true, label: 'downwards' },
              ],
            },
          },
        ],
      },
    ),
    ', text in ',
    choiceBlank('order', params.order, 'Order of text', [
      ['natural', 'natural order'],
      ['plain', 'plain order'],
    ]),
  ],
};

export const sort = /* @__PURE__ */ stepKind<Params>(sortWords, {
  start: (table, columns) => ({
    keys: (columns.length > 0 ? columns : [table.fields[0]?.name ?? '']).map((column) => ({
      column,
      descending: false,
    })),
    order: 'natural',
  }),
  run(input, params) {
    const keys = params.keys.map(({ column, descending }) =>
      ranks(input.fields[needColumn(input, column)]!.column, descending, params.order),
    );
    const rows = sortedRows(keys, input.rows);
    return {
      table: takeRows(input, rows),
      origin: sameColumns(input.fields.length, takenRows(rows)),
      aside: [],
      notices: [],
    };
  },
});
