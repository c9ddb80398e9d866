import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { type StepDescriptor, type StepResult, stepKind } from '../../kinds/step.ts';
import { runStarts } from '../../rules/placed.ts';
import { withinText } from '../../rules/rules.ts';
import { type Column, isBlank } from '../../table/column.ts';
import { stackColumns, takeColumn } from '../../table/gather.ts';
import { type ColumnOrigin, fromColumn, nameOf, takenRows } from '../../table/origin.ts';
import type { Table } from '../../table/table.ts';
import { rowNumbers } from '../../table/vectors.ts';
import { changedNotice } from '../result.ts';

const Params = z.object({
  columns: ColumnSet,
  direction: z.enum(['down', 'up', 'across']).default('down').describe('across: from the column before'),
  within: columnName().optional().describe('Down and up: not past where this column changes'),
});
type Params = z.infer<typeof Params>;

export const fillWords: StepDescriptor<Params> = {
  kind: 'fill',
  drops: true,
  title: 'Fill blanks',
  summary: 'Blank cells take the value above, below or before them',
  searchTerms: [
    'fill down',
    'fill up',
    'fill across',
    'fill right',
    'repeat value',
    'merged cells',
    'last value',
    'forward fill',
  ],
  params: Params,
  headline: ({ columns, direction }) => `Fill ${direction} ${columnsPhrase(columns)}`,
  sentence: (params) => [
    'Fill ',
    choiceBlank('direction', params.direction, 'Direction', [
      ['down', 'down'],
      ['up', 'up'],
      ['across', 'across'],
    ]),
    ' the blanks of ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to fill' }),
    ...(params.direction === 'across'
      ? []
      : [
          blank('within', withinText(params.within) || ' through all rows', {
            as: 'column' as const,
            label: 'Not past where this changes',
            optional: true,
          }),
        ]),
  ],
};

export const fill = /* @__PURE__ */ stepKind<Params>(fillWords, {
  start: (table, columns) => ({
    columns: columns.length === 0 ? { by: 'all' } : { by: 'names', names: [...columns] },
    direction: 'down',
    within: table.fields.find((field) => field.nameOrigin === 'beside' && !columns.includes(field.name))?.name,
  }),
  run(input, params) {
    const chosen = chosenColumns(params.columns, input);
    return params.direction === 'across' ? fillAcross(input, chosen) : fillAlong(input, chosen, params);
  },
});

function fillAlong(input: Table, chosen: readonly number[], params: Params): StepResult {
  const starts = runStarts(input, params.within);
  const fields = [...input.fields];
  const origin: ColumnOrigin[] = input.fields.map((_, k) => fromColumn(k));
  let filled = 0;
  for (const k of chosen) {
    const { column } = input.fields[k]!;
    const { rows, count } = nearestFilled(column, starts, params.direction === 'up');
    if (count === 0) continue;
    filled += count;
    fields[k] = { ...input.fields[k]!, column: takeColumn(column, rows) };
    origin[k] = fromColumn(k, takenRows(rows));
  }
  return { table: { rows: input.rows, fields }, origin, aside: [], notices: [changedNotice(filled, 'filled')] };
}

/** For each row the nearest row above (or below) in the same run that is filled, or the row itself. */
function nearestFilled(column: Column, starts: readonly number[], up: boolean): { rows: Int32Array; count: number } {
  const rows = new Int32Array(starts.at(-1)!);
  let count = 0;
  for (let s = 0; s + 1 < starts.length; s++) {
    const [from, to] = [starts[s]!, starts[s + 1]!];
    let last = -1;
    for (let k = 0; k < to - from; k++) {
      const r = up ? to - 1 - k : from + k;
      if (!isBlank(column, r)) last = r;
      else if (last >= 0) count++;
      rows[r] = last < 0 ? r : last;
    }
  }
  return { rows, count };
}

function fillAcross(input: Table, chosen: readonly number[]): StepResult {
  const fields = [...input.fields];
  const origin: ColumnOrigin[] = input.fields.map((_, k) => fromColumn(k));
  let filled = 0;
  let before: { column: Column; from: Int32Array } | undefined;
  for (const k of chosen) {
    const { column } = input.fields[k]!;
    const from = new Int32Array(input.rows).fill(k);
    if (before === undefined) {
      before = { column, from };
      continue;
    }
    const rows = rowNumbers(input.rows);
    let own = 0;
    for (let r = 0; r < input.rows; r++) {
      if (!isBlank(column, r) || isBlank(before.column, r)) continue;
      rows[r] = input.rows + r;
      from[r] = before.from[r]!;
      own++;
    }
    const next: Column = own === 0 ? column : takeColumn(stackColumns([column, before.column]), rows);
    if (own > 0) {
      fields[k] = { ...input.fields[k]!, column: next };
      origin[k] = {
        cells: [{ role: 'value', rows: { kind: 'same' }, column: { kind: 'take', columns: from } }],
        name: nameOf(k),
      };
    }
    filled += own;
    before = { column: next, from };
  }
  return { table: { rows: input.rows, fields }, origin, aside: [], notices: [changedNotice(filled, 'filled')] };
}
