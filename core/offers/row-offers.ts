import { chooseRules } from '../findings/choose-rule.ts';
import { profileTable } from '../glance/table-profile.ts';
import type { Mark } from '../kinds/step.ts';
import { runStarts } from '../rules/placed.ts';
import { anyRuleMask, type PlainRule, type Rule, ruleText } from '../rules/rules.ts';
import { blankMask, isBlank } from '../table/column.ts';
import { maskedRows } from '../table/gather.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { type Offer, only } from './offer.ts';

/** A rule that a row follows, with all rows that follow it. */
export interface RuleOffer {
  rule: Rule;
  text: string;
  rows: Int32Array;
}

/** Words by which reports tell what a row is. Common practice. */
const TELLING: Partial<Record<Mark, RegExp>> = {
  total: /^(?:grand |sub-?)?totals?$|^sums?$|^subtotals?$/i,
  note: /^(?:notes?|source|remarks?)\b:?$|^[*†‡]$/i,
};
const MAX_RULES = 8;

/**
 * Rules that a row follows, the likeliest for its mark first; the last is the row and those that read just like it.
 *
 * @param row of the table
 */
export function rulesOfRow(table: Table, row: number, mark: Mark): RuleOffer[] {
  const own = table.fields.filter((field) => field.nameOrigin !== 'beside');
  const filled = own.filter((field) => !isBlank(field.column, row));
  const place = placeRules(table, row, mark);
  const rules: Rule[] = mark === 'note' ? [...place] : [];
  if (filled.length === 0) rules.push({ test: 'empty' });
  if (mark === 'repeat') rules.push({ test: 'header' });
  // Few cells make a row what it is; a row as wide as data is recognized by what stands in it.
  const narrow: PlainRule[] =
    filled.length > 0 && filled.length <= Math.max(1, own.length / 3)
      ? [{ test: 'only', columns: filled.map((field) => field.name) }]
      : [];
  const byText = filled.slice(0, 3).flatMap((field) => textRules(field.name, cellText(field.column, row)!, mark));
  rules.push(...(mark === 'label' ? [...narrow, ...byText] : [...byText, ...narrow]));
  const cells = Object.fromEntries(own.map((field) => [field.name, cellText(field.column, row)]));
  if (mark === 'title') rules.push(...place);
  rules.push({ test: 'same', cells });
  const seen = new Set<string>();
  const offers: RuleOffer[] = [];
  for (const rule of rules) {
    const rows = maskedRows(anyRuleMask([rule], table));
    // Two rules over the same rows are one choice: the plainer stands first.
    const key = `${rows.length}:${rows[0] ?? -1}:${rows.at(-1) ?? -1}`;
    if (
      !rows.includes(row) ||
      (seen.has(key) && rule.test !== 'same') ||
      (rule.test === 'same' && offers.length > 0 && seen.has(key))
    )
      continue;
    seen.add(key);
    offers.push({ rule, text: ruleText(rule), rows });
  }
  // A rule that takes in more than half of the table is no rule for anything but data.
  const sensible = offers.filter((offer) => offer.rows.length <= Math.max(1, table.rows / 2));
  return (sensible.length > 0 ? sensible : offers).slice(0, MAX_RULES);
}

/** Notes stand below the data and titles above it, in each sheet: told by a column that data fill and this row does not. */
function placeRules(table: Table, row: number, mark: Mark): Rule[] {
  if (mark !== 'note' && mark !== 'title') return [];
  const within = table.fields.find((field) => field.nameOrigin === 'beside')?.name;
  const data = table.fields.find((field) => {
    if (field.nameOrigin === 'beside' || !isBlank(field.column, row)) return false;
    const blanks = blankMask(field.column);
    return blanks.reduce((sum, blank) => sum + blank, 0) < table.rows / 2;
  });
  if (data === undefined) return [];
  const anchor: PlainRule = { test: 'filled', columns: only(data.name) };
  return [
    {
      test: mark === 'note' ? 'below-last' : 'above-first',
      row: anchor,
      ...(within === undefined ? {} : { within }),
    },
  ];
}

function textRules(column: string, text: string, mark: Mark): PlainRule[] {
  const trimmed = text.trim();
  const words = trimmed.split(/\s+/);
  const [first, last] = [words[0]!, words.at(-1)!];
  const telling = TELLING[mark];
  const rules: PlainRule[] = [];
  const starts: PlainRule = { test: 'starts', column, text: words.length > 1 ? `${first} ` : first };
  const ends: PlainRule = { test: 'ends', column, text: last };
  if (telling?.test(last)) rules.push(ends);
  if (telling?.test(first)) rules.push(starts);
  const equals: PlainRule = { test: 'equals', column, text: trimmed };
  if (mark === 'header' || mark === 'repeat') return [equals];
  if (words.length > 1 && /\p{L}/u.test(first) && !rules.includes(starts)) rules.push(starts);
  if (words.length > 1 && /\p{L}/u.test(last) && !rules.includes(ends)) rules.push(ends);
  rules.push(equals);
  return rules;
}

const PILE_OF: Partial<Record<Mark, string>> = {
  title: 'titles',
  total: 'totals',
  note: 'notes',
  repeat: 'repeats',
  blank: 'blanks',
  other: 'others',
};

/** The step that makes rows by this rule what they are marked as. */
export function stepOfMark(
  table: Table,
  row: number,
  mark: Mark,
  rule: Rule,
): { kind: string; params: Record<string, unknown> } {
  const within = table.fields.find((field) => field.nameOrigin === 'beside')?.name;
  const named = (column: string) => table.fields.find((field) => field.name === column);
  if (mark === 'header') {
    return {
      kind: 'header-from-rows',
      params: {
        rows: 1,
        at: rule,
        join: ' / ',
        fillAcross: true,
        above: true,
        repeats: true,
        ...(within === undefined ? {} : { within }),
      },
    };
  }
  if (mark === 'label') {
    const from =
      'column' in rule
        ? rule.column
        : table.fields.find((field) => field.nameOrigin !== 'beside' && !isBlank(field.column, row))?.name;
    const runs = within !== undefined && named(within) !== undefined ? { within } : {};
    return { kind: 'carry', params: { from: from ?? '', rule, into: 'Label', ...runs } };
  }
  return { kind: 'set-aside', params: { pile: PILE_OF[mark] ?? 'others', rules: [rule] } };
}

/** Rules that rows follow together, with all rows that follow them. */
export interface RulesOffer {
  rules: Rule[];
  text: string;
  rows: Int32Array;
}

/** Rows that are said to be just like these, at most. */
const MAX_SAME = 12;
/** Rows of a selection whose own rules are tried on all of them. */
const MAX_ASKED = 4;

/**
 * Rules that several rows follow together, the likeliest for their mark first: one that each of them follows, these and
 * all below them, or a few between them.
 *
 * @param rows of the table, ascending, one or more
 */
export function rulesOfRows(table: Table, rows: readonly number[], mark: Mark): RulesOffer[] {
  const one = (offer: RuleOffer): RulesOffer => ({ ...offer, rules: [offer.rule] });
  const [first, ...more] = rows;
  if (first === undefined) return [];
  if (more.length === 0 || mark === 'header') return rulesOfRow(table, first, mark).map(one);
  const takesAll = (offer: { rows: Int32Array }) => {
    const taken = new Set(offer.rows);
    return rows.every((row) => taken.has(row));
  };
  const common = rows
    .slice(0, MAX_ASKED)
    .flatMap((row) => rulesOfRow(table, row, mark))
    .filter((offer) => offer.rule.test !== 'same' && takesAll(offer))
    .map(one);
  const below = belowRules(table, rows).filter(takesAll);
  // A word that all of them say tells more than where they stand; notes are recognized by their place.
  const offers = mark === 'note' ? [...below, ...common] : [...common, ...below];
  const others = Array.from({ length: table.rows }, (_, r) => r).filter((r) => !rows.includes(r));
  const profile = profileTable(table);
  for (const rules of [chooseRules(profile, rows, others), chooseRules(profile, rows, [])])
    if (rules !== undefined) offers.push(offerOf(table, rules));
  if (rows.length <= MAX_SAME) {
    const own = table.fields.filter((field) => field.nameOrigin !== 'beside');
    const same = rows.map(
      (row): Rule => ({
        test: 'same',
        cells: Object.fromEntries(own.map((field) => [field.name, cellText(field.column, row)])),
      }),
    );
    offers.push({ ...offerOf(table, same), text: 'all cells are as in these rows' });
  }
  const seen = new Set<string>();
  return offers
    .filter((offer) => {
      const key = offer.rows.join();
      const isFirst = !seen.has(key) && takesAll(offer);
      seen.add(key);
      return isFirst && offer.rows.length <= Math.max(rows.length, table.rows / 2);
    })
    .slice(0, MAX_RULES);
}

function offerOf(table: Table, rules: Rule[]): RulesOffer {
  return { rules, text: rules.map(ruleText).join(', or '), rows: maskedRows(anyRuleMask(rules, table)) };
}

/** These and all below, in each sheet: where the rows reach to the end of theirs. */
function belowRules(table: Table, rows: readonly number[]): RulesOffer[] {
  const within = table.fields.find((field) => field.nameOrigin === 'beside')?.name;
  const starts = runStarts(table, within);
  const first = rows[0]!;
  const end = starts.find((start) => start > first) ?? table.rows;
  const start = starts.findLast((one) => one <= first) ?? 0;
  if (rows.length !== end - first || first === start) return [];
  const inEach = within === undefined ? {} : { within };
  // What tells the last row above them: what it says, or a column that it fills and none of these does.
  const anchors: PlainRule[] = [
    ...table.fields
      .filter((field) => field.nameOrigin !== 'beside' && rows.every((row) => isBlank(field.column, row)))
      .map((field): PlainRule => ({ test: 'filled', columns: only(field.name) })),
    ...rulesOfRow(table, first - 1, 'total').flatMap(({ rule }) => (isPlain(rule) && holdsOn(rule) ? [rule] : [])),
  ];
  const rules: Rule[] = anchors.map((row) => ({ test: 'below-last', row, ...inEach }));
  rules.push({ test: 'place', which: 'last', from: 1, count: rows.length, ...inEach });
  return rules
    .map((rule) => offerOf(table, [rule]))
    .filter((offer) => offer.rows.filter((row) => row >= start && row < end).length === rows.length)
    .map((offer) => ({ ...offer, text: `these and all below: ${offer.text}` }));
}

/** A figure is another one next month. */
function holdsOn(rule: PlainRule): boolean {
  return rule.test !== 'equals' || !/\d/.test(rule.text);
}

function isPlain(rule: Rule): rule is PlainRule {
  return !['above-first', 'below-last', 'right-above', 'between-rows', 'place', 'same'].includes(rule.test);
}

/** The steps that make several rows by these rules what they are marked as. */
export function stepsOfMarks(
  table: Table,
  rows: readonly number[],
  mark: Mark,
  rules: readonly Rule[],
): Pick<Offer, 'kind' | 'params'>[] {
  const [row] = rows;
  const step = stepOfMark(table, row!, mark, rules[0]!);
  if (mark === 'header') return [{ ...step, params: { ...step.params, rows: rows.length } }];
  // A label is carried by one rule; several are carried one after the other.
  if (mark === 'label') return rules.map((rule) => stepOfMark(table, row!, mark, rule));
  return [{ ...step, params: { ...step.params, rules: [...rules] } }];
}
