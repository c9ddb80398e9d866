import type { StateCreator } from 'zustand';
import type { ReportAddress, TableCell } from '../../engine/protocol.ts';
import type { ViewState } from '../view-store.ts';

export type Facing = 'report' | 'before';

/** A cell that a page goes to. Each is an object of its own, so going to the same cell again is a new journey. */
export type Journey = ({ on: 'report' } & ReportAddress) | ({ on: 'table' } & TableCell);

/** A page that was scrolled asks the other one to follow. */
export type Follow = { on: 'report'; part: number; row: number } | { on: 'table'; row: number };

/** What is in sight: which table, after which step, beside what. */
export interface PlaceSlice {
  /** The table on the bench, or undefined for the first. */
  table: string | undefined;
  /** Index of the selected step, or undefined for the last. */
  step: number | undefined;
  facing: Facing;
  /** The part of the report: a sheet or a file. */
  part: number;
  journey: Journey | undefined;
  follow: Follow | undefined;
  /** Another table, with nothing selected and nothing lit. */
  showTable(table: string | undefined, more?: { step?: number; part?: number }): void;
  /** The table after a step; what was selected and lit in another table is no longer. */
  showStep(step: number | undefined): void;
  face(facing: Facing): void;
  showPart(part: number): void;
  goTo(journey: Journey): void;
  bring(follow: Follow): void;
}

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
