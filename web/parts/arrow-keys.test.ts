import { expect, test } from 'vitest';
import { indexAfter } from './arrow-keys.ts';

// WAI-ARIA Authoring Practices, tabs pattern: the arrows wrap around, Home and End go to the ends.
test.each([
  ['ArrowRight', 0, 1],
  ['ArrowRight', 2, 0],
  ['ArrowLeft', 0, 2],
  ['ArrowDown', 1, 2],
  ['ArrowUp', 1, 0],
  ['Home', 2, 0],
  ['End', 0, 2],
  ['a', 0, undefined],
])('%s from %i of three leads to %s', (key, at, to) => {
  expect(indexAfter(key, at, 3)).toBe(to);
});

test('nothing leads anywhere in an empty row', () => {
  expect(indexAfter('ArrowRight', -1, 0)).toBeUndefined();
});
