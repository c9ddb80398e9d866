import { textColumn } from '../table/builder.ts';
import { CellBudget } from './read-failure.ts';
import type { Merge, ReportPart } from './report.ts';

/** A table of a page; a cell that is not there is blank. */
export interface PageTable {
  /** What it is called there; '' where it has no name. */
  name: string;
  rows: readonly (readonly (string | undefined)[])[];
  merges: readonly Merge[];
}

/** Tables of a page as parts of its report. Of several with one name the later ones get a number. @throws ReadFailure */
export function pageParts(file: string, tables: readonly PageTable[]): ReportPart[] {
  const taken = new Map<string, number>();
  const reach = new CellBudget(file);
  return tables.map((table, k) => {
    const wanted = table.name || `Table ${k + 1}`;
    const times = (taken.get(wanted) ?? 0) + 1;
    taken.set(wanted, times);
    const rows = table.rows.length;
    let width = 0;
    for (const row of table.rows) width = Math.max(width, row.length);
    for (const merge of table.merges) width = Math.max(width, merge.column + merge.columns);
    const name = times === 1 ? wanted : `${wanted} (${times})`;
    reach.add(name, rows, width);
    return {
      name,
      rows,
      columns: Array.from({ length: width }, (_, c) => textColumn(table.rows.map((row) => row[c] ?? null))),
      displayed: [],
      merges: table.merges.map((merge) => ({ ...merge, rows: Math.min(merge.rows, rows - merge.row) })),
      comments: [],
      hidden: false,
    };
  });
}
