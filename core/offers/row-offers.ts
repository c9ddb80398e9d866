import type { Mark } from '../kinds/step.ts';
import { anyRuleMask, type PlainRule, type Rule, ruleText } from '../rules/rules.ts';
import { blankMask, isBlank } from '../table/column.ts';
import { maskedRows } from '../table/gather.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { only } from './offer.ts';

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
const MOST_RULES = 8;

/**
 * Rules that a row follows, the likeliest for its mark first; the last is the row and those that read just like it.
 *
 * @param row of the table
 */
export function rulesOfRow(table: Table, row: number, mark: Mark): RuleOffer[] {
  const own = table.fields.filter((field) => field.standing !== 'beside');
  const filled = own.filter((field) => !isBlank(field.column, row));
  const place = placeRules(table, row, mark);
  const rules: Rule[] = mark === 'note' ? [...place] : [];
  if (filled.length === 0) rules.push({ test: 'empty' });
  if (mark === 'repeat') rules.push({ test: 'header' });
  // Few cells make a row what it is; a row as wide as data is told by what stands in it.
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
  return (sensible.length > 0 ? sensible : offers).slice(0, MOST_RULES);
}

/** Notes stand below the data and titles above it, in each sheet: told by a column that data fill and this row does not. */
function placeRules(table: Table, row: number, mark: Mark): Rule[] {
  if (mark !== 'note' && mark !== 'title') return [];
  const within = table.fields.find((field) => field.standing === 'beside')?.name;
  const data = table.fields.find((field) => {
    if (field.standing === 'beside' || !isBlank(field.column, row)) return false;
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
  const within = table.fields.find((field) => field.standing === 'beside')?.name;
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
        : table.fields.find((field) => field.standing !== 'beside' && !isBlank(field.column, row))?.name;
    const runs = within !== undefined && named(within) !== undefined ? { within } : {};
    return { kind: 'carry', params: { from: from ?? '', rule, into: 'Label', ...runs } };
  }
  return { kind: 'set-aside', params: { pile: PILE_OF[mark] ?? 'others', rules: [rule] } };
}
