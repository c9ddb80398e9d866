/** Runs the examples of steps, for the docs and for the list of what to do next. */
import { CATALOGUE, type JobStep, stepHeadline } from '../core/index.ts';
import { countedColumn, textColumn } from '../core/table/builder.ts';
import { type Column, columnLength } from '../core/table/column.ts';
import type { Table } from '../core/table/table.ts';
import { cellText } from '../core/values/cell-text.ts';
import { MS } from '../core/values/civil.ts';
import type { ExampleColumns, StepExample } from './step-examples.ts';

/** A few rows as they read. */
export interface ShownTable {
  names: readonly string[];
  rows: readonly (readonly string[])[];
}

/** What a step does to a few rows. */
export interface ShownExample {
  headline: string;
  before: ShownTable;
  /** The other table that it takes. */
  other?: ShownTable;
  after: ShownTable;
  /** Rows that it sets aside. */
  aside?: ShownTable;
}

function columnOf(cells: readonly (string | number | null)[]): Column {
  const filled = cells.filter((cell) => cell !== null);
  if (filled.every((cell) => typeof cell === 'number')) return countedColumn('number', cells as (number | null)[]);
  if (filled.every((cell) => /^\d{4}-\d\d-\d\d$/.test(String(cell))))
    return countedColumn(
      'date',
      cells.map((cell) => (cell === null ? null : Date.parse(String(cell)) / MS.day)),
    );
  return textColumn(cells as (string | null)[]);
}

function tableOf(columns: ExampleColumns, isPositioned = false): Table {
  const fields = Object.entries(columns).map(([name, cells]) => ({
    name,
    nameOrigin: isPositioned ? ('position' as const) : ('named' as const),
    column: columnOf(cells),
  }));
  return { rows: columnLength(fields[0]!.column), fields };
}

function shown(table: Table, rows = Array.from({ length: table.rows }, (_, r) => r)): ShownTable {
  return {
    names: table.fields.map(({ name }) => name),
    rows: rows.map((r) => table.fields.map(({ column }) => cellText(column, r) ?? '')),
  };
}

/** @throws StepFailure where the example does not run */
export function runExample({ kind, before, params, isPositioned, other }: StepExample): ShownExample {
  const table = tableOf(before, isPositioned);
  const step = CATALOGUE.get(kind)!;
  const second = other === undefined ? undefined : tableOf(other.columns);
  const parsed = step.params.parse(params) as Record<string, unknown>;
  const result = step.run(table, parsed, {
    progress: () => undefined,
    name: 'an example',
    other: () => ({ name: other!.name, table: second! }),
  });
  const aside = result.aside
    .flatMap((pile) => (pile.columns === undefined ? [...pile.rows] : []))
    .sort((a, b) => a - b);
  const headline = stepHeadline({ id: 's', kind, params: parsed } as JobStep, {
    ...(other === undefined ? {} : { [other.name]: other.name }),
  });
  return {
    headline,
    before: shown(table),
    ...(second === undefined ? {} : { other: shown(second) }),
    after: shown(result.table),
    ...(aside.length === 0 ? {} : { aside: shown(table, aside) }),
  };
}
