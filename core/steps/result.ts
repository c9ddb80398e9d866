/** Results that many steps share. */

import type { Notice, StepResult } from '../kinds/step.ts';
import { type ColumnOrigin, fromColumn, type RowMap, sameColumns } from '../table/origin.ts';
import { type Field, type Table, uniqueName } from '../table/table.ts';
import { counted } from '../values/counted.ts';

/** The same rows and columns with other cells. */
export function changedInPlace(input: Table, fields: readonly Field[], notices: readonly Notice[] = []): StepResult {
  return { table: { rows: input.rows, fields }, origin: sameColumns(input.fields.length), aside: [], notices };
}

export interface AddedColumn {
  field: Field;
  origin: ColumnOrigin;
}

/**
 * The table with columns added behind the column at an index, and some taken out. A name that is taken is made unique
 * and told.
 */
export function withColumns(
  input: Table,
  after: number,
  added: readonly AddedColumn[],
  gone: ReadonlySet<number> = new Set(),
  notices: readonly Notice[] = [],
): StepResult {
  const taken = new Set(input.fields.filter((_, k) => !gone.has(k)).map((field) => field.name));
  const fields: Field[] = [];
  const origin: ColumnOrigin[] = [];
  const told: Notice[] = [...notices];
  const insert = () => {
    for (const one of added) {
      const name = uniqueName(one.field.name, taken);
      if (name !== one.field.name)
        told.push({ severity: 'warning', text: `named ${name}, as ${one.field.name} was taken`, column: name });
      fields.push({ ...one.field, name });
      origin.push(one.origin);
    }
  };
  if (after < 0) insert();
  input.fields.forEach((field, k) => {
    if (!gone.has(k)) {
      fields.push(field);
      origin.push(fromColumn(k));
    }
    if (k === after) insert();
  });
  return { table: { rows: input.rows, fields }, origin, aside: [], notices: told };
}

/** The origin of cells computed from several columns of the same row. */
export function fromColumns(columns: readonly number[], rows: RowMap = { kind: 'same' }): ColumnOrigin {
  return { cells: columns.map((column) => ({ role: 'value', rows, column })), name: [] };
}

export function changedNotice(cells: number, what = 'changed'): Notice {
  return cells === 0
    ? idleNotice(`no cell is ${what}`)
    : { severity: 'info', text: `${counted(cells, 'cell')} ${what}` };
}

/** A notice that the step found nothing to do. */
export function idleNotice(text: string, severity: Notice['severity'] = 'warning'): Notice {
  return { severity, text, idle: true };
}

/** A notice of rows that want a look, or nothing where there are none. */
export function lookAt(rows: readonly number[], of: 'before' | 'after', text: string, column?: string): Notice[] {
  if (rows.length === 0) return [];
  return [{ severity: 'warning', text, column, rows: { of, rows: Int32Array.from(rows) } }];
}
