import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from 'vitest';
import { PortWorker } from '../engine/port-worker.ts';

const before = globalThis.Worker;
let jobs: typeof import('./job-store.ts');
let drafts: typeof import('./draft-store.ts');
let layout: typeof import('./layout-store.ts');

beforeAll(async () => {
  globalThis.Worker = PortWorker as never;
  [jobs, drafts, layout] = [
    await import('./job-store.ts'),
    await import('./draft-store.ts'),
    await import('./layout-store.ts'),
  ];
});
afterAll(() => {
  globalThis.Worker = before;
});

const job = () => jobs.useJobStore.getState().job!;
const table = () => job().tables[0]!;
const state = () => drafts.useDraftStore.getState();
const follow = () => state().syncWithTable(job(), table(), false);
const kinds = () => state().current?.steps.map((step) => step.kind) ?? [];

/** What the bench does when the job has changed, until the draft is whole. */
async function drafted(): Promise<void> {
  follow();
  await vi.waitFor(() => expect(state().current?.told).toBeDefined(), { timeout: 15_000 });
}

async function open(name: string, text: string | Uint8Array<ArrayBuffer>): Promise<void> {
  const made = await jobs.jobFromFile(new File([text], name));
  expect(await jobs.useJobStore.getState().open(made.id)).toBe(true);
}

const REPORT = 'Returns 2031,\n,\nQuay,Foot\nNorth,\nHask,5\nUllin,7\nSouth,\nTarve,9\nSkene,4\nTotal,25\n';

describe('a draft that stands', () => {
  beforeEach(async () => {
    await open('quays.csv', REPORT);
    await drafted();
  });

  test('is no part of the job; kept, it is one edit, and one undo brings the draft back', async () => {
    expect(table().steps).toHaveLength(1);
    expect(state().current!.from).toBe(1);
    expect(drafts.shownTable(table(), state().current).steps.length).toBeGreaterThan(3);
    const all = kinds();
    state().keep();
    expect(table().steps.map((step) => step.kind)).toEqual(all);
    expect(table().steps.at(-1)!.note).toMatch(/./);
    expect(state().current).toBeUndefined();
    follow();
    expect(state().current).toBeUndefined();
    jobs.useJobStore.getState().undo();
    expect(table().steps).toHaveLength(1);
    await drafted();
    expect(kinds()).toEqual(all);
  });

  test('kept up to a step, the others stand on behind it', () => {
    const all = kinds();
    state().keep(2);
    follow();
    expect(table().steps.map((step) => step.kind)).toEqual(all.slice(0, 3));
    expect(state().current!.from).toBe(3);
    expect(kinds()).toEqual(all);
    state().keep();
    expect(table().steps.map((step) => step.kind)).toEqual(all);
  });

  test('a step left out is drafted around, and comes back', async () => {
    const all = kinds();
    state().leaveOut(all.indexOf('carry'));
    expect(state().current!.told).toBeUndefined();
    await vi.waitFor(() => expect(state().current?.told).toBeDefined(), { timeout: 15_000 });
    expect(kinds()).not.toContain('carry');
    expect(state().takeBack()).toBe(true);
    expect(kinds()).toEqual(all);
    expect(state().takeBack()).toBe(false);
  });

  test('a changed param is kept in what follows', async () => {
    const at = kinds().indexOf('carry');
    const { params } = state().current!.steps[at]!;
    for (const into of ['A', 'Ar', 'Area']) state().change(at, { ...params, into }, 'into');
    expect(state().current!.steps[at]!.params['into']).toBe('Area');
    await vi.waitFor(() => expect(state().current?.told).toBeDefined(), { timeout: 15_000 });
    expect(state().current!.steps[at]!.params['into']).toBe('Area');
    // Keys in a row are one change.
    expect(state().past).toHaveLength(1);
  });

  test('an edit behind it keeps it; an edit in the middle keeps what is before', async () => {
    const all = kinds();
    const edit = (at: number) =>
      jobs.useJobStore.getState().edit('add', (whole) =>
        drafts.editShown(whole, table().id, (one) => ({
          ...one,
          steps: one.steps.toSpliced(at, 0, jobs.newStep({ kind: 'clean-text', params: {} })),
        })),
      );
    edit(all.length);
    expect(table().steps).toHaveLength(all.length + 1);
    jobs.useJobStore.getState().undo();
    await drafted();
    edit(2);
    expect(table().steps.map((step) => step.kind)).toEqual([...all.slice(0, 2), 'clean-text']);
    await drafted();
    expect(kinds().slice(0, 3)).toEqual([...all.slice(0, 2), 'clean-text']);
    expect(state().current!.from).toBe(3);
    expect(kinds().length).toBeGreaterThan(3);
  });

  test('an edit that does nothing leaves it', () => {
    const whole = job();
    expect(drafts.editShown(whole, table().id, (one) => one).tables).toEqual(whole.tables);
  });

  test('an edit of the reading overtakes it', () => {
    const [reading] = table().steps;
    jobs.useJobStore.getState().edit('read otherwise', (whole) =>
      drafts.editShown(whole, table().id, (one) => ({
        ...one,
        steps: one.steps.with(0, { ...reading!, params: { ...reading!.params, delimiter: ';' } }),
      })),
    );
    expect(table().steps).toHaveLength(1);
    follow();
    expect(state().current).toBeUndefined();
  });

  test('declined, it does not come back on its own, and does when asked for', async () => {
    state().decline();
    follow();
    expect(state().current).toBeUndefined();
    expect(state().progress).toBeUndefined();
    state().request(job(), table());
    await vi.waitFor(() => expect(state().current?.told).toBeDefined(), { timeout: 15_000 });
  });
});

test('another way leads to its own method, and is taken with what follows', async () => {
  await open('years.csv', 'Quay,2029,2030,2031\nHask,5,6,7\nUllin,7,8,9\nTarve,1,2,3\n');
  await drafted();
  const choice = state().current!.told!.choices.find((one) => one.steps.length === 0)!;
  const other = await state().look(choice);
  expect(other!.map((step) => step.kind)).not.toContain('unpivot');
  expect(kinds()).toContain('unpivot');
  state().take(choice);
  await vi.waitFor(() => expect(state().current?.told).toBeDefined(), { timeout: 15_000 });
  expect(kinds()).toEqual(other!.map((step) => step.kind));
});

test('rows as they should come out lead to a method, and a reading that the draft makes better is drafted too', async () => {
  await open('quay-returns-q2.xlsx', new Uint8Array(readFileSync('demo/files/quay-returns-q2.xlsx')));
  await drafted();
  state().draftToRows(table().id, {
    names: ['Port', 'Route', '', '', '', ''],
    rows: [['Hask', 'Hask to Ullin', '08:50', 'April', '1229', '260']],
    whole: false,
  });
  await vi.waitFor(() => expect(state().current?.told?.likeness?.share).toBe(1), { timeout: 30_000 });
  expect(kinds().at(-1)).toBe('rename');
  state().draftToRows(table().id, undefined);
  expect(state().wanted).toBeUndefined();
});

test('where new reports are not drafted by themselves, none is', async () => {
  layout.useLayoutStore.getState().draftByItself(false);
  await open('others.csv', REPORT.replace('2031', '2032'));
  follow();
  expect(state().progress).toBeUndefined();
  layout.useLayoutStore.getState().draftByItself(true);
});
