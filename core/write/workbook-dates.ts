import type { Column } from '../table/column.ts';
import { MS, SERIAL_10000 } from '../values/civil.ts';

/** Days from the workbook's day zero (1900 system, with its leap day of 1900) to 1970-01-01. ISO/IEC 29500. */
const EPOCH = 25_569;

/** The number by which a workbook tells a day, a time or both; undefined where it tells none of this cell. */
export function serialOf(column: Column, row: number): number | undefined {
  if (column.type !== 'date' && column.type !== 'time' && column.type !== 'datetime') return undefined;
  const value = column.values[row]!;
  if (Number.isNaN(value)) return undefined;
  if (column.type === 'time') return value / MS.day;
  const serial = (column.type === 'date' ? value : value / MS.day) + EPOCH;
  // Before March 1900 the workbook's calendar is another: the text says it better.
  return serial < 61 || serial >= SERIAL_10000 ? undefined : serial;
}
