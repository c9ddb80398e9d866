import { z } from 'zod';
import { dateField } from '../formula/dates.ts';
import { columnName } from '../kinds/param-marks.ts';
import { needColumn, StepFailure } from '../kinds/step.ts';
import { flags } from '../table/vectors.ts';
import { MS } from '../values/civil.ts';
import { columnText, type RuleKind, ruleSchema } from './rule-kind.ts';

const PARTS = ['year', 'quarter', 'month', 'week', 'isodow'] as const;
const WORDS: Record<(typeof PARTS)[number], string> = {
  year: 'year',
  quarter: 'quarter',
  month: 'month',
  week: 'ISO week',
  isodow: 'weekday (Monday 1)',
};

const schema = ruleSchema('date-part', {
  column: columnName(),
  part: z.enum(PARTS).describe('isodow: Monday 1 to Sunday 7'),
  is: z.array(z.number().int()),
});

export const datePart = {
  schema,
  title: 'has a date part that is',
  start: (column) => ({ column, part: 'quarter', is: [1] }),
  fields: [
    {
      param: 'part',
      edit: {
        as: 'choice',
        label: 'Part of the date',
        choices: PARTS.map((value) => ({ value, label: WORDS[value] })),
      },
    },
    { param: 'is', edit: { as: 'numbers', label: 'Is, several with commas' } },
  ],
  text: ({ part, column, is }) =>
    `the ${part === 'isodow' ? 'weekday' : part} of ${columnText(column)} is ${is.join(' or ') || '…'}`,
  mask(rule, table) {
    const { column } = table.fields[needColumn(table, rule.column)]!;
    if (column.type !== 'date' && column.type !== 'datetime')
      throw new StepFailure(
        `${rule.column} holds no dates (it is ${column.type}). Set its type to date first.`,
        rule.column,
      );
    const wanted = new Set(rule.is);
    const scale = column.type === 'datetime' ? MS.day : 1;
    return flags(
      column.values,
      (value) => !Number.isNaN(value) && wanted.has(dateField(Math.floor(value / scale), rule.part)),
    );
  },
} satisfies RuleKind<z.infer<typeof schema>>;
