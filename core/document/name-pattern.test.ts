import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fitsPattern, guessPattern, orderOfNames } from './name-pattern.ts';

test.each([
  ['quay-returns-q2.xlsx', 'quay-returns-q*.xlsx', 'quay-returns-q3.xlsx'],
  ['weighbridge.prn', 'weighbridge.prn', 'WEIGHBRIDGE.PRN'],
  ['Arrivals June 2031.csv', 'Arrivals * *.csv', 'arrivals July 2031.csv'],
  ['marina-may-maybe.csv', 'marina-*-maybe.csv', 'marina-june-maybe.csv'],
])('%s: the next one fits %s', (name, pattern, next) => {
  expect(guessPattern(name)).toBe(pattern);
  expect(fitsPattern(pattern)(name)).toBe(true);
  expect(fitsPattern(pattern)(next)).toBe(true);
});

test.each([
  ['a*b*c', 'aXXbYYc', true],
  ['a*b*c', 'aXXcYYb', false],
  ['*.csv', '.csv', true],
  ['q?.xlsx', 'q.xlsx', false],
  ['a.c', 'abc', false],
  ['ab*ba', 'aba', false],
])('%s and %s: %s', (pattern, name, fits) => {
  expect(fitsPattern(pattern)(name)).toBe(fits);
});

test.each([
  [['returns-2031-06.xlsx', 'returns-2031-07.xlsx', 'returns-2032-01.xlsx']],
  [['returns 12-2031.xlsx', 'returns 01-2032.xlsx', 'returns 2-2032.xlsx']],
  [['Arrivals May 2031.csv', 'arrivals june 2031.csv', 'Arrivals Sept 2031.csv', 'Arrivals January 2032.csv']],
  [['30.06.2031.csv', '01.07.2031.csv', '1.1.2032.csv']],
  [['q4-2031.csv', 'q1-2032.csv']],
  [['20310630.log', '20310701.log']],
  [['week 9.csv', 'week 10.csv']],
])('%s: in the order in which they came', (names) => {
  expect(names.toReversed().sort(orderOfNames)).toEqual(names);
});

/** Beside ECMAScript's regular expressions. */
test('law: it says what a regular expression of the same meaning says', () => {
  const letters = fc.string({ unit: fc.constantFrom('a', 'b', '*', '?', '.'), maxLength: 8 });
  const names = fc.string({ unit: fc.constantFrom('a', 'b', '.'), maxLength: 10 });
  fc.assert(
    fc.property(letters, names, (pattern, name) => {
      const expression = pattern.replaceAll('.', '\\.').replaceAll('*', '.*').replaceAll('?', '.');
      expect(fitsPattern(pattern)(name)).toBe(new RegExp(`^${expression}$`).test(name));
    }),
  );
});

test('many stars against a long name are soon told', () => {
  expect(fitsPattern(`${'*a'.repeat(40)}b`)('a'.repeat(4000))).toBe(false);
});
