import { z } from 'zod';
import { columnName, standsFor, tableId } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { type Notice, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { constantText } from '../../table/builder.ts';
import { stackColumns } from '../../table/gather.ts';
import { type ColumnOrigin, NAME, takenRows } from '../../table/origin.ts';
import { stackByName } from '../../table/stack-tables.ts';
import { type Field, type Table, uniqueName } from '../../table/table.ts';
import { counted, few } from '../../values/counted.ts';

const Params = z.object({
  tables: z.array(tableId()).min(1).describe('Ids of the tables to append, in order'),
  columns: z
    .array(z.object({ table: z.string(), from: standsFor('other column', z.string()), to: columnName() }))
    .default([])
    .describe('Columns of the other tables that stand under a column of another name; an empty name leaves them out'),
  nameColumn: z.string().nullable().default(null).describe("Column that takes the tables' names"),
});
type Params = z.infer<typeof Params>;

export const appendWords: StepDescriptor<Params> = {
  kind: 'append',
  otherTableVerb: 'appends it',
  drops: true,
  title: 'Append tables',
  summary: 'Adds the rows of other tables below, by column name; missing columns are blank',
  searchTerms: ['union', 'stack tables', 'combine tables', 'add rows', 'concatenate tables'],
  params: Params,
  headline: ({ tables }) => (tables.length === 1 ? 'Append 1 table' : `Append ${tables.length} tables`),
  sentence: (params, names) => [
    'Append ',
    blank('tables', params.tables.map((id) => names?.(id) ?? id).join(', ') || 'no table yet', {
      as: 'tables',
      label: 'Tables to append',
    }),
    ...(params.columns.length === 0
      ? []
      : [
          ', ',
          blank(
            'columns',
            params.columns
              .map(({ from, to }) => (to === '' ? `without its ${from}` : `${from} under ${to}`))
              .join(', '),
            {
              as: 'items' as const,
              label: 'Columns that stand under others',
              fresh: { table: '', from: '', to: '' },
              fields: [
                { key: 'table', edit: { as: 'table' as const, label: 'Table' } },
                { key: 'from', edit: { as: 'text' as const, label: 'Its column' } },
                { key: 'to', edit: { as: 'text' as const, label: 'Stands under', optional: true } },
              ],
            },
          ),
        ]),
    ", the tables' names in ",
    blank('nameColumn', params.nameColumn ?? 'no column', {
      as: 'text',
      label: "Column for the tables' names",
      optional: true,
    }),
  ],
};

export const append = /* @__PURE__ */ stepKind<Params>(appendWords, {
  start: () => ({ tables: [], columns: [], nameColumn: null }),
  run(input, params, context) {
    const others = params.tables.map((id) => context.other(id));
    const tables: Table[] = [input, ...others.map((other) => other.table)];
    const own = tables.map((table, t) =>
      namesUnder(
        table,
        params.columns.filter((one) => one.table === params.tables[t - 1]),
      ),
    );
    const names = [...new Set(own.flat())].filter((name) => name !== '');
    const rows = tables.reduce((sum, table) => sum + table.rows, 0);
    const places = rowPlaces(tables, rows);
    const fields: Field[] = [];
    const origin: ColumnOrigin[] = [];
    const notices: Notice[] = [];
    const taken = new Set<string>();
    if (params.nameColumn !== null && params.nameColumn !== '') {
      const called = [context.name, ...others.map((other) => other.name)];
      fields.push({
        name: uniqueName(params.nameColumn, taken),
        nameOrigin: 'beside',
        column: stackColumns(tables.map((table, t) => constantText(called[t]!, table.rows))),
      });
      origin.push({ cells: [], name: [] });
    }
    for (const { field, at } of stackByName(tables, own)) {
      fields.push({ ...field, name: uniqueName(field.name, taken) });
      const cells = at.flatMap((column, t) =>
        column < 0 ? [] : [{ role: 'value' as const, input: t, rows: takenRows(places[t]!), column }],
      );
      origin.push({ cells, name: cells.map((cell) => ({ ...cell, rows: { kind: 'at' as const, rows: [NAME] } })) });
    }
    tables.forEach((table, t) => {
      const missing = names.filter((name) => !own[t]!.includes(name));
      if (missing.length > 0) {
        const who = t === 0 ? context.name : others[t - 1]!.name;
        notices.push({
          severity: 'warning',
          text: `${who} has no ${few(missing)}: blank in its ${counted(table.rows, 'row')}`,
        });
      }
    });
    return { table: { rows, fields }, origin, aside: [], notices };
  },
});

/** For each column of a table the name it stands under; '' where it is left out. */
function namesUnder(table: Table, columns: Params['columns']): string[] {
  return table.fields.map((field) => columns.find((one) => one.from === field.name)?.to ?? field.name);
}

/** For each table its row in every output row, or -1. */
function rowPlaces(tables: readonly Table[], rows: number): Int32Array[] {
  let at = 0;
  return tables.map((table) => {
    const place = new Int32Array(rows).fill(-1);
    for (let r = 0; r < table.rows; r++) place[at + r] = r;
    at += table.rows;
    return place;
  });
}
