import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { columnName, expressionText } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { groupRows } from '../../rows/keys.ts';
import { conditionMask } from '../../rules/expression.ts';
import type { Column } from '../../table/column.ts';
import { takeColumn } from '../../table/gather.ts';
import { GroupedRows, type Members } from '../../table/grouped-rows.ts';
import { type ColumnOrigin, fromColumn, type RowMap } from '../../table/origin.ts';
import { type Field, uniqueName } from '../../table/table.ts';
import { counted } from '../../values/counted.ts';
import { divide, Sum } from '../../values/decimal.ts';
import { MEASURE_WORDS, MEASURES, Measure, measure } from './aggregate.ts';

const GroupMeasure = z.object({
  column: columnName().default('').describe('Not needed to count rows'),
  by: z
    .enum([...Measure.options, 'rows', 'share'])
    .default('sum')
    .describe('rows: number of rows; share: of the sum in the whole'),
  name: z.string().min(1),
  where: expressionText().optional().describe('A SQL condition: only rows for which it is true'),
});
type GroupMeasure = z.infer<typeof GroupMeasure>;

const Params = z.object({
  by: ColumnSet.describe('One row for each different combination of these'),
  measures: z.array(GroupMeasure),
});
type Params = z.infer<typeof Params>;

const WORDS: Record<GroupMeasure['by'], string> = {
  ...MEASURE_WORDS,
  rows: 'number of rows',
  share: 'share of the sum',
};

export const groupWords: StepDescriptor<Params> = {
  kind: 'group',
  drops: true,
  title: 'Group',
  summary: 'One row for each group, with sums, means, counts and other measures, each with a condition if wanted',
  searchTerms: ['aggregate', 'summarise', 'total by', 'sum by', 'average', 'subtotal', 'share of total', 'count by'],
  params: Params,
  headline: ({ by }) => `Group by ${columnsPhrase(by)}`,
  sentence: (params) => [
    'Group by ',
    blank('by', columnSetText(params.by), { as: 'columns', label: 'Columns to group by' }),
    ': ',
    blank('measures', params.measures.map(measureText).join(', ') || 'no measure', {
      as: 'items',
      label: 'Measures',
      fresh: { column: '', by: 'rows', name: 'Rows' },
      fields: [
        {
          key: 'by',
          edit: {
            as: 'choice',
            label: 'Measure',
            choices: [...MEASURES, 'rows', 'share'].map((value) => ({
              value,
              label: WORDS[value as GroupMeasure['by']],
            })),
          },
        },
        { key: 'column', edit: { as: 'column', label: 'Column' }, only: { key: 'by', is: [...MEASURES, 'share'] } },
        { key: 'name', edit: { as: 'text', label: 'Name' } },
        { key: 'where', edit: { as: 'text', label: 'Only where (a condition)', optional: true } },
      ],
    }),
  ],
};

export const group = /* @__PURE__ */ stepKind<Params>(groupWords, {
  start: (table, columns) => {
    const numbers = table.fields.filter(
      (field) => (field.column.type === 'number' || field.column.type === 'whole') && !columns.includes(field.name),
    );
    const measures: GroupMeasure[] = numbers.map((field) => ({ column: field.name, by: 'sum', name: field.name }));
    return {
      by: {
        by: 'names',
        names: columns.length > 0 ? [...columns] : table.fields.slice(0, 1).map((field) => field.name),
      },
      measures: measures.length > 0 ? measures : [{ column: '', by: 'rows', name: 'Rows' }],
    };
  },
  run(input, params, context) {
    const keys = chosenColumns(params.by, input);
    const groups = groupRows(
      keys.map((k) => input.fields[k]!.column),
      input.rows,
    );
    const all = new GroupedRows(groups.of, groups.count);
    const lists: RowMap = { kind: 'groups', rows: all };
    const taken = new Set<string>();
    const fields: Field[] = keys.map((k) => ({
      ...input.fields[k]!,
      name: uniqueName(input.fields[k]!.name, taken),
      column: takeColumn(input.fields[k]!.column, groups.first),
    }));
    const origin: ColumnOrigin[] = keys.map((k) => fromColumn(k, lists));
    const notices: Notice[] = [];
    params.measures.forEach((one, m) => {
      const members =
        one.where === undefined || one.where.trim() === ''
          ? all
          : chosenMembers(groups.of, groups.count, conditionMask(one.where, input));
      const index = one.by === 'rows' ? -1 : needColumn(input, one.column);
      const made =
        index < 0
          ? { column: rowCounts(members), several: [] }
          : one.by === 'share'
            ? { column: shares(input.fields[index]!.column, members, one.column), several: [] }
            : measure(input.fields[index]!.column, one.by as Measure, members, one.column);
      const name = uniqueName(one.name, taken);
      if (made.several.length > 0) {
        notices.push({
          severity: 'warning',
          text: `${counted(made.several.length, 'group')} met several values in ${name}`,
          column: name,
          rows: { of: 'after', rows: Int32Array.from(made.several) },
        });
      }
      fields.push({ name, nameOrigin: 'named', column: made.column });
      const from = index < 0 ? keys : [index];
      origin.push({
        cells: from.map((column) => ({ role: 'value', rows: { kind: 'groups', rows: members }, column })),
        name: [],
      });
      context.progress((m + 1) / params.measures.length);
    });
    return { table: { rows: groups.count, fields }, origin, aside: [], notices };
  },
});

function measureText({ by, column, name, where }: GroupMeasure): string {
  const of = by === 'rows' ? WORDS.rows : `${WORDS[by]} of ${column}`;
  return `${of}${name === column ? '' : ` as ${name}`}${where === undefined || where === '' ? '' : ` where ${where}`}`;
}

function chosenMembers(of: Int32Array, count: number, mask: Uint8Array): GroupedRows {
  return new GroupedRows(
    of.map((g, r) => (mask[r] === 1 ? g : -1)),
    count,
  );
}

export function rowCounts(members: GroupedRows): Column {
  return { type: 'whole', values: Float64Array.from(members.sizes()) };
}

/** The part of each group's sum in the sum of all: they add up to 1. */
function shares(column: Column, members: Members, name: string): Column {
  const sums = measure(column, 'sum', members, name).column as Extract<Column, { values: Float64Array }>;
  return { type: 'number', values: sharesOf(sums.values) };
}

/** Each value divided by the sum of all. */
export function sharesOf(values: Float64Array): Float64Array {
  const whole = new Sum();
  for (const value of values) if (!Number.isNaN(value)) whole.add(value);
  return values.map((value) => (whole.value === 0 ? Number.NaN : divide(value, whole.value)));
}
