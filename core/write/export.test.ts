/** Every export is read back by a reader that is not ours. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { read, utils } from '@e965/xlsx';
import { unzipSync } from 'fflate';
import { parquetReadObjects } from 'hyparquet';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  countedColumn,
  ExportSpec,
  ExportStopped,
  exportAll,
  exportTable,
  makeTable,
  type Table,
  textColumn,
} from '../index.ts';
import { type Duck, openDuck } from '../test-duck.ts';

const day = (text: string) => Date.parse(`${text}T00:00:00Z`) / 86_400_000;
const table: Table = makeTable({
  Name: textColumn(['Zoë, "Brandt"', 'line\nbreak', '', null, '=1+1']),
  Foot: countedColumn('whole', [12, null, -3, 9_007_199_254_740_991, 0]),
  Fare: countedColumn('number', [12.5, 0.1, null, -1e-7, 1e21]),
  Day: countedColumn('date', [day('2031-06-30'), null, day('1969-12-31'), day('2000-02-29'), day('1900-01-01')]),
  At: countedColumn('datetime', [day('2031-06-30') * 86_400_000 + 3_661_000, null, 0, 1, 2]),
  Sails: countedColumn('yesno', [1, 0, null, 1, 0]),
});

let folder: string;
let duck: Duck;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'rimefield-export-'));
  duck = await openDuck();
});

const made = (spec: object, of = table) => exportTable(of, 'Sailings', ExportSpec.parse(spec));
const text = (bytes: Uint8Array) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);
function kept(name: string, bytes: Uint8Array): string {
  const file = join(folder, name);
  writeFileSync(file, bytes);
  return file;
}

const NAMES = ['Zoë, "Brandt"', 'line\nbreak', '', null, '=1+1'];

describe('read back by DuckDB', () => {
  test('delimited text: quotes, line breaks, empty text beside blank', async () => {
    const file = kept('a.csv', made({ as: 'csv' }));
    const rows = await duck.query(
      `select * from read_csv('${file}', header = true, all_varchar = true, nullstr = '', allow_quoted_nulls = false)`,
    );
    expect(rows.map((row) => row[0])).toEqual(NAMES);
    expect(rows.map((row) => row[1])).toEqual(['12', null, '-3', '9007199254740991', '0']);
    expect(rows.map((row) => row[3])).toEqual(['2031-06-30', null, '1969-12-31', '2000-02-29', '1900-01-01']);
  });

  test('semicolons, decimal commas, all quoted, line feeds, a byte order mark', async () => {
    const bytes = made({ as: 'csv', delimiter: ';', decimal: ',', quoting: 'all', lineEnd: 'lf', bom: true });
    expect([...bytes.subarray(0, 3)]).toEqual([0xef, 0xbb, 0xbf]);
    const file = kept('b.csv', bytes);
    const rows = await duck.query(
      `select "Fare" from read_csv('${file}', header = true, delim = ';', decimal_separator = ',')`,
    );
    expect(rows.map((row) => row[0])).toEqual([12.5, 0.1, null, -1e-7, 1e21]);
    expect(text(bytes)).not.toContain('\r');
  });

  test('JSON by rows, and a line for each row', async () => {
    for (const [as, name] of [
      ['json', 'a.json'],
      ['ndjson', 'a.ndjson'],
    ] as const) {
      const file = kept(name, made({ as }));
      const rows = await duck.query(`select "Name", "Foot", "Fare", "Sails" from read_json('${file}')`);
      expect(rows.map((row) => row[0])).toEqual(NAMES);
      expect(rows.map((row) => Number(row[1] ?? Number.NaN))).toEqual([12, Number.NaN, -3, 9_007_199_254_740_991, 0]);
      expect(rows.map((row) => row[3])).toEqual([true, false, null, true, false]);
    }
  });

  test('Parquet, with its types', async () => {
    const file = kept('a.parquet', made({ as: 'parquet' }));
    const types = await duck.query(`select column_name, column_type from (describe select * from '${file}')`);
    expect(Object.fromEntries(types)).toEqual({
      Name: 'VARCHAR',
      Foot: 'BIGINT',
      Fare: 'DOUBLE',
      Day: 'DATE',
      At: 'TIMESTAMP',
      Sails: 'BOOLEAN',
    });
    const rows = await duck.query(
      `select "Name", "Foot"::varchar, "Fare", "Day"::varchar, "At"::varchar, "Sails" from '${file}'`,
    );
    expect(rows[0]).toEqual(['Zoë, "Brandt"', '12', 12.5, '2031-06-30', '2031-06-30 01:01:01', true]);
    expect(rows.map((row) => row[0])).toEqual(NAMES);
    expect(rows.map((row) => row[1])).toEqual(['12', null, '-3', '9007199254740991', '0']);
    expect(rows.map((row) => row[3])).toEqual(['2031-06-30', null, '1969-12-31', '2000-02-29', '1900-01-01']);
  });
});

test('Parquet read back by hyparquet', async () => {
  const { buffer } = made({ as: 'parquet' });
  const rows = await parquetReadObjects({ file: buffer });
  expect(rows.map((row) => row['Fare'] ?? null)).toEqual([12.5, 0.1, null, -1e-7, 1e21]);
});

test.each(['xlsx', 'ods'] as const)('a workbook (%s): typed cells and real dates', (as) => {
  const book = read(made({ as }), { cellDates: false });
  expect(book.SheetNames).toEqual(['Sailings']);
  const sheet = book.Sheets['Sailings']!;
  const rows = utils.sheet_to_json<unknown[]>(sheet, { header: 1, raw: true, defval: null });
  expect(rows[0]).toEqual(['Name', 'Foot', 'Fare', 'Day', 'At', 'Sails']);
  expect(rows.slice(1).map((row) => row[1])).toEqual([12, null, -3, 9_007_199_254_740_991, 0]);
  expect(rows[1]![5]).toBe(true);
  // 30 June 2031 is day 48029 of the 1900 system.
  const date = rows[1]![3];
  expect(date instanceof Date ? date.toISOString() : date).toBe(as === 'ods' ? '2031-06-30T00:00:00.000Z' : 48_029);
  // A text that looks like a formula stays a text.
  expect(sheet['A6']).toMatchObject({ t: 's', v: '=1+1' });
  expect(sheet['A6']!.f).toBeUndefined();
});

test('JSON by columns, Markdown, HTML', () => {
  expect(JSON.parse(text(made({ as: 'json', layout: 'columns' })))).toMatchObject({
    Name: NAMES,
    Sails: [true, false, null, true, false],
  });
  expect(
    text(made({ as: 'markdown' }))
      .split('\n')
      .slice(0, 4),
  ).toEqual([
    '| Name | Foot | Fare | Day | At | Sails |',
    '| --- | ---: | ---: | --- | --- | --- |',
    '| Zoë, "Brandt" | 12 | 12.5 | 2031-06-30 | 2031-06-30T01:01:01 | yes |',
    '| line<br>break |  | 0.1 |  |  | no |',
  ]);
  expect(text(made({ as: 'html' }))).toContain('<td>Zoë, &quot;Brandt&quot;</td><td>12</td>');
});

test('a data package describes its file by Table Schema', () => {
  const files = unzipSync(made({ as: 'data-package' }));
  const description = JSON.parse(text(files['datapackage.json']!));
  expect(Object.keys(files)).toEqual(['datapackage.json', description.resources[0].path]);
  // Types of Table Schema, Frictionless Data version 1.
  expect(description.resources[0].schema.fields.map((field: { type: string }) => field.type)).toEqual([
    'string',
    'integer',
    'number',
    'date',
    'datetime',
    'boolean',
  ]);
  expect(text(files['sailings.csv']!)).toBe(text(made({ as: 'csv' })));
});

describe('choices', () => {
  const doubtful = makeTable({
    Foot: {
      type: 'whole',
      values: Float64Array.of(1, Number.NaN),
      unreadable: { codes: Int32Array.of(-1, 0), cells: [{ text: 'n/a', reason: 'no number' }] },
    },
  });

  test('unreadable cells: their text, blank, or a stop that says where', () => {
    expect(text(made({ as: 'csv' }, doubtful))).toBe('Foot\r\n1\r\nn/a\r\n');
    expect(text(made({ as: 'csv', unreadable: 'blank' }, doubtful))).toBe('Foot\r\n1\r\n""\r\n');
    expect(() => made({ as: 'csv', unreadable: 'stop' }, doubtful)).toThrow(ExportStopped);
    expect(() => made({ as: 'csv', unreadable: 'stop' }, doubtful)).toThrow(
      'Foot has 1 unreadable cells, the first in row 2',
    );
  });

  test('texts that a spreadsheet would compute are guarded where that is chosen; numbers are not', () => {
    expect(text(made({ as: 'csv', guard: true }))).toContain("\r\n'=1+1,0,");
    expect(text(made({ as: 'csv', guard: true }))).toContain(',-3,');
    expect(text(made({ as: 'csv' }))).toContain('\r\n=1+1,0,');
  });

  test('all tables at once, names made unique', () => {
    const files = unzipSync(
      exportAll(
        [
          { name: 'T', table },
          { name: 'T', table: doubtful },
        ],
        ExportSpec.parse({ as: 'csv' }),
      ),
    );
    expect(Object.keys(files)).toEqual(['T.csv', 'T 2.csv']);
  });

  test('the same bytes each time', () => {
    for (const as of ['xlsx', 'ods', 'parquet', 'data-package']) expect(made({ as })).toEqual(made({ as }));
  });
});
