import { z } from 'zod';
import type { Phrase } from '../kinds/sentence.ts';
import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { grouped } from '../values/counted.ts';

/** Failing rows that are sent at most. */
export const MAX_ROWS = 2000;

/** What is known beside the table. */
export interface CheckContext {
  totals: { agrees: number; disagrees: number; cannotTell: number; leftOut: number };
  /** Rows of the last run; undefined for the first. */
  lastRows?: number;
}

/** What offers of several kinds ask about a table, worked out once. */
export interface OfferContext extends CheckContext {
  /** The columns that tell every row apart; undefined where none do. */
  identifying(): readonly string[] | undefined;
}

/** What a check found. */
export interface CheckFound {
  ok: boolean;
  /** What was found: 108 of 108 different. */
  found: string;
  /** Rows that fail, the first of them, and the column they fail in. */
  rows: readonly number[];
  column?: string;
}

/** What every check has, whatever its kind. */
export interface CheckBase {
  kind: string;
  id: string;
  level: 'warn' | 'stop';
}

/** A check without what is the same for all kinds. */
export type CheckParams<C> = Omit<C, keyof CheckBase>;

/** One kind of check: all that the application knows of it. */
export interface CheckKind<C extends CheckBase> {
  /** Columns that it names are marked, so that one that is missing is reported in one place. */
  schema: z.ZodType<C>;
  /** How it is offered where it does not hold of itself, and what it begins with for a column. */
  toFillIn?: { title: string; start(column: string): CheckParams<C> };
  sentence(check: C): Phrase[];
  /** Called only where every column that it names is there. */
  run(table: Table, check: C, context: CheckContext): CheckFound;
  /** Checks of this kind that hold now and would be worth keeping. */
  offers?(table: Table, context: OfferContext): CheckParams<C>[];
}

const Level = z.enum(['warn', 'stop']).default('warn').describe('stop: nothing is exported while it fails');

/** The schema of a kind of check, with what all checks have. */
export function checkSchema<K extends string, S extends z.ZodRawShape>(kind: K, shape: S) {
  return z.object({ kind: z.literal(kind), id: z.string(), level: Level, ...shape });
}

export function columnOf(table: Table, name: string): Column {
  return table.fields.find((field) => field.name === name)!.column;
}

/** Rows in which a column fails a test; what does not concern the test passes. */
export function failing(table: Table, name: string, fails: (row: number) => boolean, what: string): CheckFound {
  const rows: number[] = [];
  let count = 0;
  for (let r = 0; r < table.rows; r++) {
    if (!fails(r)) continue;
    count++;
    if (rows.length < MAX_ROWS) rows.push(r);
  }
  return { ok: count === 0, found: `${grouped(count)} of ${grouped(table.rows)} ${what}`, rows, column: name };
}

/** A limit in words; null: none. */
export function limitText(value: number | null): string {
  return value === null ? 'anything' : grouped(value, 10);
}
