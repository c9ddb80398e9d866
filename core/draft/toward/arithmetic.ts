/** Numbers calculated from the numbers of a row, with at most two operations. */
import type { Proposal } from '../../findings/finding.ts';
import type { Table } from '../../table/table.ts';
import { meets, numbersOf } from './goal.ts';
import { expressionStep, quoted } from './state.ts';

export interface Calculation {
  at(row: number): number;
  /** As an expression over the columns. */
  text: string;
  /** The columns that it is made of, by index. */
  of: readonly number[];
}

const MAX_COLUMNS = 16;
/** With more columns three of them are not tried together. */
const MAX_IN_THREES = 8;

/** Calculations over the numbers of a table, the plainest first. */
export function* calculations(table: Table): Generator<Calculation> {
  const columns = table.fields
    .flatMap(({ name, column }, k) => {
      const values = numbersOf(column);
      return values === undefined ? [] : [{ k, name: quoted(name), values }];
    })
    .slice(0, MAX_COLUMNS);
  const made = (of: readonly number[], text: string, at: Calculation['at']): Calculation => ({ of, text, at });
  for (const a of columns) {
    yield made([a.k], a.name, (r) => a.values[r]!);
    yield made([a.k], `-${a.name}`, (r) => -a.values[r]!);
  }
  for (const [n, a] of columns.entries())
    for (const b of columns.slice(n + 1)) {
      yield made([a.k, b.k], `${a.name} + ${b.name}`, (r) => a.values[r]! + b.values[r]!);
      yield made([a.k, b.k], `${a.name} * ${b.name}`, (r) => a.values[r]! * b.values[r]!);
    }
  for (const a of columns)
    for (const b of columns) {
      if (a === b) continue;
      yield made([a.k, b.k], `${a.name} - ${b.name}`, (r) => a.values[r]! - b.values[r]!);
      yield made([a.k, b.k], `${a.name} / nullif(${b.name}, 0)`, (r) => a.values[r]! / b.values[r]!);
    }
  for (const factor of [1000, 100, 10, 60])
    for (const a of columns) {
      yield made([a.k], `${a.name} / ${factor}`, (r) => a.values[r]! / factor);
      yield made([a.k], `${a.name} * ${factor}`, (r) => a.values[r]! * factor);
    }
  for (let from = 0; from < columns.length; from++)
    for (let to = from + 3; to <= columns.length; to++) {
      const own = columns.slice(from, to);
      yield made(
        own.map(({ k }) => k),
        own.map(({ name }) => name).join(' + '),
        (r) => own.reduce((sum, { values }) => sum + values[r]!, 0),
      );
    }
  for (const a of columns)
    for (const b of columns) {
      if (a === b) continue;
      const of = [a.k, b.k];
      const [x, y] = [a.values, b.values];
      yield made(of, `100 * ${a.name} / nullif(${b.name}, 0)`, (r) => (100 * x[r]!) / y[r]!);
      yield made(of, `(${a.name} - ${b.name}) / nullif(${b.name}, 0)`, (r) => (x[r]! - y[r]!) / y[r]!);
      yield made(of, `100 * (${a.name} - ${b.name}) / nullif(${b.name}, 0)`, (r) => (100 * (x[r]! - y[r]!)) / y[r]!);
      yield made(of, `(${a.name} - ${b.name}) / nullif(${a.name}, 0)`, (r) => (x[r]! - y[r]!) / x[r]!);
      yield made(of, `${a.name} / nullif(${a.name} + ${b.name}, 0)`, (r) => x[r]! / (x[r]! + y[r]!));
      yield made(of, `100 * ${a.name} / nullif(${a.name} + ${b.name}, 0)`, (r) => (100 * x[r]!) / (x[r]! + y[r]!));
      yield made(of, `${a.name} * ${b.name} / 100`, (r) => (x[r]! * y[r]!) / 100);
    }
  if (columns.length > MAX_IN_THREES) return;
  for (const a of columns)
    for (const b of columns)
      for (const c of columns) {
        if (a === b || b === c || a === c) continue;
        const of = [a.k, b.k, c.k];
        const [x, y, z] = [a.values, b.values, c.values];
        yield made(of, `${a.name} + ${b.name} - ${c.name}`, (r) => x[r]! + y[r]! - z[r]!);
        yield made(of, `${a.name} - ${b.name} - ${c.name}`, (r) => x[r]! - y[r]! - z[r]!);
        yield made(of, `${a.name} * ${b.name} + ${c.name}`, (r) => x[r]! * y[r]! + z[r]!);
        yield made(of, `(${a.name} + ${b.name}) / nullif(${c.name}, 0)`, (r) => (x[r]! + y[r]!) / z[r]!);
        yield made(of, `(${a.name} - ${b.name}) * ${c.name}`, (r) => (x[r]! - y[r]!) * z[r]!);
        yield made(of, `${a.name} * ${b.name} * ${c.name}`, (r) => x[r]! * y[r]! * z[r]!);
      }
}

/** @param places to which it is rounded; undefined: not at all */
export function calculationStep(into: string, text: string, places: number | undefined): Proposal {
  return expressionStep(
    into,
    places === undefined ? text : `round(${text}, ${places})`,
    'calculated as in the rows of the finished table',
  );
}

/** One number times the same factor in each pair; undefined where there is none. */
export function commonFactor(pairs: readonly { own: number; wanted: number }[], places: number): number | undefined {
  const telling = pairs.filter(({ own, wanted }) => own !== 0 && !Number.isNaN(own) && !Number.isNaN(wanted));
  if (new Set(telling.map(({ own }) => own)).size < 3) return undefined;
  // The largest number says the factor with the most digits.
  const best = telling.reduce((a, b) => (Math.abs(b.own) > Math.abs(a.own) ? b : a));
  for (let digits = 0; digits <= 4; digits++) {
    const factor = Math.round((best.wanted / best.own) * 10 ** digits) / 10 ** digits;
    if (factor === 0 || factor === 1) continue;
    if (telling.every(({ own, wanted }) => meets(own * factor, wanted, places) !== undefined)) return factor;
  }
  return undefined;
}
