import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { needColumn, StepFailure } from '../kinds/step.ts';
import { flags } from '../table/vectors.ts';
import { compilePatterns, readText } from '../values/convert.ts';
import { NumberForm } from '../values/number-text.ts';
import { columnText, type RuleKind, ruleSchema, viewMask } from './rule-kind.ts';

const schema = ruleSchema('between', {
  column: columnName(),
  least: z.string().nullable().describe('A number, or an ISO 8601 date or time; null: no lower end'),
  most: z.string().nullable(),
});

export const between = {
  schema,
  title: 'is between',
  start: (column) => ({ column, least: null, most: null }),
  fields: [
    { param: 'least', edit: { as: 'text', label: 'From', optional: true } },
    { param: 'most', edit: { as: 'text', label: 'To', optional: true } },
  ],
  text: ({ column, least, most }) => `${columnText(column)} is ${endsText(least, most)}`,
  mask(rule, table) {
    const { column } = table.fields[needColumn(table, rule.column)]!;
    const plain = column.type === 'text' || column.type === 'received';
    const type = plain ? 'number' : column.type;
    const form = { type, number: NumberForm.parse({}), patterns: compilePatterns(type, undefined, 'any', 1950) };
    const end = (text: string | null, none: number) => {
      if (text === null || text.trim() === '') return none;
      const { value, reason } = readText(text, form);
      if (reason !== undefined)
        throw new StepFailure(`'${text}' cannot be compared with ${rule.column}: ${reason}.`, rule.column);
      return value;
    };
    const [least, most] = [end(rule.least, Number.NEGATIVE_INFINITY), end(rule.most, Number.POSITIVE_INFINITY)];
    if (!plain) return flags(column.values, (value) => value >= least && value <= most);
    return viewMask(table, rule.column, (text) => {
      const { value } = readText(text, form);
      return value >= least && value <= most;
    });
  },
} satisfies RuleKind<z.infer<typeof schema>>;

function endsText(least: string | null, most: string | null): string {
  if (least === null) return most === null ? 'anything' : `at most ${most}`;
  return most === null ? `at least ${least}` : `from ${least} to ${most}`;
}
