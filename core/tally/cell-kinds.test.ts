import fc from 'fast-check';
import { expect, test } from 'vitest';
import { textColumn } from '../table/builder.ts';
import { Tag } from '../table/column.ts';
import { SpanBuilder } from '../table/span-builder.ts';
import { spansOf } from '../table/spanned-column.ts';
import { NumberForm } from '../values/number-text.ts';
import { Kind, kindsOf } from './cell-kinds.ts';
import { figureOfText } from './figure.ts';

function spanned(texts: readonly (string | null)[], encoding = 'utf-8', readsNumbers = false) {
  const bytes = new TextEncoder().encode(texts.map((text) => text ?? '').join(''));
  const builder = new SpanBuilder(4, readsNumbers ? bytes : undefined);
  let at = 0;
  for (const text of texts) {
    const end = at + new TextEncoder().encode(text ?? '').length;
    builder.push(at, end);
    at = end;
  }
  return builder.finish(bytes, new Uint8Array(), encoding);
}

const FORM = NumberForm.parse({});
const kindOf = (text: string | null) => {
  if (text === null || /^ *$/.test(text)) return Kind.blank;
  return figureOfText(text, FORM) === undefined ? Kind.words : Kind.figure;
};

test('law: a cell counts as a figure from its bytes or its shape exactly where its text is read as one', () => {
  const piece = fc.oneof(
    fc.integer({ min: 0, max: 99_999 }).map(String),
    fc.constantFrom('.', ',', "'", ' ', '\u00a0', '-', '+', '−', '(', ')', '%', 'e', 'E', 'k', 'M', 'mio', 'bn', 'CR'),
    fc.constantFrom('€', '$', 'USD ', ' kr', '*', '†', '(a)', 'a', 'B', 'Hask', '/', ':', '²', '000', '9'),
  );
  const text = fc.array(piece, { minLength: 1, maxLength: 6 }).map((pieces) => pieces.join(''));
  fc.assert(
    fc.property(fc.array(fc.option(text, { freq: 8 }), { minLength: 1, maxLength: 30 }), (texts) => {
      const expected = texts.map(kindOf);
      const column = spanned(texts);
      expect([...kindsOf(column)]).toEqual(expected);
      // No dictionary was made of it.
      expect(spansOf(column)).toBeDefined();
      expect([...kindsOf(textColumn(texts))]).toEqual(expected);
    }),
    { numRuns: 1500 },
  );
});

test('law: so it is where numbers were read on the way', () => {
  const number = fc.oneof(
    fc.integer({ min: -99_999, max: 99_999 }).map(String),
    fc.integer({ min: -99_999, max: 99_999 }).map((n) => (n / 100).toFixed(2)),
    fc.constantFrom('-0', '007', '1.', '.5', '-.25', '00', '123456789012345'),
  );
  const odd = fc.constantFrom('1,204', '12%', 'Hask', '(5)', '-', '1.2.3', '.', '1234567890123456', null);
  const texts = fc.array(fc.oneof({ weight: 20, arbitrary: number }, odd), { minLength: 64, maxLength: 150 });
  fc.assert(
    fc.property(texts, (given) => {
      const column = spanned(given, 'utf-8', true);
      fc.pre(spansOf(column)!.numbers !== undefined);
      expect([...kindsOf(column)]).toEqual(given.map(kindOf));
    }),
    { numRuns: 300 },
  );
});

test('numbers of a workbook are figures, dates and errors are words; in encodings where digits may be halves of letters', () => {
  const column = {
    type: 'received' as const,
    tags: Uint8Array.of(Tag.blank, Tag.number, Tag.date, Tag.text, Tag.text, Tag.unreadable, Tag.yesno),
    values: Float64Array.of(0, 12, 45000, 0, 1, 0, 1),
    dictionary: ['1,204', 'Hask'],
    cells: [{ text: '#N/A', reason: 'an error' }],
  };
  expect([...kindsOf(column)]).toEqual([0, 2, 1, 2, 1, 1, 1]);
  expect([...kindsOf(spanned(['12', 'Hask 7', null], 'gb18030'))]).toEqual([2, 1, 0]);
});
