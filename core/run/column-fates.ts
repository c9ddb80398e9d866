import type { Mark } from '../kinds/step.ts';
import type { ColumnMap } from '../table/origin.ts';
import { type MethodRun, walkedSteps } from './run.ts';

/** Where a column of the raw table is after a step. */
export interface ColumnFate {
  mark: Mark;
  /** Columns of the table whose values stem from it. */
  names: readonly string[];
  /** Where it is in no column any more: the step that took it out, and its pile if it has one. */
  step?: number;
  pile?: string;
  /** What it was called when it went. */
  was?: string;
}

/** The fate of every column of the raw table, or of the table after the step base, after the given step. */
export function columnFates(run: MethodRun, stepIndex: number, base = 0): ColumnFate[] {
  const first = run.steps[base];
  if (first === undefined) return [];
  let from: ReadonlySet<number>[] = first.table.fields.map((_, k) => new Set([k]));
  let { table } = first;
  const gone = new Map<number, ColumnFate>();
  for (const { run: step, index: k } of walkedSteps(run, stepIndex)) {
    if (k <= base) continue;
    const { origin, aside } = step;
    const before = from;
    const last = table;
    table = step.table;
    const there = new Set(before.flatMap((set) => [...set]));
    from = origin.map((of) => {
      const found = new Set<number>();
      for (const source of of.cells) {
        if ((source.input ?? 0) !== 0 || source.role !== 'value') continue;
        for (const column of columnsOf(source.column)) for (const raw of before[column] ?? []) found.add(raw);
      }
      return found;
    });
    const stay = new Set(from.flatMap((set) => [...set]));
    const piles = aside.flatMap((pile) => pile.columns?.map((column) => ({ pile, column })) ?? []);
    const firstOf = columnsByRaw(before);
    for (const raw of there) {
      if (stay.has(raw)) continue;
      const pile = piles.find(({ column }) => before[column]!.has(raw))?.pile;
      const was = last.fields[firstOf.get(raw)?.[0] ?? -1]?.name;
      gone.set(raw, { mark: pile?.mark ?? 'other', names: [], step: k, pile: pile?.name, was });
    }
  }
  const { fields } = run.steps[stepIndex]!.table;
  const columns = columnsByRaw(from);
  return first.table.fields.map((_, raw): ColumnFate => {
    const names = (columns.get(raw) ?? []).map((k) => fields[k]!.name);
    return names.length > 0 ? { mark: 'data', names } : (gone.get(raw) ?? { mark: 'data', names });
  });
}

/** By column of the raw table, the columns that stem from it, ascending. */
function columnsByRaw(from: readonly ReadonlySet<number>[]): Map<number, number[]> {
  const found = new Map<number, number[]>();
  from.forEach((raws, column) => {
    for (const raw of raws) {
      const known = found.get(raw);
      if (known === undefined) found.set(raw, [column]);
      else known.push(column);
    }
  });
  return found;
}

function columnsOf(map: ColumnMap): Iterable<number> {
  if (typeof map === 'number') return [map];
  const found = new Set<number>();
  for (const column of map.columns) if (column >= 0) found.add(column);
  return found;
}
