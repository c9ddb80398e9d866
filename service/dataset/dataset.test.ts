/** A data set of many files: what is stopped goes on, nothing is lost or doubled, and DuckDB reads it as one table. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type Duck, openDuck } from '../../core/test-duck.ts';
import { runCommand } from '../test-command.ts';
import { inShard } from './run-dataset.ts';

const folder = mkdtempSync(join(tmpdir(), 'rimefield-dataset-'));
let duck: Duck;
beforeAll(async () => {
  duck = await openDuck();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const JOB = {
  rimefield: 'job',
  version: 1,
  id: 'sailings',
  name: 'Sailings',
  sources: [{ id: 's', name: 'sailings', file: null }],
  tables: [
    {
      id: 't',
      name: 'Sailings',
      steps: [
        { id: 'a', kind: 'read-delimited', params: { source: 's' } },
        { id: 'b', kind: 'header-from-rows', params: { rows: 1 } },
        {
          id: 'c',
          kind: 'set-types',
          params: {
            types: [
              { columns: { by: 'names', names: ['Foot'] }, type: 'whole' },
              { columns: { by: 'names', names: ['Day'] }, type: 'date' },
            ],
          },
        },
      ],
    },
  ],
};

/** A folder of small reports, of which one is broken. */
function makeFiles(name: string, count: number): { job: string; files: string; out: string } {
  const own = join(folder, name);
  const files = join(own, 'files');
  mkdirSync(files, { recursive: true });
  const job = join(own, 'job.json');
  writeFileSync(job, JSON.stringify(JOB));
  for (let k = 0; k < count; k++) {
    const rows = Array.from({ length: 1 + (k % 5) }, (_, r) => `2031-06-${10 + r},Hask ${k},${k * 10 + r}`);
    writeFileSync(join(files, `day-${k}.csv`), `Day,Quay,Foot\n${rows.join('\n')}\n`);
  }
  writeFileSync(join(files, 'broken.csv'), 'Day,Quay,People\n2031-06-10,Hask,1\n');
  return { job, files, out: join(own, 'out') };
}

const run = (...args: string[]) => runCommand(args);

const make = ({ job, files, out }: ReturnType<typeof makeFiles>, ...more: string[]) =>
  run('run', job, '--each', `sailings=${files}`, '--dataset', '--out', out, '--workers', '1', ...more);

const partsIn = (out: string) => readdirSync(out).filter((name) => name.endsWith('.parquet'));
const rowsOf = (path: string) => duck.query(`select * from '${path}' order by "Foot", "File"`);

describe('a data set', () => {
  test('is the stack of all files, and its records tell how each one went', async () => {
    const at = makeFiles('whole', 40);
    const { status, error } = await make(at);
    expect(status).toBe(1);
    expect(error).toContain('broken.csv: Sailings stopped at step 3');
    expect(error).toMatch(/41 files: 40 parts with 120 rows, 1 failed; \d+ files a second\n$/);
    const stack = join(at.out, '..', 'stack.parquet');
    await run('run', at.job, '--each', `sailings=${at.files}`, '--stack', '--out', stack);
    expect(await rowsOf(`${at.out}/*.parquet`)).toEqual(await rowsOf(stack));
    expect((await rowsOf(stack)).length).toBe(120);
    const records = await duck.query(
      `select file, rows, failed is null, length(sha256), good from read_json('${at.out}/_records/*.json') order by file limit 2`,
    );
    expect(records).toEqual([
      ['broken.csv', '0', false, '64', false],
      ['day-0.csv', '1', true, '64', true],
    ]);
  });

  test('made again it does only what is new or has changed', async () => {
    const at = makeFiles('again', 12);
    await make(at);
    const before = readFileSync(join(at.out, 'day-3.csv.parquet'));
    expect((await make(at)).error).toMatch(/13 files: 12 parts with \d+ rows, 13 of the files as they were, 1 failed/);
    writeFileSync(join(at.files, 'day-3.csv'), 'Day,Quay,Foot\n2031-07-01,Tarve,77\n');
    writeFileSync(join(at.files, 'day-12.csv'), 'Day,Quay,Foot\n2031-07-01,Ullin,\n');
    rmSync(join(at.files, 'broken.csv'));
    const { status, error } = await make(at);
    expect(status).toBe(0);
    expect(error).toContain(
      '1 file of earlier runs is no longer there, and what was made of them still is: broken.csv',
    );
    expect(error).toContain('13 files: 13 parts');
    expect(error).toContain('11 of the files as they were');
    expect(readFileSync(join(at.out, 'day-3.csv.parquet'))).not.toEqual(before);
    expect(await duck.query(`select "Quay" from '${at.out}/*.parquet' where "Foot" = 77`)).toEqual([['Tarve']]);
    // A part that is gone or cut off is made again, and so is every part when the method changes.
    rmSync(join(at.out, 'day-1.csv.parquet'));
    writeFileSync(join(at.out, 'day-2.csv.parquet'), 'cut off');
    expect((await make(at)).error).toContain('11 of the files as they were');
    writeFileSync(at.job, JSON.stringify(JOB).replace('"whole"', '"number"'));
    expect((await make(at)).error).not.toContain('as they were');
    expect(await duck.query(`select distinct typeof("Foot") from '${at.out}/*.parquet'`)).toEqual([['DOUBLE']]);
  });

  test('parts of several machines lie side by side', async () => {
    const at = makeFiles('shards', 30);
    rmSync(join(at.files, 'broken.csv'));
    const all = [];
    for (const shard of ['1/3', '2/3', '3/3']) {
      all.push(await make(at, '--shard', shard));
      if (shard === '1/3') expect(partsIn(at.out).length).toBeLessThan(30);
    }
    expect(all.map((one) => one.status)).toEqual([0, 0, 0]);
    expect(partsIn(at.out)).toHaveLength(30);
    expect(await duck.query(`select count(distinct "File") from '${at.out}/*.parquet'`)).toEqual([['30']]);
  });

  test('cells that cannot be read are blank and counted, so that all parts have one type', async () => {
    const at = makeFiles('unreadable', 2);
    writeFileSync(join(at.files, 'day-1.csv'), 'Day,Quay,Foot\n2031-07-01,Hask,fog\n2031-07-02,Hask,5\n');
    rmSync(join(at.files, 'broken.csv'));
    expect((await make(at)).error).toContain('1 with something told');
    expect((await make(at, '--strict')).status).toBe(1);
    expect(await duck.query(`select "Foot" from '${at.out}/day-1.csv.parquet'`)).toEqual([[null], ['5']]);
    expect(JSON.parse(readFileSync(join(at.out, '_records', 'day-1.csv.json'), 'utf8'))).toMatchObject({
      unreadable: 1,
    });
  });

  test('processes that are killed lose and double nothing', { timeout: 120_000 }, async () => {
    const at = makeFiles('killed', 150);
    rmSync(join(at.files, 'broken.csv'));
    const args = ['run', at.job, '--each', `sailings=${at.files}`, '--dataset', '--out', at.out, '--workers', '2'];
    const child = spawn(process.execPath, ['--import', 'tsx', 'service/cli.ts', ...args], {
      stdio: 'ignore',
      detached: true,
    });
    const ended = new Promise((done) => child.once('exit', done));
    while (!existsSync(at.out) || partsIn(at.out).length < 20) await new Promise((done) => setTimeout(done, 5));
    // The whole group at once, as when the machine goes down.
    process.kill(-child.pid!, 'SIGKILL');
    await ended;
    const made = partsIn(at.out).length;
    expect(made).toBeLessThan(150);
    const { status, error } = await run(...args);
    expect(status).toBe(0);
    const kept = Number(/(\d+) of the files as they were/.exec(error)?.[1]);
    // At most the files that were in hand are made once more.
    expect(kept).toBeGreaterThanOrEqual(made - 2);
    const stack = join(at.out, '..', 'stack.parquet');
    await run('run', at.job, '--each', `sailings=${at.files}`, '--stack', '--out', stack);
    expect(await rowsOf(`${at.out}/*.parquet`)).toEqual(await rowsOf(stack));
  });

  test('what is asked wrongly says what to do', async () => {
    const at = makeFiles('wrong', 1);
    expect((await make(at, '--shard', '4/3')).error).toBe(
      'rimefield: --shard takes which part of how many, as 3/16, and not 4/3.\n',
    );
    expect(
      (await run('run', at.job, '--each', `sailings=${at.files}`, '--dataset', '--out', at.out, '--workers', '0'))
        .error,
    ).toContain('--workers takes a number of processes from 1 to 256, not 0.');
    expect((await run('run', at.job, '--dataset', '--out', at.out)).error).toContain(
      'say which with --each NAME=FILES',
    );
    expect((await run('run', at.job, '--each', `sailings=${at.job}`, '--dataset', '--out', at.out)).error).toContain(
      'is no folder and no pattern',
    );
  });
});

test('law: every file is in one shard, whatever other files there are', () => {
  fc.assert(
    fc.property(fc.string(), fc.integer({ min: 1, max: 20 }), (name, of) => {
      const own = Array.from({ length: of }, (_, k) => inShard(name, { index: k + 1, of }));
      expect(own.filter(Boolean)).toHaveLength(1);
    }),
  );
});
