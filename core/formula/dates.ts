/** Parts of dates by ISO 8601. Dates are days since 1970-01-01, times milliseconds of the day. */
import { civilFromDays, daysFromCivil, MS } from '../values/civil.ts';

export const DATE_FIELDS = ['year', 'quarter', 'month', 'week', 'day', 'dow', 'isodow', 'doy', 'isoyear'] as const;
export const TIME_FIELDS = ['hour', 'minute', 'second'] as const;
export type DateField = (typeof DATE_FIELDS)[number];
export type TimeField = (typeof TIME_FIELDS)[number];

/** Monday is 1, Sunday 7. */
export function isoWeekday(days: number): number {
  return ((((days + 3) % 7) + 7) % 7) + 1;
}

/** The year and week of ISO 8601: the week that holds the year's first Thursday is its first. */
export function isoWeek(days: number): [year: number, week: number] {
  const thursday = days - isoWeekday(days) + 4;
  const [year] = civilFromDays(thursday);
  return [year, Math.floor((thursday - daysFromCivil(year, 1, 1)) / 7) + 1];
}

export function dateField(days: number, field: DateField): number {
  const [year, month, day] = civilFromDays(days);
  switch (field) {
    case 'year':
      return year;
    case 'quarter':
      return Math.ceil(month / 3);
    case 'month':
      return month;
    case 'day':
      return day;
    case 'week':
      return isoWeek(days)[1];
    case 'isoyear':
      return isoWeek(days)[0];
    case 'isodow':
      return isoWeekday(days);
    case 'dow':
      return isoWeekday(days) % 7;
    case 'doy':
      return days - daysFromCivil(year, 1, 1) + 1;
  }
}

/** Seconds carry their fraction. */
export function timeField(ms: number, field: TimeField): number {
  if (field === 'hour') return Math.floor(ms / MS.hour);
  if (field === 'minute') return Math.floor((ms % MS.hour) / MS.minute);
  return (ms % MS.minute) / MS.second;
}

export const PERIODS = ['year', 'quarter', 'month', 'week', 'day'] as const;
export type Period = (typeof PERIODS)[number];

/** The first day of the period that a date lies in; weeks begin on Monday. */
export function periodStart(days: number, period: Period): number {
  const [year, month] = civilFromDays(days);
  switch (period) {
    case 'year':
      return daysFromCivil(year, 1, 1);
    case 'quarter':
      return daysFromCivil(year, Math.floor((month - 1) / 3) * 3 + 1, 1);
    case 'month':
      return daysFromCivil(year, month, 1);
    case 'week':
      return days - isoWeekday(days) + 1;
    case 'day':
      return days;
  }
}
