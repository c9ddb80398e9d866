/**
 * A script gives the same table to the last digit and letter, or it stops: money, long decimals, letters beyond ASCII,
 * cells that cannot be read only next month, long names. In DuckDB, and in PostgreSQL where it is installed.
 */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import {
  CATALOGUE,
  countedColumn,
  type DialectName,
  type Job,
  makeTable,
  methodSql,
  type Table,
  textColumn,
} from '../index.ts';
import { rawFile } from '../release/raw-file.ts';
import type { StepRun } from '../run/run.ts';
import { type Duck, openDuck } from '../test-duck.ts';
import { HAS_POSTGRES, openPostgres, type Postgres } from '../test-postgres.ts';
import { cellsOf, quiet } from '../test-support.ts';

// Each run of a property starts psql again.
vi.setConfig({ testTimeout: 90_000 });

const folder = mkdtempSync(join(tmpdir(), 'rimefield-exact-sql-'));
let duck: Duck;
let postgres: Postgres | undefined;
beforeAll(async () => {
  duck = await openDuck();
  if (HAS_POSTGRES) postgres = await openPostgres(folder);
}, 30_000);
afterAll(async () => {
  await postgres?.stop();
  rmSync(folder, { recursive: true, force: true });
});

const JOB: Job = {
  rimefield: 'job',
  version: 1,
  id: 'j',
  name: 'Sailings',
  sources: [{ id: 's', name: 'sailings', file: null }],
  tables: [{ id: 't', name: 'Sailings', steps: [] }],
};

type Given = readonly (readonly [kind: string, params: object])[];

function runOf(table: Table, steps: Given): StepRun[] {
  const none = { origin: [], aside: [], notices: [], others: [] };
  const runs: StepRun[] = [{ ...none, step: { id: 'r', kind: 'read-delimited', params: { source: 's' } }, table }];
  steps.forEach(([kind, params], k) => {
    const found = CATALOGUE.get(kind)!;
    const given = found.params.parse(params) as Record<string, unknown>;
    const result = found.run(runs.at(-1)!.table, given, quiet);
    runs.push({ ...none, ...result, step: { id: `k${k}`, kind, params: given } });
  });
  return runs;
}

const exact = (cell: unknown): string | null => {
  if (cell === null || cell === undefined) return null;
  const text = typeof cell === 'boolean' ? (cell ? 'yes' : 'no') : String(cell);
  return /^-?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?$/i.test(text) ? String(Number(text) + 0) : text;
};

let files = 0;

/** What the method gives for a table, and what the script that was made on another gives for it. */
async function both(dialect: DialectName, made: Table, steps: Given, later: Table = made) {
  const pathOf = `${folder}/raw-${++files}.parquet`;
  const choices = dialect === 'duckdb' ? { dialect, file: () => pathOf } : { dialect };
  const script = methodSql(JOB, 't', { steps: runOf(made, steps) }, choices);
  const runs = runOf(later, steps);
  const ours = cellsOf(runs.at(-1)!.table).map((row) => row.map(exact));
  const [raw] = script.raw;
  const table = runs[raw!.step]!.table;
  if (dialect === 'duckdb') {
    writeFileSync(pathOf, await rawFile('raw', table, 'parquet'));
    const theirs = (await duck.query(script.text)).map((row) => row.map(exact));
    return { ours, theirs, script };
  }
  writeFileSync(join(folder, `${raw!.name}.csv`), await rawFile('raw', table, 'csv'));
  const loading = script.text.match(/(?<=^-- {5})(?:create table|\\copy).*$/gm)!;
  try {
    return { ours, theirs: postgres!.query([...loading, script.text].join('\n')).map((row) => row.map(exact)), script };
  } finally {
    postgres!.query(`drop table if exists "${raw!.name}";`);
  }
}

const DIALECTS: readonly DialectName[] = HAS_POSTGRES ? ['duckdb', 'postgres'] : ['duckdb'];
const RUNS = { duckdb: 60, postgres: 12, spark: 0, ansi: 0 };
const names = (...chosen: string[]) => ({ by: 'names', names: chosen });
const money = fc.integer({ min: -200_000_000_000, max: 200_000_000_000 }).map((cents) => cents / 100);

describe.each(DIALECTS)('in %s', (dialect) => {
  test('a hundred amounts of 1,234,567.89', async () => {
    const table = makeTable({
      quay: textColumn(Array(100).fill('Hask')),
      fare: countedColumn('number', Array(100).fill(1_234_567.89)),
    });
    const { theirs, script } = await both(dialect, table, [
      ['group', { by: names('quay'), measures: [{ column: 'fare', by: 'sum', name: 'fares' }] }],
    ]);
    expect(script.said).toBe(1);
    expect(theirs).toEqual([['Hask', '123456789']]);
  });

  test('sums and means of money, to the last digit', async () => {
    const steps: Given = [
      [
        'group',
        {
          by: names('quay'),
          measures: ['sum', 'mean'].map((by) => ({ column: 'fare', by, name: by })),
        },
      ],
    ];
    await fc.assert(
      fc.asyncProperty(fc.array(money, { minLength: 1, maxLength: 12 }), async (fares) => {
        const table = makeTable({
          quay: textColumn(fares.map((_, k) => (k % 3 === 0 ? 'Hask' : 'Ullin'))),
          fare: countedColumn('number', fares),
        });
        const { ours, theirs } = await both(dialect, table, steps);
        expect(theirs).toEqual(ours);
      }),
      { numRuns: RUNS[dialect] },
    );
  });

  test('long decimals are added as they are, or the script stops', async () => {
    const long = fc.double({ min: -1000, max: 1000, noNaN: true }).map((value) => Number(value.toPrecision(14)) + 0);
    await fc.assert(
      fc.asyncProperty(fc.array(long, { minLength: 1, maxLength: 6 }), async (shares) => {
        const table = makeTable({
          a: countedColumn('number', shares),
          b: countedColumn('number', shares.toReversed()),
        });
        try {
          const { ours, theirs } = await both(dialect, table, [['expression', { into: 'c', text: 'a - b' }]]);
          expect(theirs).toEqual(ours);
        } catch (error) {
          expect((error as Error).message).toMatch(/more than 15 digits or \d+ decimals/);
        }
      }),
      { numRuns: RUNS[dialect] },
    );
  });

  test('case beyond ASCII is ignored alike', async () => {
    const letters = fc.string({
      unit: fc.constantFrom(
        'ö',
        'Ö',
        'é',
        'É',
        'Å',
        '\u212b',
        'ß',
        'ł',
        'Ł',
        'я',
        'Я',
        'k',
        '\u212a',
        'i',
        'İ',
        'ı',
        'a',
      ),
      maxLength: 4,
    });
    await fc.assert(
      fc.asyncProperty(fc.array(letters, { minLength: 1, maxLength: 8 }), letters, async (quays, text) => {
        fc.pre(text !== '');
        const table = makeTable({ quay: textColumn(quays) });
        for (const test of ['equals', 'contains'])
          try {
            const { ours, theirs } = await both(dialect, table, [
              ['keep-rows', { rules: [{ test, column: 'quay', text }] }],
            ]);
            expect(theirs).toEqual(ours);
          } catch (error) {
            // What the case of a letter's neighbours decides is not translated.
            expect((error as Error).name).toBe('SqlRefused');
          }
      }),
      { numRuns: RUNS[dialect] },
    );
  });

  test('upper and lower case of Latin letters; others stop the script', async () => {
    const table = makeTable({ quay: textColumn(['Ärø', 'ŁÓDŹ', 'hask']) });
    const steps: Given = [['expression', { into: 'c', text: 'upper(quay)' }]];
    const { ours, theirs } = await both(dialect, table, steps);
    expect(theirs).toEqual(ours);
    expect(theirs.map((row) => row[1])).toEqual(['ÄRØ', 'ŁÓDŹ', 'HASK']);
    for (const odd of ['Straße', 'Причал'])
      await expect(both(dialect, table, steps, makeTable({ quay: textColumn([odd, 'a', 'b']) }))).rejects.toThrow(
        /not read/,
      );
  });

  test('a cell that cannot be read only next month stops the script where it would be lost', async () => {
    const typed: Given = [['set-types', { types: [{ columns: names('foot'), type: 'whole' }] }]];
    const now = makeTable({ quay: textColumn(['Hask', 'Ullin']), foot: textColumn(['5', '7']) });
    const later = makeTable({ quay: textColumn(['Hask', 'Ullin']), foot: textColumn(['5', 'n/a']) });
    // Nothing asks whether it is filled: it is null there, as before.
    expect((await both(dialect, now, typed, later)).theirs[1]).toEqual(['Ullin', null]);
    const filled: Given = [...typed, ['keep-rows', { rules: [{ test: 'filled', columns: names('foot') }] }]];
    expect((await both(dialect, now, filled)).theirs).toEqual([
      ['Hask', '5'],
      ['Ullin', '7'],
    ]);
    await expect(both(dialect, now, filled, later)).rejects.toThrow(/not read: n\/a/);
  });

  test('several values where a pivot expects one stop the script where they would be lost', async () => {
    const steps: Given = [
      ['pivot', { names: ['month'], values: [{ column: 'foot', by: 'only' }], rows: names('quay') }],
      ['keep-rows', { rules: [{ test: 'filled', columns: names('May') }] }],
    ];
    const table = (months: string[]) =>
      makeTable({
        quay: textColumn(['Hask', 'Hask', 'Ullin']),
        month: textColumn(months),
        foot: countedColumn('whole', [5, 6, 7]),
      });
    expect((await both(dialect, table(['May', 'June', 'May']), steps)).theirs).toEqual([
      ['Hask', '5', '6'],
      ['Ullin', '7', null],
    ]);
    await expect(both(dialect, table(['May', 'June', 'May']), steps, table(['May', 'May', 'May']))).rejects.toThrow(
      /several values of foot/,
    );
  });
});

test('names that PostgreSQL would cut are refused', () => {
  const table = makeTable({ ['Überfahrten '.repeat(6)]: textColumn(['a']) });
  const run = { steps: runOf(table, []) };
  expect(() => methodSql(JOB, 't', run, { dialect: 'postgres' })).toThrow(
    /longer than the 63 bytes that PostgreSQL keeps/,
  );
  expect(methodSql(JOB, 't', run, { dialect: 'duckdb' }).text).toContain('Überfahrten');
});
