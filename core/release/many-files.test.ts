import { expect, test } from 'vitest';
import { type FileOutcome, fixedJob, type Job, Runner, runEach, sourceFiles, tryReport } from '../index.ts';
import { bundleFiles } from '../read/archive.ts';
import { quiet } from '../test-support.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const steps = (source: string, of: readonly [string, object][]) =>
  [['read-delimited', { source, delimiter: ';' }] as const, ...of].map(([kind, params], k) => ({
    id: `${source}${k}`,
    kind,
    params: params as Record<string, unknown>,
  }));
const job: Job = {
  rimefield: 'job',
  version: 1,
  id: 'j',
  name: 'Quays',
  sources: [
    { id: 's', name: 'quays', file: null },
    { id: 'o', name: 'others', file: null },
  ],
  tables: [
    {
      id: 't',
      name: 'Traffic',
      steps: steps('s', [
        ['header-from-rows', {}],
        ['set-types', { types: [{ columns: { by: 'names', names: ['Foot'] }, type: 'whole' }] }],
      ]),
    },
    { id: 'u', name: 'Untouched', steps: steps('o', [['header-from-rows', {}]]) },
  ],
};

function runner() {
  const made = new Runner();
  made.setSource('s', { name: 'q1.csv', bytes: bytes('Quay;Foot\nHask;5\n') });
  made.setSource('o', { name: 'o.csv', bytes: bytes('A\n1\n') });
  return made;
}

test('each file gives its own table; what fails says why, and the source of before is put back', async () => {
  const own = runner();
  const before = own.source('s');
  const archive = bundleFiles([
    { name: 'a.csv', bytes: bytes('Quay;Foot\nHask;5\nUllin;6\n') },
    { name: 'b.csv', bytes: bytes('Quay;Passengers\nHask;5\n') },
    { name: 'c.csv', bytes: bytes('') },
    { name: 'd.csv', bytes: bytes('Quay;Foot\nTarve;1\n') },
  ]);
  const files = sourceFiles({ name: 'all.zip', bytes: archive });
  const outcomes: FileOutcome[] = [];
  for await (const outcome of runEach(own, { job, table: job.tables[0]!, source: 's' }, files, quiet))
    outcomes.push(outcome);
  expect(outcomes.map((one) => (one.as === 'done' ? one.run.steps.at(-1)!.table.rows : one.why))).toEqual([
    2,
    expect.stringMatching(/^Traffic stopped at step 3 .*There is no column Foot/),
    'c.csv is empty: it holds no bytes.',
    1,
  ]);
  expect(own.source('s')).toBe(before);
});

test('the next report is tried on every table that it reaches, and fixed in all of them', () => {
  const own = runner();
  const next = tryReport(own, job, 's', { name: 'q2.csv', bytes: bytes('Quay;Foot count\nHask;5\n') });
  expect(next.map((one) => one.table)).toEqual(['t']);
  expect(next[0]!.differences[0]).toMatchObject({ severity: 'stop', fix: { step: 2 } });
  const fixed = fixedJob(job, next);
  expect(fixed.tables[1]).toEqual(job.tables[1]);
  own.setSource('s', { name: 'q2.csv', bytes: bytes('Quay;Foot count\nHask;5\n') });
  expect(own.runTable(fixed.tables, 't', quiet).stop).toBeUndefined();
});

test('what differs is reported with rows and sums', () => {
  const next = tryReport(runner(), job, 's', { name: 'q2.csv', bytes: bytes('Quay;Foot\nHask;5\nUllin;9\n') });
  expect(next[0]!.differences.map((one) => one.text)).toEqual([
    '2 rows, 1 last time',
    'Foot adds up to 14, 5 last time',
    'new in Quay: Ullin',
  ]);
});

test('of many files the last run alone is kept, and tables that all of them read are not made again', async () => {
  const joined: Job = {
    ...job,
    tables: [
      ...job.tables,
      {
        id: 'j',
        name: 'Joined',
        steps: steps('s', [
          ['header-from-rows', {}],
          ['join', { table: 'u', keys: [{ left: 'Quay', right: 'A' }] }],
        ]),
      },
    ],
  };
  const own = new Runner(0);
  own.setSource('o', { name: 'o.csv', bytes: bytes(`A;B\n${'Hask;1\n'.repeat(50)}`) });
  const files = Array.from({ length: 40 }, (_, k) => ({ name: `q${k}.csv`, bytes: bytes(`Quay;Foot\nUllin;${k}\n`) }));
  const held: number[] = [];
  const table = joined.tables.at(-1)!;
  for await (const outcome of runEach(own, { job: joined, table, source: 's' }, files, quiet)) {
    expect(outcome.as).toBe('done');
    held.push(own.heldBytes);
  }
  expect(Math.max(...held.slice(1))).toBeLessThan(held[0]! * 1.5);
  // Three steps of each file, and the two of the other table once.
  expect(own.counts).toEqual({ ran: 40 * 3 + 2, reused: 39 * 2 });
});
