/** Tables that other programs wrote: Parquet by DuckDB, Arrow by Apache's own library, SQLite by sql.js, dBase by SheetJS. */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import { utils, write } from '@e965/xlsx';
import * as arrow from 'apache-arrow';
import initSql from 'sql.js';
import { afterAll, describe, expect, test } from 'vitest';
import { countedColumn, ExportSpec, makeTable, textColumn } from '../../index.ts';
import { quiet } from '../../test-support.ts';
import { cellText } from '../../values/cell-text.ts';
import { exportTable } from '../../write/export.ts';
import { guessReading, READINGS } from '../catalogue.ts';
import { openSource } from '../open-source.ts';

const folder = mkdtempSync(join(tmpdir(), 'rimefield-tables-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function read(bytes: Uint8Array, name: string, given?: object) {
  await openSource(bytes, name);
  const source = { name, bytes };
  const { kind, params } = guessReading('s', source);
  const found = READINGS.get(kind)!;
  const { table, ...more } = found.read(source, found.params.parse({ ...params, ...given }), quiet as never);
  const cells = (name: string) => {
    const column = table.fields.find((field) => field.name === name)!.column;
    return Array.from({ length: table.rows }, (_, r) => cellText(column, r));
  };
  const types = Object.fromEntries(table.fields.map((field) => [field.name, field.column.type]));
  return { kind, params, table, cells, types, ...more };
}

async function parquet(sql: string, options = ''): Promise<Uint8Array> {
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  const file = join(folder, 'a.parquet');
  await connection.run(`copy (${sql}) to '${file}' (format parquet${options})`);
  return new Uint8Array(readFileSync(file));
}

const ALL_TYPES = `
  select * from (values
    (1::integer, 9007199254740993::bigint, 1.5::double, 12.345::decimal(9, 3), 'Hask', true, date '2031-06-02',
     time '07:10:30', timestamp '2031-06-02 07:10:30.25', ['Foot', 'Car'], {'adults': 2, 'paid': true}, 'ab'::blob),
    (null, 7, null, null, null, null, null, null, null, null, null, null),
    (-3, -7, 'nan'::double, -0.005, 'Ullin, "north"', false, date '1969-12-31',
     time '23:59:59.999', timestamp '1969-12-31 23:59:59', [], {'adults': 0, 'paid': false}, 'cd'::blob)
  ) t(n, big, x, money, port, paid, day, clock, stamp, packed, party, raw)`;

describe('Parquet by DuckDB', () => {
  test('every type is what the file says', async () => {
    const { kind, types, cells, table } = await read(await parquet(ALL_TYPES), 'sailings.parquet');
    expect(kind).toBe('read-tables');
    expect(table.rows).toBe(3);
    expect(types).toMatchObject({
      n: 'whole',
      money: 'number',
      port: 'text',
      paid: 'yesno',
      day: 'date',
      clock: 'time',
      stamp: 'datetime',
    });
    expect(cells('n')).toEqual(['1', null, '-3']);
    // Past 2^53 a number would lose its last digits.
    expect(cells('big')).toEqual(['9007199254740993', '7', '-7']);
    // What is not a number in a column of numbers is shown as its word.
    expect(cells('x')).toEqual(['1.5', null, 'NaN']);
    expect(cells('money')).toEqual(['12.345', null, '-0.005']);
    expect(cells('port')).toEqual(['Hask', null, 'Ullin, "north"']);
    expect(cells('paid')).toEqual(['yes', null, 'no']);
    expect(cells('day')).toEqual(['2031-06-02', null, '1969-12-31']);
    expect(cells('clock')).toEqual(['07:10:30', null, '23:59:59.999']);
    expect(cells('stamp')).toEqual(['2031-06-02T07:10:30.250', null, '1969-12-31T23:59:59']);
    expect(cells('packed')).toEqual(['["Foot","Car"]', null, '[]']);
    expect(cells('party')).toEqual(['{"adults":2,"paid":true}', null, '{"adults":0,"paid":false}']);
    expect(cells('raw')).toEqual(['ab', null, 'cd']);
  });

  test.each(['snappy', 'gzip', 'zstd', 'lz4_raw', 'brotli', 'uncompressed'])('packed with %s', async (codec) => {
    const bytes = await parquet(
      "select range as n, 'port ' || range % 7 as port, range / 8.0 as fare from range(5000)",
      `, compression '${codec}', row_group_size 2048`,
    );
    const { table, cells } = await read(bytes, 'a.parquet');
    expect(table.rows).toBe(5000);
    expect(cells('fare')[4999]).toBe('624.875');
    expect(cells('port')[4999]).toBe('port 1');
  });

  test('what we write ourselves comes back as it was', async () => {
    const table = makeTable({
      port: textColumn(['Hask', null, 'Ullin']),
      fare: countedColumn('number', [1.5, null, -2]),
      day: countedColumn('date', [22_000, null, -1]),
      paid: countedColumn('yesno', [1, 0, null]),
    });
    for (const as of ['parquet', 'arrow', 'sqlite'] as const) {
      const bytes = await exportTable({ name: 'Fares', table }, ExportSpec.parse({ as }));
      const { cells } = await read(bytes, `fares.${as}`);
      expect(cells('port')).toEqual(['Hask', null, 'Ullin']);
      expect(cells('fare')).toEqual(['1.5', null, '-2']);
      expect(cells('day')).toEqual(['2030-03-27', null, '1969-12-31']);
      expect(cells('paid')).toEqual(as === 'sqlite' ? ['1', '0', null] : ['yes', 'no', null]);
    }
  });
});

test('Arrow: numbers, texts in dictionaries, dates, times, decimals, lists', async () => {
  const table = new arrow.Table({
    n: arrow.vectorFromArray([1, null, -3], new arrow.Int32()),
    big: arrow.vectorFromArray([9007199254740993n, 7n, null], new arrow.Int64()),
    port: arrow.vectorFromArray(['Hask', 'Hask', null], new arrow.Dictionary(new arrow.Utf8(), new arrow.Int32())),
    day: arrow.vectorFromArray([new Date('2031-06-02'), null, new Date('1969-12-31')], new arrow.DateDay()),
    at: arrow.vectorFromArray([25_830_000, null, 0], new arrow.TimeMillisecond()),
    stamp: arrow.vectorFromArray([new Date('2031-06-02T07:10:30Z'), null, null], new arrow.TimestampMillisecond()),
    packed: arrow.vectorFromArray(
      [['Foot', 'Car'], null, []],
      new arrow.List(new arrow.Field('item', new arrow.Utf8())),
    ),
  });
  const { cells, types } = await read(arrow.tableToIPC(table, 'file'), 'a.arrow');
  expect(types).toMatchObject({ n: 'whole', port: 'text', day: 'date', at: 'time', stamp: 'datetime' });
  expect(cells('n')).toEqual(['1', null, '-3']);
  expect(cells('big')).toEqual(['9007199254740993', '7', null]);
  expect(cells('port')).toEqual(['Hask', 'Hask', null]);
  expect(cells('day')).toEqual(['2031-06-02', null, '1969-12-31']);
  expect(cells('at')).toEqual(['07:10:30', null, '00:00']);
  expect(cells('stamp')).toEqual(['2031-06-02T07:10:30', null, null]);
  expect(cells('packed')).toEqual(['["Foot","Car"]', null, '[]']);
});

describe('SQLite', () => {
  const made = async (sql: string) => {
    const SQL = await initSql();
    const database = new SQL.Database();
    database.run(sql);
    const bytes = database.export();
    database.close();
    return bytes;
  };

  test('tables with the same columns are stacked, the others stay listed; values keep their types', async () => {
    const bytes = await made(`
      create table hask (ref text, foot integer, fare real);
      insert into hask values ('B1', 3, 1.5), ('B2', null, 2), ('B3', 'fog', null);
      create table ullin (ref text, foot integer, fare real);
      insert into ullin values ('B4', 9007199254740993, 0.25);
      create table ships (name text);
      insert into ships values ('Gannet');
      create view late as select ref from hask where foot is null;`);
    const { table, cells, params, report, notices, places } = await read(bytes, 'quays.db');
    expect(params).toMatchObject({ tables: { by: 'names', names: ['hask', 'ullin'] }, nameColumn: 'Table' });
    expect(report.parts.map((part) => part.name)).toEqual(['hask', 'ullin', 'ships', 'late']);
    expect(table.rows).toBe(4);
    expect(cells('Table')).toEqual(['hask', 'hask', 'hask', 'ullin']);
    expect(cells('foot')).toEqual(['3', null, 'fog', '9007199254740993']);
    expect(cells('fare')).toEqual(['1.5', '2', null, '0.25']);
    expect([...places.part]).toEqual([0, 0, 0, 1]);
    expect(notices.map((one) => one.text)).toContain('2 other tables left: ships, late');
    const view = await read(bytes, 'quays.db', { tables: { by: 'names', names: ['late'] }, nameColumn: null });
    expect(view.cells('ref')).toEqual(['B2']);
  });

  test('a table that is gone next month is named', async () => {
    const bytes = await made('create table hask (ref text); insert into hask values (1);');
    await expect(read(bytes, 'a.db', { tables: { by: 'names', names: ['hasq'] } })).rejects.toThrow(
      /no table hasq\. The tables are hask\. Did you mean hask\?/,
    );
  });
});

test('dBase: a table as a sheet', async () => {
  const bytes = write(
    {
      SheetNames: ['A'],
      Sheets: {
        A: utils.aoa_to_sheet([
          ['REF', 'FOOT'],
          ['B1', 3],
          ['B2', 14],
        ]),
      },
    },
    { type: 'array', bookType: 'dbf' },
  );
  const { kind, table } = await read(new Uint8Array(bytes), 'quays.dbf');
  expect(kind).toBe('read-sheets');
  const rows = Array.from({ length: table.rows }, (_, r) => table.fields.map(({ column }) => cellText(column, r)));
  expect(rows).toEqual([
    ['REF', 'FOOT'],
    ['B1', '3'],
    ['B2', '14'],
  ]);
});

test('damaged files are refused with a reason, wherever they break off', async () => {
  const SQL = await initSql();
  const database = new SQL.Database();
  database.run("create table a (x text); insert into a values ('one'), ('two');");
  const whole = [
    ['a.parquet', await parquet('select range as n from range(300)')],
    ['a.arrow', arrow.tableToIPC(new arrow.Table({ n: arrow.vectorFromArray([1, 2, 3]) }), 'file')],
    ['a.db', database.export()],
  ] as const;
  for (const [name, bytes] of whole)
    for (let k = 1; k < 30; k++) {
      // Lengths inside of an Arrow file are taken by its library as they stand: of those only beginnings are tried.
      const isCut = k % 2 === 0 || name === 'a.arrow';
      const broken = isCut ? bytes.slice(0, Math.max(20, Math.floor((bytes.length * k) / 30))) : bytes.slice();
      if (!isCut) for (let at = 16 + k; at < broken.length; at += 37) broken[at] = (at * k) & 255;
      try {
        await read(broken, name);
      } catch (error) {
        expect((error as Error).name).toMatch(/^(ReadFailure|StepFailure)$/);
        expect((error as Error).message).toContain(name);
      }
    }
});
