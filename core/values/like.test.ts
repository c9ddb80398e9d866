import { expect, test } from 'vitest';
import { Like } from './like.ts';

test.each<[string, string, boolean, string?]>([
  ['H%k', 'Hask', true],
  ['H%k', 'Hasks', false],
  ['%', '', true],
  ['', '', true],
  ['', 'a', false],
  ['_', '😀', true],
  ['a_c', 'abbc', false],
  ['%ab%ab', 'ab', false],
  ['%ab%ab', 'abab', true],
  ['100!%', '100%', true, '!'],
  ['100!%', '1000', false, '!'],
  ['a%b%c', 'a1b2b3c', true],
])('LIKE %s on %s', (pattern, text, wanted, escaped) => {
  expect(new Like(pattern, escaped).test(text)).toBe(wanted);
});

test('many % signs on a long text end at once', () => {
  expect(new Like(`${'%a'.repeat(30)}%b`).test('a'.repeat(200_000))).toBe(false);
});
