/** The tables and views of an SQLite database. Each value has its own type there, and keeps it. */

import type { WasmPointer } from '@sqlite.org/sqlite-wasm';
import { decoderOf } from '../../table/decoder.ts';
import { grouped } from '../../values/counted.ts';
import { ReadFailure } from '../read-failure.ts';
import type { OpenedTable } from './opened-table.ts';
import { TypedColumn } from './typed-column.ts';

const utf8 = decoderOf('utf-8');

/** Cells of all tables together. */
const MAX_CELLS = 40_000_000;

/** @throws ReadFailure, and whatever the library throws for a damaged file */
export async function sqliteTables(bytes: Uint8Array, file: string): Promise<OpenedTable[]> {
  const { default: init } = await import('@sqlite.org/sqlite-wasm');
  const sqlite = await init();
  const { capi, wasm } = sqlite;
  // The library's own texts end at the first NUL and lose a byte order mark.
  const textOf = (statement: WasmPointer, column: number): string => {
    const at = (wasm.exports.sqlite3_column_text as (statement: WasmPointer, column: number) => number)(
      statement,
      column,
    );
    return utf8.decode(wasm.heap8u().slice(at, at + capi.sqlite3_column_bytes(statement, column)));
  };
  const database = new sqlite.oo1.DB(':memory:', 'c');
  try {
    // The library takes no other class of bytes, and Node reads files as Buffers.
    const place = wasm.allocFromTypedArray(Uint8Array.from(bytes));
    const code = capi.sqlite3_deserialize(
      database.pointer!,
      'main',
      place,
      bytes.length,
      bytes.length,
      capi.SQLITE_DESERIALIZE_FREEONCLOSE | capi.SQLITE_DESERIALIZE_READONLY,
    );
    database.checkRc(code);
    const names = database.selectValues(
      "select name from sqlite_schema where type in ('table', 'view') and name not like 'sqlite^_%' escape '^' order by type, rowid",
    ) as string[];
    let cells = 0;
    return names.map((name) => {
      const statement = database.prepare(`select * from "${name.replaceAll('"', '""')}"`);
      try {
        const columns = statement.getColumnNames().map(() => new TypedColumn('any', 64));
        let rows = 0;
        while (statement.step()) {
          rows++;
          cells += columns.length;
          if (cells > MAX_CELLS)
            throw new ReadFailure(
              file,
              `${file} holds more than ${grouped(MAX_CELLS)} cells. Save the table that is wanted as Parquet or CSV, and give that.`,
            );
          const values = statement.get([]) as unknown[];
          for (let c = 0; c < columns.length; c++)
            columns[c]!.push(typeof values[c] === 'string' ? textOf(statement.pointer!, c) : values[c]);
        }
        return {
          name,
          rows,
          names: statement.getColumnNames(),
          columns: columns.map((column) => column.finish()),
          notices: [],
        };
      } finally {
        statement.finalize();
      }
    });
  } finally {
    database.close();
  }
}
