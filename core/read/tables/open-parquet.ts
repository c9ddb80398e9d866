/** Apache Parquet as a table, by its own types. */

import type { FileMetaData, SchemaElement } from 'hyparquet';
import { grouped } from '../../values/counted.ts';
import type { Room } from '../archive.ts';
import { ReadFailure } from '../read-failure.ts';
import type { OpenedTable } from './opened-table.ts';
import { type Holds, TypedColumn } from './typed-column.ts';

/** @throws ReadFailure, and whatever the library throws for a damaged file */
export async function parquetTable(bytes: Uint8Array, file: string, name: string, room: Room): Promise<OpenedTable> {
  const { parquetMetadata, parquetRead } = await import('hyparquet');
  const { compressors } = await import('hyparquet-compressors');
  const whole = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer;
  const metadata = parquetMetadata(whole);
  room.take(bytes, unpackedSize(metadata), file);
  const fields = topFields(metadata.schema);
  const rows = Number(metadata.num_rows);
  if (rows > MOST_ROWS)
    throw new ReadFailure(file, `${file} has ${grouped(rows)} rows; at most ${grouped(MOST_ROWS)} are read.`);
  const columns = fields.map(({ element, children }) => new TypedColumn(children ? 'any' : holdsOf(element), rows));
  await parquetRead({
    file: { byteLength: whole.byteLength, slice: (from, to) => whole.slice(from, to) },
    metadata,
    compressors,
    rowFormat: 'object',
    onComplete: (records) => {
      for (const record of records as Record<string, unknown>[])
        fields.forEach(({ element }, c) => {
          columns[c]!.push(plain(record[element.name], element));
        });
    },
  });
  return {
    name,
    rows,
    names: fields.map(({ element }) => element.name),
    columns: columns.map((column) => column.finish()),
  };
}

const MOST_ROWS = 50_000_000;

function unpackedSize({ row_groups }: FileMetaData): number {
  let size = 0;
  for (const { columns } of row_groups)
    for (const { meta_data } of columns) size += Number(meta_data?.total_uncompressed_size ?? 0);
  return size;
}

/** The columns of the file; those with children are lists, maps or records. */
function topFields(schema: readonly SchemaElement[]): { element: SchemaElement; children: boolean }[] {
  const fields: { element: SchemaElement; children: boolean }[] = [];
  const skip = (at: number): number => {
    let next = at + 1;
    for (let k = schema[at]!.num_children ?? 0; k > 0; k--) next = skip(next);
    return next;
  };
  for (let at = 1; at < schema.length; at = skip(at))
    fields.push({ element: schema[at]!, children: (schema[at]!.num_children ?? 0) > 0 });
  return fields;
}

function holdsOf({ type, converted_type: converted, logical_type: logical }: SchemaElement): Holds {
  if (converted === 'DATE' || logical?.type === 'DATE') return 'date';
  if (converted === 'TIMESTAMP_MILLIS' || converted === 'TIMESTAMP_MICROS' || logical?.type === 'TIMESTAMP')
    return 'datetime';
  if (type === 'INT96') return 'datetime';
  if (converted === 'TIME_MILLIS' || converted === 'TIME_MICROS' || logical?.type === 'TIME') return 'time';
  if (converted === 'DECIMAL' || logical?.type === 'DECIMAL' || type === 'FLOAT' || type === 'DOUBLE') return 'number';
  if (type === 'BOOLEAN') return 'yesno';
  if (type === 'INT32' || type === 'INT64') return 'whole';
  return 'text';
}

/** Times of day as milliseconds. */
function plain(value: unknown, element: SchemaElement): unknown {
  if (holdsOf(element) !== 'time' || value === null || value === undefined) return value;
  const unit = element.logical_type?.type === 'TIME' ? element.logical_type.unit : undefined;
  const parts = unit === 'NANOS' ? 1_000_000 : unit === 'MICROS' || element.converted_type === 'TIME_MICROS' ? 1000 : 1;
  return typeof value === 'bigint' || typeof value === 'number' ? Number(value) / parts : value;
}
