import fc from 'fast-check';
import { expect, test } from 'vitest';
import { getPath, setPath } from './path.ts';

test('a value is found and put by its dotted path, in lists too, and the rest is the same object', () => {
  const params = { keys: [{ left: 'Port', right: 'Code' }, { left: 'Month' }], how: { exact: true } };
  expect(getPath(params, 'keys.0.right')).toBe('Code');
  expect(getPath(params, 'keys.5.right')).toBeUndefined();
  const next = setPath(params, 'keys.1.left', 'Year');
  expect(next.keys).toEqual([{ left: 'Port', right: 'Code' }, { left: 'Year' }]);
  expect(next.keys[0]).toBe(params.keys[0]);
  expect(next.how).toBe(params.how);
  expect(params.keys[1]!.left).toBe('Month');
});

test('undefined takes the key away, and a path that is not there is made', () => {
  expect(setPath({ a: 1, b: 2 }, 'b', undefined)).toEqual({ a: 1 });
  expect(setPath<object>({}, 'at.column', 'Port')).toEqual({ at: { column: 'Port' } });
});

test('law: what was put is what is found', () => {
  const key = fc.string({ minLength: 1, maxLength: 5 }).filter((text) => !text.includes('.') && text !== '__proto__');
  fc.assert(
    fc.property(fc.array(key, { minLength: 1, maxLength: 4 }), fc.integer(), (keys, value) => {
      const path = keys.join('.');
      expect(getPath(setPath<object>({}, path, value), path)).toBe(value);
    }),
  );
});
