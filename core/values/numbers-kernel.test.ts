import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { decimalByte, groupByte, type NumberForm, readPlainBytes } from './number-text.ts';
import { numbersByKernel } from './numbers-kernel.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);

describe('numbers of cells that were found, by kernel and by the plain way', () => {
  const forms = fc.record({
    decimal: fc.constantFrom('.' as const, ',' as const),
    grouping: fc.constantFrom('any' as const, 'none' as const, ',' as const, '.' as const, ' ' as const),
  });
  const cell = fc.oneof(
    fc.integer({ min: -99_999_999, max: 99_999_999 }).map((n) => (n / 100).toLocaleString('en-US')),
    fc.integer({ min: -99_999_999, max: 99_999_999 }).map((n) => (n / 1000).toLocaleString('de-DE')),
    fc.constantFrom(
      '',
      '-',
      '+7',
      '-0',
      '007',
      '1,23',
      '1,234,56',
      ',5',
      '5,',
      '12.',
      '1.2.3',
      '1e5',
      '(12)',
      'é',
      '12%',
    ),
    fc.string({ maxLength: 24, unit: fc.constantFrom('1', '0', '9', ',', '.', '-', '+', ' ') }),
  );
  /** The cells as one text, each with an end, in the order of `order`. */
  const placed = (cells: readonly string[], order: readonly number[]) => {
    const bytes = bytesOf(cells.map((text) => `${text};`).join(''));
    const starts: number[] = [];
    let at = 0;
    for (const text of cells) {
      starts.push(text === '' ? -1 : at);
      at += bytesOf(text).length + 1;
    }
    return {
      bytes,
      starts: Int32Array.from(order, (k) => starts[k]!),
      lengths: Uint16Array.from(order, (k) => bytesOf(cells[k]!).length),
    };
  };
  const same = (cells: readonly string[], order: readonly number[], form: NumberForm, whole: boolean) => {
    const given = placed(cells, order);
    const found = numbersByKernel(given, { decimal: decimalByte(form), group: groupByte(form), whole })!;
    const plain = order.map((_, row) => {
      const from = given.starts[row]!;
      const value = from < 0 ? undefined : readPlainBytes(given.bytes, from, from + given.lengths[row]!, form);
      return value === undefined || (whole && !Number.isInteger(value)) ? Number.NaN : value;
    });
    expect([...found.values]).toEqual(plain);
    expect(found.filled).toBe(order.filter((k) => cells[k] !== '').length);
    expect(found.others).toBe(order.filter((k, row) => cells[k] !== '' && Number.isNaN(plain[row])).length);
    expect(found.leadingZero).toBe(order.some((k) => /^[+-]?0\d/.test(cells[k]!)));
  };

  test('law: the same numbers, whatever the cells, the marks and the order of the rows', () => {
    fc.assert(
      fc.property(
        fc.array(cell, { minLength: 1, maxLength: 40 }),
        forms,
        fc.boolean(),
        fc.boolean(),
        (some, form, whole, turned) => {
          // So many that the kernel takes them, in an order that jumps.
          const order = Array.from({ length: 9000 }, (_, k) => (turned ? k * 7 : Math.floor(k / 300)) % some.length);
          same(some, order, form, whole);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('cells that lie far apart in the source, and long ones', () => {
    const cells = Array.from({ length: 6000 }, (_, k) =>
      k % 1500 === 7 ? 'x'.repeat(60_000) : `${k},${100 + (k % 900)}.5`,
    );
    const form = { decimal: '.' as const, grouping: 'any' as const };
    same(
      cells,
      cells.map((_, k) => k),
      form,
      false,
    );
    // After a sort, say: windows would hold a few cells each, so that they are read faster without.
    const jumping = placed(
      cells,
      cells.map((_, k) => (k * 1009) % cells.length),
    );
    expect(numbersByKernel(jumping, { decimal: 46, group: 44, whole: false })).toBeUndefined();
  });
});
