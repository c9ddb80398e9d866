import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { cellsOfReport, guessReading, READINGS, type ReadResult, Runner } from '../index.ts';
import { comparableRows, openDuck } from '../test-duck.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { listPaths, parallelRows, pathNames } from './nested-rows.ts';

const encode = (text: string) => new TextEncoder().encode(text);

function read(text: string | Uint8Array, params: object = {}): ReadResult {
  const found = READINGS.get('read-nested')!;
  return found.read(
    { name: 'a.json', bytes: typeof text === 'string' ? encode(text) : text },
    found.params.parse({ source: 's', ...params }),
    quiet,
  );
}

const sailings = {
  port: 'Hask',
  sailings: [
    {
      code: 'HU-0710',
      ship: { name: 'Orrin', length_m: 61.5 },
      bookings: [
        { ref: 'B1', code: 'x', extras: ['bike', 'dog'], party: { adults: 2 } },
        { ref: 'B2', late: true },
      ],
    },
    { code: 'HT-0955', crew: [{ name: 'A' }], bookings: [] },
  ],
};

describe('columns as lists side by side', () => {
  const object = { made: '2031', data: { port: ['Hask', 'Ullin', null], foot: [5, 6, 7] } };

  test('each place of the lists is a row, with the fields around them', () => {
    expect(listPaths(object)).toMatchObject([{ path: '$.data[*]', items: 3, objects: true }]);
    const { table } = read(JSON.stringify(object), { rows: '$.data[*]' });
    expect(namesOf(table)).toEqual(['made', 'port', 'foot']);
    expect(cellsOf(table)).toEqual([
      ['2031', 'Hask', '5'],
      ['2031', 'Ullin', '6'],
      ['2031', null, '7'],
    ]);
  });

  test('lists of other lengths, one alone, or objects beside them are no such columns', () => {
    const others = [
      '{"a":[1,2],"b":[1]}',
      '{"a":[1,2]}',
      '{"a":[1,2],"b":[3,4],"c":{"d":1}}',
      '{"a":[1,2],"b":[[1],[2]]}',
    ];
    for (const other of others) expect(parallelRows(JSON.parse(other)), other).toBeUndefined();
  });
});

describe('nested text', () => {
  test('the items of an inner list become rows, with the fields of every level around them', () => {
    const result = read(JSON.stringify(sailings), { rows: '$.sailings[*].bookings[*]' });
    expect(namesOf(result.table)).toEqual([
      'port',
      'code',
      'ship.name',
      'ship.length_m',
      'crew',
      'ref',
      'bookings.code',
      'extras',
      'party.adults',
      'late',
    ]);
    expect(cellsOf(result.table)).toEqual([
      ['Hask', 'HU-0710', 'Orrin', '61.5', null, 'B1', 'x', 'bike; dog', '2', null],
      ['Hask', 'HU-0710', 'Orrin', '61.5', null, 'B2', null, null, null, 'yes'],
      ['Hask', 'HT-0955', null, null, '[{"name":"A"}]', null, null, null, null, null],
    ]);
  });

  test('numbers that a double does not reach are kept as text (IEEE 754 binary64: 2^53, 1.8e308, 5e-324)', () => {
    const { table, notices } = read('[{"a": 1e400, "b": -1e-400, "c": 9007199254740993, "d": 0e999, "e": 1.5e300}]');
    expect(cellsOf(table)[0]!.slice(0, 4)).toEqual(['1e400', '-1e-400', '9007199254740993', '0']);
    expect(notices[0]!.text).toBe(
      '3 numbers kept as text, because a number would lose digits: 1e400, -1e-400, 9007199254740993',
    );
  });

  test('a name that stands twice in one object is reported, with its line (RFC 8259, 4)', () => {
    const told = (text: string) => read(text, { badLines: 'skip' }).notices.map((notice) => notice.text);
    expect(told('[{"Port": "Hask",\n "F\\u006fot": 1, "Foot": 2}, {"Port": "Ullin", "Foot": 3}]')).toEqual([
      '1 value dropped: repeated key, the last value is kept, the first is Foot on line 2',
    ]);
    expect(told('{"Foot": 1, "of": {"Foot": 2}}\n{"a": :\n{"Foot": 3, "of": ": {"}')[0]).toMatch(/^1 line left out/);
    expect(told('{"Foot": 1, "of": {"Foot": 2}}\n{"Foot": 3, "Foot": 4}')[0]).toMatch(/is Foot on line 2$/);
    expect(told('[{"Foot": 1, "of": {"Foot": ":{"}}]')).toEqual([]);
  });

  test('an item without items keeps a row; a list beside the way is never multiplied; both are reported', () => {
    const { notices } = read(JSON.stringify(sailings), { rows: '$.sailings[*].bookings[*]' });
    expect(notices.map((notice) => notice.text)).toEqual([
      '1 item whose list is empty, kept as a separate row',
      '1 other list kept as JSON: crew; use Unnest to expand them in a separate table',
    ]);
    expect(read(JSON.stringify(sailings), { rows: '$.sailings[*]' }).table.rows).toBe(2);
    expect(read(JSON.stringify(sailings), { rows: '$' }).table.rows).toBe(1);
  });

  test('the longest list of objects is guessed', () => {
    expect(guessReading('s', { name: 'a', bytes: encode(JSON.stringify(sailings)) })).toMatchObject({
      kind: 'read-nested',
      params: { rows: '$.sailings[*]' },
    });
    expect(listPaths(JSON.parse(JSON.stringify(sailings))).map((one) => one.path)).toContain(
      '$.sailings[*].bookings[*].extras[*]',
    );
  });

  test('paths by RFC 9535, names and [*] alone', () => {
    expect(pathNames('$.store.book[*]')).toEqual(['store.book']);
    expect(pathNames('$[*].a.b[*]')).toEqual(['', 'a.b']);
    expect(pathNames('$')).toEqual([]);
    for (const path of ['store', '$..book', '$.a[0]', "$['a']", '$.']) expect(pathNames(path)).toBeUndefined();
  });

  test('newline-delimited JSON: a bad line is named, and stops the reading or is left out', () => {
    const lines = '{"a":1}\n{"a":\n{"a":3,"b":"x"}\n';
    expect(() => read(lines)).toThrow('Line 2 of a.json is no JSON');
    const skipped = read(lines, { badLines: 'skip' });
    expect(cellsOf(skipped.table)).toEqual([
      ['1', null],
      ['3', 'x'],
    ]);
    expect(skipped.notices[0]!.text).toContain('line 2');
  });

  test.each<[string, string, object, string]>([
    ['JSON cut in the middle', '[{"a":1},{"a"', {}, 'is not valid JSON'],
    ['a path that is not there', '{"sailings":[{"a":1}]}', { rows: '$.sailing[*]' }, 'Did you mean $.sailings[*]?'],
    ['a path of another kind', '[1]', { rows: '$..a' }, 'made of names, * and [*]'],
    ['nothing', '  \n', {}, 'is empty'],
  ])('%s is reported', (_, text, params, message) => {
    expect(() => read(text, params)).toThrow(message);
  });

  test('deep nesting stays JSON in its cell and does no harm', () => {
    const nested = (levels: number) => `[${'{"a":'.repeat(levels)}1${'}'.repeat(levels)}]`;
    const [[cell]] = cellsOf(read(nested(100)).table) as [[string]];
    expect(cell).toMatch(/^\{"a":.*1\}+$/);
    expect(() => read(nested(5000))).toThrow('more than 500 levels deep');
    expect(() => read('['.repeat(200_000))).toThrow('more than 500 levels deep');
  });

  test('values of RFC 8259: numbers, literals, escapes; a list of plain values', () => {
    expect(cellsOf(read('[{"n":-1.5e3,"t":true,"u":"\\u00e9\\uD834\\uDD1E","z":null}]').table)).toEqual([
      ['-1500', 'yes', 'é𝄞', null],
    ]);
    expect(cellsOf(read('[1,"a",null]').table)).toEqual([['1'], ['a'], [null]]);
  });

  test('whole numbers past 2^53 keep every digit, as text, and are reported; texts are left alone', () => {
    const result = read('[{"id":12345678901234567890,"n":1234567890123456,"t":"x 99999999999999999999 \\"y"}]');
    expect(cellsOf(result.table)).toEqual([['12345678901234567890', '1234567890123456', 'x 99999999999999999999 "y']]);
    expect(result.notices.map((notice) => notice.text)).toContain(
      '1 number kept as text, because a number would lose digits: 12345678901234567890',
    );
  });

  test('barley and movies of vega-datasets read as DuckDB reads them', async () => {
    const duck = await openDuck();
    for (const [file, columns] of [
      ['barley.json', 'yield, variety, year, site'],
      ['unemployment-across-industries.json', 'series, year, month, count, rate'],
    ] as const) {
      const path = `node_modules/vega-datasets/data/${file}`;
      const { table } = read(readFileSync(path));
      const names = columns.split(', ');
      const own = cellsOf(table).map((row) => names.map((name) => row[namesOf(table).indexOf(name)]));
      expect(comparableRows(own)).toEqual(
        comparableRows(await duck.query(`select ${columns} from read_json('${path}')`)),
      );
    }
  });
});

test('fields that are only sometimes there can be declared, so that a month without them does not stop the job', () => {
  const runner = new Runner();
  const steps = (text: string) => {
    runner.setSource('s', { name: 'a.json', bytes: encode(text) });
    return runner.run(
      [
        { id: '1', kind: 'read-nested', params: { source: 's', rows: '$[*]', expects: ['note'] } },
        { id: '2', kind: 'rename', params: { names: [{ from: 'note', to: 'Note' }] } },
      ],
      quiet,
    );
  };
  expect(cellsOf(steps('[{"foot":1,"note":"fog"}]').steps[1]!.table)).toEqual([['1', 'fog']]);
  const without = steps('[{"foot":1}]');
  expect(without.stop).toBeUndefined();
  expect(cellsOf(without.steps[1]!.table)).toEqual([['1', null]]);
  expect(without.steps[0]!.notices.map((notice) => notice.text)).toContain('not in this report, and blank: note');
  expect(cellsOfReport(without, 1, { row: 0, column: 1 })).toEqual([]);
});

describe('names that are values, and rows that are lists', () => {
  const byPort = {
    year: 2031,
    Hask: [
      { code: 'HU', foot: 12 },
      { code: 'HT', foot: 7 },
    ],
    Ullin: [{ code: 'UH', foot: 3 }],
  };

  test('every member of an object, with its name as a field', () => {
    expect(listPaths(byPort)[0]).toMatchObject({ path: '$.*[*]', items: 3, objects: true });
    const { table } = read(JSON.stringify(byPort), { rows: '$.*[*]' });
    expect(namesOf(table)).toEqual(['year', 'key', 'code', 'foot']);
    expect(cellsOf(table)).toEqual([
      ['2031', 'Hask', 'HU', '12'],
      ['2031', 'Hask', 'HT', '7'],
      ['2031', 'Ullin', 'UH', '3'],
    ]);
  });

  test('inside of an outer object, and where each member is one object', () => {
    const text = JSON.stringify({ ports: { Hask: { foot: 12 }, Ullin: { foot: 3 }, Tarve: { foot: 5 } } });
    expect(listPaths(JSON.parse(text))[0]!.path).toBe('$.ports.*[*]');
    expect(cellsOf(read(text, { rows: '$.ports.*[*]' }).table)).toEqual([
      ['Hask', '12'],
      ['Ullin', '3'],
      ['Tarve', '5'],
    ]);
  });

  test('fields of one item, however alike, are no such members', () => {
    const fields = { home_port: [{ code: 'HU' }], next_port: [{ code: 'UH' }] };
    expect(listPaths(fields).map(({ path }) => path)).toEqual(['$.home_port[*]', '$.next_port[*]']);
  });

  test('a list of lists is rows of cells, named by where they stand', () => {
    const text = JSON.stringify([
      ['Port', 'Foot'],
      ['Hask', 12],
      ['Ullin', null],
    ]);
    const guess = guessReading('s', { name: 'a.json', bytes: encode(text) });
    expect(guess.params).toMatchObject({ rows: '$[*]' });
    const { table } = read(text, { rows: '$[*]' });
    expect(table.fields.map(({ name, nameOrigin }) => [name, nameOrigin])).toEqual([
      ['A', 'position'],
      ['B', 'position'],
    ]);
    expect(cellsOf(table)).toEqual([
      ['Port', 'Foot'],
      ['Hask', '12'],
      ['Ullin', null],
    ]);
  });
});
