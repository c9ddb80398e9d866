import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { blank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { groupRows } from '../../rows/keys.ts';
import { fromColumn, takenRows } from '../../table/origin.ts';
import { uniqueName } from '../../table/table.ts';
import { flags } from '../../table/vectors.ts';
import { counted } from '../../values/counted.ts';
import { fromColumns } from '../result.ts';
import { setAsideRows } from './set-aside.ts';

const Params = z.object({
  columns: ColumnSet.default({ by: 'all' }),
  into: z.string().min(1).default('Times').describe('Column that says how often'),
});
type Params = z.infer<typeof Params>;

export const showDuplicatesWords: StepDescriptor<Params> = {
  kind: 'show-duplicates',
  drops: true,
  title: 'Show duplicates',
  summary: 'Keeps only rows that occur more than once by the chosen columns, with their count',
  searchTerms: ['find duplicates', 'repeated', 'not unique', 'twice'],
  params: Params,
  headline: () => 'Show duplicate rows',
  sentence: (params) => [
    'Show rows that occur more than once by ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns in which duplicates agree' }),
    ', how often in ',
    blank('into', params.into, { as: 'text', label: 'Name of the new column' }),
  ],
};

export const showDuplicates = /* @__PURE__ */ stepKind<Params>(showDuplicatesWords, {
  start: (_, columns) => ({
    columns: columns.length === 0 ? { by: 'all' } : { by: 'names', names: [...columns] },
    into: 'Times',
  }),
  run(input, params) {
    const chosen = chosenColumns(params.columns, input);
    const { of, count } = groupRows(
      chosen.map((k) => input.fields[k]!.column),
      input.rows,
    );
    const times = new Float64Array(count);
    for (const group of of) times[group]!++;
    const single = flags(of, (group) => times[group] === 1);
    const result = setAsideRows(input, single, 'single');
    const kept = Int32Array.from(of.keys()).filter((r) => single[r] === 0);
    const taken = new Set(result.table.fields.map((field) => field.name));
    const column = { type: 'whole' as const, values: Float64Array.from(kept, (r) => times[of[r]!]!) };
    return {
      table: {
        rows: kept.length,
        fields: [...result.table.fields, { name: uniqueName(params.into, taken), nameOrigin: 'named', column }],
      },
      origin: [...input.fields.map((_, k) => fromColumn(k, takenRows(kept))), fromColumns(chosen, takenRows(kept))],
      aside: result.aside,
      notices: [{ severity: 'info', text: `${counted(times.filter((n) => n > 1).length, 'key')} more than once` }],
    };
  },
});
