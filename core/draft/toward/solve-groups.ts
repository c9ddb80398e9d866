/** Steps after which each row of the goal is a group of the table's rows. */
import type { Proposal } from '../../findings/finding.ts';
import { type Table, uniqueName } from '../../table/table.ts';
import { nameLikeness } from '../../values/likeness.ts';
import { calculations } from './arithmetic.ts';
import { type Goal, meets, numbersOf, plainAt, plainColumn } from './goal.ts';
import { brought, withLookUpsJoined } from './other-tables.ts';
import { holding, rowsByKey } from './pair-rows.ts';
import type { Solution } from './solve-rows.ts';
import { type Ambiguity, added, after, expressionStep, freeName, quoted, type State } from './state.ts';
import { columnWays, makesAll } from './ways.ts';

const MAX_KEY_CHOICES = 3;
const MAX_KEY_SETS = 48;
/** Calculations of a row that are tried as what is summed. */
const MAX_CALCULATED = 40;
/** Different texts of a column by one of which rows may be left out. */
const MAX_FILTERED = 12;

type Measured = { column: string; by: string };

/** What a group of rows may be measured by, the likeliest first. */
function measuresOf(table: Table, keys: readonly string[]): Measured[] {
  const fields = table.fields.filter(({ name }) => !keys.includes(name));
  const numeric = fields.filter(({ column }) => numbersOf(column) !== undefined);
  const dated = fields.filter(({ column }) => column.type === 'date' || column.type === 'datetime');
  const all = (columns: typeof fields, ways: readonly string[]) =>
    ways.flatMap((by) => columns.map(({ name }) => ({ column: name, by })));
  return [
    ...all(numeric, ['sum']),
    { column: '', by: 'rows' },
    ...all(numeric, ['mean', 'max', 'min', 'median', 'share']),
    ...all(dated, ['max', 'min']),
    ...all(fields, ['distinct', 'count', 'first', 'last']),
  ];
}

/** The column that a key of the goal may be: one of the table, or one that steps make of it. */
interface KeyChoice {
  column: string;
  steps: readonly Proposal[];
}

function keyChoices(state: State, goal: Goal, w: number): KeyChoice[] {
  const { table } = state;
  const { distinct, name } = goal.columns[w]!;
  const direct = holding(table, goal, w).map((k) => ({ column: table.fields[k]!.name, steps: [] }));
  if (direct.length > 0) return direct.slice(0, MAX_KEY_CHOICES);
  const made: KeyChoice[] = [];
  const add = (steps: readonly Proposal[]) => {
    const found = added(state, steps);
    if (found !== undefined) made.push({ column: found.column, steps });
  };
  for (const { step } of brought(table, state.others, distinct)) if (made.length < MAX_KEY_CHOICES) add([step]);
  for (const way of columnWays(table)) {
    if (made.length >= MAX_KEY_CHOICES) break;
    if (makesAll(table, way, distinct)) add(way.steps(freeName(table, name)));
  }
  return made;
}

/** The groups of a table that the goal's rows are, with each of its columns a key or a measure of them. */
export function solveGroups(state: State, goal: Goal): Solution | undefined {
  const choices = goal.columns.map((_, w) => keyChoices(state, goal, w));
  const isNumber = goal.columns.map(({ numbers }) => numbers !== undefined);
  // A number is a measure, unless a column of its name holds it; a text that nothing holds can be a measure too.
  const mayBeKey = (w: number) => choices[w]!.length > 0;
  const mustBeKey = (w: number) => mayBeKey(w) && !isNumber[w];
  const named = (w: number) =>
    isNumber[w] && choices[w]!.some(({ column }) => nameLikeness(column, goal.columns[w]!.name) === 1);
  const own = goal.columns.map((_, w) => w);
  const sets = [
    own.filter((w) => mustBeKey(w)),
    own.filter((w) => mustBeKey(w) || named(w)),
    ...own.filter((w) => isNumber[w] && mayBeKey(w)).map((extra) => own.filter((w) => mustBeKey(w) || w === extra)),
  ].filter((set, n, all) => set.length > 0 && all.findIndex((one) => one.join() === set.join()) === n);
  let best: { solution: Solution; met: number } | undefined;
  let tried = 0;
  for (const keys of sets) {
    if (keys.length === goal.columns.length && goal.columns.length > 1) continue;
    if (!areKeys(goal, keys)) continue;
    for (const chosen of product(keys.map((w) => choices[w]!))) {
      if (++tried > MAX_KEY_SETS) return best?.solution;
      if (new Set(chosen.map(({ column }) => column)).size < chosen.length) continue;
      const begun = after(state, withLookUpsJoined(chosen.flatMap(({ steps }) => steps)));
      if (begun === undefined) continue;
      const found = groupedBy(
        begun,
        goal,
        keys,
        chosen.map(({ column }) => column),
      );
      if (found === undefined) continue;
      const met = found.columns.filter((column) => column !== undefined).length;
      if (met === goal.columns.length) return found;
      if (best === undefined || met > best.met) best = { solution: found, met };
    }
  }
  return best?.solution;
}

/** No two rows of the goal read the same in these columns. */
function areKeys(goal: Goal, keys: readonly number[]): boolean {
  const seen = new Set<string>();
  for (let g = 0; g < goal.rows; g++) seen.add(keys.map((w) => goal.columns[w]!.texts[g]).join('\u0001'));
  return seen.size === goal.rows;
}

function* product<T>(lists: readonly (readonly T[])[]): Generator<T[]> {
  const [first, ...rest] = lists;
  if (first === undefined) {
    yield [];
    return;
  }
  for (const one of first) for (const others of product(rest)) yield [one, ...others];
}

/** A column of the goal as a measure of the groups. */
interface MeasuredColumn {
  w: number;
  /** As a measure, or calculated from measures. */
  measures: readonly Measured[];
  text?: (names: readonly string[]) => string;
  rounded: boolean;
  ambiguity: Ambiguity | undefined;
}

function groupedBy(
  begun: State,
  goal: Goal,
  keys: readonly number[],
  columns: readonly string[],
): Solution | undefined {
  const open = goal.columns.flatMap((_, w) => (keys.includes(w) ? [] : [w]));
  let best: Measures | undefined;
  for (const state of groupedStates(begun, columns)) {
    const found = measured(state, goal, keys, columns, open);
    // Keys that are not those of the goal's rows stay so, whatever is calculated.
    if (best === undefined && found === undefined) return undefined;
    if (found !== undefined && found.found.length > (best?.found.length ?? -1)) best = found;
    if (best?.found.length === open.length) break;
  }
  if (best === undefined) return undefined;
  return finished(best.state, goal, keys, columns, best.found);
}

/** The table as it is, then with a calculated column, then with some rows left out. */
function* groupedStates(begun: State, keys: readonly string[]): Generator<State> {
  yield begun;
  yield* calculatedStates(begun, keys);
  yield* filteredStates(begun);
}

interface Measures {
  state: State;
  found: readonly MeasuredColumn[];
}

/** The measures that say what the goal's columns say, for all of its rows. */
function measured(
  state: State,
  goal: Goal,
  keys: readonly number[],
  columns: readonly string[],
  open: readonly number[],
): Measures | undefined {
  const measures = measuresOf(state.table, columns);
  state.budget.left -= state.table.rows * measures.length;
  if (state.budget.left < 0) return undefined;
  const names = measures.map((_, n) => `\u0002${n}`);
  const grouped = after(state, [groupStep(columns, measures, names)]);
  if (grouped === undefined) return undefined;
  const byWanted = goal.columns.map((_, w) => (keys.includes(w) ? columns[keys.indexOf(w)] : undefined));
  const groups = rowsByKey(grouped.table, goal, byWanted).map((rows) => rows[0]);
  if (groups.includes(undefined)) return undefined;
  const made = names.map((name) => grouped.table.fields.find((field) => field.name === name)!.column);
  const found = open.flatMap((w): MeasuredColumn[] => {
    const { texts, numbers, places, name } = goal.columns[w]!;
    const fits = measures.flatMap((one, n) => {
      const column = made[n]!;
      const values = numbersOf(column);
      if (numbers !== undefined && values !== undefined) {
        const all = groups.map((row, g) => meets(values[row!]!, numbers[g]!, places));
        return all.includes(undefined) ? [] : [{ n, one, rounded: all.includes('rounded') }];
      }
      const plain = plainColumn(column);
      return groups.every((row, g) => plainAt(plain, row!) === texts[g]) ? [{ n, one, rounded: false }] : [];
    });
    const [chosen, ...others] = fits.toSorted(
      (a, b) => Number(a.rounded) - Number(b.rounded) || saidBy(b.one, name) - saidBy(a.one, name) || a.n - b.n,
    );
    if (chosen !== undefined) {
      const ambiguity = others
        .filter(({ rounded }) => rounded === chosen.rounded)
        .flatMap((other): Ambiguity[] => {
          const [a, b] = [plainColumn(made[chosen.n]!), plainColumn(made[other.n]!)];
          for (let r = 0; r < grouped.table.rows; r++)
            if (plainAt(a, r) !== plainAt(b, r))
              return [
                {
                  code: 'ambiguous',
                  column: name,
                  chosen: measureText(chosen.one),
                  other: measureText(other.one),
                  row: columns
                    .map((key) => plainAt(plainColumn(grouped.table.fields.find((one) => one.name === key)!.column), r))
                    .join(', '),
                },
              ];
          return [];
        })[0];
      return [{ w, measures: [chosen.one], rounded: chosen.rounded, ambiguity }];
    }
    if (numbers === undefined) return [];
    return ratioOf(measures, made.map(numbersOf), groups as number[], numbers, places, w);
  });
  return { state, found };
}

const MEASURE_NAMES: readonly (readonly [by: string, name: RegExp])[] = [
  ['sum', /total|sum/i],
  ['mean', /mean|average|avg/i],
  ['max', /max|highest|greatest|largest|peak|latest/i],
  ['min', /min|lowest|least|smallest|earliest/i],
  ['distinct', /different|distinct|unique/i],
  ['rows', /count|number|entries|rows|records|lines/i],
  ['first', /first/i],
  ['last', /last/i],
  ['share', /share|percent|%/i],
];

/** How far a name speaks for a measure: by the column's name in it, and by its word for the measure. */
function saidBy({ column, by }: Measured, name: string): number {
  const told = MEASURE_NAMES.find(([, words]) => words.test(name))?.[0];
  const likeness = column !== '' && name.toLowerCase().includes(column.toLowerCase()) ? 1 : nameLikeness(column, name);
  // A count is of rows sooner than of what differs among them.
  return (likeness >= 0.6 ? likeness : 0) + (told === by ? 1 : 0) + (by === 'rows' ? 0.1 : 0);
}

const measureText = ({ column, by }: Measured) => (by === 'rows' ? 'the number of rows' : `the ${by} of ${column}`);

/** One sum divided by another, or one less another. */
function ratioOf(
  measures: readonly Measured[],
  made: readonly (Float64Array | undefined)[],
  groups: readonly number[],
  wanted: Float64Array,
  places: number,
  w: number,
): MeasuredColumn[] {
  const sums = measures.flatMap((one, n) =>
    made[n] !== undefined && (one.by === 'sum' || one.by === 'rows') ? [{ one, values: made[n]! }] : [],
  );
  const ways: { text(a: string, b: string): string; at(a: number, b: number): number }[] = [
    { text: (a, b) => `${a} / nullif(${b}, 0)`, at: (a, b) => a / b },
    { text: (a, b) => `100 * ${a} / nullif(${b}, 0)`, at: (a, b) => (100 * a) / b },
    { text: (a, b) => `${a} - ${b}`, at: (a, b) => a - b },
    { text: (a, b) => `${a} + ${b}`, at: (a, b) => a + b },
  ];
  for (const { text, at } of ways)
    for (const a of sums)
      for (const b of sums) {
        if (a === b) continue;
        const all = groups.map((row, g) => meets(at(a.values[row]!, b.values[row]!), wanted[g]!, places));
        if (all.includes(undefined)) continue;
        return [
          {
            w,
            measures: [a.one, b.one],
            text: ([x, y]) => text(quoted(x!), quoted(y!)),
            rounded: all.includes('rounded'),
            ambiguity: undefined,
          },
        ];
      }
  return [];
}

function groupStep(by: readonly string[], measures: readonly Measured[], names: readonly string[]): Proposal {
  return {
    kind: 'group',
    params: {
      by: { by: 'names', names: by },
      measures: measures.map((one, n) => ({ ...one, name: names[n]! })),
    },
    why: 'the rows of the finished table are groups of these',
  };
}

/** The table with one more column, calculated from the numbers of each row: sums of products and the like. */
function* calculatedStates(state: State, keys: readonly string[]): Generator<State> {
  let tried = 0;
  for (const { text, of } of calculations(state.table)) {
    if (of.length < 2 || of.some((k) => keys.includes(state.table.fields[k]!.name))) continue;
    // A sum of sums is a sum of columns already: products are what grouping cannot make up for.
    if (!/[*]/.test(text)) continue;
    if (++tried > MAX_CALCULATED) return;
    const into = freeName(state.table, 'Product');
    const next = after(state, [expressionStep(into, text, 'calculated as in the rows of the finished table')]);
    if (next !== undefined) yield next;
  }
}

/** The table without the rows of one text, or with these alone. */
function* filteredStates(state: State): Generator<State> {
  for (const { name, column } of state.table.fields) {
    const { distinct } = plainColumn(column);
    if (distinct.size < 2 || distinct.size > MAX_FILTERED || numbersOf(column) !== undefined) continue;
    for (const text of distinct)
      for (const kind of ['keep-rows', 'drop-rows'] as const) {
        if (text === '') continue;
        const next = after(state, [
          {
            kind,
            params: { rules: [{ test: 'one-of', column: name, texts: [text] }] },
            why: 'only then the figures are those of the finished table',
          },
        ]);
        if (next !== undefined && next.table.rows > 0) yield next;
      }
  }
}

function finished(
  state: State,
  goal: Goal,
  keys: readonly number[],
  columns: readonly string[],
  found: readonly MeasuredColumn[],
): Solution | undefined {
  const taken = new Set(columns);
  const measures: (Measured & { name: string })[] = [];
  const nameOf = (one: Measured, wanted: string) => {
    const known = measures.find(({ column, by }) => column === one.column && by === one.by);
    if (known !== undefined) return known.name;
    const name = uniqueName(wanted, taken);
    measures.push({ ...one, name });
    return name;
  };
  const holders = goal.columns.map((_, w) => (keys.includes(w) ? columns[keys.indexOf(w)] : undefined));
  const behind: Proposal[] = [];
  for (const { w, measures: own, text, rounded } of found) {
    const { name: wanted, places } = goal.columns[w]!;
    if (text === undefined) {
      const name = nameOf(own[0]!, wanted === '' ? own[0]!.by : wanted);
      holders[w] = name;
      if (rounded)
        behind.push({
          kind: 'round',
          params: { columns: { by: 'names', names: [name] }, size: places },
          why: 'rounded as in the finished table',
        });
      continue;
    }
    const names = own.map((one) => nameOf(one, one.by === 'rows' ? 'Rows' : `${one.by} of ${one.column}`));
    const into = uniqueName(wanted === '' ? 'Column' : wanted, taken);
    holders[w] = into;
    behind.push(
      expressionStep(
        into,
        rounded ? `round(${text(names)}, ${places})` : text(names),
        'calculated as in the rows of the finished table',
      ),
    );
  }
  const next = after(state, [
    groupStep(
      columns,
      measures,
      measures.map(({ name }) => name),
    ),
    ...behind,
  ]);
  if (next === undefined) return undefined;
  const ambiguities = found.flatMap(({ ambiguity }) => ambiguity ?? []);
  return { state: { ...next, ambiguities: [...next.ambiguities, ...ambiguities] }, columns: holders };
}
