import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { groupRows } from '../../rows/keys.ts';
import { takeColumn } from '../../table/gather.ts';
import { GroupedRows } from '../../table/grouped-rows.ts';
import { fromColumn, type RowMap } from '../../table/origin.ts';
import { type Field, uniqueName } from '../../table/table.ts';
import { rowCounts, sharesOf } from './group.ts';

const Params = z.object({
  columns: z.array(columnName()).min(1).max(2),
  share: z
    .enum(['whole', 'first', 'second', 'none'])
    .default('whole')
    .describe('Share of the whole, of the rows with the same first, or with the same second value'),
});
type Params = z.infer<typeof Params>;

export const countWords: StepDescriptor<Params> = {
  kind: 'count',
  drops: true,
  title: 'Count',
  summary: 'Counts how often each value occurs, by one or two columns, with shares of row, column or whole',
  searchTerms: ['frequency', 'how many', 'tally values', 'value counts', 'contingency', 'percentage'],
  params: Params,
  headline: ({ columns }) => `Count rows by ${namesPhrase(columns)}`,
  sentence: (params) => [
    'Count rows by ',
    blank('columns', params.columns.join(' and '), { as: 'names', label: 'One or two columns' }),
    ', with the share of ',
    choiceBlank('share', params.share, 'Share', [
      ['whole', 'the whole'],
      ['first', `each ${params.columns[0] ?? 'first'}`],
      ['second', `each ${params.columns[1] ?? 'second'}`],
      ['none', 'nothing'],
    ]),
  ],
};

export const count = /* @__PURE__ */ stepKind<Params>(countWords, {
  start: (table, columns) => ({
    columns: columns.length > 0 ? columns.slice(0, 2) : [table.fields[0]?.name ?? ''],
    share: 'whole',
  }),
  run(input, params) {
    const keys = params.columns.map((name) => needColumn(input, name));
    if (params.share === 'second' && keys.length < 2)
      throw new StepFailure('A share of the second column needs two columns to count by.');
    const groups = groupRows(
      keys.map((k) => input.fields[k]!.column),
      input.rows,
    );
    const members = new GroupedRows(groups.of, groups.count);
    const taken = new Set<string>();
    const fields: Field[] = keys.map((k) => ({
      ...input.fields[k]!,
      name: uniqueName(input.fields[k]!.name, taken),
      column: takeColumn(input.fields[k]!.column, groups.first),
    }));
    const counts = rowCounts(members);
    fields.push({ name: uniqueName('Count', taken), nameOrigin: 'named', column: counts });
    if (params.share !== 'none') {
      const values = (counts as { values: Float64Array }).values;
      const within =
        params.share === 'whole'
          ? undefined
          : groupRows([fields[params.share === 'first' ? 0 : 1]!.column], groups.count);
      fields.push({
        name: uniqueName('Share', taken),
        nameOrigin: 'named',
        column: {
          type: 'number',
          values: within === undefined ? sharesOf(values) : sharesWithin(values, within.of, within.count),
        },
      });
    }
    const lists: RowMap = { kind: 'groups', rows: members };
    const made = fields
      .slice(keys.length)
      .map(() => ({ cells: keys.map((column) => ({ role: 'value' as const, rows: lists, column })), name: [] }));
    return {
      table: { rows: groups.count, fields },
      origin: [...keys.map((k) => fromColumn(k, lists)), ...made],
      aside: [],
      notices: [],
    };
  },
});

function sharesWithin(values: Float64Array, of: Int32Array, groups: number): Float64Array {
  const sums = new Float64Array(groups);
  values.forEach((value, r) => {
    sums[of[r]!]! += value;
  });
  return values.map((value, r) => value / sums[of[r]!]!);
}
