import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { ranks, sortedRows } from '../rows/order.ts';
import { cellText } from '../values/cell-text.ts';
import { countedColumn, textColumn } from './builder.ts';
import { type Column, columnLength, columnMemory, countUnreadable, Tag, type TextColumn } from './column.ts';
import { stretchOf, takeColumn, takeRows } from './gather.ts';
import { SpanBuilder } from './span-builder.ts';
import { spansOf } from './spanned-column.ts';
import { makeTable } from './table.ts';
import { takenOf } from './taken.ts';

const ROWS = 60_000;
const table = makeTable({
  text: textColumn(Array.from({ length: ROWS }, (_, r) => (r % 7 === 0 ? null : `t${r % 100}`))),
  number: countedColumn(
    'number',
    Array.from({ length: ROWS }, (_, r) => (r % 5 === 0 ? null : r / 4)),
  ),
  odd: {
    type: 'number',
    values: Float64Array.from({ length: ROWS }, (_, r) => (r === 9 ? Number.NaN : r)),
    unreadable: {
      codes: new Int32Array(ROWS).fill(-1).fill(0, 9, 10),
      cells: [{ text: 'x', reason: 'no number' }],
    },
  },
  received: {
    type: 'received',
    tags: new Uint8Array(ROWS).fill(Tag.number).fill(Tag.text, 3, 4),
    values: Float64Array.from({ length: ROWS }, (_, r) => (r === 3 ? 0 : r)),
    dictionary: ['three'],
    cells: [],
  },
});
const backwards = Int32Array.from({ length: ROWS }, (_, r) => ROWS - 1 - r);
const texts = (column: Column, rows: readonly number[]) => rows.map((row) => cellText(column, row));
const LOOKED_AT = [0, 1, 5, 17, ROWS - 10, ROWS - 4, ROWS - 1];

describe('rows that were taken from many', () => {
  test('are gathered when they are looked at, and read as if they had been at once', () => {
    const taken = takeRows(table, backwards);
    taken.fields.forEach(({ name, column }, c) => {
      const source = table.fields[c]!.column;
      expect(takenOf(column), name).toBeDefined();
      expect(columnLength(column)).toBe(ROWS);
      // Asking for their memory, their unreadable cells or a few rows gathers nothing.
      expect(columnMemory(column).views).toContain(backwards);
      if (name === 'number') expect(countUnreadable(column)).toBe(0);
      const few = stretchOf(column, ROWS - 12, ROWS - 2);
      expect(takenOf(column), name).toBeDefined();
      expect(texts(few, [0, 9])).toEqual(texts(source, [11, 2]));
      expect(texts(column, LOOKED_AT)).toEqual(
        texts(
          source,
          LOOKED_AT.map((row) => ROWS - 1 - row),
        ),
      );
      expect(takenOf(column), name).toBeUndefined();
      expect({ ...column }).toEqual({ ...takeColumn(source, backwards) });
    });
  });

  test('cells that are still bytes of their source stay so, also where the source was made texts meanwhile', () => {
    const bytes = new TextEncoder().encode(Array.from({ length: ROWS }, (_, r) => `B${r % 1000}`).join('\n'));
    const builder = new SpanBuilder(ROWS);
    for (let at = 0; at < bytes.length; ) {
      const end = bytes.indexOf(10, at);
      builder.push(at, end < 0 ? bytes.length : end);
      at = end < 0 ? bytes.length : end + 1;
    }
    const source = builder.finish(bytes, new Uint8Array(), 'utf-8');
    const [first, second] = [0, 1].map(
      () =>
        takeRows({ rows: ROWS, fields: [{ name: 'a', nameOrigin: 'named', column: source }] }, backwards).fields[0]!
          .column as TextColumn,
    );
    expect(takenOf(first!)).toBeDefined();
    expect(columnLength(first!)).toBe(ROWS);
    expect(cellText(first!, 0)).toBe('B999');
    expect(takenOf(first!)).toBeUndefined();
    expect(spansOf(first!)).toBeDefined();
    expect(source.dictionary).toHaveLength(1000);
    expect(second!.dictionary[second!.codes[1]!]).toBe('B998');
    expect(takenOf(second!)).toBeUndefined();
  });

  test('taken once more they are taken from where they first stood', () => {
    const twice = takeRows(takeRows(table, backwards), backwards);
    twice.fields.forEach(({ column }, c) => {
      expect(takenOf(column)!.column).toBe(table.fields[c]!.column);
      expect(texts(column, LOOKED_AT)).toEqual(texts(table.fields[c]!.column, LOOKED_AT));
    });
    const some = takeColumn(takeRows(table, backwards).fields[1]!.column, Int32Array.of(0, -1, 2));
    expect(texts(some, [0, 1, 2])).toEqual([String((ROWS - 1) / 4), null, String((ROWS - 3) / 4)]);
  });

  test('a copy with other vectors holds those and nothing of what was to be gathered', () => {
    const { column } = takeRows(table, backwards).fields[0]!;
    const copy = { ...column, codes: Int32Array.of(0) } as Column;
    expect(columnLength(copy)).toBe(1);
  });
});

test('law: rows are sorted as by comparing them key by key, ties as they were', () => {
  const key = fc.record({
    values: fc.array(fc.option(fc.integer({ min: -3, max: 3 }).map((value) => value / 2)), {
      minLength: 30,
      maxLength: 30,
    }),
    descending: fc.boolean(),
    spread: fc.constantFrom(1, 70_000, 1e12),
  });
  fc.assert(
    fc.property(fc.array(key, { minLength: 1, maxLength: 4 }), (keys) => {
      const columns = keys.map(({ values, spread }) =>
        countedColumn(
          'number',
          values.map((value) => (value === null ? null : value * spread)),
        ),
      );
      const all = columns.map((column, k) => ranks(column, keys[k]!.descending, 'plain'));
      const plain = Array.from({ length: 30 }, (_, r) => r).sort((a, b) => {
        for (const { values, descending } of keys) {
          const [x, y] = [values[a]!, values[b]!];
          if (x === y) continue;
          if (x === null || y === null) return x === null ? 1 : -1;
          return descending ? y - x : x - y;
        }
        return a - b;
      });
      expect([...sortedRows(all, 30)]).toEqual(plain);
    }),
  );
});
