/** Steps after which each row of the goal is a row of the table. */
import type { Proposal } from '../../findings/finding.ts';
import type { Table } from '../../table/table.ts';
import { textView, usedTexts } from '../../values/cell-text.ts';
import { nameLikeness } from '../../values/likeness.ts';
import { calculationStep, calculations, commonFactor } from './arithmetic.ts';
import { type Goal, meets, numbersOf, plainAt, plainColumn } from './goal.ts';
import { brought, withLookUpsJoined } from './other-tables.ts';
import { isPinned, isRowTold, narrowed, type Pairing, rowsByKey } from './pair-rows.ts';
import {
  type Ambiguity,
  added,
  after,
  expressionStep,
  type Found,
  freeName,
  literal,
  quoted,
  type State,
} from './state.ts';
import { columnWays, frameWays, makesAll, type Way } from './ways.ts';

export interface Solution {
  state: State;
  /** For each column of the goal the name of the column that holds it. */
  columns: readonly (string | undefined)[];
}

const MAX_CODES = 80;
/** Rows of the table that are shown to tell two ways apart. */
const MAX_SHOWN = 4;

/**
 * The state with a column for each of the goal, as far as ways to them are found.
 * @param first which rows and columns of the table are those of the goal
 */
export function solveRows(start: State, goal: Goal, first: Pairing): Solution {
  let state = start;
  const columns = first.columns.map((k) => (k < 0 ? undefined : state.table.fields[k]!.name));
  let pairing: Pairing = first;
  // What was found for one column may tell the rows for another.
  for (let round = 0; round < 2 && columns.includes(undefined); round++)
    for (const [w, column] of columns.entries()) {
      if (column !== undefined) continue;
      const found = columnFor(state, goal, w, pairing, columns);
      if (found === undefined) continue;
      state = found.state;
      columns[w] = found.column;
      const k = state.table.fields.findIndex((field) => field.name === found.column);
      const rows = narrowed(
        pairing.rows,
        pairing.looked,
        goal.columns[w]!.texts,
        plainColumn(state.table.fields[k]!.column),
      );
      if (rows !== undefined) pairing = { ...pairing, rows };
    }
  return { state: { ...state, steps: withLookUpsJoined(state.steps) }, columns };
}

function columnFor(
  state: State,
  goal: Goal,
  w: number,
  pairing: Pairing,
  columns: readonly (string | undefined)[],
): Found | undefined {
  const numbers = goal.columns[w]!.numbers;
  const isTold = isRowTold(pairing);
  return (
    (numbers === undefined ? undefined : calculated(state, goal, w, pairing)) ??
    broughtColumn(state, goal, w, pairing) ??
    reformed(state, goal, w, pairing) ??
    (isTold ? recoded(state, goal, w, pairing, columns) : undefined) ??
    (isTold && numbers !== undefined
      ? (shared(state, goal, w, pairing) ?? multiplied(state, goal, w, pairing))
      : undefined) ??
    constant(state, goal, w)
  );
}

/** Whether in each row that was looked at one of the table's rows reads so. */
function isMet(pairing: Pairing, texts: readonly string[], at: (row: number) => string | undefined): boolean {
  return pairing.looked.every((g, n) => pairing.rows[n]?.some((row) => at(row) === texts[g]) ?? false);
}

/** A part or another form of a column. */
function reformed(state: State, goal: Goal, w: number, pairing: Pairing): Found | undefined {
  const { texts, distinct, name } = goal.columns[w]!;
  const isTold = isRowTold(pairing);
  const fits = (way: Way) => (isTold ? isMet(pairing, texts, way.at) : makesAll(state.table, way, distinct));
  for (const way of columnWays(state.table)) {
    if (!fits(way)) continue;
    const found = added(state, way.steps(freeName(state.table, name)));
    if (found !== undefined) return found;
  }
  const row = pairing.rows[0]?.[0];
  if (row === undefined) return undefined;
  for (const way of frameWays(state.table, row, texts[pairing.looked[0]!]!)) {
    if (distinct.size < 2 || !fits(way)) continue;
    const found = added(state, way.steps(freeName(state.table, name)));
    if (found !== undefined) return found;
  }
  return undefined;
}

/** A number calculated from others of its row. */
function calculated(state: State, goal: Goal, w: number, pairing: Pairing): Found | undefined {
  const { numbers, places, name, distinct } = goal.columns[w]!;
  const { table } = state;
  if (distinct.size < 2 && goal.rows > 1) return undefined;
  const meeting = (at: (row: number) => number) => {
    let best: 'exact' | 'rounded' = 'exact';
    for (const [n, g] of pairing.looked.entries()) {
      const all = pairing.rows[n];
      if (all === undefined) return undefined;
      const own = all.map((row) => meets(at(row), numbers![g]!, places));
      if (own.includes('exact')) continue;
      if (!own.includes('rounded')) return undefined;
      best = 'rounded';
    }
    return best;
  };
  const fitting: { text: string; at(row: number): number; how: 'exact' | 'rounded' }[] = [];
  for (const { text, at } of calculations(table)) {
    const how = meeting(at);
    if (how !== undefined) fitting.push({ text, at, how });
    if (fitting.length >= 6) break;
  }
  const chosen = fitting.find(({ how }) => how === 'exact') ?? fitting[0];
  const into = freeName(table, name);
  if (chosen === undefined) return undefined;
  const found = added(state, [calculationStep(into, chosen.text, chosen.how === 'exact' ? undefined : places)]);
  if (found === undefined) return undefined;
  const ambiguity = fitting
    .filter((other) => other !== chosen && (chosen.how === 'rounded' || other.how === 'exact'))
    .flatMap((other): Ambiguity[] => {
      const row = firstRow(table, (r) => {
        const [a, b] = [chosen.at(r), other.at(r)];
        return !Number.isNaN(a) && !Number.isNaN(b) && Math.abs(a - b) > 0.5 * 10 ** -places;
      });
      return row === undefined
        ? []
        : [{ code: 'ambiguous', column: name, chosen: chosen.text, other: other.text, row: rowText(table, row) }];
    })[0];
  return ambiguity === undefined ? found : withAmbiguity(found, ambiguity);
}

/** A number times the same factor in every row. */
function multiplied(state: State, goal: Goal, w: number, pairing: Pairing): Found | undefined {
  const { numbers, places, name } = goal.columns[w]!;
  if (!isPinned(pairing)) return undefined;
  for (const { name: own, column } of state.table.fields) {
    const values = numbersOf(column);
    if (values === undefined) continue;
    const pairs = pairing.looked.map((g, n) => ({ own: values[pairing.rows[n]![0]!]!, wanted: numbers![g]! }));
    const factor = commonFactor(pairs, places);
    if (factor !== undefined)
      return added(state, [calculationStep(freeName(state.table, name), `${quoted(own)} * ${factor}`, places)]);
  }
  return undefined;
}

const withAmbiguity = (found: Found, ambiguity: Ambiguity): Found => ({
  ...found,
  state: { ...found.state, ambiguities: [...found.state.ambiguities, ambiguity] },
});

function firstRow(table: Table, isIt: (row: number) => boolean): number | undefined {
  for (let r = 0; r < table.rows; r++) if (isIt(r)) return r;
  return undefined;
}

/** A row by its first cells. */
function rowText(table: Table, row: number): string {
  const texts = table.fields.map(({ column }) => plainAt(plainColumn(column), row)).filter((text) => text !== '');
  return texts.slice(0, MAX_SHOWN).join(', ');
}

/** A column that another table has. */
function broughtColumn(state: State, goal: Goal, w: number, pairing: Pairing): Found | undefined {
  const { texts, distinct } = goal.columns[w]!;
  const isTold = isRowTold(pairing);
  for (const { at, step } of brought(state.table, state.others, distinct)) {
    if (isTold && !isMet(pairing, texts, at)) continue;
    const found = added(state, [step]);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** Other words for the texts of a column, one for each. */
function recoded(
  state: State,
  goal: Goal,
  w: number,
  pairing: Pairing,
  columns: readonly (string | undefined)[],
): Found | undefined {
  const { texts, name, numbers } = goal.columns[w]!;
  const { table } = state;
  // Cheap first: in the rows that were looked at it must be a function.
  const isFunction = (k: number) => crosswalkOf(table, k, pairing.looked, (n) => pairing.rows[n] ?? [], texts);
  const candidates = table.fields.flatMap((_, k) => (isFunction(k) === undefined ? [] : [k]));
  if (candidates.length === 0) return undefined;
  const all = rowsByKey(table, goal, columns);
  const every = all.map((_, g) => g);
  const found = candidates
    .flatMap((k) => {
      const crosswalk = crosswalkOf(table, k, every, (n) => all[n]!, texts);
      if (crosswalk === undefined) return [];
      const own = plainColumn(table.fields[k]!.column).distinct.size;
      const isCovered = crosswalk.size >= own - (plainColumn(table.fields[k]!.column).distinct.has('') ? 1 : 0);
      const likeness = nameLikeness(table.fields[k]!.name, name);
      // Words that are shown once each could be anything, unless the column's name speaks for it; numbers all the more.
      const isTold = crosswalk.size < goal.rows || (isCovered && numbers === undefined && likeness >= 0.5);
      if (!isTold || crosswalk.size > MAX_CODES || new Set(crosswalk.values()).size < 2) return [];
      return [{ k, crosswalk, worth: (isCovered ? 1000 : 0) - own + likeness }];
    })
    .sort((a, b) => b.worth - a.worth)[0];
  if (found === undefined) return undefined;
  const own = table.fields[found.k]!.name;
  const isInPlace = own === name && !columns.includes(own);
  const step: Proposal = {
    kind: 'recode',
    params: {
      column: own,
      crosswalk: [...found.crosswalk].map(([from, to]) => ({ from, to })),
      into: isInPlace ? null : freeName(table, name),
    },
    why: `in the finished table ${own} says it in other words`,
  };
  const next = after(state, [step]);
  const made = isInPlace ? next && { state: next, column: own } : added(state, [step]);
  const codes = [...usedTexts(table.fields[found.k]!.column)].filter((text) => !found.crosswalk.has(text));
  return made === undefined || codes.length === 0
    ? made
    : withAmbiguity(made, { code: 'codes-not-shown', column: name, codes });
}

/** What each text of a column becomes; undefined where it is no function. */
function crosswalkOf(
  table: Table,
  k: number,
  looked: readonly number[],
  rowsOf: (n: number) => readonly number[],
  wanted: readonly string[],
): Map<string, string> | undefined {
  const { codes, texts } = textView(table.fields[k]!.column);
  const found = new Map<string, string>();
  for (const [n, g] of looked.entries()) {
    const own = new Set<number>();
    for (const row of rowsOf(n)) own.add(codes[row]!);
    if (own.size !== 1) continue;
    const [code] = own;
    if (code! < 0) continue;
    const text = texts[code!]!;
    const to = wanted[g]!;
    const known = found.get(text);
    if (known !== undefined && known !== to) return undefined;
    found.set(text, to);
  }
  return found.size === 0 ? undefined : found;
}

/** Each row's share of the sum of a column. */
function shared(state: State, goal: Goal, w: number, pairing: Pairing): Found | undefined {
  const { numbers, places, name } = goal.columns[w]!;
  const { table } = state;
  for (const field of table.fields) {
    const values = numbersOf(field.column);
    if (values === undefined) continue;
    const whole = values.reduce((sum, value) => sum + (Number.isNaN(value) ? 0 : value), 0);
    if (whole === 0) continue;
    for (const factor of [1, 100]) {
      const isShare = pairing.looked.every(
        (g, n) =>
          pairing.rows[n]?.some((row) => meets((factor * values[row]!) / whole, numbers![g]!, places) !== undefined) ??
          false,
      );
      if (!isShare) continue;
      const into = freeName(table, name);
      // One group for each row: the share is of the sum of all of them.
      const by = table.fields.map((one) => one.name);
      const next = after(state, [
        {
          kind: 'group',
          params: { by: { by: 'names', names: by }, measures: [{ column: field.name, by: 'share', name: into }] },
          why: `the share of ${field.name} in its sum, as in the finished table`,
        },
        expressionStep(
          into,
          `round(${factor === 1 ? '' : '100 * '}${quoted(into)}, ${places})`,
          'rounded as in the finished table',
        ),
      ]);
      if (next?.table.rows === table.rows) return { state: next, column: into };
    }
  }
  return undefined;
}

/** The same in every row. */
function constant(state: State, goal: Goal, w: number): Found | undefined {
  const { distinct, texts, numbers, name } = goal.columns[w]!;
  if (distinct.size !== 1 || texts[0] === '' || goal.rows < 2) return undefined;
  const text = numbers === undefined ? literal(texts[0]!) : texts[0]!;
  return added(state, [
    expressionStep(freeName(state.table, name), text, 'the same in every row of the finished table'),
  ]);
}
