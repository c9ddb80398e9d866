/** A table before and after a step: which rows and columns came, went and stayed, and which cells changed. */

import type { MethodRun, StepRun } from '../run/run.ts';
import { leadingRows } from '../table/origin.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';

export interface Comparison {
  addedColumns: string[];
  goneColumns: string[];
  addedRows: number;
  goneRows: number;
  /** Cells of columns and rows that stayed which read otherwise now. */
  changed: number;
  /** The first of the changed cells. */
  examples: { row: number; column: string; before: string | null; after: string | null }[];
}

const MAX_EXAMPLES = 50;

/** For each row the row before the step that it stems from; undefined where all are the same. */
function rowsBefore(step: StepRun): Int32Array | undefined {
  return (step.inner ?? [step]).reduce<Int32Array | undefined>((before, one) => {
    const rows = leadingRows(one.origin, one.table.rows);
    return rows === undefined || before === undefined
      ? (rows ?? before)
      : rows.map((row) => (row < 0 ? row : before[row]!));
  }, undefined);
}

export function compareStep(run: MethodRun, index: number): Comparison | undefined {
  const after = run.steps[index];
  const before = run.steps[index - 1];
  if (after === undefined || before === undefined) return undefined;
  const names = (table: Table) => new Set(table.fields.map((field) => field.name));
  const [old, now] = [names(before.table), names(after.table)];
  const same = after.inner === undefined && after.origin.length > 0 && before.table.rows === after.table.rows;
  const stayed = after.table.fields.flatMap((field) => {
    const own = before.table.fields.find((one) => one.name === field.name);
    return own === undefined || (own.column === field.column && same)
      ? []
      : [{ name: field.name, from: own.column, to: field.column }];
  });
  const found: Comparison = {
    addedColumns: [...now].filter((name) => !old.has(name)),
    goneColumns: [...old].filter((name) => !now.has(name)),
    addedRows: 0,
    goneRows: 0,
    changed: 0,
    examples: [],
  };
  const seen = new Uint8Array(before.table.rows);
  const rows = rowsBefore(after);
  for (let r = 0; r < after.table.rows; r++) {
    const from = rows === undefined ? r : rows[r]!;
    if (from < 0 || seen[from] === 1) {
      found.addedRows++;
      if (from < 0) continue;
    }
    seen[from] = 1;
    for (const column of stayed) {
      const [a, b] = [cellText(column.from, from), cellText(column.to, r)];
      if (a === b) continue;
      found.changed++;
      if (found.examples.length < MAX_EXAMPLES)
        found.examples.push({ row: r, column: column.name, before: a, after: b });
    }
  }
  for (const bit of seen) if (bit === 0) found.goneRows++;
  return found;
}
