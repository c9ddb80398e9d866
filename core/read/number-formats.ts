import { SSF } from '@e965/xlsx';
import { Tag, type Unreadable } from '../table/column.ts';
import { daysFromSerial, MS, SERIAL_10000 } from '../values/civil.ts';

/** Serial number of 1900-02-29 in the 1900 system (ISO/IEC 29500, 18.17.4.1). */
const LEAP_DAY = 60;

export type DateSystem = 1900 | 1904;

export const GENERAL = 'General';

/** Whether a number in this format is a date, a time or both. */
export function isDated(format: string): boolean {
  return SSF.is_date(format);
}

/** What a number is in a format that makes a date, a time or both of it. */
export function readDated(
  value: number,
  format: string,
  system: DateSystem,
): { tag: number; value: number } | Unreadable {
  // Elapsed hours, [h]:mm: no time of day from a day on, and kept in days as they are stored.
  if (/^[^;"]*\[(?:h+|m+|s+)\]/i.test(format) && (value >= 1 || value < 0)) return { tag: Tag.number, value };
  const day = Math.floor(value);
  const ms = Math.round((value - day) * MS.day);
  const dated = /[yd]|m(?!m?:)(?<!:m)/i.test(format.replace(/\[[^\]]*\]|"[^"]*"/g, ''));
  const days = daysFromSerial(value, system);
  if (dated && system === 1900 && day === LEAP_DAY) {
    return {
      text: shownNumber(value, format, system) ?? String(value),
      reason: 'a day that never was: workbooks count a 29th of February 1900',
    };
  }
  if (value >= 0 && value < 1 && !/[yd]/i.test(format)) return { tag: Tag.time, value: ms % MS.day };
  if (!dated || days === undefined || day >= SERIAL_10000) return { tag: Tag.number, value };
  if (ms === 0) return { tag: Tag.date, value: days };
  return { tag: Tag.datetime, value: days * MS.day + ms };
}

/** A number or yes/no as its format shows it; undefined where the format cannot be followed. */
export function shownNumber(value: number | boolean, format: string, system: DateSystem): string | undefined {
  try {
    return SSF.format(format, value, { date1904: system === 1904 });
  } catch {
    return undefined;
  }
}
