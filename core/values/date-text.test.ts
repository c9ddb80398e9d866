import { describe, expect, test } from 'vitest';
import {
  civilFromDays,
  daysFromCivil,
  daysFromSerial,
  isoDate,
  isoDateTime,
  isoTime,
  MS,
  serialFromDays,
} from './civil.ts';
import { compilePattern, readDate, writeDate } from './date-text.ts';

const read = (text: string, pattern: string, language?: string) => readDate(text, compilePattern(pattern, language));

describe('calendar', () => {
  test('days since 1970 agree with ECMAScript Date.UTC over four centuries, both ways', () => {
    for (let days = daysFromCivil(1800, 1, 1); days < daysFromCivil(2200, 1, 1); days += 13) {
      const date = new Date(days * MS.day);
      const civil = [date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate()];
      expect(civilFromDays(days)).toEqual(civil);
      expect(daysFromCivil(civil[0]!, civil[1]!, civil[2]!)).toBe(days);
    }
  });

  test('workbook serials by ISO/IEC 29500-1, 18.17.4: both systems, and the 29 February 1900 that never was', () => {
    expect(isoDate(daysFromSerial(1, 1900)!)).toBe('1900-01-01');
    expect(isoDate(daysFromSerial(59, 1900)!)).toBe('1900-02-28');
    expect(daysFromSerial(60, 1900)).toBeUndefined();
    expect(isoDate(daysFromSerial(61, 1900)!)).toBe('1900-03-01');
    expect(isoDate(daysFromSerial(0, 1904)!)).toBe('1904-01-01');
    // The two systems lie 1,462 days apart.
    expect(daysFromSerial(40_000, 1900)).toBe(daysFromSerial(40_000 - 1462, 1904));
    for (const serial of [1, 59, 61, 45_000]) expect(serialFromDays(daysFromSerial(serial, 1900)!)).toBe(serial);
  });

  test('ISO 8601 forms', () => {
    expect(isoTime(7 * MS.hour + 10 * MS.minute)).toBe('07:10');
    expect(isoTime(MS.hour + 5 * MS.second + 250)).toBe('01:00:05.250');
    expect(isoDateTime(daysFromCivil(2031, 6, 30) * MS.day + MS.hour)).toBe('2031-06-30T01:00');
  });
});

describe('UTS #35 patterns', () => {
  test.each([
    ['2031-06-30', 'yyyy-MM-dd', '2031-06-30'],
    ['30/6/2031', 'd/M/yyyy', '2031-06-30'],
    ['30.06.31', 'dd.MM.yy', '2031-06-30'],
    ['30.06.75', 'dd.MM.yy', '1975-06-30'],
    ['Mon 30 Jun 2031', 'EEE d MMM yyyy', '2031-06-30'],
    ['June 30, 2031', 'MMMM d, yyyy', '2031-06-30'],
    ['30 juin 2031', 'd MMMM yyyy', '2031-06-30'],
    ['3. März 2031', 'd. MMMM yyyy', '2031-03-03'],
    ['20310630', 'yyyyMMdd', '2031-06-30'],
    ['29 Feb 2028', 'd MMM yyyy', '2028-02-29'],
  ])('%s by %s is %s', (text, pattern, iso) => {
    expect(isoDate(read(text, pattern) as number)).toBe(iso);
  });

  test.each([
    ['7:10 pm', 'h:mm a', '19:10'],
    ['12:00 am', 'h:mm a', '00:00'],
    ['07:10:05.5', 'HH:mm:ss.SSS', '07:10:05.500'],
    ['7h10', "H'h'mm", '07:10'],
  ])('%s by %s is %s', (text, pattern, iso) => {
    expect(isoTime(read(text, pattern) as number)).toBe(iso);
  });

  test.each([
    ['31/06/2031', 'dd/MM/yyyy', 'no day 31'],
    ['29/02/2031', 'dd/MM/yyyy', 'no day 29'],
    ['12/13/2031', 'dd/MM/yyyy', 'not a month'],
    ['25:00', 'HH:mm', 'not an hour'],
    ['2031-06-30x', 'yyyy-MM-dd', 'left over'],
    ['30 Foo 2031', 'd MMM yyyy', 'not the name of a month'],
  ])('%s by %s fails: %s', (text, pattern, reason) => {
    expect(read(text, pattern)).toContain(reason);
  });

  test('a pattern with an unknown field says which', () => {
    expect(() => compilePattern('yyyy-QQ')).toThrow("'Q'");
    expect(() => compilePattern("yyyy 'open")).toThrow('closing');
    expect(() => compilePattern('--')).toThrow('no part');
  });

  test('writing and reading by one pattern gives the date back', () => {
    for (const pattern of ['yyyy-MM-dd', 'd MMMM yyyy', 'dd.MM.yyyy', 'MMM d, yyyy']) {
      const compiled = compilePattern(pattern, 'en');
      for (let days = 0; days < 30_000; days += 97)
        expect(readDate(writeDate(days, compiled, civilFromDays), compiled)).toBe(days);
    }
  });
});
