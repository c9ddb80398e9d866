import type { StateCreator } from 'zustand';
import type { Selection } from '../../engine/protocol.ts';
import type { ViewState } from '../view-store.ts';

/** What is selected on the table; only one thing at a time. */
export interface SelectionSlice {
  selection: Selection | undefined;
  /** The column that is glanced at. */
  glance: string | undefined;
  /** While a blank of a sentence asks for columns, a column of the sheet that is clicked on goes to it. */
  takeColumn: { take(name: string): void; step: number } | undefined;
  select(selection: Selection | undefined): void;
  glanceAt(column: string | undefined): void;
  askForColumns(ask: SelectionSlice['takeColumn']): void;
}

export const FRESH_SELECTION = { selection: undefined, glance: undefined, takeColumn: undefined } as const;

export const selectionSlice: StateCreator<ViewState, [], [], SelectionSlice> = (set) => ({
  ...FRESH_SELECTION,
  select: (selection) => set({ selection }),
  glanceAt: (glance) => set({ glance }),
  askForColumns: (takeColumn) => set({ takeColumn }),
});

const NONE: readonly string[] = [];

/** Names of the selected columns; none where something else is selected. */
export function selectedColumns({ selection }: Pick<SelectionSlice, 'selection'>): readonly string[] {
  return selection?.of === 'columns' ? selection.names : NONE;
}
