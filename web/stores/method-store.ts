import { create } from 'zustand';
import type { FullTable } from '../../core/index.ts';
import { engineClient } from '../engine/client.ts';
import { isOvertaken, type MethodView } from '../engine/protocol.ts';

interface MethodState {
  tableId: string | undefined;
  view: MethodView | undefined;
  /** Rises with every finished run: what was fetched before it is stale. */
  run: number;
  /** Share done of a run that takes long enough to be reported, or undefined. */
  progress: number | undefined;
  trouble: string | undefined;
  /** A run was asked for and is not over. */
  running: boolean;
  execute(tables: readonly FullTable[], tableId: string): Promise<void>;
  /** Another job is opened: the run at hand is of none of its tables. */
  forget(): void;
}

const atEnd = new Set<(run: number) => void>();

/**
 * Has something asked of the engine as soon as a run is over, before the page is drawn again: the answer is then there
 * sooner. The number is that of the run.
 * @returns what ends it
 */
export function whenRunEnds(ask: (run: number) => void): () => void {
  atEnd.add(ask);
  return () => atEnd.delete(ask);
}

/** Counts runs that were asked for: one that ends after another was asked for is of no use. */
let turns = 0;

/** The newest run of the table on the bench. */
export const useMethodStore = create<MethodState>()((set, get) => ({
  tableId: undefined,
  view: undefined,
  run: 0,
  progress: undefined,
  trouble: undefined,
  running: false,
  forget: () => {
    turns++;
    set({ tableId: undefined, view: undefined, progress: undefined, trouble: undefined, running: false });
  },
  async execute(tables, tableId) {
    const turn = ++turns;
    set(get().tableId === tableId ? { running: true } : { tableId, view: undefined, running: true });
    try {
      const view = await engineClient().run(tables, tableId, (done) => {
        // The last share may arrive behind the answer.
        if (turn === turns && get().running) set({ progress: done });
      });
      if (turn !== turns) return;
      const run = get().run + 1;
      for (const ask of atEnd) ask(run);
      set({ view, run, progress: undefined, trouble: undefined, running: false });
    } catch (error) {
      if (turn !== turns) return;
      const trouble = isOvertaken(error) ? get().trouble : (error as Error).message;
      set({ progress: undefined, running: false, trouble });
    }
  },
}));

/** What is asked of a run once it is over, the page asks within so long. */
const ASKED_WITHIN_MS = 60;
const MAX_WAIT_MS = 6000;

/** Waits for the rows of a run that is under way, so that what comes next does not hold them up. */
export async function rowsInSight(): Promise<void> {
  const until = performance.now() + MAX_WAIT_MS;
  const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));
  // A page that has just opened asks for its run in a moment.
  await pause(0);
  if (!useMethodStore.getState().running) return;
  while (useMethodStore.getState().running && performance.now() < until) await pause(20);
  await pause(ASKED_WITHIN_MS);
  while (engineClient().work !== undefined && performance.now() < until) await pause(20);
}
