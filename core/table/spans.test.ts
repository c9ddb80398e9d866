import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cellText, textView } from '../values/cell-text.ts';
import { columnLength } from './column.ts';
import { takeColumn } from './gather.ts';
import { SpanBuilder, spansOf } from './spans.ts';

const encoder = new TextEncoder();

/** Cells written one behind the other, as in a file, and a column of the runs in which they stand. */
function columnOf(cells: readonly (string | null)[]) {
  const builder = new SpanBuilder(1);
  const parts: Uint8Array[] = [];
  let at = 0;
  for (const cell of cells) {
    const bytes = encoder.encode(cell ?? '');
    parts.push(bytes);
    builder.push(at, at + bytes.length);
    at += bytes.length;
  }
  const all = new Uint8Array(at);
  let to = 0;
  for (const part of parts) {
    all.set(part, to);
    to += part.length;
  }
  return builder.finish(all, new Uint8Array(), 'utf-8');
}

describe('texts that are still bytes of their source', () => {
  test('law: they read as they were written, one by one and as a whole', () => {
    const cell = fc.option(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 40 }), { nil: null });
    fc.assert(
      fc.property(fc.array(cell, { minLength: 1, maxLength: 60 }), (cells) => {
        const column = columnOf(cells);
        const spans = spansOf(column)!;
        expect(columnLength(column)).toBe(cells.length);
        cells.forEach((text, row) => {
          expect(spans.text(row)).toBe(text);
          expect(spans.isBlank(row)).toBe(text === null);
          expect(cellText(column, row)).toBe(text);
        });
        const { codes, texts } = textView(column);
        expect([...codes].map((code) => (code < 0 ? null : texts[code]))).toEqual(cells);
      }),
    );
  });

  test('a cell of more bytes than the short length can say reads whole', () => {
    const long = 'x'.repeat(70_000);
    const column = columnOf(['a', long, null, 'b']);
    expect(spansOf(column)!.text(1)).toBe(long);
    expect(cellText(column, 3)).toBe('b');
  });

  test('rows taken out of them stay bytes, and read the same in their new order', () => {
    const column = columnOf(['Hask', null, 'Ullin', 'Tarve']);
    const taken = takeColumn(column, Int32Array.of(3, 1, 0, 0));
    expect([0, 1, 2, 3].map((row) => cellText(taken, row))).toEqual(['Tarve', null, 'Hask', 'Hask']);
  });

  test('looked at as a whole they become codes, and a copy with other codes holds no bytes', () => {
    const column = columnOf(['Hask', 'Hask', 'Ullin']);
    expect(spansOf({ ...column })).toBeUndefined();
    expect(column.codes.length).toBe(3);
    expect(spansOf(column)).toBeUndefined();
  });
});
