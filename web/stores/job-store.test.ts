import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from 'vitest';
import { fullTables } from '../../core/index.ts';
import { PortWorker } from '../engine/port-worker.ts';

const before = globalThis.Worker;
let jobs: typeof import('./job-store.ts');
let storage: typeof import('./storage.ts');
let client: typeof import('../engine/client.ts');

beforeAll(async () => {
  globalThis.Worker = PortWorker as never;
  [jobs, storage, client] = [
    await import('./job-store.ts'),
    await import('./storage.ts'),
    await import('../engine/client.ts'),
  ];
});
afterAll(() => {
  globalThis.Worker = before;
});

const csv = (name: string, text: string) => new File([text], name);
const state = () => jobs.useJobStore.getState();
const named = (name: string) => (job: ReturnType<typeof state>['job'] & object) => ({ ...job, name });

/** Runs the last table on what the worker holds. */
async function rowsNow(): Promise<number | string> {
  const { job } = state();
  const table = job!.tables.at(-1)!;
  const view = await client.engineClient().run(fullTables(job!), table.id, () => undefined);
  return view.stop?.message ?? view.steps.at(-1)!.rows;
}

async function openNew(file: File): Promise<string> {
  const { id } = await jobs.jobFromFile(file);
  expect(await state().open(id)).toBe(true);
  return id;
}

describe('the open job', () => {
  let first: string;
  beforeEach(async () => {
    first = await openNew(csv('piers.csv', 'Pier,Foot\nHask,12\nUllin,9\n'));
  });

  test('a dropped file becomes a job that is kept, opens and runs', async () => {
    expect(state().job).toMatchObject({ id: first, name: 'piers', sources: [{ file: { name: 'piers.csv' } }] });
    expect(await rowsNow()).toBe(3);
    expect((await storage.listJobs()).map((kept) => kept.job.id)).toContain(first);
    expect(await state().open('of no job')).toBe(false);
  });

  test('a job that was left for a while is released, and runs again when it is opened', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    try {
      const sourceId = state().job!.sources[0]!.id;
      const sha256 = state().job!.sources[0]!.file!.sha256;
      const held = () => client.engineClient().holds(sourceId, sha256);
      expect(held()).toBe(true);
      state().leave();
      await state().open(first);
      vi.advanceTimersByTime(60_000);
      expect(held()).toBe(true);
      state().leave();
      vi.advanceTimersByTime(60_000);
      expect(held()).toBe(false);
    } finally {
      vi.useRealTimers();
    }
    expect(await state().open(first)).toBe(true);
    expect(await rowsNow()).toBe(3);
  });

  test('edits are undone and done again; edits under one key are one step', () => {
    state().edit('rename', named('a'), 'name');
    state().edit('rename', named('ab'), 'name');
    state().edit('rename', named('other'));
    expect(state().past.map((moment) => moment.label)).toEqual(['rename', 'rename']);
    state().undo();
    expect(state().job!.name).toBe('ab');
    state().undo();
    expect(state().job!.name).toBe('piers');
    state().redo();
    expect(state().job!.name).toBe('ab');
    expect(state().future).toHaveLength(1);
    state().edit('nothing', (job) => job);
    expect(state().future).toHaveLength(1);
  });

  test('what was edited is kept before another job is opened', async () => {
    state().edit('rename', named('kept in time'));
    await openNew(csv('other.csv', 'A,B\n1,2\n'));
    expect((await storage.loadJob(first))!.name).toBe('kept in time');
  });

  test('copies of a job share their ids, and each runs on its own files', async () => {
    const copy = { ...structuredClone(state().job!), id: 'copy', name: 'copy' };
    const more = new TextEncoder().encode('Pier,Foot\nHask,1\nUllin,2\nTarve,3\n');
    const { sha256Of } = await import('../engine/digest.ts');
    const sha256 = await sha256Of(more);
    copy.sources[0]!.file = { name: 'more.csv', size: more.length, sha256 };
    await storage.saveJob(copy);
    await storage.saveFile('copy', sha256, more);
    await state().open('copy');
    expect(await rowsNow()).toBe(4);
    await state().open(first);
    expect(await rowsNow()).toBe(3);
  });

  test('the next file takes the place of the last, and undo brings that back', async () => {
    const source = state().job!.sources[0]!.id;
    await state().giveSource(source, csv('july.csv', 'Pier,Foot\nHask,1\nUllin,2\nTarve,3\nBrannoch,4\n'));
    expect(await rowsNow()).toBe(5);
    state().undo();
    await vi.waitFor(async () => expect(await rowsNow()).toBe(3));
    expect(state().job!.sources[0]!.file!.name).toBe('piers.csv');
  });

  test('a file that cannot be read changes nothing', async () => {
    const job = state().job!;
    const broken = new File([readFileSync('demo/files/quay-returns-q2.xlsx').subarray(0, 2000)], 'cut.xlsx');
    await expect(state().giveSource(job.sources[0]!.id, broken)).rejects.toThrow('cut.xlsx');
    await expect(state().addSource(broken)).rejects.toThrow('cut.xlsx');
    expect(state().job).toBe(job);
    expect(state().missing).toEqual({});
    expect(await rowsNow()).toBe(3);
  });

  test('another file is another source, with a table that reads it', async () => {
    const table = await state().addSource(csv('fares.csv', 'Route;Fare\nHask;4,50\n'));
    expect(state().job!.tables.at(-1)!.steps[0]!.kind).toBe('read-delimited');
    expect(state().job!.tables.at(-1)).toMatchObject({ id: table, name: 'fares' });
    expect(await rowsNow()).toBe(2);
  });

  test('a file whose job was left before it was read goes nowhere', async () => {
    const slow = csv('late.csv', 'A,B\n1,2\n');
    let come: () => void = () => undefined;
    const read = new Promise<void>((done) => {
      come = done;
    });
    slow.arrayBuffer = async () => {
      await read;
      return new ArrayBuffer(4);
    };
    const late = state().giveSource(state().job!.sources[0]!.id, slow);
    await openNew(csv('other.csv', 'A,B\n1,2\n3,4\n'));
    come();
    await expect(late).rejects.toThrow('late.csv was not taken');
    expect(state().job!.name).toBe('other');
    expect(await rowsNow()).toBe(3);
  });

  test('the worker that looked at a new file is that of its job; the open job keeps its own until then', async () => {
    const own = client.engineClient();
    const { id } = await jobs.jobFromFile(csv('fares.csv', 'Route,Fare\nHask,4\nUllin,5\nTarve,6\n'));
    expect(client.engineClient()).toBe(own);
    expect(await rowsNow()).toBe(3);
    expect(await state().open(id)).toBe(true);
    expect(client.engineClient()).not.toBe(own);
    expect(await rowsNow()).toBe(4);
    expect(await state().open(first)).toBe(true);
    expect(await rowsNow()).toBe(3);
  });

  test('what a worker was at when another took its place is not waited for', async () => {
    const { job } = state();
    const run = client.engineClient().run(fullTables(job!), job!.tables[0]!.id, () => undefined);
    client.adopt(client.takeIntake(true));
    await expect(run).rejects.toMatchObject({ trouble: 'overtaken' });
    await state().handAgain();
    expect(await rowsNow()).toBe(3);
  });

  test('of files that come one behind the other each opens with what stands in it', async () => {
    const rows = (count: number) => `Route,Fare\n${'Hask,4\n'.repeat(count)}`;
    const [early, late] = await Promise.all([
      jobs.jobFromFile(csv('early.csv', rows(5))),
      jobs.jobFromFile(csv('late.csv', rows(7))),
    ]);
    await state().open(early.id);
    expect(await rowsNow()).toBe(6);
    await state().open(late.id);
    expect(await rowsNow()).toBe(8);
  });

  test('a new file that cannot be read leaves the open job as it is, and the next file can be', async () => {
    const broken = new File([readFileSync('demo/files/quay-returns-q2.xlsx').subarray(0, 2000)], 'cut.xlsx');
    await expect(jobs.jobFromFile(broken)).rejects.toThrow('cut.xlsx');
    expect(await rowsNow()).toBe(3);
    await openNew(csv('whole.csv', 'A,B\n1,2\n'));
    expect(await rowsNow()).toBe(2);
  });

  test('a source without bytes says so, and its table stops', async () => {
    const { job } = state();
    const copy = { ...structuredClone(job!), id: 'without' };
    await storage.saveJob(copy);
    await state().open('without');
    expect(Object.values(state().missing)).toEqual(['piers.csv is not in this browser.']);
    expect(await rowsNow()).toEqual(expect.any(String));
  });
});
