import { counted, few } from '../steps/step.ts';
import { countUnreadable } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';
import { nameLikeness } from '../values/likeness.ts';
import { numberText } from '../values/number-text.ts';
import { compareSums } from './compare-tables.ts';
import type { JobStep } from './job.ts';
import type { MethodRun } from './run.ts';

/** Something that is otherwise with the next report. */
export interface Difference {
  /** told: for the record. look: wants a look. stop: the method stops. */
  tone: 'told' | 'look' | 'stop';
  text: string;
  /** What would mend it: the step at this index with other params. */
  mend?: { label: string; step: number; params: Record<string, unknown> };
}

const FEW_VALUES = 20;
const MOST_SUMS = 5;
const ALIKE = 0.5;

/** What differs between a method's run on one report and on the next, in words. */
export function runDifferences(before: MethodRun, after: MethodRun, steps: readonly JobStep[]): Difference[] {
  const found: Difference[] = [];
  const told = (text: string) => found.push({ tone: 'told', text });
  const look = (text: string) => found.push({ tone: 'look', text });
  const [was, is] = [partNames(before), partNames(after)];
  const [goneParts, newParts] = [was.filter((name) => !is.includes(name)), is.filter((name) => !was.includes(name))];
  if (goneParts.length > 0 && was.length > 1) look(`gone: ${few(goneParts)}`);
  if (newParts.length > 0 && is.length > 1) look(`new: ${few(newParts)}`);
  if (before.stop === undefined && after.stop !== undefined) found.push(stopOf(after, steps));
  columnDifferences(before, after, look);
  const [old, now] = [before.steps.at(-1), after.steps.at(-1)];
  if (old === undefined || now === undefined || after.stop !== undefined || before.stop !== undefined) return found;
  if (old.table.rows !== now.table.rows)
    told(`${counted(now.table.rows, 'row')}, ${old.table.rows.toLocaleString('en-GB')} last time`);
  for (const { column, before: a, after: b } of compareSums(old.table, now.table).slice(0, MOST_SUMS))
    if (a !== b) told(`${column} adds up to ${numberText(b)}, ${numberText(a)} last time`);
  valueDifferences(old.table, now.table, look);
  for (const field of now.table.fields) {
    const own = old.table.fields.find((one) => one.name === field.name);
    const [a, b] = [own === undefined ? 0 : countUnreadable(own.column), countUnreadable(field.column)];
    if (b > a) look(`${field.name} has ${counted(b, 'unreadable cell')}, ${a === 0 ? 'none' : a} last time`);
  }
  before.steps.forEach((step, k) => {
    const next = after.steps[k];
    if (next === undefined || k === 0 || step.step.muted) return;
    const idle = (of: typeof step, input: Table) =>
      of.table === input || of.notices.some((one) => /^no /.test(one.text));
    if (!idle(step, before.steps[k - 1]!.table) && idle(next, after.steps[k - 1]!.table))
      look(`step ${k + 1} changed nothing this time`);
  });
  return found;
}

function partNames(run: MethodRun): string[] {
  return run.steps[0]?.reading?.report.parts.map((part) => part.name) ?? [];
}

/** Columns after the header was found: gone, new, renamed, moved. */
function columnDifferences(before: MethodRun, after: MethodRun, look: (text: string) => void): void {
  const at = before.steps.findIndex((step) => step.table.fields.some((field) => field.standing === 'named'));
  if (at < 0 || after.steps[at] === undefined) return;
  const names = (run: MethodRun) => run.steps[at]!.table.fields.map((field) => field.name);
  const [was, is] = [names(before), names(after)];
  const gone = was.filter((name) => !is.includes(name));
  const fresh = is.filter((name) => !was.includes(name));
  const renamed = new Set<string>();
  for (const name of gone) {
    const alike = fresh
      .filter((one) => !renamed.has(one))
      .map((one) => ({ one, score: nameLikeness(name, one) }))
      .sort((a, b) => b.score - a.score)[0];
    if (alike !== undefined && alike.score > ALIKE) {
      renamed.add(alike.one);
      look(`the column ${name} is gone; ${alike.one} is new and most alike`);
    } else look(`the column ${name} is gone`);
  }
  const others = fresh.filter((name) => !renamed.has(name));
  if (others.length > 0) look(`new ${others.length === 1 ? 'column' : 'columns'}: ${few(others, 6)}`);
  const stayed = was.filter((name) => is.includes(name));
  if (stayed.join('\n') !== is.filter((name) => was.includes(name)).join('\n')) look('columns stand in another order');
}

/** Values that are new, or gone, in columns that hold few. */
function valueDifferences(before: Table, after: Table, look: (text: string) => void): void {
  for (const field of after.fields) {
    const own = before.fields.find((one) => one.name === field.name);
    if (own === undefined || own.column.type !== 'text' || field.column.type !== 'text') continue;
    const [was, is] = [valuesOf(own.column), valuesOf(field.column)];
    if (was.size > FEW_VALUES) continue;
    const [fresh, gone] = [[...is].filter((one) => !was.has(one)), [...was].filter((one) => !is.has(one))];
    if (fresh.length > 0) look(`new in ${field.name}: ${few(fresh)}`);
    if (gone.length > 0) look(`no longer in ${field.name}: ${few(gone)}`);
  }
}

function valuesOf(column: Table['fields'][number]['column']): Set<string> {
  const { codes, texts } = textView(column);
  const found = new Set<string>();
  for (const code of codes) if (code >= 0) found.add(texts[code]!);
  return found;
}

/** Why the method stops now; a column that is gone is mended by the one most alike. */
function stopOf(run: MethodRun, steps: readonly JobStep[]): Difference {
  const { index, message, column, alike } = run.stop!;
  const text = `step ${index + 1} stops: ${message}`;
  const step = steps[index];
  if (column === undefined || alike === undefined || step === undefined) return { tone: 'stop', text };
  const params = renamedIn(step.params, column, alike) as Record<string, unknown>;
  return {
    tone: 'stop',
    text,
    mend: { label: `use ${alike} for ${column} in step ${index + 1}`, step: index, params },
  };
}

/** The params with a column's name put in place of another, on its own or quoted in an expression. */
function renamedIn(value: unknown, from: string, to: string): unknown {
  if (value === from) return to;
  if (typeof value === 'string') return value.replaceAll(`"${from}"`, `"${to}"`);
  if (Array.isArray(value)) return value.map((one) => renamedIn(one, from, to));
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, renamedIn(one, from, to)]));
  return value;
}
