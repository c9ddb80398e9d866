import { z } from 'zod';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { textColumn } from '../../table/builder.ts';
import { type Column, columnLength } from '../../table/column.ts';
import { stackColumns } from '../../table/gather.ts';
import { NAME, type Origin, takenRows } from '../../table/origin.ts';
import { columnLetters, uniqueName } from '../../table/table.ts';
import { intVector } from '../../table/vectors.ts';

const Params = z.object({});
type Params = z.infer<typeof Params>;

/** Cells under one more cell on top, none of them coerced. */
function under(name: string, column: Column): Column {
  return columnLength(column) === 0 ? textColumn([name]) : stackColumns([textColumn([name]), column]);
}

export const namesToRowWords: StepDescriptor<Params> = {
  kind: 'names-to-row',
  drops: true,
  title: 'Names to a row',
  summary: 'The column names become the first row again, and columns are named by position',
  searchTerms: ['demote header', 'undo header', 'header to row', 'names as data'],
  params: Params,
  headline: () => 'Move column names into a row',
  sentence: () => ['Column names become the first row'],
};

export const namesToRow = /* @__PURE__ */ stepKind<Params>(namesToRowWords, {
  start: () => ({}),
  run(input) {
    const taken = new Set(input.fields.filter((field) => field.nameOrigin === 'beside').map((field) => field.name));
    const rows = intVector(input.rows + 1, (r) => r - 1);
    let position = 0;
    const fields = input.fields.map((field) => {
      const beside = field.nameOrigin === 'beside';
      const name = beside ? field.name : uniqueName(columnLetters(position++), taken);
      return {
        name,
        nameOrigin: beside ? ('beside' as const) : ('position' as const),
        column: under(field.name, field.column),
      };
    });
    const first = new Int32Array(input.rows + 1).fill(-1);
    const origin: Origin = input.fields.map((_, k) => {
      const names = first.slice();
      names[0] = k;
      return {
        cells: [
          { role: 'value', rows: takenRows(rows), column: k },
          { role: 'value', rows: { kind: 'at', rows: [NAME] }, column: { kind: 'take', columns: names } },
        ],
        name: [],
      };
    });
    return { table: { rows: input.rows + 1, fields }, origin, aside: [], notices: [] };
  },
});
