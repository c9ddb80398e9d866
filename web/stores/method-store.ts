import { create } from 'zustand';
import type { FullTable } from '../../core/index.ts';
import { engineClient } from '../engine/client.ts';
import { isOvertaken, type MethodView } from '../engine/protocol.ts';

interface MethodState {
  tableId: string | undefined;
  view: MethodView | undefined;
  /** Rises with every finished run: what was fetched before it is stale. */
  run: number;
  /** Share done of a run that takes long enough to be told, or undefined. */
  progress: number | undefined;
  trouble: string | undefined;
  execute(tables: readonly FullTable[], tableId: string): Promise<void>;
  /** Another job is opened: the run at hand is of none of its tables. */
  forget(): void;
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
  forget: () => {
    turns++;
    set({ tableId: undefined, view: undefined, progress: undefined, trouble: undefined });
  },
  async execute(tables, tableId) {
    const turn = ++turns;
    if (get().tableId !== tableId) set({ tableId, view: undefined });
    try {
      const view = await engineClient().run(tables, tableId, (done) => set({ progress: done }));
      if (turn !== turns) return;
      set({ view, run: get().run + 1, progress: undefined, trouble: undefined });
    } catch (error) {
      if (!isOvertaken(error) && turn === turns) set({ progress: undefined, trouble: (error as Error).message });
    }
  },
}));
