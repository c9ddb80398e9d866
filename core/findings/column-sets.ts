import { type ColumnSet, chosenColumns } from '../kinds/column-set.ts';
import type { Table } from '../table/table.ts';

/** The first of some sets that picks just these columns: said by a rule, next month's are found too. */
export function firstPicking(
  table: Table,
  names: readonly string[],
  sets: readonly ColumnSet[],
): ColumnSet | undefined {
  const wanted = new Set(names);
  return sets.find((set) => {
    const picked = chosenColumns(set, table);
    return picked.length === wanted.size && picked.every((k) => wanted.has(table.fields[k]!.name));
  });
}
