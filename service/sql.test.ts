/** The commands sql and raw, from a report to the table that a script gives in DuckDB. */
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from 'vitest';
import { openDuck } from '../core/test-duck.ts';
import { runCommand } from './test-command.ts';

const folder = mkdtempSync(join(tmpdir(), 'rimefield-sql-command-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const JOB = 'demo/files/targets.job.json';
const FILES = ['--source', 'targets=demo/files/targets-2030.xlsx', '--source', 'bookings=demo/files/bookings-2030.csv'];

const run = (...args: string[]) => runCommand(args);

test('a script says by which commands its tables are made, and gives what run writes', async () => {
  const script = join(folder, 'variance.sql');
  expect(await run('sql', JOB, ...FILES, '--out', script)).toEqual({ status: 0, out: '', error: '' });
  const text = readFileSync(script, 'utf8');
  const commands = [
    ...text.matchAll(
      /^-- +rimefield raw JOB --source NAME=FILE --table "(.*)" --upto (\d+)(?: --readable)? --out (\S+)$/gm,
    ),
  ];
  expect(commands.map(([, table]) => table)).toEqual(['Targets', 'Bookings by quarter']);
  for (const [, table, upto, out] of commands) {
    const made = await run('raw', JOB, ...FILES, '--table', table!, '--upto', upto!, '--out', join(folder, out!));
    expect(made).toEqual({ status: 0, out: '', error: '' });
  }
  const duck = await openDuck();
  await duck.query(`set file_search_path = '${folder}'`);
  const out = join(folder, 'variance.csv');
  await duck.query(`copy (${text.replace(/;\s*$/, '')}) to '${out}' (header)`);
  const written = await run('run', JOB, ...FILES, '--out', join(folder, 'ours.csv'));
  expect(written.status).toBe(0);
  const rows = (path: string) => duck.query(`select * from read_csv('${path}', header = true)`);
  expect(await rows(out)).toEqual(await rows(join(folder, 'ours.csv')));
  expect(await rows(out)).not.toEqual([]);
});

test('what is asked wrongly says what to do', async () => {
  expect(await run('sql', JOB, ...FILES, '--dialect', 'latin')).toMatchObject({
    status: 2,
    error: 'rimefield: There is no dialect latin. The dialects are duckdb, postgres, spark, ansi.\n',
  });
  const out = join(folder, 'none.xlsx');
  expect(await run('raw', JOB, ...FILES, '--out', out)).toMatchObject({
    status: 2,
    error: expect.stringMatching(/^rimefield: Say with --upto after which step of Variance .* from 1 to 3\.\n$/),
  });
  expect(await run('raw', JOB, ...FILES, '--upto', '4', '--out', out)).toMatchObject({
    status: 2,
    error: expect.stringContaining('from 1 to 3, not 4'),
  });
  expect(await run('raw', JOB, ...FILES, '--upto', '2', '--out', out)).toMatchObject({
    status: 2,
    error: expect.stringContaining('A raw table is written as parquet or csv, and not as xlsx'),
  });
  expect(existsSync(out)).toBe(false);
});

test('a step that stops behind the wanted one does not hold its table back', async () => {
  const out = join(folder, 'first.csv');
  expect(await run('raw', JOB, ...FILES.slice(0, 2), '--table', 'Targets', '--upto', '1', '--out', out)).toMatchObject({
    status: 0,
  });
  expect(readFileSync(out, 'utf8')).toMatch(/^#,[^\n]*\n0,/);
  // The whole needs the other file too.
  expect((await run('sql', JOB, ...FILES.slice(0, 2))).status).toBe(2);
});
