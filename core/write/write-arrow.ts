import type { Data, DataType } from 'apache-arrow';
import type { Field, Table } from '../table/table.ts';
import { textsOf, valueKind, valuesOf } from './value-kinds.ts';

type Arrow = typeof import('apache-arrow');

/** A table as an Apache Arrow file (the IPC file format), columns by their types. */
export async function writeArrow(table: Table): Promise<Uint8Array<ArrayBuffer>> {
  const arrow = await import('apache-arrow');
  const data = table.fields.map((field) => dataOf(arrow, field, table.rows));
  const schema = new arrow.Schema(table.fields.map(({ name }, c) => new arrow.Field(name, data[c]!.type, true)));
  const whole = arrow.makeData({ type: new arrow.Struct(schema.fields), length: table.rows, children: data });
  const batch = new arrow.RecordBatch(schema, whole);
  return new Uint8Array(arrow.tableToIPC(new arrow.Table(schema, [batch]), 'file'));
}

function dataOf(arrow: Arrow, field: Field, rows: number): Data<DataType> {
  const kind = valueKind(field);
  if (kind === 'text')
    return arrow.vectorFromArray(textsOf(field.column, rows), new arrow.Utf8()).data[0] ?? none(arrow);
  const values = valuesOf(field.column);
  const { nullBitmap, nullCount } = filledBits(values);
  const length = rows;
  const common = { length, nullCount, nullBitmap };
  switch (kind) {
    case 'number':
      return arrow.makeData({ type: new arrow.Float64(), data: values, ...common });
    case 'whole':
      return arrow.makeData({ type: new arrow.Int64(), data: wide(values), ...common });
    case 'yesno':
      return arrow.makeData({ type: new arrow.Bool(), data: bits(values, (value) => value === 1), ...common });
    case 'date':
      return arrow.makeData({ type: new arrow.DateDay(), data: Int32Array.from(values), ...common });
    case 'time':
      return arrow.makeData({ type: new arrow.TimeMillisecond(), data: Int32Array.from(values), ...common });
    case 'datetime':
      return arrow.makeData({ type: new arrow.TimestampMillisecond(), data: wide(values), ...common });
  }
}

function none(arrow: Arrow): Data<DataType> {
  return arrow.makeData({ type: new arrow.Utf8(), length: 0, valueOffsets: new Int32Array(1), data: new Uint8Array() });
}

function wide(values: Float64Array): BigInt64Array {
  return BigInt64Array.from(values, (value) => (Number.isNaN(value) ? 0n : BigInt(value)));
}

function bits(values: Float64Array, test: (value: number) => boolean): Uint8Array {
  const out = new Uint8Array(Math.ceil(values.length / 8));
  values.forEach((value, r) => {
    if (test(value)) out[r >> 3]! |= 1 << (r & 7);
  });
  return out;
}

function filledBits(values: Float64Array): { nullBitmap: Uint8Array; nullCount: number } {
  const nullCount = values.reduce((sum, value) => sum + (Number.isNaN(value) ? 1 : 0), 0);
  return { nullBitmap: bits(values, (value) => !Number.isNaN(value)), nullCount };
}
