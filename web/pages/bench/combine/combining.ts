/** Kinds of step that are looked at as a whole before they are kept, by their names. */
export interface CombiningKind {
  title: string;
  /** It puts another table beside this one, so the job must have one. */
  needsOther: boolean;
  /** A step of this kind can be looked at so again. */
  again: boolean;
}

export const COMBINING: Readonly<Record<string, CombiningKind>> = {
  join: { title: 'Join a table', needsOther: true, again: true },
  'look-up': { title: 'Look up in another table', needsOther: true, again: true },
  append: { title: 'Append tables', needsOther: true, again: true },
  'split-off': { title: 'Split off columns', needsOther: false, again: false },
};
