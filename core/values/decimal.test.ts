import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { openDuck } from '../test-duck.ts';
import {
  add,
  adder,
  divide,
  divider,
  multiplier,
  multiply,
  placesOf,
  power,
  remainder,
  Sum,
  subtract,
} from './decimal.ts';

/** A decimal of up to n digits and places, as text. */
const decimal = (digits: number, places: number) =>
  fc
    .tuple(fc.integer({ min: -(10 ** digits), max: 10 ** digits }), fc.integer({ min: 0, max: places }))
    .map(([whole, at]) => Number(`${whole}e-${at}`));

/** Exact, by whole numbers of any size. */
function exactly(
  a: number,
  b: number,
  how: (x: bigint, y: bigint, scale: bigint) => bigint,
): (scale: number) => number {
  const big = (value: number, scale: number) => {
    const [digits, exponent = '0'] = String(value).split('e');
    const [whole, fraction = ''] = digits!.split('.');
    const places = fraction.length - Number(exponent);
    return BigInt(`${whole}${fraction}`) * 10n ** BigInt(scale - places);
  };
  return (scale) => Number(`${how(big(a, scale), big(b, scale), 10n ** BigInt(scale))}e-${scale}`) || 0;
}

describe('decimal results for decimal input', () => {
  test('what doubles get wrong', () => {
    expect(subtract(0.3, 0.1)).toBe(0.2);
    expect(add(0.1, 0.2)).toBe(0.3);
    expect(multiply(3, 0.175)).toBe(0.525);
    expect(multiply(1.1, 1.1)).toBe(1.21);
    expect(divide(0.3, 0.1)).toBe(3);
    expect(remainder(0.3, 0.1)).toBe(0);
    expect(power(1.1, 2)).toBe(1.21);
    expect(multiply(4.35, 100)).toBe(435);
    expect(subtract(1001.1, 1000)).toBe(1.1);
  });

  test('a third is no decimal, and three of them are one', () => {
    expect(placesOf(1 / 3)).toBe(-1);
    expect(multiply(divide(1, 3), 3)).toBe(1);
    expect(divide(1, 0)).toBe(Number.POSITIVE_INFINITY);
  });

  test('sum, difference and product are the doubles nearest to the exact ones (property)', () => {
    fc.assert(
      fc.property(decimal(9, 6), decimal(9, 6), (a, b) => {
        expect(add(a, b) || 0).toBe(exactly(a, b, (x, y) => x + y)(20));
        expect(subtract(a, b) || 0).toBe(exactly(a, b, (x, y) => x - y)(20));
        expect(multiply(a, b) || 0).toBe(exactly(a, b, (x, y, scale) => (x * y) / scale)(20));
        expect(adder(1)(a, b) || 0).toBe(add(a, b) || 0);
      }),
    );
  });

  test('places that were seen before change no result (property)', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(decimal(14, 9), decimal(14, 9)), { maxLength: 20 }), (pairs) => {
        const minus = adder(-1);
        const [times, over] = [multiplier(), divider()];
        for (const [a, b] of pairs) {
          expect(minus(a, b) || 0).toBe(subtract(a, b) || 0);
          expect(times(a, b) || 0).toBe(multiply(a, b) || 0);
          if (b !== 0) expect(over(a, b) || 0).toBe(divide(a, b) || 0);
        }
      }),
    );
  });

  test('sums and means are those of DECIMAL in DuckDB', async () => {
    const duck = await openDuck();
    const random = fc.sample(fc.array(decimal(8, 4), { minLength: 1, maxLength: 60 }), { numRuns: 20, seed: 7 });
    for (const values of random) {
      const sum = new Sum();
      for (const value of values) sum.add(value);
      const list = values.map((value) => `cast('${value.toFixed(4)}' as decimal(18, 4))`).join('), (');
      const [row] = (await duck.query(`select sum(v)::varchar from (values (${list})) t(v)`)) as [[string]];
      expect(sum.value || 0).toBe(Number(row[0]) || 0);
      expect(sum.mean(values.length) / (Number(row[0]) / values.length || 1)).toBeCloseTo(sum.value === 0 ? 0 : 1, 13);
    }
  });

  test('the order of numbers changes no sum of decimals (property)', () => {
    fc.assert(
      fc.property(fc.array(decimal(9, 4), { maxLength: 30 }), (values) => {
        const total = (of: readonly number[]) => {
          const sum = new Sum();
          for (const value of of) sum.add(value);
          return sum.value || 0;
        };
        expect(total(values.toReversed())).toBe(total(values));
      }),
    );
  });

  test('small parts beside large ones, and numbers that are no decimals', () => {
    const sum = new Sum();
    for (const value of [1e16, 1, -1e16, 1 / 3]) sum.add(value);
    expect(sum.value).toBeCloseTo(1 + 1 / 3, 12);
  });
});
