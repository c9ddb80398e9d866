import { CellKind, profileTable } from '../glance/table-profile.ts';
import { findSums } from '../rows/sums.ts';
import { runStarts } from '../rules/placed.ts';
import type { MethodRun } from '../run/run.ts';
import type { Column } from '../table/column.ts';
import { takeRows } from '../table/gather.ts';
import { spansOf } from '../table/spanned-column.ts';
import { rowNumbers } from '../table/vectors.ts';
import { figureAt } from '../tally/figure.ts';
import { NumberForm } from '../values/number-text.ts';

/** Rows that tell which columns hold figures. */
const LOOKED_AT = 500;

/** Figures of totals that agree with the rows they sum, of how many. */
export interface TotalsProof {
  agree: number;
  of: number;
}

/**
 * The totals of a large report against its rows, without the whole tally: the figures of the rows that the method kept are
 * summed up to the rows that it set aside as totals. Undefined where it set none aside.
 */
export function proofOnWhole(run: MethodRun, within: string | undefined): TotalsProof | undefined {
  const at = run.steps.findIndex(({ aside }) =>
    aside.some((pile) => pile.mark === 'total' && pile.columns === undefined),
  );
  const before = run.steps[at - 1]?.table;
  if (before === undefined) return undefined;
  const totals = run.steps[at]!.aside.filter((pile) => pile.mark === 'total').flatMap((pile) => [...pile.rows]);
  const kept = new Uint8Array(before.rows).fill(1);
  for (const { rows } of run.steps[at]!.aside) for (const r of rows) kept[r] = 0;
  for (const r of totals) kept[r] = 1;
  const sample = profileTable(takeRows(before, rowNumbers(Math.min(LOOKED_AT, before.rows))), before.decimal);
  const form = NumberForm.parse({ decimal: sample.decimal });
  const columns = sample.columns.flatMap(({ index, counts }) => {
    const [blank, figures] = [counts[CellKind.blank] ?? 0, counts[CellKind.figure] ?? 0];
    if (figures === 0 || figures < (sample.rows - blank) / 2) return [];
    return [figuresOf(before.fields[index]!.column, kept, form)];
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

/** The figures of a column in the rows that are kept; NaN elsewhere. */
function figuresOf(column: Column, kept: Uint8Array, form: NumberForm): Float64Array {
  const read = form.decimal === '.' && column.type === 'text' ? spansOf(column)?.numbers : undefined;
  const values = new Float64Array(kept.length).fill(Number.NaN);
  const figure = (r: number) => figureAt(column, r, form)?.value ?? Number.NaN;
  for (let r = 0; r < values.length; r++)
    if (kept[r] === 1) values[r] = read === undefined ? figure(r) : read.values[r]!;
  for (const r of read?.others ?? []) if (kept[r] === 1) values[r] = figure(r);
  return values;
}
