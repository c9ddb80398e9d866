import { readFileSync } from 'node:fs';
import { DuckDBInstance } from '@duckdb/node-api';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { countedColumn, makeTable, Runner, readDelimited, textColumn, traceBack, traceForward } from '../../index.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';
import { unpivot } from './unpivot.ts';

const wide = makeTable({
  Port: textColumn(['Hask', 'Ullin']),
  'April / Foot': textColumn(['1', '5']),
  'April / Vehicles': textColumn(['2', '6']),
  'May / Foot': textColumn(['3', null]),
  'May / Vehicles': textColumn(['4', null]),
});
const run = (params: object, table = wide) => unpivot.run(table, unpivot.params.parse(params), quiet);
const allButPort = { by: 'all-but', names: ['Port'] };

describe('unpivot', () => {
  test('names into one column, values beside them, row by row', () => {
    const { table } = run({ columns: allButPort });
    expect(namesOf(table)).toEqual(['Port', 'Name', 'Value']);
    expect(cellsOf(table).slice(0, 2)).toEqual([
      ['Hask', 'April / Foot', '1'],
      ['Hask', 'April / Vehicles', '2'],
    ]);
    expect(table.rows).toBe(8);
  });

  test('names split: one part to a column, one part to a column each', () => {
    const { table, notices } = run({
      columns: allButPort,
      split: ' / ',
      parts: [{ as: 'column', name: 'Month' }, { as: 'each' }],
    });
    expect(namesOf(table)).toEqual(['Port', 'Month', 'Foot', 'Vehicles']);
    expect(cellsOf(table)).toEqual([
      ['Hask', 'April', '1', '2'],
      ['Hask', 'May', '3', '4'],
      ['Ullin', 'April', '5', '6'],
      ['Ullin', 'May', null, null],
    ]);
    expect(notices).toEqual([]);
  });

  test('names taken apart by a template; a name that does not fit stays whole and is reported', () => {
    const odd = makeTable({
      'April (Foot)': textColumn(['1']),
      'April (Cars)': textColumn(['2']),
      Total: textColumn(['3']),
    });
    const parts = [
      { as: 'column', name: 'Month' },
      { as: 'column', name: 'Kind' },
    ];
    const { table, notices } = run({ columns: { by: 'all' }, template: '{Month} ({Kind})', parts }, odd);
    expect(cellsOf(table)).toEqual([
      ['April', 'Foot', '1'],
      ['April', 'Cars', '2'],
      ['Total', null, '3'],
    ]);
    expect(notices[0]!.text).toBe('1 name outside of the template, kept whole in the first part: Total');
    expect(() => run({ columns: { by: 'all' }, template: '{a}{b}', parts }, odd)).toThrow('Two pieces touch');
  });

  test('rows of blanks can be dropped; what is left still traces home', () => {
    const { table, origin } = run({
      columns: allButPort,
      split: ' / ',
      parts: [{ as: 'column', name: 'Month' }, { as: 'each' }],
      blanks: 'drop',
    });
    expect(table.rows).toBe(3);
    expect(traceBack(origin, { row: 2, column: 3 })).toEqual([{ row: 1, column: 2, input: 0, role: 'value' }]);
    expect(traceForward(origin, { column: 2, rows: [1] }, table.rows)).toContainEqual({
      row: 2,
      column: 3,
      input: 0,
      role: 'value',
    });
  });

  test('uneven names: what is odd is reported, and no value is lost', () => {
    const odd = makeTable({
      'a/x': textColumn(['1']),
      'b/x/y': textColumn(['2']),
      c: textColumn(['3']),
      'b/z': textColumn(['4']),
    });
    const { table, notices } = run(
      {
        columns: { by: 'all' },
        split: '/',
        parts: [
          { as: 'column', name: 'K' },
          { as: 'column', name: 'L' },
        ],
      },
      odd,
    );
    expect(cellsOf(table)).toEqual([
      ['a', 'x', '1'],
      ['b', 'x/y', '2'],
      ['c', null, '3'],
      ['b', 'z', '4'],
    ]);
    expect(notices.map((notice) => notice.text)).toEqual([
      '1 name with more than 2 parts, the rest kept in the last: b/x/y',
      '1 name with fewer than 2 parts: c',
    ]);
  });

  test('a pairing of parts without a column is blank and reported; doubled parts get separate rows', () => {
    const gap = makeTable({ 'a/x': textColumn(['1']), 'b/y': textColumn(['2']) });
    const each = { split: '/', parts: [{ as: 'column', name: 'K' }, { as: 'each' }] };
    const { table, notices } = run({ columns: { by: 'all' }, ...each }, gap);
    expect(cellsOf(table)).toEqual([
      ['a', '1', null],
      ['b', null, '2'],
    ]);
    expect(notices[0]!.text).toContain('2 pairings');
    const doubled = run(
      { columns: { by: 'all' }, split: '/', parts: [{ as: 'column', name: 'K' }] },
      makeTable({ a: textColumn(['1']), 'a ': textColumn(['2']) }),
    );
    expect(doubled.table.rows).toBe(2);
  });

  test('mixed types stay readable, each cell as it was', () => {
    const mixed = makeTable({ Port: textColumn(['Hask']), a: countedColumn('number', [1.5]), b: textColumn(['x']) });
    const { table } = run({ columns: allButPort }, mixed);
    expect(table.fields[2]!.column.type).toBe('received');
    expect(cellsOf(table).map((row) => row[2])).toEqual(['1.5', 'x']);
  });

  test('nothing left to unpivot stops the step', () => {
    expect(() => run({ columns: { by: 'year' } })).toThrow('No column is left to unpivot');
  });

  test('law: every value cell has one source, every source value cell one place, and both ways come home', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 6 }),
        fc.boolean(),
        (rows, columns, drop) => {
          const cells = Array.from({ length: columns }, (_, c) =>
            Array.from({ length: rows }, (_, r) => ((r + c) % 3 === 0 ? null : `${r}/${c}`)),
          );
          const table = makeTable({
            id: textColumn(cells[0]!.map((_, r) => `r${r}`)),
            ...Object.fromEntries(cells.map((column, c) => [`c${c}`, textColumn(column)])),
          });
          const { table: long, origin } = run(
            { columns: { by: 'all-but', names: ['id'] }, blanks: drop ? 'drop' : 'keep' },
            table,
          );
          const places = new Set<string>();
          const out = cellsOf(long);
          for (let r = 0; r < long.rows; r++) {
            const [source, ...more] = traceBack(origin, { row: r, column: 2 });
            expect(more).toEqual([]);
            expect(cells[source!.column - 1]![source!.row]).toBe(out[r]![2]);
            const back = traceForward(origin, { column: source!.column, rows: [source!.row] }, long.rows).filter(
              (cell) => cell.column === 2,
            );
            expect(back.map((cell) => cell.row)).toEqual([r]);
            places.add(`${source!.row}/${source!.column - 1}`);
          }
          for (const column of cells) for (const cell of column) if (cell !== null) expect(places.has(cell)).toBe(true);
        },
      ),
    );
  });
});

describe('against DuckDB: us-employment of vega-datasets, a month and two dozen sector columns', () => {
  const file = 'node_modules/vega-datasets/data/us-employment.csv';

  async function duck(sql: string): Promise<unknown[][]> {
    const instance = await DuckDBInstance.create(':memory:');
    const connection = await instance.connect();
    const reader = await connection.runAndReadAll(sql);
    return reader.getRows();
  }

  function ours(decimal: '.' | ',', bytes: Uint8Array) {
    const runner = new Runner();
    runner.setSource('s', { name: 'us-employment.csv', bytes });
    const delimiter = decimal === ',' ? ';' : ',';
    const { steps, stop } = runner.run(
      [
        { id: '1', kind: 'read-delimited', params: readDelimited.params.parse({ source: 's', delimiter }) },
        { id: '2', kind: 'header-from-rows', params: {} },
        {
          id: '3',
          kind: 'unpivot',
          params: {
            columns: { by: 'all-but', names: ['month'] },
            parts: [{ as: 'column', name: 'sector' }],
            value: 'jobs',
          },
        },
        {
          id: '4',
          kind: 'set-types',
          params: {
            types: [
              { columns: { by: 'names', names: ['month'] }, type: 'date' },
              { columns: { by: 'names', names: ['jobs'] }, type: 'number', number: { decimal, grouping: 'any' } },
            ],
          },
        },
      ],
      quiet,
    );
    expect(stop).toBeUndefined();
    return cellsOf(steps.at(-1)!.table);
  }

  test('equals its UNPIVOT of the same file', async () => {
    const theirs = await duck(
      `select strftime(month, '%Y-%m-%d'), sector, jobs from (unpivot (select * from read_csv('${file}')) on columns(* exclude (month)) into name sector value jobs)`,
    );
    const rows = ours('.', readFileSync(file));
    expect(rows.length).toBe(theirs.length);
    expect(rows.map(([month, sector, jobs]) => [month, sector, Number(jobs)])).toEqual(
      theirs.map(([month, sector, jobs]) => [month, sector, Number(jobs)]),
    );
  });

  test('and the same file written with decimal commas gives the same numbers', () => {
    const commas = readFileSync(file, 'utf8').replaceAll(',', ';').replaceAll('.', ',');
    expect(ours(',', new TextEncoder().encode(commas))).toEqual(ours('.', readFileSync(file)));
  });
});
