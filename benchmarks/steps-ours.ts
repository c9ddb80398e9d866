import {
  CATALOGUE,
  countedColumn,
  makeTable,
  READINGS,
  type StepResult,
  type Table,
  textColumn,
} from '../core/index.ts';
import { type Data, MONTHS } from './data.ts';
import type { Operations } from './operations.ts';

const CONTEXT = {
  progress: () => undefined,
  name: 'table',
  other: () => {
    throw new Error('It needs no other table');
  },
};
const TEXT = ['code', 'port', 'route', 'packed'];

function run(kind: string, params: object, table: Table, other?: Table): StepResult {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), { ...CONTEXT, other: () => ({ name: 'keys', table: other! }) });
}

/** Texts as the reading of a delimited file leaves them, which is where texts that are to be numbers come from. */
function readTexts(texts: readonly string[]): Table {
  const reading = READINGS.get('read-delimited')!;
  const bytes = new TextEncoder().encode(texts.map((text) => `"${text}"\n`).join(''));
  const source = { name: 'written.csv', bytes };
  return reading.read(source, reading.params.parse({ source: 's' }), CONTEXT).table;
}

/** The data as a table. In its own function, so that no operation keeps the data alive: the collector would walk it. */
export function ourTable(data: Data): Table {
  return makeTable({
    ...Object.fromEntries(Object.entries(data.text).map(([name, cells]) => [name, textColumn(cells)])),
    ...Object.fromEntries(MONTHS.map((month) => [month, countedColumn('number', data.numbers[month])])),
  });
}

/** The steps as the bench runs them, each with its Origin. */
export function ourOperations(data: Data): Operations {
  const table = ourTable(data);
  const written = readTexts(data.written);
  const keys = makeTable({ packed: textColumn(data.keys.packed), fare: countedColumn('number', data.keys.fare) });
  let long: Table | undefined;
  const unpivot = () =>
    run(
      'unpivot',
      { columns: { by: 'all-but', names: TEXT }, parts: [{ as: 'column', name: 'month' }], value: 'foot' },
      table,
    ).table;
  const operations: Operations = {
    unpivot: () => {
      long = undefined;
      long = unpivot();
      return long.rows;
    },
    pivot: () => {
      long ??= unpivot();
      return run('pivot', { rows: { by: 'names', names: TEXT }, names: ['month'], values: [{ column: 'foot' }] }, long)
        .table.rows;
    },
    'fill down': () => run('fill', { columns: { by: 'names', names: ['port'] } }, table).table.rows,
    carry: () =>
      run(
        'carry',
        { from: 'port', rule: { test: 'filled', columns: { by: 'names', names: ['port'] } }, into: 'label' },
        table,
      ).table.rows,
    'split in three': () =>
      run('split-to-columns', { column: 'packed', cut: { delimiters: ['-'] }, into: ['a', 'b', 'c'] }, table).table
        .rows,
    replace: () =>
      run('replace', { columns: { by: 'names', names: ['packed'] }, find: '-', with: '/' }, table).table.rows,
    'set types from text': () =>
      run('set-types', { types: [{ columns: { by: 'all' }, type: 'number' }] }, written).table.rows,
    'group by three': () =>
      run(
        'group',
        {
          by: { by: 'names', names: ['route', 'port', 'packed'] },
          measures: [
            { by: 'sum', column: 'Jan', name: 's' },
            { by: 'mean', column: 'Feb', name: 'm' },
          ],
        },
        table,
      ).table.rows,
    'join to 40,000 keys': () =>
      run('join', { table: 'keys', keys: [{ left: 'packed', right: 'packed' }] }, table, keys).table.rows,
    'sort by two': () =>
      run('sort', { keys: [{ column: 'route' }, { column: 'Jan', descending: true }], order: 'plain' }, table).table
        .rows,
  };
  return operations;
}
