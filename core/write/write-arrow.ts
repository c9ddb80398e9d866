import type { Data, DataType } from 'apache-arrow';
import { ExportStopped } from '../formats/export-spec.ts';
import type { Field, Table } from '../table/table.ts';
import { textsOf, valueKind, valuesOf } from './value-kinds.ts';

/** Offsets of Utf8 columns are signed integers of 32 bits (Arrow columnar format). */
const MAX_TEXT_BYTES = 2 ** 31 - 1;

type Arrow = typeof import('apache-arrow');

/** A table as an Apache Arrow file (the IPC file format), columns by their types. @throws ExportStopped */
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
  if (kind === 'text') return textData(arrow, field.name, textsOf(field.column, rows));
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

/** Made here and not by the library's builders, which compile scripts from text: the application forbids that. */
function textData(arrow: Arrow, name: string, texts: readonly (string | null)[]): Data<DataType> {
  const encoder = new TextEncoder();
  const pieces = texts.map((text) => (text === null ? undefined : encoder.encode(text)));
  const valueOffsets = new Int32Array(texts.length + 1);
  pieces.forEach((piece, r) => {
    valueOffsets[r + 1] = valueOffsets[r]! + (piece?.length ?? 0);
  });
  const bytes = pieces.reduce((sum, piece) => sum + (piece?.length ?? 0), 0);
  if (bytes > MAX_TEXT_BYTES)
    throw new ExportStopped(
      `${name} holds more than 2 GiB of text, and an Arrow text column does not. Choose Parquet.`,
    );
  const data = new Uint8Array(bytes);
  pieces.forEach((piece, r) => {
    if (piece !== undefined) data.set(piece, valueOffsets[r]!);
  });
  const filled = Float64Array.from(texts, (text) => (text === null ? Number.NaN : 1));
  return arrow.makeData({ type: new arrow.Utf8(), length: texts.length, valueOffsets, data, ...filledBits(filled) });
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
