import type { StateCreator } from 'zustand';
import type { LightSlice, ViewState } from './view-state.ts';

const DARK = { litReport: [], litTable: [], saying: undefined };
export const FRESH_LIGHT = { ...DARK, litRows: [], noticed: undefined };

export const lightSlice: StateCreator<ViewState, [], [], LightSlice> = (set) => ({
  ...FRESH_LIGHT,
  light: (lit) => set(lit),
  lightRows: (litRows) => set({ litRows }),
  dark: () => set({ ...DARK, litRows: [] }),
  notice: (noticed) => set({ noticed }),
});
