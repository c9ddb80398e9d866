import type { StateCreator } from 'zustand';
import type { AskedSlice, Dialog, ViewState } from './view-state.ts';

export const FRESH_ASKED = { preview: undefined, dialog: undefined, finding: false } as const;

export const askedSlice: StateCreator<ViewState, [], [], AskedSlice> = (set) => ({
  ...FRESH_ASKED,
  tryOut: (preview) => set({ preview }),
  ask: (dialog) => set({ dialog }),
  find: (finding) => set({ finding }),
});

/** The dialog that stands open, if it is of this sort. */
export function dialogAs<A extends Dialog['as']>(as: A) {
  return ({ dialog }: Pick<AskedSlice, 'dialog'>) =>
    dialog?.as === as ? (dialog as Extract<Dialog, { as: A }>) : undefined;
}
