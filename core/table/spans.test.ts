import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { CATALOGUE } from '../steps/catalogue.ts';
import { columnCells } from '../test-support.ts';
import { cellText, rowsReading, textView } from '../values/cell-text.ts';
import { type Converted, toCounted } from '../values/convert.ts';
import { exceedsExact, leadsWithZero, NumberForm } from '../values/number-text.ts';
import { countedColumn, textColumn } from './builder.ts';
import { columnLength, type TextColumn } from './column.ts';
import { interleaveColumns, stretchOf, takeColumn, takeRows } from './gather.ts';
import { memoryOf } from './held-memory.ts';
import { SpanBuilder } from './span-builder.ts';
import { spansOf, textCount, textsUnmade } from './spanned-column.ts';
import { makeTable, type Table } from './table.ts';

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

/** The cells as runs of bytes, with numbers read on the way as where text is divided. */
function spanned(cells: readonly (string | null)[]): TextColumn {
  const bytes = encoder.encode(cells.map((cell) => cell ?? '').join(','));
  const builder = new SpanBuilder(16, bytes);
  let at = 0;
  for (const cell of cells) {
    const end = at + encoder.encode(cell ?? '').length;
    builder.push(at, end);
    at = end + 1;
  }
  return builder.finish(bytes, new Uint8Array(), 'utf-8');
}

/** Columns of one file, divided as `spanned` is, whose cells stand side by side in its rows. */
function spannedBeside(rows: readonly (readonly (string | null)[])[], width: number): TextColumn[] {
  const bytes = encoder.encode(
    rows
      .flat()
      .map((cell) => cell ?? '')
      .join(','),
  );
  const builders = Array.from({ length: width }, () => new SpanBuilder(16, bytes));
  let at = 0;
  for (const row of rows) {
    for (const [c, cell] of row.entries()) {
      const end = at + encoder.encode(cell ?? '').length;
      builders[c]!.push(at, end);
      at = end + 1;
    }
  }
  const extra = new Uint8Array();
  return builders.map((builder) => builder.finish(bytes, extra, 'utf-8'));
}

function told({ column, filled, unreadable: rows }: Converted) {
  const { values, unreadable } = column;
  const cells = Array.from(values, (value, r) => {
    const code = unreadable?.codes[r] ?? -1;
    return code < 0 ? value : unreadable!.cells[code];
  });
  return { cells, filled, rows };
}

describe('texts that are still bytes of their source', () => {
  test('law: columns of one file stand row by row in one, as their texts would, and read as the same numbers', () => {
    const cell = fc.oneof(
      fc.constant(null),
      fc.constantFrom('7', '0.5', '007', 'n/a', ' 3'),
      fc.stringMatching(/^[a-z0-9é]{1,4}$/),
    );
    const table = fc
      .integer({ min: 1, max: 4 })
      .chain((width) =>
        fc.tuple(
          fc.constant(width),
          fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 40 }),
        ),
      );
    fc.assert(
      fc.property(table, ([width, rows]) => {
        const woven = interleaveColumns(spannedBeside(rows, width), rows.length) as TextColumn;
        expect(spansOf(woven)).toBeDefined();
        const form = { type: 'number' as const, number: NumberForm.parse({}), patterns: [] };
        const plain = textColumn(rows.flat());
        expect(told(toCounted(woven, form))).toEqual(told(toCounted(plain, form)));
        expect(columnCells(woven, rows.length * width)).toEqual(rows.flat());
      }),
    );
  });

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

describe('texts of a dictionary that nobody has looked at', () => {
  const refs = Array.from({ length: 400 }, (_, k) => (k % 9 === 0 ? null : `Ärmel-${k % 350}`));
  const quiet = { progress: () => undefined, name: 't', other: () => undefined as never };
  const step = (kind: string, params: object, table: Table) => {
    const found = CATALOGUE.get(kind)!;
    return found.run(table, found.params.parse(params), quiet).table;
  };
  const named = (...names: string[]) => ({ by: 'names', names });

  test('codes are given, groups made, rows repeated and taken without making one of them', () => {
    const table = makeTable({
      ref: columnOf(refs),
      a: countedColumn(
        'number',
        refs.map((_, k) => k),
      ),
      b: countedColumn(
        'number',
        refs.map((_, k) => -k),
      ),
    });
    const parts = [{ as: 'column', name: 'measure' }];
    const long = step('unpivot', { columns: named('a', 'b'), parts, value: 'value' }, table);
    const wide = step(
      'pivot',
      { rows: named('ref'), names: ['measure'], values: [{ column: 'value', by: 'sum' }] },
      long,
    );
    const grouped = step('group', { by: named('ref'), measures: [{ by: 'sum', column: 'value', name: 's' }] }, long);
    const taken = takeRows(grouped, Int32Array.of(3, 1, 200));
    // So many rows are taken when they are looked at.
    const many = takeRows(
      table,
      Int32Array.from({ length: 60_000 }, (_, row) => (row * 7) % 400),
    );
    const columns = [table, long, wide, grouped, taken, many].map((one) => one.fields[0]!.column as TextColumn);
    for (const column of columns) expect(textsUnmade(column)?.count, 'texts that are not made').toBe(textCount(column));
    expect([...memoryOf(columns).values()].reduce((sum, one) => sum + one, 0)).toBeLessThan(300_000);
    // One cell alone makes no others.
    expect(cellText(columns[2]!, 2)).toBe('Ärmel-2');
    expect(textsUnmade(columns[2]!)).toBeDefined();
    // Once they are made, all that share them have them.
    expect(columns[0]!.codes.length).toBe(400);
    expect(columns[0]!.dictionary).toBe(columns[4]!.dictionary);
    for (const column of columns) expect(textsUnmade(column)).toBeUndefined();
    expect(Array.from({ length: 400 }, (_, row) => cellText(columns[0]!, row))).toEqual(refs);
    const groups = [...new Set(refs)];
    expect([0, 1, 2].map((row) => cellText(columns[4]!, row))).toEqual([3, 1, 200].map((row) => groups[row]));
  });

  test('looked at one by one they read the same, and are made when many are', () => {
    const column = columnOf(refs);
    const texts = textsUnmade(column)!;
    const seen = Array.from({ length: texts.count }, (_, code) => texts.text(code));
    expect(seen).toEqual([...new Set(refs)].filter((text) => text !== null));
    expect(textsUnmade(column)).toBeUndefined();
    expect(texts.texts).toEqual(seen);
  });
});

describe('cells as runs of bytes', () => {
  const number = fc.oneof(
    fc.integer({ min: -99_999, max: 99_999 }).map(String),
    fc.integer({ min: 0, max: 999_999 }).map((value) => (value / 100).toFixed(2)),
    fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
    fc.constantFrom('-0', '007', '-007', '+05', '1.', '.5', '123456789012345', '1234567890123456', '0.1', '-.25', '00'),
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
        // Whoever asks for nothing that is lost must not miss any.
        const loses = given.some((text) => text !== null && (leadsWithZero(text) || exceedsExact(text)));
        for (const one of [column, texts]) expect(toCounted(one, form).mayLose || !loses).toBe(true);
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
    expect(typed.column.values.buffer).toBe(spansOf(column)!.numbers!.values.buffer);
  });

  test('law: rows that are like a text but for case and outer spaces are found by bytes as by texts', () => {
    const piece = fc.constantFrom('on', 'ON', 'k', '\u212a', ' ', '\t', '\u00a0', 'Ö', 'İ', 'i', 'time', '\u2028');
    const cells = fc.array(fc.option(fc.array(piece, { maxLength: 4 }).map((pieces) => pieces.join(''))));
    const wanted = fc.array(fc.constantFrom('on', 'k', 'i', 'time', ' '), { maxLength: 3 });
    fc.assert(
      fc.property(cells, wanted, (own, pieces) => {
        const sought = pieces.join('').trim().toLowerCase();
        const test = (text: string) => text.trim().toLowerCase() === sought;
        const mask = spansOf(columnOf(own))!.rowsLike(sought, test);
        // An empty text is a blank cell where nothing is quoted.
        expect([...mask]).toEqual(own.map((text) => (text !== null && text !== '' && test(text) ? 1 : 0)));
      }),
    );
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
