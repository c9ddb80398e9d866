import type { StateCreator } from 'zustand';
import type { TableCell, TracedToReport, TracedToTable } from '../../engine/protocol.ts';
import type { ViewState } from '../view-store.ts';

/** Rows that a notice speaks of, on the table after or before the step, and the one to go to. */
export interface Noticed {
  of: 'before' | 'after';
  cells: readonly TableCell[];
  goTo: TableCell;
}

/** What is lit, and what the foot says of it. */
export interface LightSlice {
  /** Cells lit by what is pointed at: where it came from, or where it went. */
  litReport: readonly TracedToReport[];
  litTable: readonly TracedToTable[];
  /** What the foot says of the pointed cell. */
  saying: { text: string; of: string } | undefined;
  /** Rows of the report that a rule would take in. */
  litRows: readonly { part: number; row: number }[];
  noticed: Noticed | undefined;
  light(lit: Partial<Pick<LightSlice, 'litReport' | 'litTable' | 'saying'>>): void;
  lightRows(rows: LightSlice['litRows']): void;
  /** Nothing is lit any more; a notice stays until something else is looked at. */
  dark(): void;
  notice(noticed: Noticed | undefined): void;
}

const DARK = { litReport: [], litTable: [], saying: undefined };
export const FRESH_LIGHT = { ...DARK, litRows: [], noticed: undefined };

export const lightSlice: StateCreator<ViewState, [], [], LightSlice> = (set) => ({
  ...FRESH_LIGHT,
  light: (lit) => set(lit),
  lightRows: (litRows) => set({ litRows }),
  dark: () => set({ ...DARK, litRows: [] }),
  notice: (noticed) => set({ noticed }),
});
