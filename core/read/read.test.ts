import { readFileSync } from 'node:fs';
import { utils, write } from '@e965/xlsx';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  cellType,
  guessReading,
  makeTable,
  ReadFailure,
  type ReadResult,
  readDelimited,
  readSheets,
  sniff,
  textColumn,
  writeDelimited,
} from '../index.ts';
import type { Column } from '../table/column.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { toCounted } from '../values/convert.ts';
import { NumberForm } from '../values/number-text.ts';

const encode = (text: string) => new TextEncoder().encode(text);

function delimited(text: string | Uint8Array, params: object = {}): ReadResult {
  const bytes = typeof text === 'string' ? encode(text) : text;
  return readDelimited.read({ name: 'a.csv', bytes }, readDelimited.params.parse({ source: 's', ...params }), quiet);
}

describe('delimited text (RFC 4180, section 2)', () => {
  test.each<[string, string, (string | null)[][]]>([
    [
      '1: records on lines',
      'aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n',
      [
        ['aaa', 'bbb', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    [
      '2: the last line end is optional',
      'aaa,bbb\r\nzzz,yyy',
      [
        ['aaa', 'bbb'],
        ['zzz', 'yyy'],
      ],
    ],
    [
      '5: cells may be quoted',
      '"aaa","bbb"\r\nzzz,yyy\r\n',
      [
        ['aaa', 'bbb'],
        ['zzz', 'yyy'],
      ],
    ],
    ['6: line ends, quotes and commas in quotes', '"aaa","b\r\nbb","c,c"\r\n', [['aaa', 'b\r\nbb', 'c,c']]],
    ['7: a quote is doubled', '"aaa","b""bb"\r\n', [['aaa', 'b"bb']]],
    [
      'blank cells',
      ',a,\r\n,,\r\n',
      [
        [null, 'a', null],
        [null, null, null],
      ],
    ],
    ['mixed line ends', 'a\nb\rc\r\nd', [['a'], ['b'], ['c'], ['d']]],
    ['blanks belong to the cell', ' a , b \r\n', [[' a ', ' b ']]],
    ['a quote in the middle is text', 'a"b,c\r\n', [['a"b', 'c']]],
  ])('%s', (_, text, cells) => {
    expect(cellsOf(delimited(text).table)).toEqual(cells);
  });

  test('rows of another length are kept whole and told', () => {
    const { table, notices } = delimited('a,b\nc\nd,e,f\n');
    expect(cellsOf(table)).toEqual([
      ['a', 'b', null],
      ['c', null, null],
      ['d', 'e', 'f'],
    ]);
    expect(notices[0]).toMatchObject({ severity: 'warning', rows: { of: 'after', rows: Int32Array.from([1, 2]) } });
  });

  test('a byte order mark is skipped, and invalid UTF-8 is read as Windows-1252', () => {
    expect(cellsOf(delimited('\ufeffa,b').table)).toEqual([['a', 'b']]);
    expect(cellsOf(delimited(Uint8Array.from([0x63, 0x61, 0x66, 0xe9])).table)).toEqual([['caf\u00e9']]);
  });

  test('the delimiter is guessed from the lines', () => {
    for (const [text, delimiter] of [
      ['a;b;c\n1,5;2;3\n', ';'],
      ['a\tb\n1\t2\n', '\t'],
      ['a|b\n"x,y,z"|2\n', '|'],
      ['one\ntwo\n', ','],
    ]) {
      expect(guessReading('s', { name: 'a.csv', bytes: encode(text!) }).params).toMatchObject({ delimiter });
    }
  });

  test('law: what is written reads back, whatever stands in the cells', () => {
    const cell = fc.option(
      fc.string({ minLength: 1, unit: fc.constantFrom('a', ',', '"', '\r', '\n', ' ', 'é', ';') }),
      { nil: null },
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1 }), (rows) => {
        const bytes = writeDelimited(
          makeTable({ A: textColumn(rows.map((row) => row[0])), B: textColumn(rows.map((row) => row[1])) }),
        );
        expect(cellsOf(delimited(bytes).table).slice(1)).toEqual(rows);
      }),
    );
  });
});

describe('columns of numbers, which are read while cells are found', () => {
  const cell = fc.oneof(
    { weight: 8, arbitrary: fc.integer({ min: -9999, max: 9999 }).map((value) => String(value / 4)) },
    fc.constantFrom('', '-', '.', 'Hask', '1.2.3', '12 ', '"x y"', '1e5', '007'),
  );
  test('law: the cells are those of the text, and typed as by their text, whatever divides them', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(cell, cell), { minLength: 70, maxLength: 140 }),
        fc.constantFrom(',', ';', '\t', '-', '.', '5'),
        fc.constantFrom('\n', '\r\n'),
        (rows, delimiter, end) => {
          // Delimiters that numbers are written with cut them: then what is expected is cut as well.
          const lines = rows.map((row) => row.join(delimiter));
          const { table } = delimited(encode(lines.join(end)), { delimiter });
          const expected = lines.map((line) =>
            line.split(delimiter).map((one) => (one === '' ? null : one.replace(/^"(.*)"$/, '$1'))),
          );
          const found = cellsOf(table);
          // Lines without any cell that is filled are rows too; longer lines make others longer.
          expect(found.map((row) => row.slice(0, expected[0]!.length))).toEqual(
            expected.map((row) => Array.from({ length: expected[0]!.length }, (_, c) => row[c] ?? null)),
          );
          const form = { type: 'number' as const, number: NumberForm.parse({}), patterns: [] };
          const values = (column: Column) => [...toCounted(column, form).column.values];
          expect(values(table.fields[0]!.column)).toEqual(values(textColumn(expected.map((row) => row[0] ?? null))));
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('workbooks', () => {
  const book = utils.book_new();
  const one = utils.aoa_to_sheet([
    ['Printed', null],
    [1204.5, true],
    ['x', 0.25],
    [45000, 45000.5],
  ]);
  one['A2'].z = '#,##0.0';
  one['B3'].z = 'hh:mm';
  one['A4'].z = 'yyyy-mm-dd';
  one['B4'].z = 'yyyy-mm-dd hh:mm';
  one['A5'] = { t: 'e', v: 0x2a, w: '#N/A' };
  one['!ref'] = 'A1:B5';
  one['!merges'] = [{ s: { r: 0, c: 0 }, e: { r: 0, c: 1 } }];
  utils.book_append_sheet(book, one, 'One');
  utils.book_append_sheet(book, utils.aoa_to_sheet([['y', 'z', 'more']]), 'Two');
  const bytes = new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }));
  const read = (params: object = {}) =>
    readSheets.read({ name: 'b.xlsx', bytes }, readSheets.params.parse({ source: 's', ...params }), quiet);

  test('sheets are stacked with their name; cells are as stored, dates by their format, errors unreadable', () => {
    const { table } = read();
    expect(namesOf(table)).toEqual(['Sheet', 'A', 'B', 'C']);
    expect(cellsOf(table)).toEqual([
      ['One', 'Printed', null, null],
      ['One', '1204.5', 'yes', null],
      ['One', 'x', '06:00', null],
      ['One', '2023-03-15', '2023-03-15T12:00', null],
      ['One', '#N/A', null, null],
      ['Two', 'y', 'z', 'more'],
    ]);
    expect([0, 1, 3, 4].map((r) => cellType(table.fields[1]!.column, r))).toEqual([
      'text',
      'number',
      'date',
      'unreadable',
    ]);
  });

  test('displayed text, merged cells in every cell, sheets by name and by pattern', () => {
    expect(cellsOf(read({ values: 'displayed' }).table)[1]).toEqual(['One', '1,204.5', 'TRUE', null]);
    expect(cellsOf(read({ merged: 'all' }).table)[0]).toEqual(['One', 'Printed', 'Printed', null]);
    expect(cellsOf(read({ merged: 'down' }).table)[0]).toEqual(['One', 'Printed', null, null]);
    expect(cellsOf(read({ sheets: { by: 'names', names: ['Two'] }, nameColumn: null }).table)).toEqual([
      ['y', 'z', 'more'],
    ]);
    expect(read({ sheets: { by: 'matches', pattern: '^T' } }).table.rows).toBe(1);
    expect(() => read({ sheets: { by: 'matches', pattern: 'x' } })).toThrow('The sheets are One, Two');
  });

  test('places say where each raw row and column stands', () => {
    const { places } = read();
    expect([...places.part]).toEqual([0, 0, 0, 0, 0, 1]);
    expect([...places.row]).toEqual([0, 1, 2, 3, 4, 0]);
    expect([...places.columns]).toEqual([-2, 0, 1, 2]);
  });

  test('the 1904 date system (ISO/IEC 29500-1, 18.2.28)', () => {
    const old = utils.book_new();
    const sheet = utils.aoa_to_sheet([[0]]);
    sheet['A1'].z = 'yyyy-mm-dd';
    utils.book_append_sheet(old, sheet, 'S');
    old.Workbook = { WBProps: { date1904: true } };
    const source = { name: 'mac.xlsx', bytes: new Uint8Array(write(old, { type: 'array', bookType: 'xlsx' })) };
    expect(cellsOf(readSheets.read(source, readSheets.params.parse({ source: 's' }), quiet).table)[0]).toContain(
      '1904-01-01',
    );
  });
});

describe('what a file is', () => {
  test('by its bytes, not by its name', () => {
    expect(sniff(readFileSync('demo/files/quay-returns-q2.xlsx'), 'wrong.csv')).toBe('workbook');
    expect(sniff(encode('a,b'), 'wrong.xlsx')).toBe('text');
  });

  test('an empty file is reported in a sentence', () => {
    expect(() => sniff(new Uint8Array(), 'a.csv')).toThrow(ReadFailure);
    expect(() => sniff(new Uint8Array(), 'a.csv')).toThrow('a.csv is empty');
  });
});
