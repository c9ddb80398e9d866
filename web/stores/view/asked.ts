import type { StateCreator } from 'zustand';
import type { Job } from '../../../core/index.ts';
import type { StepView } from '../../engine/protocol.ts';
import type { ViewState } from '../view-store.ts';

/** Something that is looked at before it is taken; only one at a time stands over the bench. */
export type Dialog =
  /** Tables are put together by a step of a kind, one to come or one that is there. */
  | { as: 'combine'; kind: string; step?: number }
  /** A file before a source takes it. */
  | { as: 'next report'; source: string; file: File; arrived?: true }
  /** Files that a method runs on one by one: the job as it was when they were given. */
  | { as: 'many files'; job: Job; table: string; source: string; file: File };

/** A step that is looked at before it is taken: what it would give, or why it would stop. */
export interface Preview {
  label: string;
  at: number;
  view?: StepView;
  stop?: string;
}

export interface AskedSlice {
  preview: Preview | undefined;
  dialog: Dialog | undefined;
  finding: boolean;
  tryOut(preview: Preview | undefined): void;
  ask(dialog: Dialog | undefined): void;
  find(on: boolean): void;
}

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
