/** Apache Arrow (IPC files and streams, and Feather 2, which is the same) as a table, by its own types. */

import type { DataType, Vector } from 'apache-arrow';
import type { OpenedTable } from './opened-table.ts';
import { type Holds, TypedColumn } from './typed-column.ts';

/** @throws whatever the library throws for a damaged file */
export async function arrowTable(bytes: Uint8Array, name: string): Promise<OpenedTable> {
  const arrow = await import('apache-arrow');
  const { DataType: Types } = arrow;
  const table = arrow.tableFromIPC(bytes);
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
  /** A value as it is meant: decimals by their scale, times of day in milliseconds. */
  const meant = (value: unknown, type: DataType): unknown => {
    if (value === null || value === undefined) return null;
    if (Types.isDecimal(type)) return decimal(value as Uint32Array, type.scale);
    if (Types.isTime(type)) return Number(value) / [1 / 1000, 1, 1000, 1_000_000][type.unit]!;
    if (Types.isList(type) || Types.isFixedSizeList(type) || Types.isStruct(type) || Types.isMap(type))
      return JSON.parse(JSON.stringify(value, (_, one) => (typeof one === 'bigint' ? Number(one) : one)));
    return value;
  };
  const columns = table.schema.fields.map((field, c) => {
    const vector = table.getChildAt(c) as Vector;
    const column = new TypedColumn(holdsOf(field.type), table.numRows);
    for (let r = 0; r < table.numRows; r++) column.push(meant(vector.get(r), field.type));
    return column.finish();
  });
  return {
    name,
    rows: table.numRows,
    names: table.schema.fields.map((field) => field.name),
    columns,
  };
}

/** Little-endian words in two's complement, of so many decimal digits behind the point. */
function decimal(words: Uint32Array, scale: number): number {
  let whole = 0n;
  for (let k = words.length - 1; k >= 0; k--) whole = (whole << 32n) | BigInt(words[k]!);
  const signed = BigInt.asIntN(words.length * 32, whole);
  const digits = String(signed < 0n ? -signed : signed).padStart(scale + 1, '0');
  const text = scale === 0 ? digits : `${digits.slice(0, -scale)}.${digits.slice(-scale)}`;
  return Number(signed < 0n ? `-${text}` : text);
}
