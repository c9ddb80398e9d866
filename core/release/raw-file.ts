import { ExportSpec } from '../formats/export-spec.ts';
import { rawTable } from '../sql/raw-table.ts';
import type { Table } from '../table/table.ts';
import { exportTable } from '../write/export.ts';

/** The forms in which a raw table goes to a database. */
export type RawFormat = 'parquet' | 'csv';

/** The table that a SQL script begins with, as a file that a database takes. */
export function rawFile(name: string, table: Table, as: RawFormat): Promise<Uint8Array<ArrayBuffer>> {
  // Nothing is put before a text here: the script reads what stands there.
  const spec = ExportSpec.parse(as === 'csv' ? { as, guard: false, lineEnd: 'lf' } : { as });
  return exportTable({ name, table: rawTable(table) }, spec);
}
