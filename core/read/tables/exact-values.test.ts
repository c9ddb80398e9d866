/** Values of typed files, digit by digit: DuckDB writes the Parquet files and says what each value is as text. */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import * as arrow from 'apache-arrow';
import initSql from 'sql.js';
import { afterAll, expect, test } from 'vitest';
import { quiet } from '../../test-support.ts';
import { cellText } from '../../values/cell-text.ts';
import { guessReading, READINGS } from '../catalogue.ts';
import { openSource } from '../open-source.ts';
import { float32Value } from './exact-values.ts';

const folder = mkdtempSync(join(tmpdir(), 'rimefield-exact-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function read(bytes: Uint8Array, name: string) {
  await openSource(bytes, name);
  const source = { name, bytes };
  const { kind, params } = guessReading('s', source);
  const found = READINGS.get(kind)!;
  const { table, notices } = found.read(source, found.params.parse(params), quiet as never);
  const field = (name: string) => table.fields.find((one) => one.name === name)!.column;
  const cells = (name: string) => Array.from({ length: table.rows }, (_, r) => cellText(field(name), r));
  return { cells, type: (name: string) => field(name).type, notices: notices.map((one) => one.text), table };
}

async function duck(sql: string) {
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  await connection.run(`create table t as ${sql}`);
  const file = join(folder, 'a.parquet');
  await connection.run(`copy t to '${file}' (format parquet)`);
  const text = async (expression: string) =>
    (await (await connection.runAndReadAll(`select ${expression} from t`)).getRows()).map(([value]) => value as string);
  return { bytes: new Uint8Array(readFileSync(file)), text };
}

/** Zeros at the end of the fraction do not change a number. */
const trimmed = (text: string) => (text.includes('.') ? text.replace(/\.?0+$/, '') : text);

test.each([
  [9, 2],
  [9, 4],
  [18, 2],
  [18, 4],
  [18, 10],
  [38, 2],
  [38, 12],
])('decimal(%i, %i) keeps each digit', async (width, scale) => {
  const digits = Math.min(width - scale, 17);
  const { bytes, text } = await duck(
    `select cast(round((random() - 0.5) * 10 ** (random() * ${digits}), ${scale}) as decimal(${width}, ${scale})) as d
     from range(500) union all select null`,
  );
  const truth = await text('d::varchar');
  const { cells } = await read(bytes, 'a.parquet');
  expect(cells('d').map((cell) => cell && trimmed(cell))).toEqual(truth.map((one) => one && trimmed(one)));
});

test('a decimal beyond what a number keeps stays text; one within stays a number', async () => {
  const { bytes } = await duck(
    "select '123456789012345678901234567890.12'::decimal(38, 2) as d, [1592.59::decimal(18, 2)] as l",
  );
  const { cells, type } = await read(bytes, 'a.parquet');
  expect(cells('d')).toEqual(['123456789012345678901234567890.12']);
  expect(type('d')).toBe('text');
  expect(cells('l')).toEqual(['[1592.59]']);
});

test('32-bit floats read as the decimals they were written as', async () => {
  const { bytes, text } = await duck('select (random() * 10 ** (random() * 12))::float as f from range(500)');
  const truth = (await text('f::varchar')).map(Number);
  const { cells } = await read(bytes, 'a.parquet');
  expect(cells('f').map((cell) => Math.fround(Number(cell)))).toEqual(truth.map(Math.fround));
  expect(cells('f').filter((cell) => cell!.replace(/\D|^0*\.?0*/g, '').length > 12)).toEqual([]);
  expect(float32Value(Math.fround(0.1))).toBe(0.1);
});

test('times finer than a millisecond are cut, and the notice says how many', async () => {
  const { bytes } = await duck(`select * from (values
    (timestamp '2031-06-02 07:10:30.123456', time '07:10:30.000001', [timestamp '2031-06-02 07:10:30.123456']),
    (timestamp '1969-12-31 23:59:59.999999', time '07:10:30', []),
    (timestamp '2031-06-02 07:10:30.120000', null, null)) v(stamp, clock, list)`);
  const { cells, type, notices } = await read(bytes, 'a.parquet');
  expect(type('stamp')).toBe('datetime');
  expect(cells('stamp')).toEqual(['2031-06-02T07:10:30.123', '1969-12-31T23:59:59.999', '2031-06-02T07:10:30.120']);
  expect(cells('clock')).toEqual(['07:10:30', '07:10:30', null]);
  expect(cells('list')[0]).toBe('["2031-06-02T07:10:30.123456Z"]');
  expect(notices).toEqual(['stamp: 2 times cut to whole milliseconds', 'clock: 1 time cut to whole milliseconds']);
});

test('an interval is read as an ISO 8601 duration beside the other columns', async () => {
  const { bytes } = await duck("select 1 as n, interval '1 month 3 days 4.5 seconds' as i");
  const { cells } = await read(bytes, 'a.parquet');
  expect(cells('n')).toEqual(['1']);
  expect(cells('i')).toEqual(['P1M3DT4.5S']);
});

test('a column __proto__ and a byte order mark at the start of a cell are kept', async () => {
  const { bytes } = await duck(`select 'Hask' as "__proto__", chr(65279) || 'Ullin' as port`);
  const { cells } = await read(bytes, 'a.parquet');
  expect(cells('__proto__')).toEqual(['Hask']);
  expect(cells('port')).toEqual(['\ufeffUllin']);
});

test('Arrow: decimals, fine times, 32-bit floats and byte order marks', async () => {
  const words = (value: bigint) => {
    const unsigned = BigInt.asUintN(128, value);
    return Uint32Array.from({ length: 4 }, (_, k) => Number((unsigned >> BigInt(32 * k)) & 0xffffffffn));
  };
  const money = arrow.makeVector(
    arrow.makeData({
      type: new arrow.Decimal(2, 38, 128),
      data: Uint32Array.from([...words(159259n), ...words(-5n), ...words(12345678901234567890123n)]),
      length: 3,
    }),
  );
  const stamps = arrow.makeVector(
    arrow.makeData({ type: new arrow.TimestampMicrosecond(), data: BigInt64Array.of(1n, 1_000n, -1n), length: 3 }),
  );
  const table = new arrow.Table({
    money,
    stamps,
    share: arrow.vectorFromArray([0.1, null, 2.5], new arrow.Float32()),
    port: arrow.vectorFromArray(['\ufeffHask', null, 'Ullin'], new arrow.Utf8()),
    quay: arrow.vectorFromArray(
      ['\ufeffHask', null, 'Ullin'],
      new arrow.Dictionary(new arrow.Utf8(), new arrow.Int32()),
    ),
  });
  const { cells, notices } = await read(arrow.tableToIPC(table, 'file'), 'a.arrow');
  expect(cells('money')).toEqual(['1592.59', '-0.05', '123456789012345678901.23']);
  expect(cells('stamps')).toEqual(['1970-01-01T00:00', '1970-01-01T00:00:00.001', '1969-12-31T23:59:59.999']);
  expect(cells('share')).toEqual(['0.1', null, '2.5']);
  expect(cells('port')).toEqual(['\ufeffHask', null, 'Ullin']);
  expect(cells('quay')).toEqual(['\ufeffHask', null, 'Ullin']);
  expect(notices).toEqual(['stamps: 2 times cut to whole milliseconds']);
});

test('SQLite from a Node buffer, and a failure that does not stick to the bytes', async () => {
  const SQL = await initSql();
  const database = new SQL.Database();
  database.run("create table t (port text); insert into t values (char(65279) || 'Hask'), ('a' || char(0) || 'b')");
  const bytes = Buffer.from(database.export());
  const { cells } = await read(bytes, 'a.db');
  expect(cells('port')).toEqual(['\ufeffHask', 'a\0b']);
});
