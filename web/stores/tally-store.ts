import { create } from 'zustand';
import { engineClient } from '../engine/client.ts';
import { OVERTAKEN } from '../engine/protocol.ts';
import type { TallyAsked, TallyView } from '../engine/tally-desk.ts';

interface TallyState {
  tableId: string | undefined;
  view: TallyView | undefined;
  /** Share done while it is worked out. */
  progress: number | undefined;
  /** Works out the tally of a table as it stands; a newer run of the method stops it. */
  work(asked: TallyAsked): Promise<TallyView | undefined>;
}

export const useTallyStore = create<TallyState>()((set, get) => ({
  tableId: undefined,
  view: undefined,
  progress: undefined,
  async work(asked) {
    const { tableId } = asked;
    if (get().tableId !== tableId) set({ tableId, view: undefined });
    set({ progress: 0 });
    try {
      const view = await engineClient().tally(asked, (done) => set({ progress: done }));
      if (get().tableId === tableId) set({ view, progress: undefined });
      return view;
    } catch (error) {
      if (get().tableId === tableId) set({ progress: undefined });
      if ((error as Error).message !== OVERTAKEN) throw error;
      return undefined;
    }
  },
}));

/** How a tally stands, in a few words; undefined while it is not known. */
export function tallyState(view: TallyView): { good: boolean; text: string } {
  const { totals, checks } = view;
  const all = totals.agrees + totals.disagrees + totals.cannotTell;
  const failed = checks.filter((check) => !check.ok).length;
  const n = (count: number) => count.toLocaleString('en-GB');
  const parts = [
    view.filled === 0 ? '' : `${n(view.accounted)} of ${n(view.filled)} cells accounted for`,
    all === 0 ? '' : `${n(totals.agrees)} of ${n(all)} totals agree`,
    checks.length === 0
      ? ''
      : failed === 0
        ? `${n(checks.length)} ${checks.length === 1 ? 'check holds' : 'checks hold'}`
        : `${n(failed)} of ${n(checks.length)} ${checks.length === 1 ? 'check fails' : 'checks fail'}`,
  ];
  return {
    good: totals.disagrees === 0 && failed === 0 && view.accounted === view.filled,
    text: parts.filter((text) => text !== '').join(', '),
  };
}
