import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { countedColumn, makeTable, textColumn } from '../../index.ts';
import { writeDelimited } from '../write-delimited.ts';
import { writeJson, writeJsonLines } from '../write-json.ts';
import { writeHtmlPage } from '../write-pages.ts';
import type { PartCells, RowPart } from './batch.ts';
import { TextBytes } from './text-bytes.ts';
import { writeRows } from './write-rows.ts';

const UTF8 = new TextDecoder();
const NEVER = Number.POSITIVE_INFINITY;

function written(parts: readonly RowPart[], rows: number, kernelFrom: number, from = 0): string {
  const out = new TextBytes();
  writeRows(parts, { from, to: rows }, out, { first: 2, kernelFrom });
  return UTF8.decode(out.all());
}

/** The rows by the kernel, after they were found to be the same without it. */
function both(parts: readonly RowPart[], rows: number, from = 0): string {
  const fast = written(parts, rows, 0, from);
  // Compared as a whole: what is long is shown badly where it differs.
  expect(fast === written(parts, rows, NEVER, from)).toBe(true);
  return fast;
}

const textCells = (texts: readonly string[]): PartCells => ({ write: (row, out) => out.add(texts[row]!) });
const numberCells = (values: readonly number[], before = '', behind = '', blank = ''): PartCells => ({
  write: (row, out) => out.add(Number.isNaN(values[row]!) ? blank : `${before}${String(values[row])}${behind}`),
  numbers: { values: Float64Array.from(values), before, behind, blank },
});
const codedCells = (codes: readonly number[], texts: readonly string[], blank = ''): PartCells => ({
  write: (row, out) => out.add(codes[row]! < 0 ? blank : texts[codes[row]!]!),
  coded: { codes: Int32Array.from(codes), texts, blank },
});

const number = fc.oneof(
  fc.integer({ min: -2_000_000_000, max: 2_000_000_000 }),
  fc.integer({ min: -2_000_000_000, max: 2_000_000_000 }).map((hundredths) => hundredths / 100),
  fc.maxSafeInteger(),
  fc.maxSafeInteger().chain((whole) => fc.integer({ min: 1, max: 8 }).map((decimals) => whole / 10 ** decimals)),
  fc
    .integer({ min: -(10 ** 6), max: 10 ** 6 })
    .chain((whole) => fc.integer({ min: 1, max: 8 }).map((d) => whole / 10 ** d)),
  fc.double(),
  fc.constantFrom(0, -0, 0.1 + 0.2, 1.005, 0.07, 1e-6, 1e-7, 99_999_999, 1e8, 1e15, 1e15 - 1, 1e21, 5e-324, Number.NaN),
);

test('law: every number is written as ECMAScript writes it (ECMA-262, Number::toString)', () => {
  fc.assert(
    fc.property(fc.array(number, { minLength: 1, maxLength: 60 }), (values) => {
      const lines = both([{ front: '', cells: numberCells(values, '', '', '-') }, { front: '\n' }], values.length);
      expect(lines).toBe(values.map((value) => `${Number.isNaN(value) ? '-' : String(value)}\n`).join(''));
    }),
    { numRuns: 800 },
  );
});

const text = fc.oneof(
  fc.string({ unit: fc.constantFrom('a', '7', '"', '\n', 'é', '😀'), maxLength: 40 }),
  fc.constant(''),
);

test('law: rows of any parts are the same with a kernel and without, from any row on', () => {
  const rows = 40;
  const isLeftOut = fc.boolean();
  const cells = fc.oneof(
    fc
      .record({ values: fc.array(text, { minLength: rows, maxLength: rows }), isLeftOut })
      .map(({ values, ...own }) => ({ ...textCells(values), ...own })),
    fc
      .record({
        values: fc.array(number, { minLength: rows, maxLength: rows }),
        around: fc.tuple(text, text, text),
        isLeftOut,
      })
      .map(({ values, around, ...own }) => ({ ...numberCells(values, ...around), ...own })),
    fc
      .record({
        texts: fc.array(text, { minLength: 1, maxLength: 5 }),
        blank: text,
        seed: fc.integer({ min: 0, max: 99 }),
        isLeftOut,
      })
      .map(({ texts, blank, seed, ...own }) => ({
        ...codedCells(
          Array.from({ length: rows }, (_, k) => ((k * 7 + seed) % (texts.length + 1)) - 1),
          texts,
          blank,
        ),
        ...own,
      })),
  );
  const part: fc.Arbitrary<RowPart> = fc.oneof(
    fc.record({ front: text, isNumbered: fc.boolean(), behind: text }),
    fc.record({ front: text, isNumbered: fc.boolean(), cells }),
  );
  fc.assert(
    fc.property(fc.array(part, { minLength: 1, maxLength: 6 }), fc.integer({ min: 0, max: rows }), (parts, from) => {
      both(parts, rows, from);
    }),
    { numRuns: 400 },
  );
});

test('cells, rows and numbers that there is no room for or that the kernel does not know', () => {
  const rows = 9000;
  const long = Array.from({ length: rows }, (_, k) => (k % 3000 === 2999 ? 'é'.repeat(k * 50) : `a${k}`));
  const thirds = Array.from({ length: rows }, (_, k) => (k < 3000 ? k : k / 3));
  const parts = [
    { front: 'R', isNumbered: true, cells: textCells(long) },
    { front: '|', cells: numberCells(thirds, '<', '>') },
    {
      front: '|',
      cells: codedCells(
        thirds.map((_, k) => (k % 3) - 1),
        ['x'.repeat(200_000), 'y'],
      ),
    },
    { front: '\n' },
  ];
  const lines = both(parts, 40).split('\n');
  expect(lines[3]).toBe('R5a3|<3>|');
  expect(
    both(
      parts.filter((_, k) => k !== 2),
      rows,
    ).split('\n')[8999],
  ).toBe(`R9001${long[8999]}|<${8999 / 3}>`);
});

test('cells beside long ones are not written over and over', () => {
  let calls = 0;
  const counted: PartCells = {
    write: (row, out) => {
      calls++;
      out.add(`${row}`);
    },
  };
  const long = (row: number) => 'x'.repeat(row < 3000 ? 2 : 60_000);
  const parts = [
    { front: '', cells: counted },
    { front: ',', cells: { write: (row: number, out: TextBytes) => out.add(long(row)) } },
    { front: '\n' },
  ];
  for (const kernelFrom of [0, NEVER]) {
    calls = 0;
    const lines = written(parts, 3300, kernelFrom).split('\n');
    expect(lines).toHaveLength(3301);
    expect(lines[3299]).toBe(`3299,${long(3299)}`);
    // The first batch that meets long ones, and twice what each after it has.
    expect(calls).toBeLessThan(3300 * 2 + 300 * 2);
  }
});

describe('tables of many rows, of every kind of column', () => {
  const rows = 3000;
  const word = (k: number) =>
    k % 11 === 0 ? null : ['Hask', 'Ullin "pier"', 'Tarve & <Sound>', 'Brannoch, é'][k % 4]!;
  const code = (k: number) => (k % 500 === 0 ? `back\\slash ${k}` : k === 77 ? '' : `B${k}`);
  const table = makeTable({
    Quay: textColumn(Array.from({ length: rows }, (_, k) => word(k))),
    Code: textColumn(Array.from({ length: rows }, (_, k) => code(k))),
    Fare: countedColumn(
      'number',
      Array.from({ length: rows }, (_, k) => (k % 7 === 0 ? null : (k * 37) / 100 - 40)),
    ),
    Share: countedColumn(
      'number',
      Array.from({ length: rows }, (_, k) => k / 7),
    ),
    Day: countedColumn(
      'date',
      Array.from({ length: rows }, (_, k) => (k % 13 === 0 ? null : 22_000 + (k % 90))),
    ),
    Sailed: countedColumn(
      'yesno',
      Array.from({ length: rows }, (_, k) => k % 2),
    ),
  });
  const day = (k: number) =>
    k % 13 === 0 ? null : new Date((22_000 + (k % 90)) * 86_400_000).toISOString().slice(0, 10);
  const objects = Array.from({ length: rows }, (_, k) => ({
    Quay: word(k),
    Code: code(k),
    Fare: k % 7 === 0 ? null : (k * 37) / 100 - 40,
    Share: k / 7,
    Day: day(k),
    Sailed: k % 2 === 1,
  }));

  test('JSON is what the platform writes (RFC 8259)', () => {
    const lines = objects.map((one) => JSON.stringify(one));
    expect(UTF8.decode(writeJsonLines(table))).toBe(`${lines.join('\n')}\n`);
    expect(UTF8.decode(writeJson(table, 'rows'))).toBe(`[\n${lines.join(',\n')}\n]\n`);
    expect(JSON.parse(UTF8.decode(writeJson(table, 'columns')))).toEqual(
      Object.fromEntries(table.fields.map(({ name }) => [name, objects.map((one) => one[name as 'Quay'])])),
    );
  });

  const cellsOf = (one: (typeof objects)[0]) => [...Object.values(one).slice(0, -1), one.Sailed ? 'yes' : 'no'];

  test('delimited text (RFC 4180)', () => {
    const quoted = (cell: unknown) =>
      cell === '' || /[",]/.test(`${cell}`) ? `"${`${cell}`.replaceAll('"', '""')}"` : `${cell ?? ''}`;
    const lines = objects.map((one) => cellsOf(one).map(quoted).join(','));
    expect(UTF8.decode(writeDelimited(table))).toBe(`Quay,Code,Fare,Share,Day,Sailed\r\n${lines.join('\r\n')}\r\n`);
  });

  test('a page (HTML Living Standard, 13.3 for what is escaped)', () => {
    const escaped = (cell: unknown) =>
      `${cell ?? ''}`
        .replaceAll('&', '&amp;')
        .replaceAll('<', '&lt;')
        .replaceAll('>', '&gt;')
        .replaceAll('"', '&quot;');
    const page = UTF8.decode(writeHtmlPage(table, 'Sailings'));
    const lines = objects.map(
      (one) =>
        `<tr>${cellsOf(one)
          .map((cell) => `<td>${escaped(cell)}</td>`)
          .join('')}</tr>`,
    );
    expect(page.slice(page.indexOf('<tbody>\n') + 8, page.indexOf('\n</tbody>')).split('\n')).toEqual(lines);
  });
});
