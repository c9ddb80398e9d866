import fc from 'fast-check';
import { expect, test } from 'vitest';
import { runHeads } from './run-heads.ts';

const NEVER = Number.POSITIVE_INFINITY;

/** The same by looking at each row and the one before it. */
function plainHeads(all: readonly Int32Array[], rows: number): number[] {
  return Array.from({ length: rows }, (_, r) => r).filter(
    (r) => r === 0 || all.some((codes) => codes[r] !== codes[r - 1]),
  );
}

test('law: the first rows of runs are found with a kernel and without, over the ends of stretches too', () => {
  const column = fc.record({
    run: fc.integer({ min: 1, max: 300 }),
    shift: fc.nat(40),
    most: fc.integer({ min: 1, max: 2 ** 30 }),
  });
  fc.assert(
    fc.property(
      fc.array(column, { minLength: 1, maxLength: 3 }),
      fc.oneof(fc.nat(70), fc.integer({ min: 8180, max: 8210 }), fc.integer({ min: 16_380, max: 16_390 })),
      (columns, rows) => {
        const all = columns.map(({ run, shift, most }) =>
          Int32Array.from(
            { length: rows },
            (_, r) => (Math.imul(Math.floor((r + shift) / run), 0x9e3779b1) % most) - 1,
          ),
        );
        const heads = [...runHeads(all, rows, 0)];
        expect(heads).toEqual([...runHeads(all, rows, NEVER)]);
        expect(heads).toEqual(plainHeads(all, rows));
      },
    ),
    { numRuns: 300 },
  );
});
