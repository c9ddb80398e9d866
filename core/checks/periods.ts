import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { blank, columnBlank } from '../kinds/sentence.ts';
import { groupRows } from '../rows/keys.ts';
import type { Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { civilFromDays } from '../values/civil.ts';
import { few, grouped } from '../values/counted.ts';
import { compilePattern, writeDate } from '../values/date-text.ts';
import { type CheckFound, type CheckKind, checkSchema, columnOf, MAX_ROWS } from './check-kind.ts';

const schema = checkSchema('periods', {
  key: z.array(columnName()),
  column: columnName().describe('Each key has every period that any key has'),
});

/** Names that columns of periods go by. */
const PERIODS = /^(?:month|quarter|year|period|date|week)$/i;

export const periods = {
  schema,
  toFillIn: { title: 'Each key has all its periods', start: (column) => ({ key: [], column }) },
  sentence: ({ key, column }) => [
    'each ',
    blank('key', key.join(', ') || 'table', { as: 'names', label: 'Key' }),
    ' has every ',
    columnBlank('column', column, 'Column of periods'),
  ],
  run: (table, { key, column }) => gaps(table, key, column),
  offers(table, context) {
    const column = table.fields.find((field) => PERIODS.test(field.name))?.name;
    const identifying = column === undefined ? undefined : context.identifying();
    if (column === undefined || !identifying?.includes(column)) return [];
    const key = identifying.filter((name) => name !== column);
    return gaps(table, key, column).ok ? [{ key, column }] : [];
  },
} satisfies CheckKind<z.infer<typeof schema>>;

/** Keys that lack a period which another key has; of dates by day, month or year also those that no key has. */
function gaps(table: Table, key: readonly string[], column: string): CheckFound {
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
    if (lacks.length === 0 || rows.length >= MAX_ROWS) return;
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
