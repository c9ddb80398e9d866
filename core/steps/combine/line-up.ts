import type { Table } from '../../table/table.ts';
import { nameLikeness } from '../../values/likeness.ts';

/** How the columns of another table stand under those of this one. */
export interface LinedUp {
  /** Column there, and the name it stands under: its own, or that of the column it is most like. */
  from: string;
  to: string;
  how: 'name' | 'likeness' | 'alone';
}

const LIKE = 0.62;

/** Lines up the columns of another table by name, then by likeness; what is like nothing stands alone. */
export function lineUp(here: Table, there: Table): LinedUp[] {
  const names = here.fields.map((field) => field.name);
  const others = there.fields.map((field) => field.name);
  const taken = new Set(others.filter((name) => names.includes(name)));
  const pairs = others
    .filter((name) => !taken.has(name))
    .flatMap((from) => names.filter((to) => !taken.has(to)).map((to) => ({ from, to, score: nameLikeness(from, to) })))
    .filter((pair) => pair.score >= LIKE)
    .sort((a, b) => b.score - a.score);
  const under = new Map<string, string>();
  const used = new Set<string>();
  for (const { from, to } of pairs) {
    if (under.has(from) || used.has(to)) continue;
    under.set(from, to);
    used.add(to);
  }
  return others.map((from): LinedUp => {
    if (taken.has(from)) return { from, to: from, how: 'name' };
    const to = under.get(from);
    return to === undefined ? { from, to: from, how: 'alone' } : { from, to, how: 'likeness' };
  });
}
