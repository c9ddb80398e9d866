import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { engineClient } from '../engine/client.ts';
import { PortWorker } from '../engine/port-worker.ts';
import type { MethodView } from '../engine/protocol.ts';
import { useMethodStore } from './method-store.ts';

const before = globalThis.Worker;
const answers: ((view: MethodView) => void)[] = [];
const shares: ((done: number) => void)[] = [];

beforeAll(() => {
  globalThis.Worker = PortWorker as never;
  vi.spyOn(engineClient(), 'run').mockImplementation((_tables, _id, tell) => {
    shares.push(tell);
    return new Promise((resolve) => answers.push(resolve));
  });
});
afterAll(() => {
  vi.restoreAllMocks();
  globalThis.Worker = before;
});

const view = (stop?: string) => ({ steps: [], stop }) as unknown as MethodView;

test('a share that arrives behind the answer is not shown', async () => {
  const running = useMethodStore.getState().execute([], 'a');
  shares[0]!(0.4);
  expect(useMethodStore.getState()).toMatchObject({ progress: 0.4, running: true });
  answers[0]!(view());
  await running;
  shares[0]!(0.7);
  expect(useMethodStore.getState()).toMatchObject({ progress: undefined, running: false });
});

test('shares and answers of an older run change nothing', async () => {
  const older = useMethodStore.getState().execute([], 'a');
  const newer = useMethodStore.getState().execute([], 'a');
  shares[1]!(0.9);
  expect(useMethodStore.getState().progress).toBeUndefined();
  answers[2]!(view('new'));
  await newer;
  answers[1]!(view('old'));
  await older;
  expect(useMethodStore.getState().view).toEqual(view('new'));
});
