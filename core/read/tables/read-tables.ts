import { z } from 'zod';
import { blank } from '../../kinds/sentence.ts';
import type { Notice } from '../../kinds/step.ts';
import { constantText } from '../../table/builder.ts';
import { stackColumns } from '../../table/gather.ts';
import { stackByName } from '../../table/stack-tables.ts';
import { type Field, type Table, uniqueName } from '../../table/table.ts';
import { counted, few } from '../../values/counted.ts';
import { EXPECTS, expectsPhrase } from '../expected-columns.ts';
import { chosenNames, NameSet, nameSetPhrase, nameSetText } from '../name-set.ts';
import { type ReadWords, readKind } from '../read-kind.ts';
import { PART_NAME, type ReportPart } from '../report.ts';
import type { OpenedTable } from './opened-table.ts';
import { openedTables } from './opened-tables.ts';

const Params = z.object({
  source: z.string(),
  tables: NameSet.default({ by: 'all' }),
  nameColumn: z.string().nullable().default('Table').describe("Column that takes the table's name; null: none"),
  expects: EXPECTS,
});
type Params = z.infer<typeof Params>;

/** Files that hold tables with their own names and types: Parquet, Arrow, SQLite. */
export const readTablesWords: ReadWords<Params> = {
  kind: 'read-tables',
  title: 'Read tables',
  page: 'sheet',
  params: Params,
  headline: ({ tables }) => `Read ${nameSetPhrase(tables, 'tables')}`,
  sentence: (params, sourceName) => [
    'Read ',
    blank('tables', nameSetText(params.tables, 'tables'), { as: 'sheets', label: 'Which tables' }),
    ` of ${sourceName}, stacked, table name in `,
    blank('nameColumn', params.nameColumn ?? 'no column', {
      as: 'text',
      label: "Column for the table's name",
      optional: true,
    }),
    expectsPhrase(params.expects),
  ],
};

export const readTables = /* @__PURE__ */ readKind<Params>(readTablesWords, {
  start: (id, source) => {
    const tables = openedTables(source);
    const largest = tables.toSorted((a, b) => b.rows * b.columns.length - a.rows * a.columns.length)[0];
    // Tables with the same columns belong under each other; others are read on their own.
    const alike = tables.filter((one) => one.names.join('\0') === largest?.names.join('\0'));
    const names = alike.map((one) => one.name);
    return Params.parse({
      source: id,
      tables: alike.length === tables.length || names.length === 0 ? { by: 'all' } : { by: 'names', names },
      nameColumn: alike.length > 1 ? 'Table' : null,
    });
  },
  read(source, params, context) {
    const all = openedTables(source);
    const chosen = chosenNames(
      params.tables,
      all.map((one) => one.name),
      source.name,
      'table',
    );
    const tables = chosen.map((k): Table => tableOf(all[k]!));
    const stacked = stackByName(tables);
    const rows = tables.reduce((sum, table) => sum + table.rows, 0);
    const taken = new Set(stacked.map(({ field }) => field.name));
    const named: Field[] =
      params.nameColumn === null || params.nameColumn === ''
        ? []
        : [
            {
              name: uniqueName(params.nameColumn, taken),
              nameOrigin: 'beside',
              column: stackColumns(chosen.map((k) => constantText(all[k]!.name, all[k]!.rows))),
            },
          ];
    context.progress(0.9);
    const part = new Int32Array(rows);
    const row = new Int32Array(rows);
    let at = 0;
    for (const k of chosen)
      for (let r = 0; r < all[k]!.rows; r++, at++) {
        part[at] = k;
        row[at] = r;
      }
    const names = named.map(() => PART_NAME);
    const ofPart: (Int32Array | undefined)[] = all.map(() => undefined);
    chosen.forEach((k, t) => {
      ofPart[k] = Int32Array.from([...names, ...stacked.map((one) => one.at[t]!)]);
    });
    return {
      report: { format: 'workbook', parts: all.map(partOf) },
      table: { rows, fields: [...named, ...stacked.map(({ field }) => field)] },
      places: { part, row, columns: ofPart[chosen[0] ?? 0] ?? new Int32Array(), ofPart },
      notices: notices(
        all,
        chosen,
        stacked.map(({ field, at: places }) => ({ name: field.name, at: places })),
      ),
    };
  },
});

/** Names that stand twice in a table get a number. */
function tableOf({ rows, names, columns }: OpenedTable): Table {
  const taken = new Set<string>();
  return {
    rows,
    fields: columns.map((column, c) => ({ name: uniqueName(names[c]!, taken), nameOrigin: 'named', column })),
  };
}

function partOf({ name, rows, names, columns }: OpenedTable): ReportPart {
  return { name, rows, names, columns, displayed: [], merges: [], comments: [], hidden: false };
}

function notices(
  all: readonly OpenedTable[],
  chosen: readonly number[],
  columns: readonly { name: string; at: readonly number[] }[],
): Notice[] {
  const told: Notice[] = chosen.flatMap((k) => all[k]!.notices);
  const left = all.filter((_, k) => !chosen.includes(k)).map((one) => one.name);
  if (left.length > 0)
    told.push({ severity: 'info', text: `${counted(left.length, 'other table')} left: ${few(left)}` });
  for (const { name, at } of columns) {
    const without = chosen.filter((_, t) => at[t]! < 0).map((k) => all[k]!.name);
    if (without.length > 0)
      told.push({
        severity: 'warning',
        text: `${few(without)} ${without.length === 1 ? 'has' : 'have'} no column ${name}: blank there`,
        column: name,
      });
  }
  return told;
}
