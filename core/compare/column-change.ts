import type { MethodRun } from '../run/run.ts';
import { nameLikeness } from '../values/likeness.ts';

/** What became of columns from one run to the next, by their names. */
export interface ColumnChange {
  gone: readonly string[];
  fresh: readonly string[];
  /** For a column that is gone the new one that it likely became. */
  renamed: ReadonlyMap<string, string>;
  moved: boolean;
}

const ALIKE = 0.5;

export function isAlike(name: string, other: string): boolean {
  return nameLikeness(name, other) > ALIKE;
}

/** The first step behind which columns have their own names; -1 where none has. */
export function headerStep(run: MethodRun): number {
  return run.steps.findIndex((step) => step.table.fields.some((field) => field.nameOrigin === 'named'));
}

export function columnNames(run: MethodRun, step: number): string[] | undefined {
  return run.steps[step]?.table.fields.map((field) => field.name);
}

export function columnChange(was: readonly string[], is: readonly string[]): ColumnChange {
  const [old, now] = [new Set(was), new Set(is)];
  const gone = was.filter((name) => !now.has(name));
  const fresh = is.filter((name) => !old.has(name));
  const renamed = new Map<string, string>();
  const taken = new Set<string>();
  const pair = (name: string, other: string | undefined) => {
    if (other === undefined) return;
    renamed.set(name, other);
    taken.add(other);
  };
  for (const name of gone) {
    const alike = fresh
      .filter((one) => !taken.has(one))
      .map((one) => ({ one, score: nameLikeness(name, one) }))
      .sort((a, b) => b.score - a.score)[0];
    pair(name, alike !== undefined && alike.score > ALIKE ? alike.one : undefined);
  }
  // Of another name altogether, but between the same neighbours.
  const around = (list: readonly string[], name: string) => {
    const k = list.indexOf(name);
    return JSON.stringify([list[k - 1] ?? null, list[k + 1] ?? null]);
  };
  for (const name of gone.filter((one) => !renamed.has(one)))
    pair(
      name,
      fresh.find((one) => !taken.has(one) && around(was, name) === around(is, one)),
    );
  const left = [gone.filter((name) => !renamed.has(name)), fresh.filter((name) => !taken.has(name))] as const;
  if (left[0].length === 1 && left[1].length === 1) pair(left[0][0]!, left[1][0]);
  const stayed = was.filter((name) => now.has(name));
  return { gone, fresh, renamed, moved: stayed.join('\n') !== is.filter((name) => old.has(name)).join('\n') };
}
