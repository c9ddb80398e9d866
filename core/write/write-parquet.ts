import { ParquetWriter, parquetWriteBuffer, type Writer } from 'hyparquet-writer';
import type { Field, Table } from '../table/table.ts';
import { MS } from '../values/civil.ts';
import { textsOf, type ValueKind, valueKind, valuesOf } from './value-kinds.ts';

const SCHEMA = {
  text: { type: 'BYTE_ARRAY', converted_type: 'UTF8' },
  number: { type: 'DOUBLE' },
  whole: { type: 'INT64' },
  yesno: { type: 'BOOLEAN' },
  date: { type: 'INT32', converted_type: 'DATE' },
  time: { type: 'INT32', converted_type: 'TIME_MILLIS' },
  datetime: { type: 'INT64', converted_type: 'TIMESTAMP_MILLIS' },
} as const;

const AS: Record<Exclude<ValueKind, 'text'>, (value: number) => unknown> = {
  number: (value) => value,
  whole: BigInt,
  yesno: (value) => value !== 0,
  date: (value) => new Date(value * MS.day),
  time: (value) => value,
  datetime: (value) => new Date(value),
};

/** Writes tables with the same columns into one Parquet file, each a row group or several of its own. */
export class ParquetPieces {
  private writer: ParquetWriter | undefined;

  /** @param to takes the bytes; a writer of the library */
  constructor(private readonly to: Writer) {}

  add(table: Table): void {
    const kinds = table.fields.map(valueKind);
    this.writer ??= new ParquetWriter({ writer: this.to, schema: schemaOf(table, kinds) });
    const columnData = table.fields.map((field, c) => ({
      name: field.name,
      data: dataOf(field, kinds[c]!, table.rows),
    }));
    if (table.rows > 0) void this.writer.write({ columnData });
  }

  end(): void {
    void this.writer?.finish();
  }
}

/** A table as Apache Parquet, columns by their types. */
export function writeParquet(table: Table): Uint8Array<ArrayBuffer> {
  const kinds = table.fields.map(valueKind);
  const bytes = parquetWriteBuffer({
    columnData: table.fields.map((field, c) => ({ name: field.name, data: dataOf(field, kinds[c]!, table.rows) })),
    schema: schemaOf(table, kinds),
  });
  return new Uint8Array(bytes);
}

function schemaOf(table: Table, kinds: readonly ValueKind[]) {
  return [
    { name: 'root', num_children: kinds.length },
    ...kinds.map((kind, c) => ({
      name: table.fields[c]!.name,
      repetition_type: 'OPTIONAL' as const,
      ...SCHEMA[kind],
    })),
  ];
}

function dataOf({ column }: Field, kind: ValueKind, rows: number): unknown[] {
  if (kind === 'text') return textsOf(column, rows).map((text) => text ?? undefined);
  const as = AS[kind];
  return Array.from(valuesOf(column), (value) => (Number.isNaN(value) ? undefined : as(value)));
}
