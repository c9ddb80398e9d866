/** What can be done with something that was pointed at: steps ready to be taken. */
export interface Offer {
  /** As it stands on a button. */
  label: string;
  kind: string;
  params: Record<string, unknown>;
  /** What it does to the cells, where that has been tried. */
  outcome?: string;
}

export const only = (...names: string[]) => ({ by: 'names' as const, names });
