/** Rules for rows: what a row must be like, and where it stands beside rows that follow a rule. */
import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { schemasOf } from '../kinds/schemas-of.ts';
import type { Table } from '../table/table.ts';
import { addsUp } from './adds-up.ts';
import { between } from './between.ts';
import { blank, filled, unreadable } from './cell-state.ts';
import { datePart } from './date-part.ts';
import { expression } from './expression.ts';
import { oneOf } from './one-of.ts';
import { empty, only } from './only.ts';
import { placeMask, positionMask, rightAboveMask, stretchMask } from './placed.ts';
import type { RuleKind } from './rule-kind.ts';
import { header, same } from './same.ts';
import { contains, ends, equals, matches, starts } from './text.ts';

/** All kinds of test on a row alone, in the order in which they are offered. */
const KINDS = [
  equals,
  starts,
  ends,
  contains,
  matches,
  oneOf,
  between,
  datePart,
  only,
  empty,
  blank,
  filled,
  unreadable,
  header,
  same,
  addsUp,
  expression,
] as const;

/** What one row must be like, told from the row alone. */
export const PlainRule = z.discriminatedUnion('test', schemasOf(KINDS));
export type PlainRule = z.infer<typeof PlainRule>;

/** A kind whose rules are checked by its own schema before they reach it. */
export type AnyRuleKind = RuleKind<{ test: string }>;

/** Kinds of test by their names. */
export const RULE_KINDS: ReadonlyMap<string, AnyRuleKind> = new Map(
  KINDS.map((kind) => [kind.schema.shape.test.value, kind as unknown as AnyRuleKind]),
);

/** Whether rules of a kind ask where a row stands, or what other rows hold. */
export function looksAround(test: string): boolean {
  const kind = RULE_KINDS.get(test);
  return kind === undefined || kind.looksAround === true;
}

const Within = columnName().optional().describe('Column whose runs of equal values are looked at one by one');

/** A rule for a row, or for where it stands beside rows that follow a rule. */
export const Rule = z.union([
  PlainRule,
  z.object({ test: z.literal('above-first'), row: PlainRule, within: Within }),
  z.object({ test: z.literal('below-last'), row: PlainRule, within: Within }),
  z.object({
    test: z.literal('right-above').describe('The nearest row with anything in it above each row that follows the rule'),
    row: PlainRule,
    within: Within,
  }),
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

export function ruleText(rule: Rule): string {
  switch (rule.test) {
    case 'above-first':
      return `above the first row where ${ruleText(rule.row)}${withinText(rule.within)}`;
    case 'below-last':
      return `below the last row where ${ruleText(rule.row)}${withinText(rule.within)}`;
    case 'right-above':
      return `directly above a row where ${ruleText(rule.row)}${withinText(rule.within)}`;
    case 'between-rows':
      return `from rows where ${ruleText(rule.row)} to the next where ${ruleText(rule.until)}${withinText(rule.within)}`;
    case 'place':
      return `${placeText(rule)}${withinText(rule.within)}`;
    default:
      return RULE_KINDS.get(rule.test)!.text(rule);
  }
}

function placeText(rule: Extract<Rule, { test: 'place' }>): string {
  if (rule.which === 'range') return `the row is from ${rule.from} to ${rule.count}`;
  if (rule.which === 'every') return `the row is ${rule.from} or every ${rule.count} rows after it`;
  return rule.count === 1 ? `the row is the ${rule.which}` : `the row is among the ${rule.which} ${rule.count}`;
}

export function withinText(within: string | undefined): string {
  return within === undefined || within === '' ? '' : ` in each ${within}`;
}

/** Whether a rule says where rows are, and not what they hold. */
const isPlaced = ({ test }: Rule) => !RULE_KINDS.has(test);

/** The rows that rules pick: 'rows where A is blank, or B is 0; rows below the last row where C has a value'. */
export function rowsText(rules: readonly Rule[]): string {
  const conditions = rules.filter((rule) => !isPlaced(rule));
  const placed = rules.filter(isPlaced).map((rule) => {
    if (rule.test === 'between-rows')
      return `rows from one where ${ruleText(rule.row)} to the next where ${ruleText(rule.until)}${withinText(rule.within)}`;
    return rule.test === 'place' ? rowsOfPlace(rule) + withinText(rule.within) : `rows ${ruleText(rule)}`;
  });
  const where = conditions.length === 0 ? [] : [`rows where ${conditions.map(ruleText).join(', or ')}`];
  return [...where, ...placed].join('; ') || 'no rule yet';
}

function rowsOfPlace({ which, from, count }: Extract<Rule, { test: 'place' }>): string {
  if (which === 'range') return `rows ${from} to ${count}`;
  if (which === 'every') return `row ${from} and every ${count} rows after it`;
  return count === 1 ? `the ${which} row` : `the ${which} ${count} rows`;
}

export function rulesText(rules: readonly Rule[]): string {
  return rules.length === 0 ? 'no rule yet' : rules.map(ruleText).join(', or ');
}

/**
 * 1 for each row that follows the rule.
 * @throws StepFailure when the rule names a column that is gone, or its pattern is broken
 */
export function ruleMask(rule: Rule, table: Table): Uint8Array {
  switch (rule.test) {
    case 'above-first':
    case 'below-last':
      return positionMask(table, rule, ruleMask(rule.row, table));
    case 'right-above':
      return rightAboveMask(table, rule, ruleMask(rule.row, table));
    case 'between-rows':
      return stretchMask(table, rule, ruleMask(rule.row, table), ruleMask(rule.until, table));
    case 'place':
      return placeMask(table, rule);
    default:
      return RULE_KINDS.get(rule.test)!.mask(rule, table);
  }
}

/** 1 for each row that follows any of the rules. */
export function anyRuleMask(rules: readonly Rule[], table: Table): Uint8Array {
  const mask = new Uint8Array(table.rows);
  for (const rule of rules) {
    const one = ruleMask(rule, table);
    for (let r = 0; r < mask.length; r++) mask[r]! |= one[r]!;
  }
  return mask;
}
