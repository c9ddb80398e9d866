/** Every step that SQL knows, beside DuckDB on the same rows. */
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { CATALOGUE, countedColumn, makeTable, type StepResult, type Table, textColumn } from '../index.ts';
import { comparableRows, type Duck, openDuck } from '../test-duck.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';

let duck: Duck;
beforeAll(async () => {
  duck = await openDuck();
});

function run(kind: string, params: object, table: Table, others: Record<string, Table> = {}): StepResult {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), { ...quiet, other: (id) => ({ name: id, table: others[id]! }) });
}

const ours = (kind: string, params: object, table: Table, others: Record<string, Table> = {}) =>
  comparableRows(cellsOf(run(kind, params, table, others).table));
const theirs = async (sql: string) => comparableRows(await duck.query(sql));
const sorted = (rows: (string | null)[][]) => rows.map((row) => JSON.stringify(row)).sort();

// A table with ties, blanks and several types.
const n = 300;
const at = <T>(list: readonly T[], r: number, step: number) => list[(r * step) % list.length]!;
const table = makeTable({
  port: textColumn(Array.from({ length: n }, (_, r) => at(['Hask', 'Ullin', null, 'Tarve', 'Brannoch'], r, 7))),
  month: textColumn(Array.from({ length: n }, (_, r) => at(['April', 'May', 'June'], r, 5))),
  foot: countedColumn(
    'whole',
    Array.from({ length: n }, (_, r) => at([12, 7, null, 0, -3, 12, 100, 41], r, 3)),
  ),
  fare: countedColumn(
    'number',
    Array.from({ length: n }, (_, r) => at([0.1, 0.2, 0.3, null, 1e9, -1e9, 12.75], r, 4)),
  ),
  day: countedColumn(
    'date',
    Array.from({ length: n }, (_, r) => at([0, 18000, 22370, null, -40], r, 2)),
  ),
});
beforeAll(() => duck.load('t', table));

describe('group: each measure, blanks in keys and values', () => {
  test.each([
    ['sum', 'sum(foot)', 'foot'],
    ['mean', 'avg(foot)', 'foot'],
    ['median', 'median(foot)', 'foot'],
    ['min', 'min(foot)', 'foot'],
    ['max', 'max(day)', 'day'],
    ['min', 'min(month)', 'month'],
    ['count', 'count(foot)', 'foot'],
    ['distinct', 'count(distinct foot)', 'foot'],
    ['first', 'first(foot order by "#") filter (where foot is not null)', 'foot'],
    ['last', 'last(month order by "#") filter (where month is not null)', 'month'],
    ['rows', 'count(*)', ''],
  ])('%s as %s', async (by, sql, column) => {
    const own = ours(
      'group',
      { by: { by: 'names', names: ['port', 'day'] }, measures: [{ by, column, name: 'm' }] },
      table,
    );
    expect(sorted(own)).toEqual(sorted(await theirs(`select port, day, ${sql} from t group by port, day`)));
  });

  test('a condition on a measure is FILTER', async () => {
    const own = ours(
      'group',
      {
        by: { by: 'names', names: ['month'] },
        measures: [{ by: 'sum', column: 'foot', name: 'm', where: "port like '%a%' and foot > 0" }],
      },
      table,
    );
    expect(sorted(own)).toEqual(
      sorted(await theirs("select month, sum(foot) filter (where port like '%a%' and foot > 0) from t group by month")),
    );
  });

  test('shares add up to one, and sums of money to the cent', async () => {
    const share = ours(
      'group',
      { by: { by: 'names', names: ['port'] }, measures: [{ by: 'share', column: 'foot', name: 's' }] },
      table,
    );
    expect(sorted(share)).toEqual(
      sorted(await theirs('select port, sum(foot) / (select sum(foot) from t) from t group by port')),
    );
    const cents = makeTable({
      amount: countedColumn(
        'number',
        Array.from({ length: 100_000 }, (_, r) => (r % 2 === 0 ? 0.1 : 1e9 * (r % 4 === 1 ? 1 : -1))),
      ),
    });
    expect(
      ours('group', { by: { by: 'names', names: [] }, measures: [{ by: 'sum', column: 'amount', name: 'm' }] }, cents),
    ).toEqual([['5000']]);
  });
});

describe('pivot', () => {
  test.each([
    ['sum', 'sum(foot)'],
    ['mean', 'avg(foot)'],
    ['median', 'median(foot)'],
    ['min', 'min(foot)'],
    ['max', 'max(foot)'],
    ['count', 'count(foot)'],
    ['first', 'first(foot order by "#") filter (where foot is not null)'],
    ['last', 'last(foot order by "#") filter (where foot is not null)'],
  ])('%s', async (by, sql) => {
    const own = run(
      'pivot',
      { rows: { by: 'names', names: ['port'] }, names: ['month'], values: [{ column: 'foot', by }] },
      table,
    );
    expect(namesOf(own.table)).toEqual(['port', 'April', 'June', 'May']);
    const columns = ['April', 'June', 'May'].map((month) =>
      sql.includes('filter')
        ? sql.replace('filter (where', `filter (where month = '${month}' and`)
        : `${sql} filter (where month = '${month}')`,
    );
    expect(sorted(comparableRows(cellsOf(own.table)))).toEqual(
      sorted(await theirs(`select port, ${columns.join(', ')} from t group by port`)),
    );
  });
});

describe('sort: several keys, directions, blanks last, ties as they were', () => {
  test.each([
    [[{ column: 'foot' }], 'foot asc nulls last'],
    [[{ column: 'port', descending: true }, { column: 'foot' }], 'port desc nulls last, foot asc nulls last'],
    [
      [{ column: 'day' }, { column: 'fare', descending: true }, { column: 'month' }],
      'day asc nulls last, fare desc nulls last, month asc nulls last',
    ],
  ])('%j', async (keys, order) => {
    expect(ours('sort', { keys, order: 'plain' }, table)).toEqual(
      await theirs(`select * exclude "#" from t order by ${order}, "#"`),
    );
  });
});

describe('rows', () => {
  test('remove duplicates keeps the first, or the last', async () => {
    const columns = { by: 'names', names: ['port', 'foot'] };
    const sql = (order: string) =>
      `select * exclude ("#", n) from (select *, row_number() over (partition by port, foot order by "#" ${order}) n from t) where n = 1 order by "#"`;
    expect(ours('remove-duplicates', { columns }, table)).toEqual(
      await theirs(sql('asc').replace('exclude ("#", n)', 'exclude (n)').replace('select *', 'select *')).then((rows) =>
        rows.map((row) => row.slice(1)),
      ),
    );
    expect(ours('remove-duplicates', { columns, keep: 'last' }, table)).toEqual(
      await theirs(sql('desc').replace('exclude ("#", n)', 'exclude (n)')).then((rows) =>
        rows.map((row) => row.slice(1)),
      ),
    );
  });

  test('show duplicates, with how often', async () => {
    const own = ours('show-duplicates', { columns: { by: 'names', names: ['foot', 'day'] } }, table);
    expect(own).toEqual(
      (await theirs('select *, count(*) over (partition by foot, day) n from t qualify n > 1 order by "#"')).map(
        (row) => row.slice(1),
      ),
    );
  });

  test('keep by condition: between, one of, date part, expression', async () => {
    const rules = [
      { test: 'between', column: 'foot', least: '0', most: '41' },
      { test: 'one-of', column: 'month', texts: ['April', 'June'] },
      { test: 'expression', text: 'fare < 100 or port is null' },
    ];
    expect(ours('keep-rows', { rules }, table)).toEqual(
      (
        await theirs(
          "select * from t where foot between 0 and 41 and month in ('April', 'June') and (fare < 100 or port is null) order by \"#\"",
        )
      ).map((row) => row.slice(1)),
    );
    const dated = { rules: [{ test: 'date-part', column: 'day', part: 'quarter', is: [1, 2] }] };
    expect(ours('keep-rows', dated, table)).toEqual(
      (await theirs('select * from t where quarter(day) in (1, 2) order by "#"')).map((row) => row.slice(1)),
    );
  });

  test('count by two, with shares of each', async () => {
    const own = ours('count', { columns: ['port', 'month'], share: 'first' }, table);
    expect(sorted(own)).toEqual(
      sorted(
        await theirs('select port, month, count(*) c, c / sum(c) over (partition by port) from t group by port, month'),
      ),
    );
  });
});

describe('joins, with duplicates and nulls on both sides', () => {
  const left = makeTable({
    k: textColumn(['a', 'b', null, 'b', 'c', 'd', 'a']),
    j: countedColumn('whole', [1, 2, 1, null, 3, 4, 1]),
    x: textColumn(['1', '2', '3', '4', '5', '6', '7']),
  });
  const right = makeTable({
    k: textColumn(['b', 'a', null, 'a', 'e', 'b']),
    j: countedColumn('number', [2, 1, 1, 1, 5, 9]),
    y: countedColumn('number', [10, 20, 30, null, 50, 60]),
  });
  beforeAll(async () => {
    await duck.load('l', left);
    await duck.load('r', right);
  });
  const columns = 'coalesce(l.k, r.k), l.j, l.x, r.j, r.y';
  test.each([
    ['left', `select l.k, l.j, l.x, r.j, r.y from l left join r on l.k = r.k`],
    ['inner', `select l.k, l.j, l.x, r.j, r.y from l join r on l.k = r.k`],
    ['full', `select ${columns} from l full join r on l.k = r.k`],
    ['unmatched', `select l.k, l.j, l.x from l anti join r on l.k = r.k`],
  ])('%s, one key', async (how, sql) => {
    const own = ours('join', { table: 'r', how, keys: [{ left: 'k', right: 'k' }] }, left, { r: right });
    expect(sorted(own)).toEqual(sorted(await theirs(sql)));
  });
  test.each([
    ['left', 'select l.k, l.j, l.x, r.y from l left join r on l.k = r.k and l.j = r.j'],
    ['inner', 'select l.k, l.j, l.x, r.y from l join r on l.k = r.k and l.j = r.j'],
    ['full', 'select coalesce(l.k, r.k), coalesce(l.j, r.j), l.x, r.y from l full join r on l.k = r.k and l.j = r.j'],
  ])('%s, two keys of different number types', async (how, sql) => {
    const own = ours(
      'join',
      {
        table: 'r',
        how,
        keys: [
          { left: 'k', right: 'k' },
          { left: 'j', right: 'j' },
        ],
      },
      left,
      { r: right },
    );
    expect(sorted(own)).toEqual(sorted(await theirs(sql)));
  });

  test('left rows keep their order, matches the order of the other table', () => {
    const own = ours(
      'join',
      { table: 'r', how: 'left', keys: [{ left: 'k', right: 'k' }], bring: { by: 'names', names: ['y'] } },
      left,
      { r: right },
    );
    expect(own.map((row) => [row[2], row[3]])).toEqual([
      ['1', '20'],
      ['1', null],
      ['2', '10'],
      ['2', '60'],
      ['3', null],
      ['4', '10'],
      ['4', '60'],
      ['5', null],
      ['6', null],
      ['7', '20'],
      ['7', null],
    ]);
  });

  test('law: matched and unmatched rows of each side add up; rows out = sum of the multiplicities', () => {
    const key = fc.option(fc.constantFrom('a', 'b', 'c', 'A ', 'é', 'e'), { nil: null });
    fc.assert(
      fc.property(
        fc.array(key, { maxLength: 12 }),
        fc.array(key, { maxLength: 12 }),
        fc.boolean(),
        (a, b, forgiving) => {
          const [l, r] = [
            makeTable({ k: textColumn(a) }),
            makeTable({ k: textColumn(b), v: textColumn(b.map((_, i) => `${i}`)) }),
          ];
          const plain = (text: string) =>
            forgiving ? text.trim().toLowerCase().normalize('NFD').replace(/\p{M}/gu, '') : text;
          const meets = (x: string | null) => b.filter((y) => x !== null && y !== null && plain(x) === plain(y)).length;
          const params = { table: 'r', keys: [{ left: 'k', right: 'k' }], forgiving };
          const rows = (how: string) => run('join', { ...params, how }, l, { r }).table.rows;
          const multiplied = a.reduce((sum, x) => sum + meets(x), 0);
          const alone = a.filter((x) => meets(x) === 0).length;
          expect(rows('inner')).toBe(multiplied);
          expect(rows('unmatched')).toBe(alone);
          expect(rows('left')).toBe(multiplied + alone);
          const rightAlone = b.filter((y) => !a.some((x) => x !== null && y !== null && plain(x) === plain(y))).length;
          expect(rows('full')).toBe(multiplied + alone + rightAlone);
        },
      ),
    );
  });

  test('append is UNION ALL BY NAME', async () => {
    const own = ours('append', { tables: ['r'] }, left, { r: right });
    expect(own).toEqual(
      (await theirs('select * exclude "#" from (select * from l union all by name select * from r)')).map((row) => row),
    );
  });

  test('append then filter by source gives each table back', () => {
    const both = run('append', { tables: ['r'], nameColumn: 'From' }, left, { r: right }).table;
    const back = run('keep-rows', { rules: [{ test: 'equals', column: 'From', text: 'r', exact: true }] }, both).table;
    const own = run('keep-columns', { columns: { by: 'names', names: ['k', 'j', 'y'] } }, back).table;
    expect(cellsOf(own)).toEqual(cellsOf(right));
  });
});

describe('open data from vega-datasets', () => {
  const data = 'node_modules/vega-datasets/data';

  function fromRows(rows: Record<string, unknown>[]): Table {
    const names = [...new Set(rows.flatMap((row) => Object.keys(row)))];
    return makeTable(
      Object.fromEntries(
        names.map((name) => {
          const cells = rows.map((row) => row[name] ?? null);
          const numbers = cells.every((cell) => cell === null || typeof cell === 'number');
          return [
            name,
            numbers
              ? countedColumn('number', cells as (number | null)[])
              : textColumn(
                  cells.map((cell) =>
                    cell === null ? null : typeof cell === 'object' ? JSON.stringify(cell) : String(cell),
                  ),
                ),
          ];
        }),
      ),
    );
  }
  const json = (name: string) =>
    fromRows(JSON.parse(readFileSync(`${data}/${name}`, 'utf8')) as Record<string, unknown>[]);
  const csv = (name: string) => {
    const [head, ...lines] = readFileSync(`${data}/${name}`, 'utf8').trim().split('\n');
    const names = head!.split(',');
    return fromRows(lines.map((line) => Object.fromEntries(line.split(',').map((cell, k) => [names[k]!, cell]))));
  };

  test('stocks: long to wide is DuckDB’s pivot, and back again is stocks', async () => {
    const stocks = csv('stocks.csv');
    const wide = run('pivot', { names: ['symbol'], values: [{ column: 'price' }] }, stocks).table;
    const sql = `select * from (pivot (select date, symbol, price from read_csv('${data}/stocks.csv', all_varchar = true)) on symbol using first(price) group by date)`;
    expect(
      sorted(
        comparableRows(
          cellsOf(
            run('keep-columns', { columns: { by: 'names', names: ['date', ...namesOf(wide).slice(1).sort()] } }, wide)
              .table,
          ),
        ),
      ),
    ).toEqual(sorted(await theirs(sql)));
    const back = run(
      'unpivot',
      {
        columns: { by: 'all-but', names: ['date'] },
        parts: [{ as: 'column', name: 'symbol' }],
        value: 'price',
        blanks: 'drop',
      },
      wide,
    ).table;
    const order = run('keep-columns', { columns: { by: 'names', names: ['symbol', 'date', 'price'] } }, back).table;
    expect(sorted(comparableRows(cellsOf(order)))).toEqual(sorted(comparableRows(cellsOf(stocks))));
  });

  test('barley: yields by variety and site, wide by year', async () => {
    const barley = json('barley.json');
    const wide = run(
      'pivot',
      { rows: { by: 'names', names: ['variety', 'site'] }, names: ['year'], values: [{ column: 'yield' }] },
      barley,
    );
    expect(namesOf(wide.table)).toEqual(['variety', 'site', '1931', '1932']);
    const sql = `select variety, site, sum(yield) filter (where year = 1931), sum(yield) filter (where year = 1932) from read_json('${data}/barley.json') group by variety, site`;
    expect(sorted(comparableRows(cellsOf(wide.table)))).toEqual(sorted(await theirs(sql)));
    expect(wide.notices).toEqual([]);
  });

  test('unemployment across industries: sums and counts by series', async () => {
    const own = ours(
      'group',
      {
        by: { by: 'names', names: ['series'] },
        measures: [
          { by: 'sum', column: 'count', name: 'c' },
          { by: 'mean', column: 'rate', name: 'r' },
          { by: 'rows', name: 'n' },
        ],
      },
      json('unemployment-across-industries.json'),
    );
    expect(sorted(own)).toEqual(
      sorted(
        await theirs(
          `select series, sum(count), avg(rate), count(*) from read_json('${data}/unemployment-across-industries.json') group by series`,
        ),
      ),
    );
  });

  test('movies: dates in odd forms are read by pattern, and what is left is reported', async () => {
    const movies = json('movies.json');
    const result = run(
      'set-types',
      { types: [{ columns: { by: 'names', names: ['Release Date'] }, type: 'date', patterns: ['MMM dd yyyy'] }] },
      movies,
    );
    const own = comparableRows(
      cellsOf(run('keep-columns', { columns: { by: 'names', names: ['Release Date'] } }, result.table).table),
    ).map((row) => row[0]);
    const them = (
      await theirs(
        `select coalesce(strftime(try_strptime("Release Date", '%b %d %Y'), '%Y-%m-%d'), "Release Date") from read_json('${data}/movies.json')`,
      )
    ).map((row) => row[0]);
    expect(own).toEqual(them);
    const odd = own.filter((cell) => cell !== null && !/^\d{4}-\d\d-\d\d$/.test(cell!)).length;
    expect(result.notices[0]!.text).toContain(`${odd} unreadable`);
  });

  test('budgets: nested lists unnest to the same rows', async () => {
    const nested = makeTable({
      port: textColumn(['Hask', 'Ullin']),
      list: textColumn(['[{"a":1,"b":[1,2]},{"a":2,"b":[]}]', '[{"a":3,"c":"x"}]']),
    });
    const rows = run('unnest', { column: 'list' }, nested).table;
    const wide = run('unnest', { column: 'list', prefix: false }, rows).table;
    expect(cellsOf(wide)).toEqual([
      ['Hask', '1', '[1,2]', null],
      ['Hask', '2', '[]', null],
      ['Ullin', '3', null, 'x'],
    ]);
    const budget = JSON.parse(readFileSync(`${data}/budget.json`, 'utf8')) as Record<string, unknown>[];
    expect(Array.isArray(budget)).toBe(true);
    const packed = makeTable({ row: textColumn(budget.map((row) => JSON.stringify(row))) });
    const flat = run('unnest', { column: 'row', prefix: false }, packed).table;
    const [[count]] = (await theirs(`select count(*) from read_json('${data}/budget.json')`)) as [[string]];
    expect(String(flat.rows)).toBe(count);
    expect(namesOf(flat)).toEqual([...new Set(budget.flatMap((row) => Object.keys(row)))]);
  });
});

describe('laws', () => {
  const cell = fc.option(fc.integer({ min: -99, max: 99 }), { nil: null });

  test('unpivot then pivot gives back the table', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5 }),
        fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 8 }),
        (width, rows) => {
          const names = Array.from({ length: Math.min(width, 3) }, (_, c) => `c${c}`);
          const wide = makeTable({
            id: textColumn(rows.map((_, r) => `r${r}`)),
            ...Object.fromEntries(
              names.map((name, c) => [
                name,
                countedColumn(
                  'number',
                  rows.map((row) => row[c]!),
                ),
              ]),
            ),
          });
          const long = run(
            'unpivot',
            { columns: { by: 'all-but', names: ['id'] }, parts: [{ as: 'column', name: 'n' }], value: 'v' },
            wide,
          ).table;
          const back = run('pivot', { names: ['n'], values: [{ column: 'v' }] }, long).table;
          expect(namesOf(back)).toEqual(namesOf(wide));
          expect(cellsOf(back)).toEqual(cellsOf(wide));
        },
      ),
    );
  });

  test('split then join text gives back the text', () => {
    const piece = fc.string({ minLength: 1, maxLength: 4, unit: fc.constantFrom('a', 'b', 'é', '1') });
    fc.assert(
      fc.property(fc.array(fc.array(piece, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 6 }), (rows) => {
        const texts = rows.map((row) => row.join(';'));
        const parts = run(
          'split-to-columns',
          { column: 't', cut: { delimiters: [';'] }, into: ['p', 'q', 'r'] },
          makeTable({ t: textColumn(texts) }),
        ).table;
        const back = run('join-text', { columns: { by: 'all' }, with: ';', into: 't', keep: false }, parts).table;
        expect(cellsOf(back).map((row) => row[0])).toEqual(texts);
      }),
    );
  });

  test('sort is a stable permutation', () => {
    fc.assert(
      fc.property(fc.array(cell, { maxLength: 40 }), fc.boolean(), (values, descending) => {
        const unsorted = makeTable({
          v: countedColumn('number', values),
          i: countedColumn(
            'whole',
            values.map((_, r) => r),
          ),
        });
        const rows = cellsOf(run('sort', { keys: [{ column: 'v', descending }] }, unsorted).table);
        const expected = values
          .map((value, r) => [value, r] as const)
          .sort(
            (a, b) =>
              (a[0] === null ? (b[0] === null ? 0 : 1) : b[0] === null ? -1 : descending ? b[0] - a[0] : a[0] - b[0]) ||
              a[1] - b[1],
          );
        expect(rows.map((row) => Number(row[1]))).toEqual(expected.map(([, r]) => r));
      }),
    );
  });

  test('header from rows then names to a row gives back the table', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.stringMatching(/^[a-z]{1,4}$/), { minLength: 3, maxLength: 3 }), {
          minLength: 2,
          maxLength: 6,
        }),
        (rows) => {
          fc.pre(new Set(rows[0]).size === 3 && rows.slice(1).every((row) => row.join() !== rows[0]!.join()));
          const raw: Table = {
            rows: rows.length,
            fields: ['A', 'B', 'C'].map((name, c) => ({
              name,
              nameOrigin: 'position' as const,
              column: textColumn(rows.map((row) => row[c]!)),
            })),
          };
          const named = run('header-from-rows', {}, raw).table;
          const back = run('names-to-row', {}, named).table;
          expect(namesOf(back)).toEqual(['A', 'B', 'C']);
          expect(cellsOf(back)).toEqual(rows);
        },
      ),
    );
  });
});
