/** Rules that a table must meet each time its method runs. */

import { z } from 'zod';
import { compilePattern as compileRegExp } from '../steps/column-set.ts';
import { blank, choiceBlank, columnBlank, type Phrase } from '../steps/sentence.ts';
import { blankMask, type Column } from '../table/column.ts';
import { identifyingColumns } from '../table/identifying.ts';
import { groupRows } from '../table/keys.ts';
import type { Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { civilFromDays } from '../values/civil.ts';
import { counted, few, grouped, plainFigure } from '../values/counted.ts';
import { compilePattern, writeDate } from '../values/date-text.ts';
import { Sum } from '../values/decimal.ts';
import { numbersOf } from './numbers.ts';

const Level = z.enum(['warn', 'stop']).default('warn').describe('stop: nothing is exported while it fails');

export const Check = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('key'), id: z.string(), level: Level, columns: z.array(z.string()).min(1) }),
  z.object({ kind: z.literal('filled'), id: z.string(), level: Level, column: z.string() }),
  z.object({
    kind: z.literal('one-of'),
    id: z.string(),
    level: Level,
    column: z.string(),
    values: z.array(z.string()),
  }),
  z.object({
    kind: z.literal('matches'),
    id: z.string(),
    level: Level,
    column: z.string(),
    pattern: z.string().describe('ECMAScript regular expression for the whole text'),
  }),
  z.object({
    kind: z.literal('between'),
    id: z.string(),
    level: Level,
    column: z.string(),
    least: z.number().nullable(),
    most: z.number().nullable(),
  }),
  z.object({
    kind: z.literal('measure'),
    id: z.string(),
    level: Level,
    column: z.string(),
    by: z.enum(['sum', 'count', 'mean']).default('sum'),
    equals: z.number(),
    within: z.number().nonnegative().default(0).describe('By how much it may miss'),
  }),
  z.object({
    kind: z.literal('rows'),
    id: z.string(),
    level: Level,
    least: z.number().int().nonnegative().nullable(),
    most: z.number().int().nonnegative().nullable(),
  }),
  z.object({
    kind: z.literal('periods'),
    id: z.string(),
    level: Level,
    key: z.array(z.string()),
    column: z.string().describe('Each key has every period that any key has'),
  }),
  z.object({ kind: z.literal('totals'), id: z.string(), level: Level }),
  z.object({
    kind: z.literal('last-run'),
    id: z.string(),
    level: Level,
    share: z.number().positive().default(0.2).describe('By how large a share the rows may differ from the last run'),
  }),
]);
export type Check = z.infer<typeof Check>;

/** What is known beside the table. */
export interface CheckContext {
  totals: { agrees: number; disagrees: number; cannotTell: number; leftOut: number };
  /** Rows of the last run; undefined for the first. */
  lastRows?: number;
}

export interface CheckResult {
  id: string;
  ok: boolean;
  level: 'warn' | 'stop';
  /** The check as a sentence. */
  text: string;
  /** What was found: 108 of 108 different. */
  found: string;
  /** Rows that fail, the first of them, and the column they fail in. */
  rows: readonly number[];
  column?: string;
}

const MOST_ROWS = 2000;

export function runChecks(table: Table, checks: readonly Check[], context: CheckContext): CheckResult[] {
  return checks.map((check) => {
    const text = checkText(check);
    const named = 'column' in check ? [check.column] : check.kind === 'key' ? check.columns : [];
    const missing = [...named, ...(check.kind === 'periods' ? check.key : [])].filter((name) =>
      table.fields.every((field) => field.name !== name),
    );
    const base = { id: check.id, level: check.level, text };
    if (missing.length > 0) return { ...base, ok: false, found: `there is no column ${missing.join(', ')}`, rows: [] };
    return { ...base, ...runCheck(table, check, context) };
  });
}

type Found = Pick<CheckResult, 'ok' | 'found' | 'rows' | 'column'>;

function columnOf(table: Table, name: string): Column {
  return table.fields.find((field) => field.name === name)!.column;
}

/** Rows in which a column fails a test; what does not concern the test passes. */
function failing(table: Table, name: string, fails: (row: number) => boolean, what: string): Found {
  const rows: number[] = [];
  let count = 0;
  for (let r = 0; r < table.rows; r++) {
    if (!fails(r)) continue;
    count++;
    if (rows.length < MOST_ROWS) rows.push(r);
  }
  return {
    ok: count === 0,
    found: `${grouped(count)} of ${grouped(table.rows)} ${what}`,
    rows,
    column: name,
  };
}

function runCheck(table: Table, check: Check, context: CheckContext): Found {
  switch (check.kind) {
    case 'key': {
      const groups = groupRows(
        check.columns.map((name) => columnOf(table, name)),
        table.rows,
      );
      const rows: number[] = [];
      groups.of.forEach((group, r) => {
        if (groups.first[group] !== r && rows.length < MOST_ROWS) rows.push(r);
      });
      return {
        ok: groups.count === table.rows,
        found: `${grouped(groups.count)} of ${grouped(table.rows)} different`,
        rows,
        column: check.columns[0],
      };
    }
    case 'filled': {
      const blanks = blankMask(columnOf(table, check.column));
      return failing(table, check.column, (r) => blanks[r] === 1, 'blank');
    }
    case 'one-of': {
      const { codes, texts } = textView(columnOf(table, check.column));
      const known = new Set(check.values);
      const bad = texts.map((text) => !known.has(text));
      const found = failing(table, check.column, (r) => codes[r]! >= 0 && bad[codes[r]!]!, 'other');
      const others = [...new Set(found.rows.map((r) => texts[codes[r]!]!))];
      return { ...found, found: found.ok ? `${check.values.length} values` : `${found.found}: ${few(others)}` };
    }
    case 'matches': {
      const { codes, texts } = textView(columnOf(table, check.column));
      const pattern = compileRegExp(`^(?:${check.pattern})$`);
      const bad = texts.map((text) => !pattern.test(text));
      return failing(table, check.column, (r) => codes[r]! >= 0 && bad[codes[r]!]!, 'otherwise');
    }
    case 'between': {
      const values = numbersOf(columnOf(table, check.column));
      if (values === undefined)
        return { ok: false, found: 'the column holds no numbers', rows: [], column: check.column };
      const [least, most] = [check.least ?? Number.NEGATIVE_INFINITY, check.most ?? Number.POSITIVE_INFINITY];
      return failing(table, check.column, (r) => values[r]! < least || values[r]! > most, 'outside');
    }
    case 'measure': {
      const values = numbersOf(columnOf(table, check.column)) ?? new Float64Array();
      const sum = new Sum();
      let count = 0;
      for (const value of values) {
        if (Number.isNaN(value)) continue;
        sum.add(value);
        count++;
      }
      const is = check.by === 'sum' ? sum.value : check.by === 'count' ? count : sum.mean(count);
      const noise = 1e-9 * Math.max(1, Math.abs(is));
      return {
        ok: Math.abs(is - check.equals) <= check.within + noise,
        found: `${check.by} is ${plainFigure(is)}`,
        rows: [],
        column: check.column,
      };
    }
    case 'rows': {
      const ok = table.rows >= (check.least ?? 0) && table.rows <= (check.most ?? Number.POSITIVE_INFINITY);
      return { ok, found: counted(table.rows, 'row'), rows: [] };
    }
    case 'periods':
      return gaps(table, check.key, check.column);
    case 'totals': {
      const { agrees, disagrees, cannotTell, leftOut } = context.totals;
      return {
        ok: disagrees === 0,
        found: `${grouped(agrees)} of ${grouped(agrees + disagrees + cannotTell + leftOut)} agree`,
        rows: [],
      };
    }
    case 'last-run': {
      if (context.lastRows === undefined) return { ok: true, found: 'there is no last run yet', rows: [] };
      const share =
        context.lastRows === 0
          ? table.rows === 0
            ? 0
            : 1
          : Math.abs(table.rows - context.lastRows) / context.lastRows;
      return {
        ok: share <= check.share,
        found: `${counted(table.rows, 'row')}, ${grouped(context.lastRows)} last time`,
        rows: [],
      };
    }
  }
}

/** Keys that lack a period which another key has; of dates by day, month or year also those that no key has. */
function gaps(table: Table, key: readonly string[], column: string): Found {
  const groups = groupRows(
    key.map((name) => columnOf(table, name)),
    table.rows,
  );
  const own = columnOf(table, column);
  const { codes, texts } = textView(own);
  const wanted = new Set<string>();
  for (const code of codes) if (code >= 0) wanted.add(texts[code]!);
  if (own.type === 'date') for (const text of missingDates(own.values)) wanted.add(text);
  const has = Array.from({ length: groups.count }, () => new Set<string>());
  groups.of.forEach((group, r) => {
    if (codes[r]! >= 0) has[group]!.add(texts[codes[r]!]!);
  });
  const rows: number[] = [];
  const examples: string[] = [];
  let missing = 0;
  has.forEach((set, group) => {
    const lacks = [...wanted].filter((one) => !set.has(one));
    missing += lacks.length;
    if (lacks.length === 0 || rows.length >= MOST_ROWS) return;
    const row = groups.first[group]!;
    rows.push(row);
    const name = key.map((one) => cellText(columnOf(table, one), row) ?? 'blank').join(' · ');
    examples.push(`${name === '' ? 'the table' : name} lacks ${few(lacks)}`);
  });
  return {
    ok: missing === 0,
    found: missing === 0 ? `${wanted.size} periods each` : `${grouped(missing)} missing: ${few(examples)}`,
    rows,
    column,
  };
}

const ISO = compilePattern('yyyy-MM-dd');

/** Dates that a regular run of days, months or years would have, and this one has not. */
function missingDates(values: Float64Array): string[] {
  const days = [...new Set([...values].filter((value) => !Number.isNaN(value)))].sort((a, b) => a - b);
  if (days.length < 3) return [];
  const steps = days.slice(1).map((day, k) => day - days[k]!);
  const least = Math.min(...steps);
  const civil = days.map((day) => civilFromDays(day));
  const found: string[] = [];
  if (least >= 28 && least <= 31 && civil.every(([, , day]) => day === civil[0]![2])) {
    const months = new Set(civil.map(([year, month]) => year * 12 + month));
    for (let m = Math.min(...months); m <= Math.max(...months); m++) {
      if (months.has(m)) continue;
      const [year, month] = [Math.floor((m - 1) / 12), ((m - 1) % 12) + 1];
      found.push(`${year}-${String(month).padStart(2, '0')}-${String(civil[0]![2]).padStart(2, '0')}`);
    }
  } else if (steps.every((step) => step % least === 0) && (days.at(-1)! - days[0]!) / least < days.length * 2) {
    const known = new Set(days);
    for (let day = days[0]!; day < days.at(-1)!; day += least)
      if (!known.has(day)) found.push(writeDate(day, ISO, civilFromDays));
  }
  return found;
}

/** The check in words. */
export function checkText(check: Check): string {
  return checkSentence(check)
    .map((phrase) => (typeof phrase === 'string' ? phrase : phrase.text))
    .join('');
}

const number = (value: number | null) => (value === null ? 'anything' : grouped(value, 10));

export function checkSentence(check: Check): Phrase[] {
  switch (check.kind) {
    case 'key':
      return [
        blank('columns', check.columns.join(', '), { as: 'names', label: 'Columns that identify a row' }),
        check.columns.length === 1 ? ' identifies each row' : ' identify each row',
      ];
    case 'filled':
      return [columnBlank('column', check.column, 'Column'), ' is never blank'];
    case 'one-of':
      return [
        columnBlank('column', check.column, 'Column'),
        ' is one of ',
        blank('values', few(check.values, 6), { as: 'lines', label: 'Values, one a line' }),
      ];
    case 'matches':
      return [
        columnBlank('column', check.column, 'Column'),
        ' matches ',
        blank('pattern', check.pattern, { as: 'text', label: 'Pattern' }),
      ];
    case 'between':
      return [
        columnBlank('column', check.column, 'Column'),
        ' is between ',
        blank('least', number(check.least), { as: 'figure', label: 'Least', optional: true }),
        ' and ',
        blank('most', number(check.most), { as: 'figure', label: 'Most', optional: true }),
      ];
    case 'measure':
      return [
        'the ',
        choiceBlank('by', check.by, 'Measure', [
          ['sum', 'sum'],
          ['count', 'count'],
          ['mean', 'mean'],
        ]),
        ' of ',
        columnBlank('column', check.column, 'Column'),
        ' is ',
        blank('equals', number(check.equals), { as: 'figure', label: 'Figure' }),
      ];
    case 'rows':
      return [
        'there are between ',
        blank('least', number(check.least), { as: 'figure', label: 'Least', optional: true }),
        ' and ',
        blank('most', number(check.most), { as: 'figure', label: 'Most', optional: true }),
        ' rows',
      ];
    case 'periods':
      return [
        'each ',
        blank('key', check.key.join(', ') || 'table', { as: 'names', label: 'Key' }),
        ' has every ',
        columnBlank('column', check.column, 'Column of periods'),
      ];
    case 'totals':
      return ["the report's totals agree"];
    case 'last-run':
      return [
        'rows differ from the last run by no more than ',
        choiceBlank('share', check.share, 'Share', [
          [0.05, '5 %'],
          [0.1, '10 %'],
          [0.2, '20 %'],
          [0.5, '50 %'],
        ]),
      ];
  }
}

type Bare = Check extends infer C ? (C extends Check ? Omit<C, 'id'> : never) : never;

const FEW_VALUES = 12;

/** Checks that hold now and would be worth keeping. */
export function offeredChecks(
  table: Table,
  context: CheckContext,
  known: readonly Check[],
): { check: Bare; text: string }[] {
  const found: Bare[] = [];
  const { agrees, disagrees } = context.totals;
  if (agrees + disagrees > 0) found.push({ kind: 'totals', level: 'warn' });
  const key = identifyingColumns(table);
  if (key !== undefined) found.push({ kind: 'key', level: 'warn', columns: key });
  for (const field of table.fields) {
    const { column, name } = field;
    const blanks = blankMask(column);
    if (table.rows > 0 && !blanks.includes(1)) found.push({ kind: 'filled', level: 'warn', column: name });
    if (column.type === 'text') {
      const { codes, texts } = textView(column);
      const used = new Set<string>();
      for (const code of codes) if (code >= 0) used.add(texts[code]!);
      if (used.size > 0 && used.size <= FEW_VALUES && table.rows > used.size * 2)
        found.push({ kind: 'one-of', level: 'warn', column: name, values: [...used] });
      const shape = used.size > FEW_VALUES ? commonShape([...used]) : undefined;
      if (shape !== undefined) found.push({ kind: 'matches', level: 'warn', column: name, pattern: shape });
    }
    const values = numbersOf(column);
    if (values !== undefined) {
      let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (const value of values) {
        if (value < least) least = value;
        if (value > most) most = value;
      }
      if (least >= 0 && least <= most)
        found.push({ kind: 'between', level: 'warn', column: name, least: 0, most: null });
    }
  }
  const periods = table.fields.find((field) => /^(?:month|quarter|year|period|date|week)$/i.test(field.name));
  if (periods !== undefined && key?.includes(periods.name)) {
    const others = key.filter((name) => name !== periods.name);
    const check: Bare = { kind: 'periods', level: 'warn', key: others, column: periods.name };
    if (gaps(table, others, periods.name).ok) found.push(check);
  }
  found.push({ kind: 'last-run', level: 'warn', share: 0.2 });
  const texts = new Set(known.map(checkText));
  return found
    .map((check) => ({ check, text: checkText({ ...check, id: '' } as Check) }))
    .filter((one) => !texts.has(one.text));
}

/** The shape that all texts share as a pattern: letters and digits in the same places. */
function commonShape(texts: readonly string[]): string | undefined {
  if (texts.length < 5) return undefined;
  const shape = (text: string) =>
    text
      .replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&')
      .replace(/\p{Lu}/gu, '\u0001')
      .replace(/\d/g, '\u0002');
  const first = shape(texts[0]!);
  if (!first.includes('\u0002') || texts.some((text) => shape(text) !== first)) return undefined;
  const runs = (mark: string, pattern: string) => (text: string) =>
    text.replace(new RegExp(`${mark}+`, 'g'), (run) => (run.length === 1 ? pattern : `${pattern}{${run.length}}`));
  return runs('\u0002', '\\d')(runs('\u0001', '\\p{Lu}')(first));
}
