import { z } from 'zod';
import { roundTo } from '../../formula/rounding.ts';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import type { CountedColumn } from '../../table/column.ts';
import { counted } from '../../values/counted.ts';
import { adder, divide } from '../../values/decimal.ts';
import { fromColumns, lookAt, withColumns } from '../result.ts';

const Params = z.object({
  actual: columnName(),
  target: columnName(),
  into: z.string().min(1).default('Variance').describe('Column for actual minus target'),
  share: z
    .string()
    .nullable()
    .default(null)
    .describe('Column for the difference as a share of the target, in four decimals; null: none'),
  standsOut: z
    .number()
    .positive()
    .default(0.1)
    .describe('Share of the target from which a difference stands out, 0.1 for a tenth'),
});
type Params = z.infer<typeof Params>;

/** Decimals of a share: a hundredth of a percent. */
const SHARE_DECIMALS = 4;
const TARGET = /target|plan|budget|forecast|expected|goal/i;

export const varianceWords: StepDescriptor<Params> = {
  kind: 'variance',
  title: 'Variance',
  summary: 'Actual minus target, and its share of the target; outliers are reported',
  searchTerms: [
    'difference',
    'actual minus budget',
    'plan against actual',
    'deviation',
    'over under',
    'compare columns',
  ],
  params: Params,
  headline: ({ actual, target }) => `Compare ${namesPhrase([actual])} with ${namesPhrase([target])}`,
  sentence: (params) => [
    'Compare ',
    columnBlank('actual', params.actual, 'Actual'),
    ' with ',
    columnBlank('target', params.target, 'Target'),
    ': the difference as ',
    blank('into', params.into, { as: 'text', label: 'Column for the difference' }),
    ', its share as ',
    blank('share', params.share ?? 'no column', { as: 'text', label: 'Column for the share', optional: true }),
    '; from ',
    choiceBlank('standsOut', params.standsOut, 'Stands out from this share', [
      [0.01, '1 %'],
      [0.05, '5 %'],
      [0.1, '10 %'],
      [0.2, '20 %'],
      [0.5, '50 %'],
    ]),
    ' it stands out',
  ],
};

export const variance = /* @__PURE__ */ stepKind<Params>(varianceWords, {
  start: (table, columns) => {
    const counts = table.fields.filter((field) => field.column.type === 'number' || field.column.type === 'whole');
    const names = columns.length >= 2 ? columns : counts.map((field) => field.name);
    const target = names.find((name) => TARGET.test(name)) ?? names[1] ?? names[0] ?? '';
    const actual = names.find((name) => name !== target) ?? target;
    return { actual, target, into: 'Variance', share: 'Variance share', standsOut: 0.1 };
  },
  run(input, params) {
    const [a, t] = [needColumn(input, params.actual), needColumn(input, params.target)];
    const [actual, target] = [
      numbersOf(params.actual, input.fields[a]!.column),
      numbersOf(params.target, input.fields[t]!.column),
    ];
    const minus = adder(-1);
    const difference = new Float64Array(input.rows);
    const share = new Float64Array(input.rows);
    const out: number[] = [];
    for (let r = 0; r < input.rows; r++) {
      difference[r] = minus(actual[r]!, target[r]!);
      share[r] = target[r] === 0 ? Number.NaN : roundTo(divide(difference[r]!, Math.abs(target[r]!)), SHARE_DECIMALS);
      if (Math.abs(share[r]!) >= params.standsOut) out.push(r);
    }
    const whole = [a, t].every((k) => input.fields[k]!.column.type === 'whole');
    const origin = fromColumns([a, t]);
    const column = (type: CountedColumn['type'], values: Float64Array): CountedColumn => ({ type, values });
    const added = [
      {
        field: {
          name: params.into,
          nameOrigin: 'named' as const,
          column: column(whole ? 'whole' : 'number', difference),
        },
        origin,
      },
      ...(params.share === null
        ? []
        : [{ field: { name: params.share, nameOrigin: 'named' as const, column: column('number', share) }, origin }]),
    ];
    const notices: Notice[] = lookAt(
      out,
      'after',
      `${counted(out.length, 'row')} ${out.length === 1 ? 'is' : 'are'} ${Math.round(params.standsOut * 1000) / 10} % or more off ${params.target}`,
      params.into,
    );
    return withColumns(input, input.fields.length - 1, added, undefined, notices);
  },
});

/** @throws StepFailure when the column holds no numbers */
function numbersOf(name: string, column: { type: string; values?: Float64Array }): Float64Array {
  if ((column.type === 'number' || column.type === 'whole') && column.values !== undefined) return column.values;
  throw new StepFailure(`${name} does not hold numbers: set its type to number first.`, name);
}
