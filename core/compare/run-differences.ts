import type { JobStep } from '../document/job.ts';
import type { MethodRun } from '../run/run.ts';
import { rowFates } from '../run/trace.ts';
import { countUnreadable } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { usedTexts } from '../values/cell-text.ts';
import { counted, few, grouped, plainFigure } from '../values/counted.ts';
import { columnChange, columnNames, headerStep, isAlike } from './column-change.ts';
import { compareSums } from './compare-tables.ts';
import { type Difference, type DifferenceCode, stopOf } from './fixes.ts';

const FEW_VALUES = 20;
const MAX_SUMS = 5;
/** A pile that takes so much more of the report than last time wants a look. */
const MORE_ASIDE = 0.1;

type Tell = (code: DifferenceCode, text: string) => void;

/** What differs between a method's run on one report and on the next, in words. */
export function runDifferences(before: MethodRun, after: MethodRun, steps: readonly JobStep[]): Difference[] {
  const found: Difference[] = [];
  const told: Tell = (code, text) => found.push({ code, severity: 'info', text });
  const look: Tell = (code, text) => found.push({ code, severity: 'warning', text });
  if (before.stop !== undefined) {
    told('nothing-to-compare', 'the method did not run to its end last time, so there is nothing to compare with');
    if (after.stop !== undefined)
      found.push({ code: 'stop', severity: 'stop', text: `step ${after.stop.index + 1} stops: ${after.stop.message}` });
    return found;
  }
  const [was, is] = [partNames(before), partNames(after)];
  const [goneParts, newParts] = [was.filter((name) => !is.includes(name)), is.filter((name) => !was.includes(name))];
  if (goneParts.length > 0 && was.length > 1 && is.length > 0) look('parts-gone', `gone: ${few(goneParts)}`);
  if (newParts.length > 0 && is.length > 1) look('parts-new', `new: ${few(newParts)}`);
  const stop = stopOf(before, after, steps);
  if (stop !== undefined) found.push(stop);
  columnDifferences(before, after, look);
  const [old, now] = [before.steps.at(-1), after.steps.at(-1)];
  if (old === undefined || now === undefined || after.stop !== undefined) return found;
  if (old.table.rows !== now.table.rows)
    found.push({
      code: 'rows',
      severity: farFrom(old.table.rows, now.table.rows) ? 'warning' : 'info',
      text: `${counted(now.table.rows, 'row')}, ${grouped(old.table.rows)} last time`,
    });
  pileDifferences(before, after, look);
  for (const { column, before: a, after: b } of compareSums(old.table, now.table).slice(0, MAX_SUMS))
    if (a !== b) told('sum', `${column} adds up to ${plainFigure(b)}, ${plainFigure(a)} last time`);
  valueDifferences(old.table, now.table, look);
  for (const field of now.table.fields) {
    const own = old.table.fields.find((one) => one.name === field.name);
    const [a, b] = [own === undefined ? 0 : countUnreadable(own.column), countUnreadable(field.column)];
    if (b > a)
      look('unreadable', `${field.name} has ${counted(b, 'unreadable cell')}, ${a === 0 ? 'none' : a} last time`);
  }
  before.steps.forEach((step, k) => {
    const at = after.steps.findIndex((one) => one.step.id === step.step.id);
    const next = after.steps[at];
    if (next === undefined || k === 0 || step.step.muted) return;
    const idle = (of: typeof step, input: Table) => of.table === input || of.notices.some((one) => one.idle);
    if (!idle(step, before.steps[k - 1]!.table) && idle(next, after.steps[at - 1]!.table))
      look('idle-step', `step ${k + 1} changed nothing this time`);
  });
  return found;
}

/** Twice as many or more, or half as many or fewer. */
function farFrom(before: number, after: number): boolean {
  return after * 2 <= before || before * 2 <= after;
}

/** Piles that take another share of the report than they did. */
function pileDifferences(before: MethodRun, after: MethodRun, look: Tell): void {
  const [was, is] = [before, after].map(pileRows) as [Map<string, number>, Map<string, number>];
  const [all, now] = [before, after].map((run) => run.steps[0]?.table.rows ?? 0) as [number, number];
  for (const [pile, rows] of is) {
    const old = was.get(pile) ?? 0;
    const [share, last] = [rows / Math.max(1, now), old / Math.max(1, all)];
    if (share > 2 * last && share - last > MORE_ASIDE)
      look('pile', `${counted(rows, 'row')} on the pile ${pile}, ${grouped(old)} last time`);
  }
}

/** Rows of the report on each pile. */
function pileRows(run: MethodRun): Map<string, number> {
  const found = new Map<string, number>();
  const received = run.steps[0]?.table.rows ?? 0;
  if (received === 0) return found;
  const fates = rowFates(run, run.steps.length - 1);
  for (let r = 0; r < received; r++) {
    const { pile } = fates.at(r);
    if (pile !== undefined) found.set(pile, (found.get(pile) ?? 0) + 1);
  }
  return found;
}

function partNames(run: MethodRun): string[] {
  return run.steps[0]?.reading?.report.parts.map((part) => part.name) ?? [];
}

/** Columns after the header was found: gone, new, renamed, moved. */
function columnDifferences(before: MethodRun, after: MethodRun, look: Tell): void {
  const at = headerStep(before);
  const [was, is] = [columnNames(before, at), columnNames(after, at)];
  if (was === undefined || is === undefined) return;
  const join = String(before.steps[at]!.step.params['join'] ?? ' / ');
  if (before.steps[at]!.step.kind === 'header-from-rows' && was.some((name) => name.includes(join)))
    tierDifferences(was, is, join, look);
  else nameDifferences(was, is, look);
}

function nameDifferences(was: readonly string[], is: readonly string[], look: Tell): void {
  const change = columnChange(was, is);
  const { gone, fresh, renamed, moved } = change;
  for (const name of gone) {
    const other = renamed.get(name);
    if (other === undefined) look('column-gone', `the column ${name} is gone`);
    else if (isAlike(name, other)) look('column-gone', `the column ${name} is gone; ${other} is new and most alike`);
    else look('column-gone', `the column ${name} is gone; ${other} is new in its place`);
  }
  const others = fresh.filter((name) => ![...renamed.values()].includes(name));
  if (others.length > 0) look('columns-new', `new ${others.length === 1 ? 'column' : 'columns'}: ${few(others, 6)}`);
  if (moved) look('columns-moved', 'columns stand in another order');
}

/** A header of several tiers is recognized by its pieces: other months are three words, not twelve columns. */
function tierDifferences(was: readonly string[], is: readonly string[], join: string, look: Tell): void {
  const pieces = (names: readonly string[]) => new Set(names.flatMap((name) => name.split(join)));
  const { renamed, moved } = columnChange([...pieces(was)], [...pieces(is)]);
  const [old, now] = [pieces(was), pieces(is)];
  const gone = [...old].filter((piece) => !now.has(piece));
  const fresh = [...now].filter((piece) => !old.has(piece));
  const [only] = renamed;
  if (gone.length === 1 && fresh.length === 1 && only !== undefined) {
    look('header', `${only[0]} is gone from the header; ${only[1]} is new in it`);
  } else {
    if (gone.length > 0) look('header', `gone from the header: ${few(gone, 6)}`);
    if (fresh.length > 0) look('header', `new in the header: ${few(fresh, 6)}`);
  }
  if (moved) look('columns-moved', 'columns stand in another order');
}

/** Values that are new, or gone, in columns that hold few. */
function valueDifferences(before: Table, after: Table, look: Tell): void {
  for (const field of after.fields) {
    const own = before.fields.find((one) => one.name === field.name);
    if (own === undefined || own.column.type !== 'text' || field.column.type !== 'text') continue;
    const [was, is] = [usedTexts(own.column), usedTexts(field.column)];
    if (was.size > FEW_VALUES) continue;
    const [fresh, gone] = [[...is].filter((one) => !was.has(one)), [...was].filter((one) => !is.has(one))];
    if (fresh.length > 0) look('values-new', `new in ${field.name}: ${few(fresh)}`);
    if (gone.length > 0) look('values-gone', `no longer in ${field.name}: ${few(gone)}`);
  }
}
