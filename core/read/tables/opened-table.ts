import type { Column } from '../../table/column.ts';

/** A table with names and types of its own. */
export interface OpenedTable {
  name: string;
  rows: number;
  names: readonly string[];
  columns: readonly Column[];
}
