import type { StepResult } from '../../kinds/step.ts';
import { fromColumn } from '../../table/origin.ts';
import type { Table } from '../../table/table.ts';

/** The table with these columns alone, in this order. */
export function chooseColumns(input: Table, columns: readonly number[]): StepResult {
  return {
    table: { rows: input.rows, fields: columns.map((k) => input.fields[k]!) },
    origin: columns.map((k) => fromColumn(k)),
    aside: [],
    notices: [],
  };
}
