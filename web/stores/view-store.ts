import { create } from 'zustand';
import type { ReportAddress, TracedToReport, TracedToTable } from '../engine/protocol.ts';

export type Facing = 'report' | 'before';

/** What is pointed at or picked on a page. */
export interface TableCell {
  row: number;
  column: number;
}

interface ViewState {
  /** Index of the selected step, or undefined for the last. */
  step: number | undefined;
  facing: Facing;
  part: number;
  columns: readonly string[];
  cell: TableCell | undefined;
  /** Cells lit by what is pointed at: where it came from, or where it went. */
  litReport: readonly TracedToReport[];
  litTable: readonly TracedToTable[];
  /** What the foot says of the pointed cell. */
  saying: { text: string; of: string } | undefined;
  goToReport: (ReportAddress & { turn: number }) | undefined;
  goToTable: (TableCell & { turn: number }) | undefined;
  set(change: Partial<Omit<ViewState, 'set'>>): void;
}

/** Nothing selected, nothing lit: how the bench begins. */
export const FRESH_VIEW: Omit<ViewState, 'set'> = {
  step: undefined,
  facing: 'report',
  part: 0,
  columns: [],
  cell: undefined,
  litReport: [],
  litTable: [],
  saying: undefined,
  goToReport: undefined,
  goToTable: undefined,
};

export const useViewStore = create<ViewState>()((set) => ({ ...FRESH_VIEW, set: (change) => set(change) }));
