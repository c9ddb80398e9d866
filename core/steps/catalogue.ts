import { setTypes } from './cells/set-types.ts';
import { carry } from './fill/carry.ts';
import { dropColumns } from './header/drop-columns.ts';
import { headerFromRows } from './header/header-from-rows.ts';
import { keepColumns } from './header/keep-columns.ts';
import { rename } from './header/rename.ts';
import { setAside } from './rows/set-aside.ts';
import { unpivot } from './shape/unpivot.ts';
import type { StepKind } from './step.ts';

/** A kind whose params are checked by its own schema before they are used. */
export type AnyStepKind = StepKind<unknown>;

/** Forgets the params type; safe because params reach a kind only through its own schema. */
function listed<P>(kind: StepKind<P>): AnyStepKind {
  return kind as unknown as AnyStepKind;
}

export const STEP_GROUPS: readonly { title: string; kinds: readonly AnyStepKind[] }[] = [
  { title: 'Rows', kinds: [listed(setAside)] },
  {
    title: 'Header and columns',
    kinds: [listed(headerFromRows), listed(rename), listed(keepColumns), listed(dropColumns)],
  },
  { title: 'Fill', kinds: [listed(carry)] },
  { title: 'Cells', kinds: [listed(setTypes)] },
  { title: 'Shape', kinds: [listed(unpivot)] },
];

export const CATALOGUE: ReadonlyMap<string, AnyStepKind> = new Map(
  STEP_GROUPS.flatMap((group) => group.kinds.map((kind) => [kind.kind, kind])),
);
