/** The steps from a tidy table to a finished one: rows, groups, and other shapes, each tried and compared. */

import { chooseRules } from '../../findings/choose-rule.ts';
import type { Proposal } from '../../findings/finding.ts';
import { profileTable } from '../../glance/table-profile.ts';
import type { Table } from '../../table/table.ts';
import { columnSteps, type Likeness, likenessTo } from '../like.ts';
import { type Goal, goalOf, numbersOf, plainAt, plainColumn } from './goal.ts';
import { areNamesAlike, holding, pairRows, rowsByKey } from './pair-rows.ts';
import { solveGroups } from './solve-groups.ts';
import { type Solution, solveRows } from './solve-rows.ts';
import { type Ambiguity, after, freeName, type OtherTable, type State } from './state.ts';

/** Cells that are measured in groups before a search gives up, some seconds of work. */
const MAX_MEASURED = 15_000_000;

/** What a search came to. */
export interface Reached {
  steps: readonly Proposal[];
  table: Table;
  likeness: Likeness;
  ambiguities: readonly Ambiguity[];
}

/**
 * Steps after which a table is the wanted one, or holds its rows.
 *
 * @param partial only some rows of the wanted table are given
 * @returns the nearest that was found, with no steps where nothing was
 */
export function stepsTowardGoal(table: Table, wanted: Table, partial: boolean, others: readonly OtherTable[]): Reached {
  const goal = goalOf(wanted, !partial);
  const start: State = { table, steps: [], others, budget: { left: MAX_MEASURED }, ambiguities: [] };
  let best: Reached | undefined;
  for (const state of shapes(start, goal)) {
    for (const solve of solversFor(state, goal)) {
      const solution = solve();
      if (solution === undefined || solution.columns.every((column) => column === undefined)) continue;
      const reached = asReached(solution, goal, wanted, partial);
      if (best === undefined || isNearer(reached, best)) best = reached;
      if (best.likeness.share === 1) return best;
    }
  }
  return best ?? { steps: [], table, likeness: likenessTo(table, wanted, partial), ambiguities: [] };
}

/** Where rows of the goal may each be several of the table's, they are groups of these sooner than rows. */
function solversFor(state: State, goal: Goal): readonly (() => Solution | undefined)[] {
  const { table } = state;
  const pairing = pairRows(table, goal);
  const several = pairing.rows.filter((rows) => rows === undefined || rows.length > 1).length;
  const isGrouped =
    (pairing.columns.includes(-1) && several > pairing.rows.length / 2) || !areNamesAlike(table, goal, pairing.columns);
  const asRows = () => solveRows(state, goal, pairing);
  const asGroups = () => solveGroups(state, goal);
  return isGrouped ? [asGroups, asRows] : [asRows, asGroups];
}

const isNearer = (a: Reached, b: Reached) =>
  a.likeness.share > b.likeness.share || (a.likeness.share === b.likeness.share && a.steps.length < b.steps.length);

/** The wanted columns under their names and in their order, and of a whole table no other rows. */
function asReached(solution: Solution, goal: Goal, wanted: Table, partial: boolean): Reached {
  let { state } = solution;
  if (goal.isWhole && !solution.columns.includes(undefined))
    state = after(state, withoutOthers(state, goal, solution)) ?? state;
  state = after(state, chosen(state.table, goal, solution)) ?? state;
  const likeness = likenessTo(state.table, wanted, partial);
  return { steps: state.steps, table: state.table, likeness, ambiguities: state.ambiguities };
}

/** The step that leaves out the rows that the finished table has not, where a rule tells them. */
function withoutOthers(state: State, goal: Goal, { columns }: Solution): Proposal[] {
  const { table } = state;
  const wanted = new Uint8Array(table.rows);
  for (const rows of rowsByKey(table, goal, columns)) {
    const free = rows.find((row) => wanted[row] === 0);
    if (free !== undefined) wanted[free] = 1;
  }
  const kept: number[] = [];
  const left: number[] = [];
  for (const [row, is] of wanted.entries()) (is === 1 ? kept : left).push(row);
  if (left.length === 0 || kept.length === 0) return [];
  const profile = profileTable(table);
  const why = 'these rows are not in the finished table';
  const rules = chooseRules(profile, left, kept);
  if (rules !== undefined && rules.length <= 2) return [{ kind: 'drop-rows', params: { rules, match: 'any' }, why }];
  // Of one column some texts stay, or its numbers or days lie between two.
  for (const { name, column } of table.fields) {
    const plain = plainColumn(column);
    const staying = new Set(kept.map((row) => plainAt(plain, row)));
    if (staying.has('') || left.some((row) => staying.has(plainAt(plain, row)))) continue;
    if (staying.size <= 12)
      return [{ kind: 'keep-rows', params: { rules: [{ test: 'one-of', column: name, texts: [...staying] }] }, why }];
    const values = numbersOf(column);
    if (values === undefined) continue;
    const [least, most] = [Math.min(...kept.map((row) => values[row]!)), Math.max(...kept.map((row) => values[row]!))];
    if (left.every((row) => !(values[row]! >= least && values[row]! <= most)))
      return [
        {
          kind: 'keep-rows',
          params: { rules: [{ test: 'between', column: name, least: String(least), most: String(most) }] },
          why,
        },
      ];
  }
  return [];
}

function chosen(table: Table, goal: Goal, { columns }: Solution): Proposal[] {
  const held = columns.flatMap((column, w) =>
    column === undefined ? [] : [{ name: column, to: goal.columns[w]!.name || column }],
  );
  return columnSteps(table, held);
}

/** The table as it is, and in the other shapes that the names of the goal's columns speak for. */
function* shapes(start: State, goal: Goal): Generator<State> {
  yield start;
  yield* pivoted(start, goal);
  yield* unpivoted(start, goal);
  yield* joined(start, goal);
}

const MAX_ACROSS = 60;

/** Texts of a column are names of the goal's columns. */
function* pivoted(start: State, goal: Goal): Generator<State> {
  const { table } = start;
  const own = new Set(table.fields.map((field) => field.name));
  for (const { name, column } of table.fields) {
    const { distinct } = plainColumn(column);
    if (distinct.size < 2 || distinct.size > MAX_ACROSS) continue;
    const across = goal.columns.flatMap(({ name: wanted }, w) => (!own.has(wanted) && distinct.has(wanted) ? [w] : []));
    if (across.length < 2) continue;
    const rest = goal.columns.flatMap((_, w) => (across.includes(w) ? [] : [w]));
    const rows = rest.flatMap((w) => {
      const [k] = holding(table, goal, w).filter((one) => table.fields[one]!.name !== name);
      return k === undefined ? [] : [table.fields[k]!.name];
    });
    const params = { rows: { by: 'names', names: rows }, names: [name] };
    const values = table.fields.filter((field) => field.name !== name && !rows.includes(field.name));
    const numeric = values.filter((field) => numbersOf(field.column) !== undefined);
    const why = `the names of the finished table's columns stand in ${name}`;
    for (const by of ['only', 'sum', 'mean', 'count'] as const)
      for (const { name: value } of by === 'only' || by === 'count' ? values : numeric) {
        const next = after(start, [{ kind: 'pivot', params: { ...params, values: [{ column: value, by }] }, why }]);
        if (next !== undefined) yield next;
      }
  }
}

/** Names of the table's columns are texts of a column of the goal. */
function* unpivoted(start: State, goal: Goal): Generator<State> {
  const { table } = start;
  for (const { distinct, name } of goal.columns) {
    const columns = table.fields.filter((field) => distinct.has(field.name)).map((field) => field.name);
    if (columns.length < 2) continue;
    const value = goal.columns.find((one) => one.numbers !== undefined)?.name ?? 'Value';
    const next = after(start, [
      {
        kind: 'unpivot',
        params: {
          columns: { by: 'names', names: columns },
          parts: [{ as: 'column', name: freeName(table, name) }],
          value: freeName(table, value),
          blanks: goal.isWhole ? 'keep' : 'drop',
        },
        why: `the names of these columns stand in ${name} of the finished table`,
      },
    ]);
    if (next !== undefined) yield next;
  }
}

/** Another table has several rows for one of this: its columns are joined. */
function* joined(start: State, goal: Goal): Generator<State> {
  const { table } = start;
  for (const { id, name, table: other } of start.others) {
    const isAsked = goal.columns.some(
      (column, w) =>
        holding(table, goal, w).length === 0 && column.distinct.size > 0 && holding(other, goal, w).length > 0,
    );
    if (!isAsked) continue;
    for (const [l, left] of table.fields.entries())
      for (const right of other.fields) {
        const [a, b] = [plainColumn(table.fields[l]!.column).distinct, plainColumn(right.column).distinct];
        const known = [...a].filter((text) => text !== '' && b.has(text)).length;
        if (a.size < 2 || known < a.size * 0.5) continue;
        const next = after(start, [
          {
            kind: 'join',
            params: { table: id, keys: [{ left: left.name, right: right.name }] },
            why: `columns of the finished table stand in ${name}`,
          },
        ]);
        if (next !== undefined) yield next;
      }
  }
}
