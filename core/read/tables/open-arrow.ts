/** Apache Arrow (IPC files and streams, and Feather 2, which is the same) as a table, by its own types. */

import type { Data, DataType, RecordBatch, RecordBatchReader, RecordBatchStreamReader, Vector } from 'apache-arrow';
import { decoderOf } from '../../table/decoder.ts';
import { decimalValue, FineTime, float32Value } from './exact-values.ts';
import { type OpenedTable, shortenedNotices } from './opened-table.ts';
import { type Holds, jsonWhole, TypedColumn } from './typed-column.ts';

/** @throws whatever the library throws for a damaged file */
export async function arrowTable(bytes: Uint8Array, name: string): Promise<OpenedTable> {
  const arrow = await import('apache-arrow');
  const { DataType: Types } = arrow;
  const reader = arrow.RecordBatchReader.from(bytes).open();
  const table = new arrow.Table(reader.schema, batchesOf(reader));
  // Every value takes a bit at least: a damaged file may say that it has any number of rows.
  if (table.numRows > bytes.length * 8)
    throw new Error(`it says that it has ${table.numRows} rows, more than it has room for`);
  const holdsOf = (type: DataType): Holds => {
    if (Types.isDictionary(type)) return holdsOf(type.dictionary as DataType);
    if (Types.isInt(type)) return 'whole';
    if (Types.isFloat(type) || Types.isDecimal(type)) return 'number';
    if (Types.isBool(type)) return 'yesno';
    if (Types.isDate(type)) return 'date';
    if (Types.isTimestamp(type)) return 'datetime';
    if (Types.isTime(type)) return 'time';
    return Types.isUtf8(type) || Types.isLargeUtf8(type) || Types.isBinary(type) ? 'text' : 'any';
  };
  const columns = table.schema.fields.map((field, c) => {
    const vector = table.getChildAt(c) as Vector;
    const column = new TypedColumn(holdsOf(field.type), table.numRows);
    for (const value of valuesOf(vector, Types)) column.push(value);
    return column;
  });
  const names = table.schema.fields.map((field) => field.name);
  return {
    name,
    rows: table.numRows,
    names,
    columns: columns.map((column) => column.finish()),
    notices: shortenedNotices(names, columns),
  };
}

/** The library's own walk through a file stays for ever at a block that holds another message than its footer says. */
function batchesOf(reader: RecordBatchReader): RecordBatch[] {
  if (!reader.isFile()) return [...(reader as RecordBatchStreamReader)];
  // Bytes in memory are read at once, whatever the type says.
  return Array.from({ length: reader.numRecordBatches }, (_, k) => {
    const batch = reader.readRecordBatch(k) as RecordBatch | null;
    if (batch === null) throw new Error(`part ${k + 1} of its rows is not where the end of the file says`);
    return batch;
  });
}

const utf8 = decoderOf('utf-8');

/** The values of a vector in order, as they were written; null for blank. */
function* valuesOf(vector: Vector, Types: typeof DataType): Generator<unknown> {
  for (const data of vector.data) {
    const read = reader(data, vector, Types);
    for (let r = 0; r < data.length; r++) yield data.getValid(r) ? read(r) : null;
  }
}

/** How a row of one piece of a vector is read. The library's own way loses byte order marks and parts of milliseconds. */
function reader(data: Data, vector: Vector, Types: typeof DataType): (row: number) => unknown {
  const type = data.type as DataType;
  if (Types.isDictionary(type)) {
    const entries = [...valuesOf(data.dictionary as Vector, Types)];
    return (row) => entries[Number(data.values[row])];
  }
  if (Types.isUtf8(type) || Types.isLargeUtf8(type)) {
    const { values, valueOffsets } = data;
    return (row) => utf8.decode(values.subarray(Number(valueOffsets[row]), Number(valueOffsets[row + 1])));
  }
  if (Types.isDecimal(type)) {
    const { values, stride } = data;
    return (row) => decimalValue(wholeOf(values.subarray(stride * row, stride * (row + 1))), type.scale);
  }
  if (Types.isTimestamp(type) || Types.isTime(type)) {
    const { values } = data;
    // By unit: seconds, milliseconds, microseconds, nanoseconds.
    const [times, parts] = [
      [1000n, 1n],
      [1n, 1n],
      [1n, 1000n],
      [1n, 1_000_000n],
    ][type.unit]! as [bigint, bigint];
    return (row) => new FineTime(BigInt(values[row]) * times, parts);
  }
  if (Types.isFloat(type) && type.precision === Precision.SINGLE) return (row) => float32Value(data.values[row]);
  const piece = new (vector.constructor as new (data: Data[]) => Vector)([data]);
  return (row) => {
    const value = piece.get(row);
    if (value === null || typeof value !== 'object' || value instanceof Uint8Array || value instanceof Date)
      return value;
    return JSON.parse(JSON.stringify(value, (_, one) => (typeof one === 'bigint' ? jsonWhole(one) : one)));
  };
}

/** Little-endian words in two's complement as one whole number. */
function wholeOf(words: Uint32Array): bigint {
  let whole = 0n;
  for (let k = words.length - 1; k >= 0; k--) whole = (whole << 32n) | BigInt(words[k]!);
  return BigInt.asIntN(words.length * 32, whole);
}

/** Of the flatbuffer schema of Arrow (Precision). */
const Precision = { SINGLE: 1 } as const;
