import { describe, expect, test } from 'vitest';
import {
  CATALOGUE,
  countedColumn,
  type Field,
  makeTable,
  NAME,
  type StepResult,
  type Table,
  textColumn,
  traceBack,
  unreadableAt,
} from '../../index.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';

function run(kind: string, params: object, table: Table): StepResult {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), quiet);
}
const raw = (rows: (string | null)[][]): Table => ({
  rows: rows.length,
  fields: rows[0]!.map(
    (_, c): Field => ({ name: 'ABCDEF'[c]!, nameOrigin: 'position', column: textColumn(rows.map((row) => row[c]!)) }),
  ),
});

describe('fill', () => {
  const table = makeTable({
    P: textColumn(['Hask', 'Hask', 'Hask', 'Ullin', 'Ullin']),
    A: textColumn(['x', null, null, null, 'y']),
    B: countedColumn('number', [1, null, 3, null, null]),
  });
  test('down, up, and not past where another column changes', () => {
    const column = (params: object) =>
      cellsOf(run('fill', { columns: { by: 'names', names: ['A'] }, ...params }, table).table).map((row) => row[1]);
    expect(column({})).toEqual(['x', 'x', 'x', 'x', 'y']);
    expect(column({ within: 'P' })).toEqual(['x', 'x', 'x', null, 'y']);
    expect(column({ direction: 'up' })).toEqual(['x', 'y', 'y', 'y', 'y']);
  });
  test('across, and a filled cell traces to the cell it repeats', () => {
    const result = run('fill', { columns: { by: 'names', names: ['A', 'B'] }, direction: 'across' }, table);
    expect(cellsOf(result.table).map((row) => row[2])).toEqual(['1', null, '3', null, 'y']);
    expect(traceBack(result.origin, { row: 4, column: 2 })).toEqual([{ row: 4, column: 1, input: 0, role: 'value' }]);
    const down = run('fill', { columns: { by: 'names', names: ['A'] } }, table);
    expect(traceBack(down.origin, { row: 2, column: 1 })).toEqual([{ row: 0, column: 1, input: 0, role: 'value' }]);
    expect(down.notices[0]!.text).toBe('3 cells filled');
  });
});

describe('close gaps: cells that slipped in a table copied from a page', () => {
  const slipped = raw([
    ['Hask', '5', '7'],
    [null, 'Ullin', '3'],
    ['Tarve', null, '9'],
    ['x', 'y', null],
  ]);
  test('left and right, in every row or only where a rule holds', () => {
    expect(cellsOf(run('close-gaps', {}, slipped).table)).toEqual([
      ['Hask', '5', '7'],
      ['Ullin', '3', null],
      ['Tarve', '9', null],
      ['x', 'y', null],
    ]);
    expect(cellsOf(run('close-gaps', { direction: 'right' }, slipped).table)[3]).toEqual([null, 'x', 'y']);
    const only = run('close-gaps', { rules: [{ test: 'blank', columns: { by: 'names', names: ['A'] } }] }, slipped);
    expect(cellsOf(only.table)[2]).toEqual(['Tarve', null, '9']);
    expect(only.notices[0]).toMatchObject({ text: 'cells moved in 1 row', rows: { rows: Int32Array.from([1]) } });
  });
  test('a moved cell traces to where it stood', () => {
    const { origin } = run('close-gaps', {}, slipped);
    expect(traceBack(origin, { row: 1, column: 0 })).toEqual([{ row: 1, column: 1, input: 0, role: 'value' }]);
    expect(traceBack(origin, { row: 1, column: 2 })).toEqual([]);
  });
});

describe('split', () => {
  const table = makeTable({
    id: textColumn(['1', '2', '3', '4']),
    t: textColumn(['a | b | c', 'd', null, 'e | f']),
    u: textColumn(['1;2;3', '4', '5', '6']),
  });
  test('to columns: more pieces than columns stay in the last, and are reported', () => {
    const result = run('split-to-columns', { column: 't', cut: { delimiters: ['|'] }, into: ['x', 'y'] }, table);
    expect(namesOf(result.table)).toEqual(['id', 'x', 'y', 'u']);
    expect(cellsOf(result.table).map((row) => row.slice(1, 3))).toEqual([
      ['a', 'b | c'],
      ['d', null],
      [null, null],
      ['e', 'f'],
    ]);
    expect(result.notices[0]!.text).toContain('1 cell with more pieces than columns');
  });
  test.each([
    [{ delimiters: ['-', ' '] }, 'HU-0710 b', ['HU', '0710', 'b']],
    [{ delimiters: ['/'], which: 'first' }, 'a/b/c', ['a', 'b/c', null]],
    [{ delimiters: ['/'], which: 'last' }, 'a/b/c', ['a/b', 'c', null]],
    [{ by: 'positions', positions: [2, 4] }, 'HU0710b', ['HU', '07', '10b']],
    [{ by: 'class' }, 'HU0710', ['HU', '0710', null]],
    [{ delimiters: ['=>', '='] }, 'a=>b=c', ['a', 'b', 'c']],
  ])('%j cuts %s', (cut, text, pieces) => {
    expect(
      cellsOf(
        run('split-to-columns', { column: 't', cut, into: ['x', 'y', 'z'] }, makeTable({ t: textColumn([text]) }))
          .table,
      ),
    ).toEqual([pieces]);
  });
  test('a start guesses delimiter and number of columns from the data', () => {
    expect(CATALOGUE.get('split-to-columns')!.start(table, ['t'])).toMatchObject({
      cut: { delimiters: [' | '] },
      into: ['t 1', 't 2', 't 3'],
    });
  });
  test('to rows in lockstep: item by item, uneven lists told, a row without items stays', () => {
    const result = run(
      'split-to-rows',
      { columns: ['t', 'u'], cut: { delimiters: ['|', ';'] }, numbering: 'n' },
      table,
    );
    expect(cellsOf(result.table)).toEqual([
      ['1', 'a', '1', '1'],
      ['1', 'b', '2', '2'],
      ['1', 'c', '3', '3'],
      ['2', 'd', '4', '1'],
      ['3', null, '5', '1'],
      ['4', 'e', '6', '1'],
      ['4', 'f', null, '2'],
    ]);
    expect(result.notices[0]).toMatchObject({
      text: expect.stringContaining('2 rows with lists of uneven length'),
      rows: { of: 'before', rows: Int32Array.from([2, 3]) },
    });
    expect(traceBack(result.origin, { row: 6, column: 1 })).toEqual([{ row: 3, column: 1, input: 0, role: 'value' }]);
  });
  test('unnest: lists to rows or joined, objects to columns, what is no JSON kept and told', () => {
    const json = makeTable({ id: textColumn(['1', '2', '3']), j: textColumn(['["bike","dog"]', '[]', 'oops']) });
    expect(cellsOf(run('unnest', { column: 'j' }, json).table)).toEqual([
      ['1', 'bike'],
      ['1', 'dog'],
      ['2', null],
      ['3', 'oops'],
    ]);
    const joined = run('unnest', { column: 'j', lists: 'joined' }, json);
    expect(cellsOf(joined.table).map((row) => row[1])).toEqual(['bike; dog', null, 'oops']);
    expect(joined.notices.at(-1)!.text).toContain('1 cell of j is no JSON and stays as it reads: oops');
    const objects = makeTable({ o: textColumn(['{"a":1,"b":{"c":true}}', '{"b":null}', null]) });
    expect(cellsOf(run('unnest', { column: 'o' }, objects).table)).toEqual([
      ['1', '{"c":true}'],
      [null, null],
      [null, null],
    ]);
    expect(run('unnest', { column: 'id' }, json).notices.at(-1)!.text).toContain(
      'no cell of id holds a list or an object',
    );
  });
});

describe('pivot', () => {
  const long = makeTable({
    port: textColumn(['Hask', 'Hask', 'Hask', 'Ullin']),
    month: textColumn(['May', 'April', 'May', 'April']),
    foot: countedColumn('whole', [5, 7, 6, 9]),
    note: textColumn(['a', 'b', 'c', 'd']),
  });
  const params = { rows: { by: 'names', names: ['port'] }, names: ['month'], values: [{ column: 'foot' }] };
  test('the only value: a cell that met several is unreadable, and named', () => {
    const result = run('pivot', params, long);
    expect(namesOf(result.table)).toEqual(['port', 'May', 'April']);
    expect(cellsOf(result.table)).toEqual([
      ['Hask', '5 | 6', '7'],
      ['Ullin', null, '9'],
    ]);
    expect(unreadableAt(result.table.fields[1]!.column, 0)!.reason).toBe('2 values meet here');
    expect(result.notices[0]).toMatchObject({
      text: expect.stringContaining('1 cell of May met several values'),
      rows: { of: 'after', rows: Int32Array.from([0]) },
    });
  });
  test('text too; order by name puts months as in the year; empty cells can hold a value', () => {
    const result = run('pivot', { ...params, values: [{ column: 'note', by: 'joined' }], order: 'name' }, long);
    expect(namesOf(result.table)).toEqual(['port', 'April', 'May']);
    expect(cellsOf(result.table)[0]).toEqual(['Hask', 'b', 'a; c']);
    expect(
      cellsOf(run('pivot', { ...params, values: [{ column: 'foot', by: 'sum' }], empty: '0' }, long).table)[1],
    ).toEqual(['Ullin', '0', '9']);
    expect(cellsOf(run('pivot', { ...params, values: [{ column: 'note' }], empty: '-' }, long).table)).toEqual([
      ['Hask', 'a | c', 'b'],
      ['Ullin', '-', 'd'],
    ]);
  });
  test('several values and several name columns', () => {
    const result = run(
      'pivot',
      {
        rows: { by: 'names', names: [] },
        names: ['port', 'month'],
        values: [
          { column: 'foot', by: 'sum' },
          { column: 'note', by: 'first' },
        ],
      },
      long,
    );
    expect(namesOf(result.table)).toEqual([
      'Hask / May / foot',
      'Hask / May / note',
      'Hask / April / foot',
      'Hask / April / note',
      'Ullin / April / foot',
      'Ullin / April / note',
    ]);
    expect(cellsOf(result.table)).toEqual([['11', 'a', '7', 'b', '9', 'd']]);
  });
  test('a cell traces to its values, a new name to the cell it came from', () => {
    const { origin } = run('pivot', params, long);
    expect(traceBack(origin, { row: 0, column: 1 }).map((cell) => [cell.row, cell.column])).toEqual([
      [0, 2],
      [2, 2],
    ]);
    expect(traceBack(origin, { row: NAME, column: 2 })).toEqual([{ row: 1, column: 1, input: 0, role: 'name' }]);
  });
  test('a measure that needs numbers, and too many columns, stop with what to do', () => {
    expect(() => run('pivot', { ...params, values: [{ column: 'note', by: 'sum' }] }, long)).toThrow(
      'Set its type to number first',
    );
    const many = makeTable({
      k: countedColumn(
        'whole',
        Array.from({ length: 17_000 }, (_, r) => r),
      ),
      v: countedColumn(
        'whole',
        Array.from({ length: 17_000 }, () => 1),
      ),
    });
    expect(() => run('pivot', { names: ['k'], values: [{ column: 'v' }] }, many)).toThrow('at most 16,384');
  });
});

describe('transpose, group, split off', () => {
  test('transpose turns names into cells and back', () => {
    const table = makeTable({
      port: textColumn(['Hask', 'Ullin']),
      foot: countedColumn('whole', [5, 7]),
      fare: textColumn(['x', null]),
    });
    const result = run('transpose', { names: 'port', into: 'What' }, table);
    expect(namesOf(result.table)).toEqual(['What', 'Hask', 'Ullin']);
    expect(cellsOf(result.table)).toEqual([
      ['foot', '5', '7'],
      ['fare', 'x', null],
    ]);
    expect(traceBack(result.origin, { row: 0, column: 2 })).toEqual([{ row: 1, column: 1, input: 0, role: 'value' }]);
    expect(traceBack(result.origin, { row: 1, column: 0 })).toEqual([{ row: NAME, column: 2, input: 0, role: 'name' }]);
    expect(cellsOf(run('transpose', { names: 'What', into: 'port' }, result.table).table)).toEqual([
      ['Hask', '5', 'x'],
      ['Ullin', '7', null],
    ]);
  });
  test('a group traces to all its rows, with a condition to those that count', () => {
    const table = makeTable({ port: textColumn(['Hask', 'Ullin', 'Hask']), foot: countedColumn('whole', [5, 7, 6]) });
    const { origin } = run(
      'group',
      { by: { by: 'names', names: ['port'] }, measures: [{ by: 'sum', column: 'foot', name: 's', where: 'foot > 5' }] },
      table,
    );
    expect(traceBack(origin, { row: 0, column: 1 }).map((cell) => cell.row)).toEqual([2]);
    expect(traceBack(origin, { row: 0, column: 0 }).map((cell) => cell.row)).toEqual([0, 2]);
  });
  test('split off says where the key does not decide', () => {
    const table = makeTable({
      code: textColumn(['H', 'U', 'H', 'U']),
      port: textColumn(['Hask', 'Ullin', 'Hask', 'Ulin']),
      foot: countedColumn('whole', [1, 2, 3, 4]),
    });
    const result = run('split-off', { key: ['code'], columns: ['port'] }, table);
    expect(cellsOf(result.table)).toEqual([
      ['H', 'Hask'],
      ['U', 'Ullin'],
    ]);
    expect(result.notices[1]).toMatchObject({
      text: 'code does not decide port in 1 row, of U; the first value is taken',
      rows: { of: 'before', rows: Int32Array.from([3]) },
    });
    expect(namesOf(run('split-off', { key: ['code'], columns: ['port'], give: 'rest' }, table).table)).toEqual([
      'code',
      'foot',
    ]);
  });
});

describe('names', () => {
  const table = makeTable({
    'Sailing Nº': textColumn(['x']),
    'Foot %': textColumn(['x']),
    'foot pct': textColumn(['x']),
    'Ærøskøbing Straße': textColumn(['x']),
    '---': textColumn(['x']),
  });
  test('tidy names are plain and unique', () => {
    expect(namesOf(run('tidy-names', {}, table).table)).toEqual([
      'sailing_no',
      'foot_percent',
      'foot_pct',
      'aeroskobing_strasse',
      'column_5',
    ]);
    expect(namesOf(run('tidy-names', { style: 'camel' }, table).table)[1]).toBe('footPercent');
    const clash = run('tidy-names', {}, makeTable({ 'A b': textColumn(['1']), 'a B': textColumn(['2']) }));
    expect(namesOf(clash.table)).toEqual(['a_b', 'a_b 2']);
    expect(clash.notices[1]!.severity).toBe('warning');
  });
  test('names in other scripts are spelled out in Latin letters', () => {
    const foreign = makeTable({ Порт: textColumn(['x']), 'Λιμάνι 2': textColumn(['x']) });
    expect(namesOf(run('tidy-names', {}, foreign).table)).toEqual(['port', 'limani_2']);
  });

  test('rename by text and by pattern; moving columns', () => {
    expect(namesOf(run('rename-by-pattern', { find: 'foot', with: 'Foot' }, table).table)[2]).toBe('Foot pct');
    expect(
      namesOf(run('rename-by-pattern', { find: '^(\\w+) .*$', with: '$1', how: 'pattern' }, table).table).slice(0, 2),
    ).toEqual(['Sailing', 'Foot']);
    const abc = raw([['1', '2', '3']]);
    const moved = (params: object) =>
      namesOf(run('move-columns', { columns: { by: 'names', names: ['C'] }, ...params }, abc).table).join('');
    expect([
      moved({}),
      moved({ to: 'last' }),
      moved({ to: 'before', column: 'B' }),
      moved({ to: 'after', column: 'A' }),
    ]).toEqual(['CAB', 'ABC', 'ACB', 'ACB']);
    expect(namesOf(run('number-rows', { into: 'n' }, abc).table)).toEqual(['n', 'A', 'B', 'C']);
  });
});

describe("the messy shapes of 'Tidy Data' (Journal of Statistical Software 59(10), 2014); values from memory or cut short", () => {
  test('3.1 column headers are values: religion by income', () => {
    const pew = makeTable({
      religion: textColumn(['Agnostic', 'Atheist']),
      '<$10k': countedColumn('whole', [27, 12]),
      '$10-20k': countedColumn('whole', [34, 27]),
    });
    const tidy = run(
      'unpivot',
      { columns: { by: 'all-but', names: ['religion'] }, parts: [{ as: 'column', name: 'income' }], value: 'freq' },
      pew,
    ).table;
    expect(cellsOf(tidy)).toEqual([
      ['Agnostic', '<$10k', '27'],
      ['Agnostic', '$10-20k', '34'],
      ['Atheist', '<$10k', '12'],
      ['Atheist', '$10-20k', '27'],
    ]);
  });
  test('3.2 several variables in one column: sex and age in a code', () => {
    const tb = makeTable({
      country: textColumn(['AD', 'AE']),
      year: textColumn(['2000', '2000']),
      m014: countedColumn('whole', [0, 2]),
      f1524: countedColumn('whole', [null, 16]),
    });
    const long = run(
      'unpivot',
      {
        columns: { by: 'all-but', names: ['country', 'year'] },
        parts: [{ as: 'column', name: 'code' }],
        value: 'cases',
        blanks: 'drop',
      },
      tb,
    ).table;
    const split = run('split-to-columns', { column: 'code', cut: { by: 'class' }, into: ['sex', 'age'] }, long).table;
    expect(cellsOf(split)).toEqual([
      ['AD', '2000', 'm', '014', '0'],
      ['AE', '2000', 'm', '014', '2'],
      ['AE', '2000', 'f', '1524', '16'],
    ]);
  });
  test('3.3 variables in both rows and columns: days across, elements down', () => {
    const weather = makeTable({
      id: textColumn(['MX17004', 'MX17004']),
      month: textColumn(['2', '2']),
      element: textColumn(['tmax', 'tmin']),
      d2: countedColumn('number', [27.3, 14.4]),
      d3: countedColumn('number', [24.1, 14.4]),
    });
    const long = run(
      'unpivot',
      {
        columns: { by: 'all-but', names: ['id', 'month', 'element'] },
        parts: [{ as: 'column', name: 'day' }],
        value: 'value',
      },
      weather,
    ).table;
    const tidy = run('pivot', { names: ['element'], values: [{ column: 'value' }] }, long);
    expect(namesOf(tidy.table)).toEqual(['id', 'month', 'day', 'tmax', 'tmin']);
    expect(cellsOf(tidy.table)).toEqual([
      ['MX17004', '2', 'd2', '27.3', '14.4'],
      ['MX17004', '2', 'd3', '24.1', '14.4'],
    ]);
  });
  test('3.4 several kinds of thing in one table: songs and their ranks', () => {
    const billboard = makeTable({
      artist: textColumn(['2 Pac', '2 Pac', '3 Doors Down']),
      track: textColumn(["Baby Don't Cry", "Baby Don't Cry", 'Kryptonite']),
      time: textColumn(['4:22', '4:22', '3:53']),
      week: textColumn(['1', '2', '1']),
      rank: countedColumn('whole', [87, 82, 81]),
    });
    const songs = run('split-off', { key: ['artist', 'track'], columns: ['time'] }, billboard);
    expect(cellsOf(songs.table)).toEqual([
      ['2 Pac', "Baby Don't Cry", '4:22'],
      ['3 Doors Down', 'Kryptonite', '3:53'],
    ]);
    expect(songs.notices).toHaveLength(1);
  });
});
