/** What takes a method on where it stops on the next report. */

import type { JobStep } from '../document/job.ts';
import { mapMarked } from '../kinds/param-marks.ts';
import type { MethodRun } from '../run/run.ts';
import { rename } from '../steps/header/rename.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { columnChange, columnNames } from './column-change.ts';

/** What kind of thing is otherwise with the next report. */
export type DifferenceCode =
  | 'nothing-to-compare'
  | 'stop'
  | 'idle-step'
  | 'parts-gone'
  | 'parts-new'
  | 'header'
  | 'column-gone'
  | 'columns-new'
  | 'columns-moved'
  | 'rows'
  | 'pile'
  | 'sum'
  | 'totals'
  | 'unreadable'
  | 'values-new'
  | 'values-gone';

/** Something that is otherwise with the next report. */
export interface Difference {
  code: DifferenceCode;
  /** told: for the record. look: wants a look. stop: the method stops. */
  severity: 'info' | 'warning' | 'stop';
  /** What the code says of this report, for whoever reads it. */
  text: string;
  fix?: Fix;
}

/** The step at an index with other params, or another step in front of it. */
export interface Fix {
  label: string;
  step: number;
  params?: Record<string, unknown>;
  insert?: Omit<JobStep, 'id'>;
}

/** Steps with fixes made, each of which was found with those before it made. */
export function fixedSteps(steps: readonly JobStep[], fixes: readonly Fix[]): JobStep[] {
  const out = [...steps];
  for (const { step, params, insert } of fixes) {
    if (params !== undefined) out[step] = { ...out[step]!, params };
    if (insert !== undefined) out.splice(step, 0, { ...insert, id: crypto.randomUUID().slice(0, 8) });
  }
  return out;
}

/** Rows among which a header that moved is searched for, and the share of its names that such a row must hold. */
const FIRST_ROWS = 60;
const MIN_OF_NAMES = 0.5;

/** Why the method stops now and did not before, with what would fix it. */
export function stopOf(before: MethodRun, after: MethodRun, steps: readonly JobStep[]): Difference | undefined {
  if (before.stop !== undefined || after.stop === undefined) return undefined;
  const { index, message } = after.stop;
  const fix = headerFix(before, after, steps) ?? columnFix(before, after, steps);
  return {
    code: 'stop',
    severity: 'stop',
    text: `step ${index + 1} stops: ${message}`,
    ...(fix === undefined ? {} : { fix }),
  };
}

/** A column that is gone is the one that it likely became, called as it was: so the table keeps its columns. */
function columnFix(before: MethodRun, after: MethodRun, steps: readonly JobStep[]): Fix | undefined {
  const { index, column, alike } = after.stop!;
  const step = steps[index];
  if (column === undefined || step === undefined) return undefined;
  const [was, is] = [columnNames(before, index - 1), columnNames(after, index - 1)];
  const likely = was === undefined || is === undefined ? undefined : columnChange(was, is).renamed.get(column);
  const other = likely ?? alike;
  if (other === undefined) return undefined;
  if (step.kind === rename.kind) {
    const params = mapMarked(rename.params, step.params, (stands, text) =>
      stands === 'column' && text === column ? other : text,
    ) as Record<string, unknown>;
    return { label: `use ${other} for ${column} in step ${index + 1}`, step: index, params };
  }
  return {
    label: `rename ${other} to ${column} before step ${index + 1}`,
    step: index,
    insert: { kind: 'rename', params: { names: [{ from: other, to: column }] } },
  };
}

/** A header that stands elsewhere, or whose first name reads otherwise, is found by the rest of its names. */
function headerFix(before: MethodRun, after: MethodRun, steps: readonly JobStep[]): Fix | undefined {
  const at = steps.findIndex((step) => step.kind === 'header-from-rows' && step.muted !== true);
  const step = steps[at];
  const input = after.steps[at - 1]?.table;
  const names = columnNames(before, at);
  if (step === undefined || input === undefined || names === undefined) return undefined;
  const join = typeof step.params['join'] === 'string' ? step.params['join'] : ' / ';
  const pieces = new Set(names.flatMap((name) => name.split(join)));
  const found = columnNames(after, at)?.filter((name) => name.split(join).some((piece) => pieces.has(piece))) ?? [];
  if (found.length >= names.length * MIN_OF_NAMES) return undefined;
  const row = rowOfNames(input, pieces);
  if (row === undefined) return undefined;
  const watched = (step.params['at'] as { column?: string } | null | undefined)?.column;
  const field =
    input.fields.find((one) => one.name === watched && cellText(one.column, row) !== null) ??
    input.fields.find((one) => one.nameOrigin !== 'beside' && cellText(one.column, row) !== null);
  if (field === undefined) return undefined;
  const text = cellText(field.column, row)!;
  // What it was known by stays: the report after the next may be as the last one was.
  const texts = watched === field.name ? textsOfRule(step.params['at']) : [];
  if (texts.includes(text)) return undefined;
  const rule =
    texts.length === 0
      ? { test: 'equals', column: field.name, text }
      : { test: 'one-of', column: field.name, texts: [...texts, text] };
  return {
    label: `take the header where ${field.name} is ${[...texts, text].join(' or ')} in step ${at + 1}`,
    step: at,
    params: { ...step.params, at: rule },
  };
}

/** The texts by which a rule of the plainest kinds knows a cell. */
function textsOfRule(rule: unknown): string[] {
  const { test, text, texts } = rule as { test?: string; text?: string; texts?: string[] };
  if (test === 'equals' && text !== undefined) return [text];
  return test === 'one-of' && texts !== undefined ? texts : [];
}

/** The first row most of whose cells are among the names: the upper one where a header has several. */
function rowOfNames(table: Table, names: ReadonlySet<string>): number | undefined {
  const fields = table.fields.filter((field) => field.nameOrigin !== 'beside');
  for (let row = 0; row < Math.min(FIRST_ROWS, table.rows); row++) {
    const texts = fields.flatMap((field) => cellText(field.column, row) ?? []);
    const known = texts.filter((text) => names.has(text)).length;
    if (known > 1 && known > texts.length * MIN_OF_NAMES) return row;
  }
  return undefined;
}
