import type { StateCreator } from 'zustand';
import type { PlaceSlice, ViewState } from './view-state.ts';

export const FRESH_PLACE = {
  table: undefined,
  step: undefined,
  facing: 'report',
  part: 0,
  journey: undefined,
  follow: undefined,
} as const;

export const placeSlice: StateCreator<ViewState, [], [], PlaceSlice> = (set, get) => ({
  ...FRESH_PLACE,
  showTable(table, more) {
    get().refresh();
    set({ table, ...more });
  },
  showStep(step) {
    get().select(undefined);
    get().dark();
    set({ step, noticed: undefined, preview: undefined });
  },
  face: (facing) => set({ facing, noticed: undefined }),
  showPart: (part) => set({ part }),
  goTo: (journey) => set({ journey: { ...journey }, ...(journey.on === 'report' ? { part: journey.part } : {}) }),
  bring: (follow) => set({ follow, ...(follow.on === 'report' ? { part: follow.part } : {}) }),
});
