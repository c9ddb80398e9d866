import { z } from 'zod';
import { roundTo, roundToFraction } from '../../formula/rounding.ts';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { changedInPlace, changedNotice } from '../result.ts';

const Params = z.object({
  columns: ColumnSet,
  ties: z.enum(['half-up', 'half-even']).default('half-up').describe('half-up: away from zero'),
  to: z.enum(['digits', 'fraction']).default('digits'),
  size: z.number().int().min(-15).max(1000).default(0).describe('Decimal digits, or parts of a whole (4: quarters)'),
});
type Params = z.infer<typeof Params>;

export const roundWords: StepDescriptor<Params> = {
  kind: 'round',
  presentation: true,
  rowByRow: true,
  title: 'Round',
  summary: 'Rounds numbers half up or half to even, to digits or to a fraction',
  searchTerms: ['decimal places', 'digits', 'quarters', 'banker', 'half even', 'thousands'],
  params: Params,
  headline: ({ columns }) => `Round ${columnsPhrase(columns)}`,
  sentence: (params) => [
    'Round ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to round' }),
    ' ',
    choiceBlank('ties', params.ties, 'Halves', [
      ['half-up', 'half up'],
      ['half-even', 'half to even'],
    ]),
    ' to ',
    blank('size', String(params.size), { as: 'count', label: 'Digits or parts', least: -15, most: 1000 }),
    ' ',
    choiceBlank('to', params.to, 'Rounded to', [
      ['digits', 'decimal digits'],
      ['fraction', 'parts of a whole'],
    ]),
  ],
};

export const round = /* @__PURE__ */ stepKind<Params>(roundWords, {
  start: (_, columns) => Params.parse({ columns: { by: 'names', names: [...columns] } }),
  run(input, params) {
    if (params.to === 'fraction' && params.size < 1)
      throw new StepFailure(`A whole cannot have ${params.size} parts: give at least 1.`);
    const fields = [...input.fields];
    let changed = 0;
    for (const k of chosenColumns(params.columns, input)) {
      const field = input.fields[k]!;
      const { column } = field;
      if (column.type !== 'number' && column.type !== 'whole') {
        throw new StepFailure(
          `${field.name} holds no numbers (it is ${column.type}). Set its type to number first.`,
          field.name,
        );
      }
      const values = column.values.map((value) => {
        if (Number.isNaN(value)) return value;
        const rounded =
          params.to === 'digits'
            ? roundTo(value, params.size, params.ties)
            : roundToFraction(value, params.size, params.ties);
        if (rounded !== value) changed++;
        return rounded;
      });
      fields[k] = { ...field, column: { ...column, values } };
    }
    return changedInPlace(input, fields, [changedNotice(changed)]);
  },
});
