import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { engineClient } from '../engine/client.ts';
import { PortWorker } from '../engine/port-worker.ts';
import type { TallyAsked, TallyView } from '../engine/protocol.ts';
import { useTallyStore } from './tally-store.ts';

const before = globalThis.Worker;
const answers: ((view: TallyView) => void)[] = [];
const shares: ((done: number) => void)[] = [];

beforeAll(() => {
  globalThis.Worker = PortWorker as never;
  vi.spyOn(engineClient(), 'tally').mockImplementation((_, tell) => {
    shares.push(tell);
    return new Promise((resolve) => answers.push(resolve));
  });
});
afterAll(() => {
  vi.restoreAllMocks();
  globalThis.Worker = before;
});

const asked = (offers: boolean): TallyAsked => ({ tables: [], tableId: 'a', lastRows: undefined, offers });
const view = (filled: number) => ({ filled }) as TallyView;

test('an older request that is answered last does not replace the newer view', async () => {
  const { work } = useTallyStore.getState();
  const [older, newer] = [work(asked(false)), work(asked(true))];
  answers[1]!(view(2));
  await newer;
  answers[0]!(view(1));
  expect((await older)?.filled).toBe(1);
  expect(useTallyStore.getState()).toMatchObject({ tableId: 'a', view: { filled: 2 }, progress: undefined });
});

test('what was asked before a job was closed is not shown afterwards', async () => {
  const working = useTallyStore.getState().work(asked(false));
  useTallyStore.getState().forget();
  answers.at(-1)!(view(3));
  await working;
  expect(useTallyStore.getState().view).toBeUndefined();
});

test('a share that arrives behind the answer is not shown', async () => {
  const working = useTallyStore.getState().work(asked(false));
  shares.at(-1)!(0.4);
  expect(useTallyStore.getState().progress).toBe(0.4);
  answers.at(-1)!(view(4));
  await working;
  shares.at(-1)!(0.7);
  expect(useTallyStore.getState().progress).toBeUndefined();
});
