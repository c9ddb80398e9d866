/** DuckDB as the second opinion. For tests only. */
import { DuckDBInstance } from '@duckdb/node-api';
import { cellText, type Table } from './index.ts';

export interface Duck {
  query(sql: string): Promise<unknown[][]>;
  /** Makes a table of it, with columns of the types that ours has. */
  load(name: string, table: Table): Promise<void>;
}

const TYPES: Record<string, string> = {
  text: 'VARCHAR',
  received: 'VARCHAR',
  number: 'DOUBLE',
  whole: 'BIGINT',
  yesno: 'BOOLEAN',
  date: 'DATE',
  time: 'TIME',
  datetime: 'TIMESTAMP',
};

export async function openDuck(): Promise<Duck> {
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  // It remembers what stands in files by their names, and may not see that one was written again a moment later.
  await connection.run('set enable_external_file_cache = false');
  return {
    async query(sql) {
      const reader = await connection.runAndReadAll(sql);
      return reader.getRowsJson() as unknown[][];
    },
    async load(name, table) {
      const columns = table.fields.map((field) => `${quoted(field.name)} ${TYPES[field.column.type]}`);
      await connection.run(
        `create or replace table ${name} ("#" BIGINT${columns.map((column) => `, ${column}`).join('')})`,
      );
      const rows = Array.from({ length: table.rows }, (_, r) => {
        const cells = table.fields.map((field) => {
          const text = cellText(field.column, r);
          return text === null
            ? 'null'
            : field.column.type === 'number' || field.column.type === 'whole'
              ? text
              : literal(text);
        });
        return `(${[r, ...cells].join(', ')})`;
      });
      for (let at = 0; at < rows.length; at += 500)
        await connection.run(`insert into ${name} values ${rows.slice(at, at + 500).join(', ')}`);
    },
  };
}

export const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;
const literal = (text: string) => `'${text.replaceAll("'", "''")}'`;

/** Cells as they can be compared: numbers to twelve digits, everything else as text; null is blank. */
export function comparable(cell: unknown): string | null {
  if (cell === null || cell === undefined) return null;
  const text = typeof cell === 'boolean' ? (cell ? 'yes' : 'no') : String(cell);
  const time = /^\d\d:\d\d(?::\d\d(?:\.\d+)?)?$/.test(text)
    ? text.replace(/(:00)$/, (end) => (text.length > 5 ? '' : end))
    : text;
  const stamp = /^\d{4}-\d\d-\d\d[ T]\d\d:\d\d/.test(time)
    ? time.replace(' ', 'T').replace(/:00$/, (end) => (time.length > 16 ? '' : end))
    : time;
  if (stamp.trim() !== '' && /^-?\d*\.?\d+(?:e[+-]?\d+)?$/i.test(stamp))
    return String(Number(Number(stamp).toPrecision(12)) + 0);
  return stamp;
}

export function comparableRows(rows: readonly (readonly unknown[])[]): (string | null)[][] {
  return rows.map((row) => row.map(comparable));
}
