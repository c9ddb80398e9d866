import type { Database, PreparedStatement, Sqlite3Static } from '@sqlite.org/sqlite-wasm';
import { ExportStopped } from '../formats/export-spec.ts';
import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { grouped } from '../values/counted.ts';
import { namesApart } from './export-changes.ts';
import type { Exported } from './exported.ts';
import { type ValueKind, valueKind, valuesOf } from './value-kinds.ts';

/** SQLite has no types for dates and times: they are kept as ISO 8601 texts, as its date functions read them. */
const DECLARED: Record<ValueKind, string> = {
  text: 'TEXT',
  number: 'REAL',
  whole: 'INTEGER',
  yesno: 'INTEGER',
  date: 'TEXT',
  time: 'TEXT',
  datetime: 'TEXT',
};

/** Limits of SQLite: SQLITE_MAX_COLUMN as it is compiled by default. */
const MAX_COLUMNS = 2000;

/** Tables as one SQLite database (file format 3). A column of yes and no is kept as 1 and 0. @throws ExportStopped */
export async function writeSqlite(tables: readonly Exported[]): Promise<Uint8Array<ArrayBuffer>> {
  const { default: init } = await import('@sqlite.org/sqlite-wasm');
  const sqlite = await init();
  const database = new sqlite.oo1.DB(':memory:', 'c');
  try {
    const names = namesApart(tables.map((one) => plain(one.name)));
    tables.forEach(({ table, key }, k) => {
      insertTable(sqlite, database, names[k]!, table, key ?? []);
    });
    return new Uint8Array(sqlite.capi.sqlite3_js_db_export(database));
  } finally {
    database.close();
  }
}

/** SQLite keeps names that begin with sqlite_ for itself. */
function plain(name: string): string {
  return name.replace(/^sqlite_/i, 'table_').trim() || 'table';
}

function quoted(name: string): string {
  return `"${name.replaceAll('"', '""').replaceAll('\0', '')}"`;
}

function insertTable(
  sqlite: Sqlite3Static,
  database: Database,
  name: string,
  table: Table,
  key: readonly string[],
): void {
  const kinds = table.fields.map(valueKind);
  if (kinds.length > MAX_COLUMNS)
    throw new ExportStopped(
      `${name} has ${grouped(kinds.length)} columns, and SQLite holds ${grouped(MAX_COLUMNS)}. Drop or unpivot columns, or choose another format.`,
    );
  const columns = namesApart(table.fields.map((field) => field.name)).map(quoted);
  const declared = columns.map((column, c) => `${column} ${DECLARED[kinds[c]!]}`);
  if (declared.length === 0) declared.push('"row" INTEGER');
  database.exec(`create table ${quoted(name)} (${declared.join(', ')})`);
  const keyed = key.map((one) => table.fields.findIndex((field) => field.name === one));
  if (table.rows > 0 && table.fields.length > 0) {
    const insert = database.prepare(`insert into ${quoted(name)} values (${columns.map(() => '?').join(', ')})`);
    try {
      database.exec('begin');
      const bind = table.fields.map((field, c) => bindOf(sqlite, field.column, kinds[c]!));
      for (let r = 0; r < table.rows; r++) {
        for (const [c, put] of bind.entries()) put(insert, c + 1, r);
        insert.stepReset();
      }
      database.exec('commit');
    } finally {
      insert.finalize();
    }
  }
  if (keyed.length > 0)
    database.exec(
      `create index ${quoted(`key of ${name}`)} on ${quoted(name)} (${keyed.map((at) => columns[at]).join(', ')})`,
    );
}

/** Puts the cell of a row into the statement. */
type Bind = (insert: PreparedStatement, at: number, row: number) => void;

function bindOf(sqlite: Sqlite3Static, column: Column, kind: ValueKind): Bind {
  if (DECLARED[kind] === 'TEXT') return (insert, at, row) => insert.bind(at, cellText(column, row));
  const values = valuesOf(column);
  // The binding itself would take a large number without decimals for a whole one, and wrap it round.
  const put: Record<string, (insert: PreparedStatement, at: number, value: number) => void> = {
    number: (insert, at, value) => sqlite.capi.sqlite3_bind_double(insert.pointer!, at, value),
    whole: (insert, at, value) => insert.bind(at, BigInt(value)),
    yesno: (insert, at, value) => insert.bind(at, value),
  };
  const own = put[kind]!;
  return (insert, at, row) => (Number.isNaN(values[row]!) ? insert.bind(at, null) : own(insert, at, values[row]!));
}
