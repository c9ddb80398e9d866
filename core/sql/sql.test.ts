/** What a script says is what the step does: both run on generated tables, the script in DuckDB. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { CATALOGUE, countedColumn, type Job, makeTable, type StepRun, type Table, textColumn } from '../index.ts';
import { comparableRows, type Duck, openDuck } from '../test-duck.ts';
import { cellsOf, quiet } from '../test-support.ts';
import { writeParquet } from '../write/parquet/write-parquet.ts';
import { methodSql, type RawTable } from './method-sql.ts';
import { rawTable } from './raw-table.ts';
import { TRANSLATORS } from './steps-sql.ts';

let duck: Duck;
let folder: string;
let files = 0;
beforeAll(async () => {
  duck = await openDuck();
  folder = mkdtempSync(join(tmpdir(), 'rimefield-sql-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const JOB: Job = {
  rimefield: 'job',
  version: 1,
  id: 'j',
  name: 'Sailings',
  sources: [{ id: 's', name: 'sailings', file: null }],
  tables: [
    { id: 't', name: 'Sailings', steps: [] },
    { id: 'o', name: 'Quays', steps: [] },
  ],
};
const NOTHING = { origin: [], aside: [], notices: [], others: [] };
const reading = (table: Table): StepRun => ({
  ...NOTHING,
  step: { id: 'r', kind: 'read-delimited', params: { source: 's' } },
  table,
});

function run(kind: string, params: object, table: Table, other?: Table) {
  const found = CATALOGUE.get(kind)!;
  const given = found.params.parse(params) as Record<string, unknown>;
  return { ...found.run(table, given, { ...quiet, other: () => ({ name: 'Quays', table: other! }) }), given };
}

/** The step's own result, and what the script of it gives in DuckDB. */
async function both(kind: string, params: object, table: Table, other?: Table) {
  const { given, ...result } = run(kind, params, table, other);
  const others = other === undefined ? [] : [{ tableId: 'o', run: { steps: [reading(other)] }, step: 0 }];
  const steps = [reading(table), { ...result, step: { id: 'k', kind, params: given }, others }];
  // A new name each time: DuckDB may remember what stood in a file.
  const at = ++files;
  const pathOf = (raw: RawTable) => join(folder, `${raw.name}-${at}.parquet`);
  const made = methodSql(JOB, 't', { steps }, { dialect: 'duckdb', file: pathOf });
  for (const raw of made.raw)
    writeFileSync(pathOf(raw), writeParquet(rawTable(raw.table === 'o' ? other! : steps[raw.step]!.table)));
  // Cells that could not be read are null there.
  const ours = cellsOf(rawTable(result.table)).map((row) => row.slice(1));
  return { ours: comparableRows(ours), theirs: comparableRows(await duck.query(made.text)), made };
}

/** Whether new columns have names that DuckDB tells apart. */
function toldApart(params: object, table: Table): boolean {
  const names = run('pivot', params, table).table.fields.map((field) => field.name.toLowerCase());
  return new Set(names).size === names.length;
}

async function same(kind: string, params: object, table: Table, other?: Table): Promise<void> {
  if (kind === 'pivot' && !toldApart(params, table)) {
    await expect(both(kind, params, table, other)).rejects.toThrow('differ by case alone');
    return;
  }
  const { ours, theirs, made } = await both(kind, params, table, other);
  expect(made.said, made.text).toBe(1);
  expect(theirs, made.text).toEqual(ours);
}

const TEXTS = fc.oneof(
  fc.constantFrom(
    'Hask',
    'hask',
    ' Ullin ',
    'Tarve',
    'Route total',
    'TOTAL',
    '',
    ' ',
    '\u00a0',
    "O'Neil",
    '50%',
    'a_b',
    'a;b',
    'a; b ;c',
    ';',
    'ö',
  ),
  fc.string({ unit: fc.constantFrom('a', 'B', ' ', ';', '_', '%', "'", '\\'), maxLength: 5 }),
);
const NUMBERS = fc.oneof(
  fc.integer({ min: -50, max: 50 }),
  fc.integer({ min: -999, max: 999 }).map((n) => n / 100),
);
const column = <T>(cell: fc.Arbitrary<T>, rows: number) =>
  fc.array(fc.option(cell, { freq: 4 }), { minLength: rows, maxLength: rows });
const tables = fc.integer({ min: 1, max: 25 }).chain((rows) =>
  fc
    .record({
      quay: column(TEXTS, rows),
      route: column(fc.constantFrom('Hask', 'Ullin', 'Tarve'), rows),
      foot: column(fc.integer({ min: -3, max: 9 }), rows),
      fare: column(NUMBERS, rows),
      day: column(fc.integer({ min: 22_000, max: 22_500 }), rows),
      sails: column(fc.constantFrom(0, 1), rows),
    })
    .map((cells) =>
      makeTable({
        quay: textColumn(cells.quay),
        route: textColumn(cells.route),
        foot: countedColumn('whole', cells.foot),
        fare: countedColumn('number', cells.fare),
        day: countedColumn('date', cells.day),
        sails: countedColumn('yesno', cells.sails),
      }),
    ),
);

const names = (...chosen: string[]) => ({ by: 'names', names: chosen });

/** Kinds with params, as a method has them. */
const STEPS: [kind: string, params: object][] = [
  ['rename', { names: [{ from: 'quay', to: 'Quay' }] }],
  ['keep-columns', { columns: names('fare', 'quay') }],
  ['drop-columns', { columns: names('fare') }],
  ['move-columns', { columns: names('day'), to: 'first' }],
  ['set-aside-columns', { columns: names('foot') }],
  ['keep-rows', { rules: [{ test: 'equals', column: 'quay', text: ' HASK' }] }],
  ['keep-rows', { rules: [{ test: 'equals', column: 'quay', text: ' Ullin ', exact: true }] }],
  [
    'drop-rows',
    {
      rules: [
        { test: 'ends', column: 'quay', text: 'total' },
        { test: 'contains', column: 'quay', text: '%' },
      ],
      match: 'any',
    },
  ],
  [
    'drop-rows',
    {
      rules: [
        { test: 'starts', column: 'quay', text: 'a_' },
        { test: 'filled', columns: names('foot', 'quay') },
      ],
    },
  ],
  [
    'set-aside',
    {
      pile: 'blanks',
      rules: [
        { test: 'empty' },
        { test: 'only', columns: ['quay'] },
        { test: 'blank', columns: names('quay', 'fare') },
      ],
    },
  ],
  [
    'set-aside',
    {
      pile: 'notes',
      rules: [
        { test: 'below-last', row: { test: 'filled', columns: names('foot') }, within: 'route' },
        { test: 'above-first', row: { test: 'equals', column: 'quay', text: 'hask' } },
      ],
    },
  ],
  ['keep-rows', { rules: [{ test: 'above-first', row: { test: 'blank', columns: names('quay') }, within: 'route' }] }],
  ['keep-rows', { rules: [{ test: 'one-of', column: 'quay', texts: ['Hask', 'Ullin', "O'Neil"] }] }],
  ['keep-rows', { rules: [{ test: 'between', column: 'fare', least: '-1.5', most: '4' }] }],
  ['keep-rows', { rules: [{ test: 'between', column: 'day', least: '2030-06-01', most: null }] }],
  [
    'keep-rows',
    {
      rules: [
        { test: 'date-part', column: 'day', part: 'week', is: [1, 20, 30] },
        { test: 'date-part', column: 'day', part: 'isodow', is: [1, 2, 7] },
      ],
      match: 'any',
    },
  ],
  ['keep-rows', { rules: [{ test: 'expression', text: 'fare < 2 or quay is null and not (foot in (1, 2))' }] }],
  ['expression', { into: 'x', text: "case when sails then quay || '-' || foot else coalesce(quay, 'none') end" }],
  ['expression', { into: 'foot', text: 'foot + 2 - foot' }],
  ['expression', { into: 'x', text: 'fare + fare - 0.1' }],
  ['expression', { into: 'x', text: "'Q' || extract(quarter from day)" }],
  ['expression', { into: 'x', text: "nullif(upper(quay), 'HASK')" }],
  [
    'recode',
    {
      column: 'quay',
      crosswalk: [
        { from: 'Hask', to: 'H' },
        { from: 'Tarve', to: '' },
      ],
    },
  ],
  [
    'recode',
    { column: 'quay', crosswalk: [{ from: 'hask', to: 'H' }], unmatched: 'blank', exact: false, into: 'code' },
  ],
  ['replace', { columns: names('quay', 'route'), find: 'a', with: '' }],
  ['replace', { columns: names('quay'), find: ' ', with: "'" }],
  ['fill', { columns: names('quay', 'foot', 'sails') }],
  ['fill', { columns: names('quay', 'day'), direction: 'up', within: 'route' }],
  ['carry', { from: 'quay', rule: { test: 'only', columns: ['quay'] }, into: 'Label' }],
  ['carry', { from: 'quay', rule: { test: 'starts', column: 'quay', text: 'h' }, into: 'Label', within: 'route' }],
  ['carry', { from: 'quay', rule: { test: 'starts', column: 'quay', text: 'h' }, into: 'Label', up: true }],
  ['unpivot', { columns: names('foot', 'fare') }],
  ['unpivot', { columns: names('quay', 'route'), blanks: 'drop', value: 'Text' }],
  ['sort', { keys: [{ column: 'fare', descending: true }, { column: 'foot' }] }],
  ['sort', { keys: [{ column: 'quay' }], order: 'plain' }],
  ['remove-duplicates', { columns: names('route', 'foot') }],
  ['remove-duplicates', { columns: names('quay'), keep: 'last' }],
  [
    'group',
    {
      by: names('route'),
      measures: [
        { by: 'rows', name: 'n' },
        ...['sum', 'mean', 'median', 'min', 'max', 'count', 'distinct', 'first', 'last'].map((by) => ({
          by,
          column: 'foot',
          name: by,
        })),
      ],
    },
  ],
  [
    'group',
    {
      by: names('quay', 'sails'),
      measures: [
        { by: 'sum', column: 'fare', name: 's' },
        { by: 'min', column: 'quay', name: 'least' },
        { by: 'joined', column: 'route', name: 'j' },
        { by: 'max', column: 'day', name: 'd', where: 'fare > 0' },
      ],
    },
  ],
  ['split-to-columns', { column: 'quay', cut: { delimiters: [';'] }, into: ['one', 'two'] }],
  ['split-to-columns', { column: 'quay', cut: { delimiters: [' '] }, into: ['one', '', 'three'], keep: true }],
  ['split-to-rows', { columns: ['quay'], cut: { delimiters: [';'] } }],
  [
    'pivot',
    {
      rows: names('quay'),
      names: ['route'],
      values: [
        { column: 'foot', by: 'sum' },
        { column: 'fare', by: 'sum' },
      ],
    },
  ],
  ['pivot', { rows: names('day', 'sails'), names: ['route', 'quay'], values: [{ column: 'fare' }], order: 'name' }],
  ['show-duplicates', { columns: names('route', 'foot') }],
  ['number-rows', { from: 5, within: 'route' }],
  ['number-rows', { into: 'n' }],
  ['variance', { actual: 'foot', target: 'fare', share: 'share' }],
];

describe('on generated tables, row for row and cell for cell', () => {
  test.each(STEPS)('%s %j', async (kind, params) => {
    await fc.assert(
      fc.asyncProperty(tables, (table) => same(kind, params, table)),
      { numRuns: 25 },
    );
  });

  test.each([
    ['join', { table: 'o', keys: [{ left: 'route', right: 'route' }], how: 'left' }],
    [
      'join',
      {
        table: 'o',
        keys: [
          { left: 'route', right: 'quay' },
          { left: 'foot', right: 'foot' },
        ],
        how: 'inner',
        bring: names('fare', 'day'),
      },
    ],
    ['join', { table: 'o', keys: [{ left: 'foot', right: 'foot' }], how: 'unmatched' }],
    ['append', { tables: ['o'] }],
  ])('%s %j', async (kind, params) => {
    await fc.assert(
      fc.asyncProperty(tables, tables, (table, other) => same(kind, params, table, other)),
      { numRuns: 25 },
    );
  });

  const written = fc.oneof(
    fc.constantFrom(
      '1,229',
      '-3',
      '+4.50',
      '1,229,000.5',
      'fog',
      'n/a',
      ' 12 ',
      '007',
      '-0',
      '0.10',
      '12.0',
      '-',
      '\u00a05',
    ),
    fc.integer({ min: -99_999, max: 99_999 }).map((n) => (n / 100).toLocaleString('en-US')),
  );
  const dates = fc.oneof(
    fc.constantFrom(
      '31/02/2031',
      '29/02/2032',
      '1/7/2031',
      ' 05/06/2031',
      'no day',
      '00/01/2031',
      '31/12/1999',
      '12/13/2031',
    ),
    fc
      .date({ min: new Date('2000-01-01'), max: new Date('2040-01-01'), noInvalidDate: true })
      .map((day) => `${day.getUTCDate()}/${day.getUTCMonth() + 1}/${day.getUTCFullYear()}`),
  );
  const times = fc.oneof(
    fc.constantFrom('08:50', '8:05', '24:00', '23:59:59', '07:61', 'noon', ' 12:00 '),
    fc
      .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
      .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`),
  );
  const moments = fc
    .date({ min: new Date('2000-01-01'), max: new Date('2040-01-01'), noInvalidDate: true })
    .map((at) => at.toISOString().slice(0, 19));

  test.each([
    ['number', written, {}],
    ['whole', written, {}],
    [
      'number',
      written.map((text) => text.replaceAll(',', ' ').replace('.', ',').replaceAll(' ', '.')),
      { number: { decimal: ',' } },
    ],
    ['date', dates, { patterns: ['d/M/yyyy'] }],
    ['date', dates.map((text) => text.replace(/\b\d\b/g, '0$&')), { patterns: ['dd/MM/yyyy', 'yyyy-MM-dd'] }],
    ['time', times, {}],
    ['datetime', moments, {}],
  ] as const)('texts as %s', async (type, texts, form) => {
    const types = [{ columns: names('x'), type, ...form }];
    let said = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(fc.option(texts, { freq: 5 }), { minLength: 1, maxLength: 25 }), async (cells) => {
        const table = makeTable({ x: textColumn(cells) });
        const { ours, theirs, made } = await both('set-types', { types }, table);
        expect(theirs, made.text).toEqual(ours);
        said += made.said;
      }),
      { numRuns: 60 },
    );
    expect(said).toBeGreaterThan(30);
  });

  test.each(['d^M^yyyy', 'd\\M\\yyyy'])(
    'a date pattern with a sign that a bracket cannot hold alone (%s) is left to Rimefield',
    async (pattern) => {
      const types = { types: [{ columns: names('x'), type: 'date', patterns: [pattern] }] };
      const text = pattern.replaceAll('d', '1').replaceAll('M', '7').replace('yyyy', '2031');
      const { ours, theirs, made } = await both('set-types', types, makeTable({ x: textColumn([text]) }));
      expect(made.said).toBe(0);
      expect(ours).toEqual([['2031-07-01']]);
      expect(theirs).toEqual(ours);
    },
  );

  test('a text that only Rimefield reads as a number is left to it, and stops a script that was made before it came', async () => {
    const types = { types: [{ columns: names('x'), type: 'number' }] };
    const dressed = await both('set-types', types, makeTable({ x: textColumn(['12', '(1,229)']) }));
    expect(dressed.made.said).toBe(0);
    expect(dressed.made.text).toContain("x holds '(1,229)', which SQL does not read so");
    expect(dressed.theirs).toEqual(dressed.ours);
    const { made } = await both('set-types', types, makeTable({ x: textColumn(['12', 'fog']) }));
    writeFileSync(
      join(folder, `sailings_raw-${files}.parquet`),
      writeParquet(rawTable(makeTable({ x: textColumn(['12', '(1,229)']) }))),
    );
    const again = await openDuck();
    await expect(again.query(made.text)).rejects.toThrow(/not read: \(1,229\)/);
  });

  test('a share that ends on a half is rounded away from zero, which doubles would miss', async () => {
    const pairs = Array.from({ length: 13 }, (_, a) =>
      Array.from({ length: 1999 }, (_, t) => [a - 3, (t - 999) / 100]),
    );
    const table = makeTable({
      foot: countedColumn(
        'whole',
        pairs.flat().map(([foot]) => foot!),
      ),
      fare: countedColumn(
        'number',
        pairs.flat().map(([, fare]) => fare!),
      ),
    });
    await same('variance', { actual: 'foot', target: 'fare', share: 'share' }, table);
    const { ours } = await both(
      'variance',
      { actual: 'foot', target: 'fare', share: 'share' },
      makeTable({ foot: countedColumn('whole', [-1, 7]), fare: countedColumn('number', [1.28, 6.4]) }),
    );
    // 2.28 / 1.28 is 1.78125, and 0.6 / 6.4 is 0.09375.
    expect(ours.map((row) => row.at(-1))).toEqual(['-1.7813', '0.0938']);
  });

  test('a pivot stops at a name that was not there when the script was made', async () => {
    const table = (routes: string[]) =>
      makeTable({
        quay: textColumn(['Hask', 'Hask']),
        route: textColumn(routes),
        foot: countedColumn('whole', [1, 2]),
      });
    const params = { rows: names('quay'), names: ['route'], values: [{ column: 'foot', by: 'sum' }] };
    const { made } = await both('pivot', params, table(['Ullin', 'Tarve']));
    writeFileSync(join(folder, `sailings_raw-${files}.parquet`), writeParquet(rawTable(table(['Ullin', 'Brannoch']))));
    await expect((await openDuck()).query(made.text)).rejects.toThrow(/not read: Brannoch/);
  });

  test('every kind that claims SQL is among them', () => {
    const tried = new Set([...STEPS.map(([kind]) => kind), 'join', 'append', 'set-types']);
    expect(Object.keys(TRANSLATORS).filter((kind) => !tried.has(kind))).toEqual(['rename-by-pattern', 'tidy-names']);
  });
});
