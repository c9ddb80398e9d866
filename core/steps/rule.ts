import { z } from 'zod';
import { blankMask, isBlank, unreadableAt } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';
import { ColumnSet, chosenColumns, columnSetText, compileRegExp } from './column-set.ts';
import { missingColumn, needColumn } from './step.ts';

/** What one row must be like, told from the row alone. */
export const PlainRule = z.discriminatedUnion('test', [
  z.object({ test: z.literal('empty').describe('Nothing stands in the row') }),
  z.object({
    test: z.literal('only').describe('Of the cells of the row only these are filled'),
    columns: z.array(z.string()),
  }),
  z.object({ test: z.literal('blank'), columns: ColumnSet }),
  z.object({ test: z.literal('filled'), columns: ColumnSet }),
  z.object({ test: z.literal('unreadable'), columns: ColumnSet }),
  ...(['equals', 'starts', 'ends', 'contains', 'matches'] as const).map((test) =>
    z.object({
      test: z.literal(test),
      column: z.string(),
      text: z.string().describe(test === 'matches' ? 'ECMAScript regular expression' : 'Text to compare with'),
      exact: z.boolean().optional().describe('Case and outer blanks matter'),
    }),
  ),
]);
export type PlainRule = z.infer<typeof PlainRule>;
type TextRule = Extract<PlainRule, { text: string }>;

const Within = z.string().optional().describe('Column whose runs of equal values are looked at one by one');

/** A rule for a row, or for where it stands beside rows that follow a rule. */
export const Rule = z.union([
  PlainRule,
  z.object({ test: z.literal('above-first'), row: PlainRule, within: Within }),
  z.object({ test: z.literal('below-last'), row: PlainRule, within: Within }),
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
    default:
      return `${rule.column || 'a column'} ${TEXT_WORDS[rule.test]} ${rule.text || '…'}`;
  }
}

export function withinText(within: string | undefined): string {
  return within === undefined || within === '' ? '' : ` in each ${within}`;
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
    case 'empty':
      return emptyMask(table);
    case 'only':
      return onlyMask(rule.columns, table);
    case 'blank':
      return everyColumn(table, rule.columns, (column, r) => isBlank(column, r));
    case 'filled':
      return everyColumn(table, rule.columns, (column, r) => !isBlank(column, r));
    case 'unreadable': {
      const mask = new Uint8Array(table.rows);
      for (const k of chosenColumns(rule.columns, table)) {
        const { column } = table.fields[k]!;
        for (let r = 0; r < table.rows; r++) if (unreadableAt(column, r) !== undefined) mask[r] = 1;
      }
      return mask;
    }
    case 'above-first':
    case 'below-last':
      return positionMask(rule, table);
    default:
      return textMask(rule, table);
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

function everyColumn(
  table: Table,
  set: ColumnSet,
  test: (column: Table['fields'][number]['column'], row: number) => boolean,
): Uint8Array {
  const chosen = chosenColumns(set, table);
  const mask = new Uint8Array(table.rows).fill(chosen.length === 0 ? 0 : 1);
  for (const k of chosen) {
    const { column } = table.fields[k]!;
    for (let r = 0; r < table.rows; r++) if (mask[r] === 1 && !test(column, r)) mask[r] = 0;
  }
  return mask;
}

function emptyMask(table: Table): Uint8Array {
  return onlyMask([], table);
}

function onlyMask(names: readonly string[], table: Table): Uint8Array {
  const wanted = new Set(names.map((name) => needColumn(table, name)));
  const mask = new Uint8Array(table.rows).fill(1);
  table.fields.forEach((field, k) => {
    if (field.standing === 'beside' && !wanted.has(k)) return;
    const blank = blankMask(field.column);
    const want = wanted.has(k) ? 0 : 1;
    for (let r = 0; r < mask.length; r++) if (blank[r] !== want) mask[r] = 0;
  });
  return mask;
}

function textMask(rule: TextRule, table: Table): Uint8Array {
  const { codes, texts } = textView(table.fields[needColumn(table, rule.column)]!.column);
  const test = textTest(rule);
  const holds = Uint8Array.from(texts, (text) => (test(text) ? 1 : 0));
  const mask = new Uint8Array(table.rows);
  for (let r = 0; r < mask.length; r++) {
    const code = codes[r]!;
    mask[r] = code < 0 ? 0 : holds[code]!;
  }
  return mask;
}

function textTest(rule: TextRule): (text: string) => boolean {
  if (rule.test === 'matches') {
    const pattern = compileRegExp(rule.text, rule.exact ? 'u' : 'iu');
    return (text) => pattern.test(text);
  }
  const plain = (text: string) => (rule.exact ? text : text.trim().toLowerCase());
  const wanted = plain(rule.text);
  switch (rule.test) {
    case 'equals':
      return (text) => plain(text) === wanted;
    case 'starts':
      return (text) => plain(text).startsWith(wanted);
    case 'ends':
      return (text) => plain(text).endsWith(wanted);
    default:
      return (text) => plain(text).includes(wanted);
  }
}

/** Start of each run of equal values, and the number of rows at the end; one run of all rows without a column. */
export function runStarts(table: Table, within: string | undefined): number[] {
  if (within === undefined || within === '') return [0, table.rows];
  const index = table.fields.findIndex((field) => field.name === within);
  if (index < 0)
    throw missingColumn(
      within,
      table.fields.map((field) => field.name),
    );
  const { codes, texts } = textView(table.fields[index]!.column);
  const starts = [0];
  for (let r = 1; r < table.rows; r++) {
    if (codes[r] !== codes[r - 1] && texts[codes[r]!] !== texts[codes[r - 1]!]) starts.push(r);
  }
  starts.push(table.rows);
  return starts;
}

function positionMask(rule: Extract<Rule, { row: PlainRule }>, table: Table): Uint8Array {
  const anchor = ruleMask(rule.row, table);
  const mask = new Uint8Array(table.rows);
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    const [from, to] = [starts[k]!, starts[k + 1]!];
    if (rule.test === 'above-first') {
      const first = anchor.indexOf(1, from);
      if (first >= 0 && first < to) mask.fill(1, from, first);
    } else {
      const last = to === 0 ? -1 : anchor.lastIndexOf(1, to - 1);
      if (last >= from) mask.fill(1, last + 1, to);
    }
  }
  return mask;
}
