import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cellAfter, cellsOf, isWithin, rangeOf } from './grid-types.ts';

const size = { rows: 100, columns: 8, page: 20 };

// Common practice of grids, as in the WAI-ARIA Authoring Practices (grid pattern): arrows by one cell, Page by what is
// in sight, Home and End within the row, with Ctrl to the first and the last cell.
describe('keys in a grid', () => {
  test.each([
    ['ArrowDown', false, { row: 11, column: 3 }],
    ['ArrowUp', false, { row: 9, column: 3 }],
    ['ArrowLeft', false, { row: 10, column: 2 }],
    ['ArrowRight', false, { row: 10, column: 4 }],
    ['PageDown', false, { row: 30, column: 3 }],
    ['PageUp', false, { row: 0, column: 3 }],
    ['Home', false, { row: 10, column: 0 }],
    ['End', false, { row: 10, column: 7 }],
    ['Home', true, { row: 0, column: 0 }],
    ['End', true, { row: 99, column: 7 }],
  ])('%s (Ctrl: %s)', (key, ctrl, to) => {
    expect(cellAfter(key, ctrl, { row: 10, column: 3 }, size)).toEqual(to);
  });

  test('other keys lead nowhere, and in an empty grid none does', () => {
    expect(cellAfter('a', false, { row: 0, column: 0 }, size)).toBeUndefined();
    expect(cellAfter('ArrowDown', false, { row: 0, column: 0 }, { ...size, rows: 0 })).toBeUndefined();
  });

  test('law: a key never leaves the grid', () => {
    const key = fc.constantFrom('ArrowDown', 'ArrowUp', 'ArrowLeft', 'ArrowRight', 'PageDown', 'PageUp', 'Home', 'End');
    fc.assert(
      fc.property(key, fc.boolean(), fc.nat(99), fc.nat(7), (name, ctrl, row, column) => {
        const next = cellAfter(name, ctrl, { row, column }, size)!;
        expect(isWithin({ from: { row: 0, column: 0 }, to: { row: 99, column: 7 } }, next.row, next.column)).toBe(true);
      }),
    );
  });
});

test('law: a rectangle holds both of its corners, whichever comes first', () => {
  const cell = fc.record({ row: fc.nat(50), column: fc.nat(50) });
  fc.assert(
    fc.property(cell, cell, (a, b) => {
      const range = rangeOf(a, b);
      expect(range).toEqual(rangeOf(b, a));
      for (const one of [a, b]) expect(isWithin(range, one.row, one.column)).toBe(true);
    }),
  );
});

test('a merge covers its cells', () => {
  expect(cellsOf({ row: 2, column: 1, rows: 2, columns: 2 })).toEqual(['2:1', '2:2', '3:1', '3:2']);
});
