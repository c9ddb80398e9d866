import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Job } from '../../core/index.ts';
import type { ReportAddress, StepView, TracedToReport, TracedToTable } from '../engine/protocol.ts';

/** Kinds of step that are looked at as a whole before they are kept. */
export const COMBINED = ['join', 'look-up', 'append', 'split-off'] as const;
export type Combined = (typeof COMBINED)[number];

export type Facing = 'report' | 'before';

/** What is pointed at or picked on a page. */
export interface TableCell {
  row: number;
  column: number;
}

export interface Noticed {
  of: 'before' | 'after';
  cells: readonly TableCell[];
  goTo: TableCell & { turn: number };
}

interface ViewState {
  /** The table on the bench, or undefined for the first. */
  table: string | undefined;
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
  /** Rows that a notice speaks of, lit on the table after or before the step. */
  noticed: Noticed | undefined;
  /** Rows of the report that a rule would take in. */
  litRows: readonly { part: number; row: number }[];
  /** Text selected inside a cell of the table. */
  stretch: (TableCell & { from: number; to: number; text: string }) | undefined;
  /** Cells of the table dragged over. */
  range: { from: TableCell; to: TableCell } | undefined;
  /** A step that is looked at before it is taken. */
  preview: { label: string; at: number; view?: StepView; stop?: string; turn?: number } | undefined;
  /** The column that is glanced at. */
  glance: string | undefined;
  finding: boolean;
  /** Widths that columns were given by hand, by table and name. */
  widths: Readonly<Record<string, number>>;
  /** Columns at the start that stay in sight, by table. */
  frozen: Readonly<Record<string, number>>;
  /** The two pages scroll together where their rows correspond. */
  together: boolean;
  /** The page that was scrolled asks the other one to follow. */
  followReport: { part: number; row: number; turn: number } | undefined;
  followTable: { row: number; turn: number } | undefined;
  /** Tables are being put together, by a step to come or one that is there. */
  combine: { kind: Combined; step?: number } | undefined;
  /** A file that is looked at before a source takes it. */
  again: { source: string; file: File; arrived?: true } | undefined;
  /** Files that a method runs on one by one: the job as it was when they were given. */
  each: { job: Job; table: string; source: string; file: File } | undefined;
  /** While a blank of a sentence asks for columns, a column of the sheet that is clicked on goes to it. */
  takeColumn: { take(name: string): void; step: number } | undefined;
  set(change: Partial<Omit<ViewState, 'set'>>): void;
}

/** Nothing selected, nothing lit: how the bench begins. */
export const FRESH_VIEW: Omit<ViewState, 'set' | 'widths' | 'frozen' | 'together'> = {
  table: undefined,
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
  noticed: undefined,
  litRows: [],
  stretch: undefined,
  range: undefined,
  preview: undefined,
  glance: undefined,
  finding: false,
  followReport: undefined,
  followTable: undefined,
  takeColumn: undefined,
  combine: undefined,
  again: undefined,
  each: undefined,
};

export const useViewStore = create<ViewState>()(
  persist((set) => ({ ...FRESH_VIEW, widths: {}, frozen: {}, together: true, set: (change) => set(change) }), {
    name: 'bench-view',
    partialize: ({ widths, frozen, together }) => ({ widths, frozen, together }),
  }),
);
