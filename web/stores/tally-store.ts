import { create } from 'zustand';
import { verdictText } from '../../core/index.ts';
import { engineClient } from '../engine/client.ts';
import { isOvertaken, type TallyAsked, type TallyView } from '../engine/protocol.ts';

interface TallyState {
  tableId: string | undefined;
  view: TallyView | undefined;
  /** Share done while it is worked out. */
  progress: number | undefined;
  /** The newest request; what an older one finds is not shown. */
  newest: TallyAsked | undefined;
  /** Works out the tally of a table as it stands; a newer run of the method stops it. */
  work(asked: TallyAsked): Promise<TallyView | undefined>;
  /** Another job is opened: the tally at hand is of none of its tables. */
  forget(): void;
}

export const useTallyStore = create<TallyState>()((set, get) => ({
  tableId: undefined,
  view: undefined,
  progress: undefined,
  newest: undefined,
  forget: () => set({ tableId: undefined, view: undefined, progress: undefined, newest: undefined }),
  async work(asked) {
    const { tableId } = asked;
    if (get().tableId !== tableId) set({ tableId, view: undefined });
    set({ progress: 0, newest: asked });
    const isNewest = () => get().newest === asked;
    try {
      const view = await engineClient().tally(asked, (done) => {
        // The last share may arrive behind the answer.
        if (isNewest() && get().progress !== undefined) set({ progress: done });
      });
      if (isNewest()) set({ view, progress: undefined });
      return view;
    } catch (error) {
      if (isNewest()) set({ progress: undefined });
      if (!isOvertaken(error)) throw error;
      return undefined;
    }
  },
}));

/** How a tally stands, in a few words; undefined while it is not known. */
export function tallyState(view: TallyView): { good: boolean; text: string } {
  const { totals, checks } = view;
  const failed = checks.some((check) => !check.ok);
  return {
    good: totals.disagrees === 0 && !failed && view.accounted === view.filled,
    text: verdictText({ cells: view, ledger: totals, checks }),
  };
}
