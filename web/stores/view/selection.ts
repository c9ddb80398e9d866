import type { StateCreator } from 'zustand';
import type { SelectionSlice, ViewState } from './view-state.ts';

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
