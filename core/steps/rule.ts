import { z } from 'zod';
import { ColumnSet, columnSetText } from './column-set.ts';
import { columnName, expressionText } from './param-marks.ts';

/** What one row must be like, told from the row alone. */
export const PlainRule = z.discriminatedUnion('test', [
  z.object({ test: z.literal('empty').describe('Nothing stands in the row') }),
  z.object({
    test: z.literal('only').describe('Of the cells of the row only these are filled'),
    columns: z.array(columnName()),
  }),
  z.object({ test: z.literal('blank'), columns: ColumnSet }),
  z.object({ test: z.literal('filled'), columns: ColumnSet }),
  z.object({ test: z.literal('unreadable'), columns: ColumnSet }),
  ...(['equals', 'starts', 'ends', 'contains', 'matches'] as const).map((test) =>
    z.object({
      test: z.literal(test),
      column: columnName(),
      text: z.string().describe(test === 'matches' ? 'ECMAScript regular expression' : 'Text to compare with'),
      exact: z.boolean().optional().describe('Case and outer blanks matter'),
    }),
  ),
  z.object({ test: z.literal('one-of'), column: columnName(), texts: z.array(z.string()) }),
  z.object({
    test: z.literal('between'),
    column: columnName(),
    least: z.string().nullable().describe('A number, or an ISO 8601 date or time; null: no lower end'),
    most: z.string().nullable(),
  }),
  z.object({
    test: z.literal('date-part'),
    column: columnName(),
    part: z.enum(['year', 'quarter', 'month', 'week', 'isodow']).describe('isodow: Monday 1 to Sunday 7'),
    is: z.array(z.number().int()),
  }),
  z.object({ test: z.literal('header').describe('Cells read like the names of their columns') }),
  z.object({
    test: z.literal('same').describe('Cells read like those of an example'),
    cells: z.record(columnName(), z.string().nullable()),
  }),
  z.object({ test: z.literal('expression'), text: expressionText() }),
]);
export type PlainRule = z.infer<typeof PlainRule>;
export type TextRule = Extract<PlainRule, { test: keyof typeof TEXT_WORDS }>;

const Within = columnName().optional().describe('Column whose runs of equal values are looked at one by one');

/** A rule for a row, or for where it stands beside rows that follow a rule. */
export const Rule = z.union([
  PlainRule,
  z.object({ test: z.literal('above-first'), row: PlainRule, within: Within }),
  z.object({ test: z.literal('below-last'), row: PlainRule, within: Within }),
  z.object({
    test: z
      .literal('between-rows')
      .describe('From each row that follows the rule down to the next that follows the other, both included'),
    row: PlainRule,
    until: PlainRule,
    within: Within,
  }),
  z.object({
    test: z.literal('place'),
    which: z.enum(['first', 'last', 'range', 'every']),
    from: z
      .number()
      .int()
      .min(1)
      .default(1)
      .describe('First row of a range, counted from 1; of every n-th, the first taken'),
    count: z.number().int().min(1).describe('How many rows; of a range, its last row; of every n-th, n'),
    within: Within,
  }),
]);
export type Rule = z.infer<typeof Rule>;

const TEXT_WORDS = { equals: 'is', starts: 'starts with', ends: 'ends with', contains: 'contains', matches: 'matches' };

export function ruleText(rule: Rule): string {
  switch (rule.test) {
    case 'empty':
      return 'the row is blank';
    case 'only':
      return `only ${rule.columns.join(', ') || 'nothing'} is filled`;
    case 'blank':
      return `${columnSetText(rule.columns)} is blank`;
    case 'filled':
      return `${columnSetText(rule.columns)} is filled`;
    case 'unreadable':
      return `${columnSetText(rule.columns)} is unreadable`;
    case 'above-first':
      return `above the first row where ${ruleText(rule.row)}${withinText(rule.within)}`;
    case 'below-last':
      return `below the last row where ${ruleText(rule.row)}${withinText(rule.within)}`;
    case 'between-rows':
      return `from rows where ${ruleText(rule.row)} to the next where ${ruleText(rule.until)}${withinText(rule.within)}`;
    case 'place':
      return `${placeText(rule)}${withinText(rule.within)}`;
    case 'one-of':
      return `${rule.column || 'a column'} is ${rule.texts.join(' or ') || '…'}`;
    case 'between':
      return `${rule.column || 'a column'} is ${betweenText(rule.least, rule.most)}`;
    case 'date-part':
      return `the ${rule.part === 'isodow' ? 'weekday' : rule.part} of ${rule.column || 'a column'} is ${rule.is.join(' or ') || '…'}`;
    case 'header':
      return 'the row reads like the header';
    case 'same':
      return `the row reads like ${
        Object.values(rule.cells)
          .filter((cell) => cell !== null)
          .join(' · ') || 'a blank row'
      }`;
    case 'expression':
      return rule.text || 'an expression holds';
    default:
      return `${rule.column || 'a column'} ${TEXT_WORDS[rule.test]} ${rule.text || '…'}`;
  }
}

function placeText(rule: Extract<Rule, { test: 'place' }>): string {
  if (rule.which === 'range') return `the row is from ${rule.from} to ${rule.count}`;
  if (rule.which === 'every') return `the row is ${rule.from} or every ${rule.count} rows after it`;
  return rule.count === 1 ? `the row is the ${rule.which}` : `the row is among the ${rule.which} ${rule.count}`;
}

function betweenText(least: string | null, most: string | null): string {
  if (least === null) return most === null ? 'anything' : `at most ${most}`;
  return most === null ? `at least ${least}` : `from ${least} to ${most}`;
}

export function withinText(within: string | undefined): string {
  return within === undefined || within === '' ? '' : ` in each ${within}`;
}

export function rulesText(rules: readonly Rule[]): string {
  return rules.length === 0 ? 'no rule yet' : rules.map(ruleText).join(', or ');
}
