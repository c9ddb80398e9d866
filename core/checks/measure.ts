import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank } from '../kinds/sentence.ts';
import { numbersOf } from '../table/numbers.ts';
import { plainFigure } from '../values/counted.ts';
import { Sum } from '../values/decimal.ts';
import { type CheckKind, checkSchema, columnOf, limitText } from './check-kind.ts';

const schema = checkSchema('measure', {
  column: columnName(),
  by: z.enum(['sum', 'count', 'mean']).default('sum'),
  equals: z.number(),
  within: z.number().nonnegative().default(0).describe('By how much it may miss'),
});

export const measure = {
  schema,
  toFillIn: {
    title: 'The sum, count or mean of a column is a figure',
    start: (column) => ({ column, by: 'sum', equals: 0, within: 0 }),
  },
  sentence: ({ by, column, equals }) => [
    'the ',
    choiceBlank('by', by, 'Measure', [
      ['sum', 'sum'],
      ['count', 'count'],
      ['mean', 'mean'],
    ]),
    ' of ',
    columnBlank('column', column, 'Column'),
    ' is ',
    blank('equals', limitText(equals), { as: 'figure', label: 'Figure' }),
  ],
  run(table, { column, by, equals, within }) {
    const values = numbersOf(columnOf(table, column)) ?? new Float64Array();
    const sum = new Sum();
    let count = 0;
    for (const value of values) {
      if (Number.isNaN(value)) continue;
      sum.add(value);
      count++;
    }
    const is = by === 'sum' ? sum.value : by === 'count' ? count : sum.mean(count);
    const noise = 1e-9 * Math.max(1, Math.abs(is));
    return {
      ok: Math.abs(is - equals) <= within + noise,
      found: `${by} is ${plainFigure(is)}`,
      rows: [],
      column,
    };
  },
} satisfies CheckKind<z.infer<typeof schema>>;
