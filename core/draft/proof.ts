import { decimalOf, lookAtText, Seen } from '../glance/sight.ts';
import { findSums } from '../rows/sums.ts';
import { runStarts } from '../rules/placed.ts';
import type { MethodRun } from '../run/run.ts';
import { takeRows } from '../table/gather.ts';
import type { Table } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { cellText } from '../values/cell-text.ts';
import { NumberForm } from '../values/number-text.ts';

/** Figures of totals that agree with the rows they sum, of how many. */
export interface TotalsProof {
  agree: number;
  of: number;
}

/**
 * The totals of a large report against its rows, without the whole tally: the figures that the method typed are summed up
 * to the rows that it set aside as totals. Undefined where the method has none, or reshapes the rows behind them.
 */
export function proofOnWhole(run: MethodRun, within: string | undefined): TotalsProof | undefined {
  const at = run.steps.findIndex(({ aside }) =>
    aside.some((pile) => pile.mark === 'total' && pile.columns === undefined),
  );
  const before = run.steps[at - 1]?.table;
  const after = run.steps[at]?.table;
  const last = run.steps.at(-1)?.table;
  if (before === undefined || after === undefined || last === undefined || last.rows !== after.rows) return undefined;
  const totals = run.steps[at]!.aside.filter((pile) => pile.mark === 'total').flatMap((pile) => [...pile.rows]);
  const gone = new Uint8Array(before.rows);
  for (const { rows } of run.steps[at]!.aside) for (const r of rows) gone[r] = 1;
  const form = NumberForm.parse({
    decimal: decimalOf(takeRows(before, rowNumbers(Math.min(500, before.rows)))).decimal,
  });
  const columns = last.fields.flatMap((field) => {
    const own = before.fields.findIndex((one) => one.name === field.name);
    if (own < 0 || (field.column.type !== 'number' && field.column.type !== 'whole')) return [];
    const values = new Float64Array(before.rows).fill(Number.NaN);
    for (let r = 0, k = 0; r < before.rows; r++) if (gone[r] === 0) values[r] = field.column.values[k++]!;
    for (const r of totals) values[r] = figureAt(before, own, r, form);
    return [values];
  });
  if (columns.length === 0) return undefined;
  const hints = new Uint8Array(before.rows);
  for (const r of totals) hints[r] = 1;
  const runs = within !== undefined && before.fields.some((field) => field.name === within) ? within : undefined;
  const found = findSums({
    columns,
    rows: before.rows,
    starts: runStarts(before, runs).slice(0, -1),
    hints,
    only: hints,
  });
  const wanted = new Set(totals);
  const agree = found.filter(({ row }) => wanted.has(row)).reduce((sum, one) => sum + one.fit, 0);
  const of = columns.reduce((sum, values) => sum + totals.filter((r) => !Number.isNaN(values[r]!)).length, 0);
  return { agree, of };
}

function figureAt(table: Table, column: number, row: number, form: NumberForm): number {
  const text = cellText(table.fields[column]!.column, row);
  if (text === null) return Number.NaN;
  const { kind, value } = lookAtText(text, form);
  return kind === Seen.figure ? value : Number.NaN;
}
