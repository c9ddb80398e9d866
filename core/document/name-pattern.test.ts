import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fitsPattern, guessPattern } from './name-pattern.ts';

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
