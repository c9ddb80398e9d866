import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cellText, rowsReading } from '../values/cell-text.ts';
import { toCounted } from '../values/convert.ts';
import { NumberForm } from '../values/number-text.ts';
import { textColumn } from './builder.ts';
import { type CountedColumn, columnLength, type TextColumn } from './column.ts';
import { stretchOf, takeColumn } from './gather.ts';
import { SpanBuilder, spansOf } from './spans.ts';

/** The cells as runs of bytes, with numbers read on the way as where text is divided. */
function spanned(cells: readonly (string | null)[]): TextColumn {
  const bytes = new TextEncoder().encode(cells.map((cell) => cell ?? '').join(','));
  const builder = new SpanBuilder(16, bytes);
  let at = 0;
  for (const cell of cells) {
    const end = at + new TextEncoder().encode(cell ?? '').length;
    builder.push(at, end);
    at = end + 1;
  }
  return builder.finish(bytes, new Uint8Array(), 'utf-8');
}

function told(column: CountedColumn) {
  const { values, unreadable } = column;
  return Array.from(values, (value, r) => {
    const code = unreadable?.codes[r] ?? -1;
    return code < 0 ? value : unreadable!.cells[code];
  });
}

describe('cells as runs of bytes', () => {
  const number = fc.oneof(
    fc.integer({ min: -99_999, max: 99_999 }).map(String),
    fc.integer({ min: 0, max: 999_999 }).map((value) => (value / 100).toFixed(2)),
    fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
    fc.constantFrom('-0', '007', '1.', '.5', '123456789012345', '1234567890123456', '0.1', '-.25', '00'),
  );
  const other = fc.constantFrom('1,204', '12%', 'Hask', '(5)', 'é', '-', '1.2.3', '5 000', null);
  const cells = fc.array(fc.oneof({ weight: 12, arbitrary: number }, other), { minLength: 1, maxLength: 200 });
  const forms = fc.constantFrom<{ type: 'number' | 'whole'; decimal: '.' | ',' }>(
    { type: 'number', decimal: '.' },
    { type: 'whole', decimal: '.' },
    { type: 'number', decimal: ',' },
  );

  test('law: numbers that were read on the way are those that texts give, whole or in part', () => {
    fc.assert(
      fc.property(cells, forms, fc.nat(), fc.nat(), (given, { type, decimal }, a, b) => {
        const form = { type, number: NumberForm.parse({ decimal }), patterns: [] };
        const [from, to] = [a % (given.length + 1), b % (given.length + 1)].sort((x, y) => x - y) as [number, number];
        const [column, texts] = [spanned(given), textColumn(given)];
        expect(told(toCounted(column, form))).toEqual(told(toCounted(texts, form)));
        const part = toCounted(stretchOf(column, from, to), form);
        expect(told(part)).toEqual(told(toCounted(textColumn(given.slice(from, to)), form)));
        const rows = Int32Array.from([to - 1, -1, from, from]).map((row) => (row < given.length ? row : -1));
        const taken = Array.from(rows, (row) => (row < 0 ? null : given[row]!));
        expect(told(toCounted(takeColumn(column, rows), form))).toEqual(told(toCounted(textColumn(taken), form)));
        // The texts are still there as they were.
        expect(given.map((_, r) => cellText(column, r))).toEqual(given);
      }),
      { numRuns: 300 },
    );
  });

  test('numbers of a column that nearly all are ones are read once; elsewhere they are not', () => {
    const many = Array.from({ length: 500 }, (_, r) => (r === 0 ? 'Fare' : String(r / 4)));
    expect(spansOf(spanned(many))!.numbers?.values[8]).toBe(2);
    expect(spansOf(spanned(many.map((cell, r) => (r % 3 === 0 ? cell : 'Hask'))))!.numbers).toBeUndefined();
    expect(spansOf(spanned([...many, ...many.map(() => 'Hask')]))!.numbers).toBeUndefined();
    // A stretch of rows shares them.
    const column = spanned(many);
    const typed = toCounted(stretchOf(column, 1, 500), { type: 'number', number: NumberForm.parse({}), patterns: [] });
    expect(typed.values.buffer).toBe(spansOf(column)!.numbers!.values.buffer);
  });

  test('law: rows that read like a text are found by bytes as by texts', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'é', '1', '港'), maxLength: 3 });
    fc.assert(
      fc.property(fc.array(fc.option(text), { minLength: 1 }), text, (given, wanted) => {
        const filled = given.map((cell) => (cell === '' ? null : cell));
        expect([...rowsReading(spanned(filled), wanted)]).toEqual(filled.map((cell) => (cell === wanted ? 1 : 0)));
        expect(columnLength(spanned(filled))).toBe(given.length);
      }),
    );
  });
});
