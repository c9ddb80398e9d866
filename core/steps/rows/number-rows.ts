import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { runStarts } from '../../rules/placed.ts';
import { withinText } from '../../rules/rules.ts';
import { withColumns } from '../result.ts';

const Params = z.object({
  into: z.string().min(1).default('Number'),
  from: z.number().int().default(1),
  within: columnName().optional().describe('Counting begins again where this column changes'),
});
type Params = z.infer<typeof Params>;

export const numberRowsWords: StepDescriptor<Params> = {
  kind: 'number-rows',
  title: 'Number rows',
  summary: 'Counts the rows in a new first column',
  searchTerms: ['row number', 'index', 'sequence', 'id', 'counter'],
  params: Params,
  headline: ({ into }) => `Number the rows in ${namesPhrase([into])}`,
  sentence: (params) => [
    'Number rows in ',
    blank('into', params.into, { as: 'text', label: 'Name of the new column' }),
    ' from ',
    blank('from', String(params.from), {
      as: 'count',
      label: 'First number',
      least: -1_000_000_000,
      most: 1_000_000_000,
    }),
    blank('within', withinText(params.within) || ' through all rows', {
      as: 'column',
      label: 'Counting begins again in each',
      optional: true,
    }),
  ],
};

export const numberRows = /* @__PURE__ */ stepKind<Params>(numberRowsWords, {
  start: (_, columns) => ({ into: 'Number', from: 1, within: columns[0] }),
  run(input, params) {
    const values = new Float64Array(input.rows);
    const starts = runStarts(input, params.within);
    for (let k = 0; k + 1 < starts.length; k++) {
      for (let r = starts[k]!; r < starts[k + 1]!; r++) values[r] = params.from + r - starts[k]!;
    }
    return withColumns(input, -1, [
      {
        field: { name: params.into, nameOrigin: 'beside', column: { type: 'whole', values } },
        origin: { cells: [], name: [] },
      },
    ]);
  },
});
