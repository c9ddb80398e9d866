/**
 * The methods of the demo as SQL, from their raw tables to the tables that they give: run in DuckDB, and in PostgreSQL
 * where Debian's package is installed. Those for Spark are read by a parser of its grammar (dt-sql-parser), and not run.
 */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SparkSQL } from 'dt-sql-parser';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  type DialectName,
  ExportSpec,
  fullTables,
  type MethodRun,
  methodSql,
  type RawTable,
  Runner,
  rawTable,
} from '../core/index.ts';
import { comparableRows, type Duck, openDuck } from '../core/test-duck.ts';
import { HAS_POSTGRES, openPostgres, type Postgres } from '../core/test-postgres.ts';
import { cellsOf, quiet } from '../core/test-support.ts';
import { exportTable } from '../core/write/export.ts';
import { DEMOS } from './all.ts';
import { type DemoFiles, demoFiles } from './demo-job.ts';
import { openAllDemos } from './later-run.ts';

const folder = mkdtempSync(join(tmpdir(), 'rimefield-demo-sql-'));
let duck: Duck;
beforeAll(async () => {
  await openAllDemos();
  duck = await openDuck();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function ranOn(made: DemoFiles): MethodRun {
  const runner = new Runner();
  for (const { source, file, bytes } of demoFiles(made)) runner.setSource(source, { name: file, bytes });
  return runner.runTable(fullTables(made.job), made.job.tables.at(-1)!.id, quiet);
}

/** What the method gives; a cell that could not be read is null in SQL. */
const wantedOf = (run: MethodRun) =>
  comparableRows(cellsOf(rawTable(run.steps.at(-1)!.table)).map((row) => row.slice(1)));

function scriptOf(made: DemoFiles, dialect: DialectName, file?: (raw: RawTable) => string) {
  const run = ranOn(made);
  return { run, ...methodSql(made.job, made.job.tables.at(-1)!.id, run, { dialect, file }) };
}

/** The raw tables of a script, each made by a run of the method up to its step. */
async function rawOf(made: DemoFiles, raw: RawTable, as: 'parquet' | 'csv') {
  const tables = made.job.tables.map((one) =>
    one.id === raw.table ? { ...one, steps: one.steps.slice(0, raw.step + 1) } : one,
  );
  const runner = new Runner();
  for (const { source, file, bytes } of demoFiles(made)) runner.setSource(source, { name: file, bytes });
  const run = runner.runTable(fullTables({ ...made.job, tables }), raw.table, quiet);
  const spec = ExportSpec.parse(as === 'csv' ? { as, guard: false, lineEnd: 'lf' } : { as });
  return exportTable({ name: raw.name, table: rawTable(run.steps.at(-1)!.table) }, spec);
}

const ALL = Object.keys(DEMOS);

describe('in DuckDB', () => {
  test.each(ALL)('%s', async (name) => {
    const made = DEMOS[name]!();
    const { run, text, raw, said } = scriptOf(made, 'duckdb', (one) => join(folder, `${name}-${one.name}.parquet`));
    for (const one of raw)
      writeFileSync(join(folder, `${name}-${one.name}.parquet`), await rawOf(made, one, 'parquet'));
    // Some fares are written as only Rimefield reads them, so the script begins behind them.
    expect(said > 0).toBe(name !== 'fares-page');
    expect(comparableRows(await duck.query(text))).toEqual(wantedOf(run));
  });

  test('nearly all steps behind the header are said', () => {
    const told = ALL.map((name) => {
      const made = DEMOS[name]!();
      const { said } = scriptOf(made, 'duckdb');
      return { name, said, of: made.job.tables.reduce((sum, table) => sum + table.steps.length, 0) };
    });
    expect(told.reduce((sum, one) => sum + one.said, 0)).toBeGreaterThanOrEqual(40);
  });
});

describe.skipIf(!HAS_POSTGRES)('in PostgreSQL (skipped where Debian’s postgresql is not installed)', () => {
  let postgres: Postgres;
  beforeAll(async () => {
    postgres = await openPostgres(folder);
  }, 30_000);
  afterAll(() => postgres.stop());

  test.each(ALL)('%s', async (name) => {
    const made = DEMOS[name]!();
    const { run, text, raw } = scriptOf(made, 'postgres');
    // The script itself says how its tables are made and filled.
    const loading = text.match(/(?<=^-- {5})(?:create table|\\copy).*$/gm) ?? [];
    expect(loading).toHaveLength(raw.length * 2);
    for (const one of raw) writeFileSync(join(folder, `${one.name}.csv`), await rawOf(made, one, 'csv'));
    const drops = raw.map((one) => `drop table "${one.name}";`);
    const rows = postgres.query([...loading, text, ...drops].join('\n'));
    expect(comparableRows(rows)).toEqual(wantedOf(run));
  });
});

describe('for Spark: parsed, not run', () => {
  test.each(ALL)('%s', (name) => {
    const { text } = scriptOf(DEMOS[name]!(), 'spark', (raw) => `${raw.name}.parquet`);
    expect(
      new SparkSQL().validate(text).map((one) => one.message),
      text,
    ).toEqual([]);
  });

  test('the parser refuses what is no Spark', () => {
    expect(new SparkSQL().validate('select "a b" over from from t').length).toBeGreaterThan(0);
  });
});
