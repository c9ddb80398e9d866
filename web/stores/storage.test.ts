import 'fake-indexeddb/auto';
import { beforeAll, describe, expect, test } from 'vitest';
import type { Job } from '../../core/index.ts';

let storage: typeof import('./storage.ts');
beforeAll(async () => {
  storage = await import('./storage.ts');
});

function jobOf(id: string, sha256: string): Job {
  return {
    rimefield: 'job',
    version: 1,
    id,
    name: `Job ${id}`,
    sources: [{ id: 's', name: 'fares', file: { name: `${sha256}.csv`, size: 3, sha256 } }],
    tables: [{ id: 't', name: 'Fares', steps: [] }],
  };
}
const bytes = (...of: number[]) => Uint8Array.from(of);
const source = (job: Job) => job.sources[0]!;

describe('what is kept in the browser', () => {
  test('a job comes back as it was; what is no job is neither listed nor opened', async () => {
    const job = jobOf('a', 'f1');
    await storage.saveJob(job);
    await storage.saveJob({ ...jobOf('broken', 'f1'), tables: 'none' } as never);
    expect(await storage.loadJob('a')).toEqual(job);
    expect(await storage.loadJob('broken')).toBeUndefined();
    expect(await storage.loadJob('nowhere')).toBeUndefined();
    const listed = (await storage.listJobs()).map((kept) => kept.job.id);
    expect(listed).toContain('a');
    expect(listed).not.toContain('broken');
  });

  test('the same files are one run, the newest first, each with how its tables came out', async () => {
    const [first, second] = [jobOf('b', 'f1'), jobOf('b', 'f2')];
    await storage.keepInHistory(first, 't', { rows: 1, unreadable: 0 });
    await storage.keepInHistory(second, 't', { rows: 2, unreadable: 0 });
    await storage.keepInHistory(first, 'u', { rows: 3, unreadable: 0 });
    const runs = await storage.loadHistory('b');
    expect(runs.map((run) => source(run.job).file!.sha256)).toEqual(['f1', 'f2']);
    expect(Object.keys(runs[0]!.tables)).toEqual(['t', 'u']);
    await storage.forgetRun('b', runs[1]!.at);
    expect(await storage.loadHistory('b')).toHaveLength(1);
  });

  test('no more than two dozen runs are kept', async () => {
    for (let k = 0; k < 30; k++) await storage.keepInHistory(jobOf('c', `f${k}`), 't', { rows: k, unreadable: 0 });
    const runs = await storage.loadHistory('c');
    expect(runs).toHaveLength(24);
    expect(runs[0]!.tables['t']!.rows).toBe(29);
  });

  test('files of runs that are kept stay, others go; those of another job are left alone', async () => {
    const [now, before] = [jobOf('d', 'f2'), jobOf('d', 'f1')];
    for (const [job, sha, data] of [
      ['d', 'f1', bytes(1)],
      ['d', 'f2', bytes(2)],
      ['d', 'f3', bytes(3)],
      ['e', 'f3', bytes(4)],
    ] as const)
      await storage.saveFile(job, sha, data);
    await storage.keepInHistory(before, 't', { rows: 1, unreadable: 0 });
    await storage.removeUnusedFiles(now);
    expect(await storage.loadSource('d', source(before))).toEqual(bytes(1));
    expect(await storage.loadSource('d', source(now))).toEqual(bytes(2));
    expect(await storage.loadSource('d', source(jobOf('d', 'f3')))).toBeUndefined();
    expect(await storage.loadSource('e', source(jobOf('e', 'f3')))).toEqual(bytes(4));
  });

  test('a removed job leaves nothing behind', async () => {
    const job = jobOf('g', 'f1');
    await storage.saveJob(job);
    await storage.saveFile('g', 'f1', bytes(1));
    await storage.keepInHistory(job, 't', { rows: 1, unreadable: 0 });
    await storage.removeJob(job);
    expect(await storage.loadJob('g')).toBeUndefined();
    expect(await storage.loadHistory('g')).toEqual([]);
    expect(await storage.loadSource('g', source(job))).toBeUndefined();
  });

  test('rows of the run that read other files are known by table', async () => {
    await storage.saveRun('h', {
      at: 1,
      rows: 5,
      unreadable: 0,
      ofTable: { t: { files: 'x', rows: 5, previous: 4 }, u: { files: 'x', rows: 2 } },
    });
    expect(await storage.lastRowsOf('h')).toEqual({ t: 4 });
  });
});
