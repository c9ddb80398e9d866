/** Cells that are written from bytes and numbers, beside the same cells written from texts. */
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { countedColumn, makeTable, readDelimited, type Table, textColumn } from '../index.ts';
import { cellsOf, quiet } from '../test-support.ts';
import { writeParquet } from './parquet/write-parquet.ts';
import { type DelimitedChoices, writeDelimited } from './write-delimited.ts';

const UTF8 = new TextDecoder();
const cell = fc.oneof(
  fc.string({
    unit: fc.constantFrom('a', 'B', '7', ' ', ',', ';', '"', '\n', '\r', '=', '-', '@', 'é', '😀', '\ufeff'),
    maxLength: 8,
  }),
  fc.constantFrom('Hask', 'Ullin', '1,229', '=1+1', '-5', '+a'),
);
const rows = fc
  .integer({ min: 1, max: 3 })
  .chain((columns) =>
    fc.array(fc.array(cell, { minLength: columns, maxLength: columns }), { minLength: 1, maxLength: 12 }),
  );

/** The cells as they are read: runs of their source's bytes. */
function readBack(cells: string[][], encoding: 'utf-8' | 'windows-1252'): Table | undefined {
  const text = cells.map((row) => row.map((one) => `"${one.replaceAll('"', '""')}"`).join(',')).join('\n');
  const bytes =
    encoding === 'utf-8' ? new TextEncoder().encode(text) : Uint8Array.from(text, (one) => one.charCodeAt(0));
  if (encoding !== 'utf-8' && [...text].some((one) => one > 'ÿ')) return undefined;
  const params = readDelimited.params.parse({ source: 's', delimiter: ',', encoding });
  return readDelimited.read({ name: 'a.csv', bytes }, params, quiet).table;
}

/** The same cells as texts of a dictionary. */
function asTexts(table: Table): Table {
  const cells = cellsOf(table);
  return makeTable(
    Object.fromEntries(table.fields.map(({ name }, c) => [name, textColumn(cells.map((row) => row[c] ?? null))])),
  );
}

const choices: fc.Arbitrary<Partial<DelimitedChoices>> = fc.record({
  delimiter: fc.constantFrom(',', ';', '\t', '|'),
  quoting: fc.constantFrom('needed', 'all'),
  guard: fc.boolean(),
  lineEnd: fc.constantFrom('lf', 'crlf'),
});

test('law: cells that are still bytes of their source are written as their texts are', () => {
  fc.assert(
    fc.property(rows, fc.constantFrom('utf-8', 'windows-1252'), choices, (cells, encoding, chosen) => {
      const table = readBack(cells, encoding);
      if (table === undefined) return;
      const texts = asTexts(table);
      expect(UTF8.decode(writeDelimited(readBack(cells, encoding)!, chosen))).toBe(
        UTF8.decode(writeDelimited(texts, chosen)),
      );
      expect(writeParquet(readBack(cells, encoding)!)).toEqual(writeParquet(texts));
    }),
    { numRuns: 1000 },
  );
});

test('numbers and unreadable cells of one column are shown as written', () => {
  const table = makeTable({
    Quay: textColumn(['Hask', 'Ullin', 'Tarve']),
    Fare: countedColumn('number', [12.5, -0.07, null]),
  });
  const { column } = table.fields[1]!;
  Object.assign(column, {
    unreadable: { codes: Int32Array.of(-1, -1, 0), cells: [{ text: 'fog', reason: 'no number' }] },
  });
  expect(UTF8.decode(writeDelimited(table, { lineEnd: 'lf' }))).toBe('Quay,Fare\nHask,12.5\nUllin,-0.07\nTarve,fog\n');
});
