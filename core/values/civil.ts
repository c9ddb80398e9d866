/** The proleptic Gregorian calendar in days since 1970-01-01, without Date objects. */
export const MS = { second: 1000, minute: 60_000, hour: 3_600_000, day: 86_400_000 } as const;

/** Days since 1970-01-01 of a civil date. Months count from 1. */
export function daysFromCivil(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146_097 + dayOfEra - 719_468;
}

/** [year, month from 1, day] of days since 1970-01-01. */
export function civilFromDays(days: number): [number, number, number] {
  const z = Math.floor(days) + 719_468;
  const era = Math.floor(z / 146_097);
  const dayOfEra = z - era * 146_097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const mp = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * mp + 2) / 5) + 1;
  const month = mp < 10 ? mp + 3 : mp - 9;
  return [yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, day];
}

export function isLeapYear(year: number): boolean {
  return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
}

export function daysInMonth(year: number, month: number): number {
  return month === 2 ? (isLeapYear(year) ? 29 : 28) : [4, 6, 9, 11].includes(month) ? 30 : 31;
}

const two = (n: number) => String(n).padStart(2, '0');

/** ISO 8601: 2031-06-30. Years past four digits get a sign. */
export function isoDate(days: number): string {
  const [year, month, day] = civilFromDays(days);
  const digits = String(Math.abs(year)).padStart(4, '0');
  const signed = year < 0 ? `-${digits.padStart(6, '0')}` : year > 9999 ? `+${digits.padStart(6, '0')}` : digits;
  return `${signed}-${two(month)}-${two(day)}`;
}

/** ISO 8601: 07:10, or 07:10:05, or 07:10:05.250; no finer than the value needs. */
export function isoTime(ms: number): string {
  const hours = Math.floor(ms / MS.hour);
  const minutes = Math.floor((ms % MS.hour) / MS.minute);
  const rest = ms % MS.minute;
  const text = `${two(hours)}:${two(minutes)}`;
  if (rest === 0) return text;
  const seconds = Math.floor(rest / MS.second);
  const fraction = Math.round(rest % MS.second);
  return `${text}:${two(seconds)}${fraction === 0 ? '' : `.${String(fraction).padStart(3, '0')}`}`;
}

/** ISO 8601 with T: 2031-06-30T07:10. */
export function isoDateTime(ms: number): string {
  const days = Math.floor(ms / MS.day);
  return `${isoDate(days)}T${isoTime(ms - days * MS.day)}`;
}

/**
 * Workbook serial number to days since 1970-01-01 (ISO/IEC 29500-1, 18.17.4). In the 1900 system serial 60 is a
 * 29 February 1900 that never was: it gives undefined, and serials before it count from 1899-12-31.
 */
export function daysFromSerial(serial: number, system: 1900 | 1904): number | undefined {
  const whole = Math.floor(serial);
  if (system === 1904) return whole < 0 ? undefined : whole + daysFromCivil(1904, 1, 1);
  if (whole < 0 || whole === 60) return undefined;
  return whole + (whole < 60 ? daysFromCivil(1899, 12, 31) : daysFromCivil(1899, 12, 30));
}

/** Serial number of 10000-01-01 in the 1900 system, where the calendar of workbooks ends. */
export const SERIAL_10000 = 2_958_466;

/** Days since 1970-01-01 to a workbook serial number in the 1900 system. */
export function serialFromDays(days: number): number {
  const serial = days - daysFromCivil(1899, 12, 30);
  return serial > 60 ? serial : serial - 1;
}

/** Days from day zero of the 1900 date system to 1970-01-01 (ISO/IEC 29500-1, 18.17.4). */
const SERIAL_1970 = 25_569;
/** Days that two dates of one record lie apart at most, nearly always. */
const MAX_APART = 400;

/**
 * Whether whole numbers are days as workbooks count them: row by row they lie near the dates of another column.
 * @param days since 1970, NaN where there is none
 */
export function areSerialDays(values: Float64Array, days: Float64Array): boolean {
  let [near, both] = [0, 0];
  for (let r = 0; r < values.length; r++) {
    const value = values[r]!;
    const day = days[r]!;
    if (Number.isNaN(value) || Number.isNaN(day)) continue;
    both++;
    if (Number.isInteger(value) && Math.abs(value - SERIAL_1970 - day) <= MAX_APART) near++;
  }
  return both > 2 && near >= both * 0.95;
}
