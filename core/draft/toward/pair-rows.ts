/** Which columns of a table are which of the goal, and which rows. */
import type { Table } from '../../table/table.ts';
import { nameLikeness } from '../../values/likeness.ts';
import { type Goal, type PlainColumn, plainAt, plainColumn } from './goal.ts';

export interface Pairing {
  /** For each column of the goal the column that holds it, -1 where none does. */
  columns: readonly number[];
  /** The rows of the goal that were looked at. */
  looked: readonly number[];
  /** For each of these the rows of the table that it may be; undefined where no column tells. */
  rows: readonly (readonly number[] | undefined)[];
}

/** Rows of the goal that a search looks at; all are compared once it is done. */
const MAX_LOOKED = 40;
const MAX_TRIES = 3000;
const MAX_CANDIDATES = 8;

function lookedRows(goal: Goal): number[] {
  const n = Math.min(goal.rows, MAX_LOOKED);
  return Array.from({ length: n }, (_, k) => Math.floor((k * goal.rows) / n));
}

/** Columns of the table that hold every text of a goal's column, the likeliest by name and by how few texts first. */
export function holding(table: Table, goal: Goal, w: number): number[] {
  const { distinct, name } = goal.columns[w]!;
  return table.fields
    .flatMap((field, k) => {
      const plain = plainColumn(field.column);
      for (const text of distinct) if (!plain.distinct.has(text)) return [];
      return [{ k, worth: nameLikeness(field.name, name) - plain.distinct.size / (table.rows * 10 + 1) }];
    })
    .sort((a, b) => b.worth - a.worth)
    .slice(0, MAX_CANDIDATES)
    .map(({ k }) => k);
}

/** The most columns that can be paired so that each row that is looked at is a row of the table. */
export function pairRows(table: Table, goal: Goal): Pairing {
  const looked = lookedRows(goal);
  const candidates = goal.columns.map((_, w) => holding(table, goal, w));
  const order = goal.columns
    .map((_, w) => w)
    .filter((w) => candidates[w]!.length > 0)
    .sort((a, b) => candidates[a]!.length - candidates[b]!.length || size(goal, b) - size(goal, a) || a - b);
  const plain = table.fields.map(({ column }) => plainColumn(column));
  let best: { columns: number[]; rows: readonly (readonly number[] | undefined)[]; met: number } | undefined;
  let tries = 0;
  const columns = new Array<number>(goal.columns.length).fill(-1);
  const step = (at: number, rows: readonly (readonly number[] | undefined)[], met: number): void => {
    if (best !== undefined && met + order.length - at <= best.met) return;
    if (at === order.length) {
      best = { columns: [...columns], rows, met };
      return;
    }
    const w = order[at]!;
    for (const k of candidates[w]!) {
      if (columns.includes(k) || tries >= MAX_TRIES) continue;
      tries++;
      const next = narrowed(rows, looked, goal.columns[w]!.texts, plain[k]!);
      if (next === undefined) continue;
      columns[w] = k;
      step(at + 1, next, met + 1);
      columns[w] = -1;
    }
    step(at + 1, rows, met);
  };
  step(
    0,
    looked.map(() => undefined),
    0,
  );
  return { columns: best?.columns ?? columns, looked, rows: best?.rows ?? looked.map(() => undefined) };
}

const size = (goal: Goal, w: number) => goal.columns[w]!.distinct.size;

/** Names from which on two columns are called alike. */
const ALIKE = 0.5;

/** Whether each column of numbers is held by a column of a like name: small numbers stand in many columns by chance. */
export function areNamesAlike(table: Table, goal: Goal, columns: readonly number[]): boolean {
  return goal.columns.every(
    ({ numbers, name }, w) =>
      numbers === undefined || columns[w]! < 0 || nameLikeness(table.fields[columns[w]!]!.name, name) >= ALIKE,
  );
}

/** The rows that read so in one column more; undefined where a row of the goal is left without any. */
export function narrowed(
  rows: Pairing['rows'],
  looked: readonly number[],
  wanted: readonly string[],
  column: PlainColumn,
): Pairing['rows'] | undefined {
  const next: (readonly number[])[] = [];
  for (const [n, g] of looked.entries()) {
    const text = wanted[g]!;
    const before = rows[n];
    const after =
      before === undefined ? (column.rowsOf.get(text) ?? []) : before.filter((r) => plainAt(column, r) === text);
    if (after.length === 0) return undefined;
    next.push(after);
  }
  return next;
}

/** Some column tells which rows of the table the rows may be. */
export const isRowTold = ({ rows }: Pairing): boolean => rows.some((own) => own !== undefined);

/** Each row that was looked at is one row of the table. */
export const isPinned = ({ rows }: Pairing): boolean => rows.every((own) => own?.length === 1);

/** For each row of the goal the rows that it may be, by the columns that are met. */
export function rowsByKey(table: Table, goal: Goal, columns: readonly (string | undefined)[]): (readonly number[])[] {
  const met = columns.flatMap((name, w) => {
    const field = table.fields.find((one) => one.name === name);
    return name === undefined || field === undefined ? [] : [{ w, plain: plainColumn(field.column) }];
  });
  const places = new Map<string, number[]>();
  for (let r = 0; r < table.rows; r++) {
    const key = met.map(({ plain }) => plainAt(plain, r)).join('\u0001');
    const rows = places.get(key);
    if (rows === undefined) places.set(key, [r]);
    else rows.push(r);
  }
  return Array.from(
    { length: goal.rows },
    (_, g) => places.get(met.map(({ w }) => goal.columns[w]!.texts[g]!).join('\u0001')) ?? [],
  );
}
