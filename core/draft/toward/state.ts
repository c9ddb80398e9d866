/** A table on its way to the goal. */
import type { Proposal } from '../../findings/finding.ts';
import type { Context } from '../../kinds/step.ts';
import { ALONE, tableAfter } from '../../steps/try-steps.ts';
import { type Table, uniqueName } from '../../table/table.ts';

/** A table of another file, which steps can look up in or join. */
export interface OtherTable {
  id: string;
  name: string;
  table: Table;
}

export interface State {
  table: Table;
  /** The steps that made it of the table that the search began with. */
  steps: readonly Proposal[];
  others: readonly OtherTable[];
  /** What groups may still be measured, in cells: a search counts its work, so that equal files give equal drafts. */
  budget: { left: number };
  /** Other ways that the rows shown do not rule out. */
  ambiguities: readonly Ambiguity[];
}

/**
 * What the rows shown leave open: two ways to a column that agree in all of them and not in another row, said by what
 * that row reads; or codes of which no row shows what they become.
 */
export type Ambiguity =
  | { code: 'ambiguous'; column: string; chosen: string; other: string; row: string }
  | { code: 'codes-not-shown'; column: string; codes: readonly string[] };

/** The state after more steps; undefined where one of them stops. */
export function after(state: State, steps: readonly Proposal[]): State | undefined {
  if (steps.length === 0) return state;
  const table = tableAfter(state.table, steps, contextOf(state.others));
  return table === undefined ? undefined : { ...state, table, steps: [...state.steps, ...steps] };
}

/** The state after steps that add a column, and the name that it got. */
export interface Found {
  state: State;
  column: string;
}

/** The first column that the steps add; undefined where one stops, or none is added. */
export function added(state: State, steps: readonly Proposal[]): Found | undefined {
  const next = after(state, steps);
  if (next === undefined) return undefined;
  const known = new Set(state.table.fields.map((field) => field.name));
  const made = next.table.fields.find((field) => !known.has(field.name));
  return made === undefined ? undefined : { state: next, column: made.name };
}

/** What a step is given that may ask for the other tables. */
function contextOf(others: readonly OtherTable[]): Context {
  return {
    ...ALONE,
    other(id) {
      const found = others.find((one) => one.id === id);
      return found === undefined ? ALONE.other(id) : found;
    },
  };
}

/** A name that no column of the table has. */
export function freeName(table: Table, name: string): string {
  return uniqueName(name === '' ? 'Column' : name, new Set(table.fields.map((field) => field.name)));
}

/** A column in an expression. */
export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
/** A text in an expression. */
export const literal = (text: string): string => `'${text.replaceAll("'", "''")}'`;

export const expressionStep = (into: string, text: string, why: string): Proposal => ({
  kind: 'expression',
  params: { into, text },
  why,
});
