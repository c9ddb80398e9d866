import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { guessReading, READINGS, ReadFailure, type ReadResult } from '../index.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { fitsCuts, guessCuts } from './cuts.ts';
import { decodeSource, firstInvalidUtf8 } from './encoding.ts';
import { guessTemplates } from './log-forms.ts';
import { expandTabs } from './text-lines.ts';

const encode = (text: string) => new TextEncoder().encode(text);

function read(kind: string, input: string | Uint8Array, params: object = {}): ReadResult {
  const found = READINGS.get(kind)!;
  const bytes = typeof input === 'string' ? encode(input) : input;
  return found.read({ name: 'a.txt', bytes }, found.params.parse({ source: 's', ...params }), quiet);
}
const cells = (result: ReadResult) => cellsOf(result.table);

/** UTF-16 without a byte order mark. */
function utf16(text: string, big: boolean): Uint8Array {
  const bytes = new Uint8Array(text.length * 2);
  for (let k = 0; k < text.length; k++) new DataView(bytes.buffer).setUint16(k * 2, text.charCodeAt(k), !big);
  return bytes;
}

describe('encodings (WHATWG Encoding Standard, labels and byte order marks)', () => {
  test.each<[string, Uint8Array, string]>([
    ['a byte order mark', Uint8Array.of(0xef, 0xbb, 0xbf, 0x61), 'utf-8'],
    ['UTF-16 with a mark', Uint8Array.of(0xff, 0xfe, 0x61, 0), 'utf-16le'],
    ['UTF-16 by its zeros', utf16('Hask;Ullin\n1;2\n', false), 'utf-16le'],
    ['the same, big end first', utf16('Hask;Ullin\n1;2\n', true), 'utf-16be'],
    ['plain ASCII', encode('abc'), 'utf-8'],
    ['what is no UTF-8', Uint8Array.of(0x63, 0x61, 0x66, 0xe9), 'windows-1252'],
  ])('%s', (_, bytes, encoding) => {
    expect(decodeSource(bytes, null, 'a').encoding).toBe(encoding);
  });

  test('the first byte that is no UTF-8 (RFC 3629): overlong, surrogate, past the end, cut off', () => {
    expect(firstInvalidUtf8(encode('é𝄞x'))).toBe(-1);
    for (const bytes of [[0xc0, 0x80], [0xed, 0xa0, 0x80], [0xf4, 0x90, 0x80, 0x80], [0xe2, 0x82], [0x80]])
      expect(firstInvalidUtf8(Uint8Array.from([0x61, ...bytes]))).toBe(1);
  });

  test('a label can be given; an unknown one is reported', () => {
    expect(cells(read('read-delimited', Uint8Array.of(0xb1, 0x2c, 0x62), { encoding: 'iso-8859-2' }))).toEqual([
      ['ą', 'b'],
    ]);
    expect(
      cells(read('read-delimited', Uint8Array.of(0x93, 0xfa, 0x7c, 0x41), { encoding: 'shift_jis', delimiter: '|' })),
    ).toEqual([['日', 'A']]);
    expect(() => read('read-delimited', 'a', { encoding: 'klingon' })).toThrow('There is no encoding klingon');
  });

  test('where UTF-8 breaks off is reported with its line', () => {
    const { notices } = read('read-delimited', Uint8Array.from([...encode('a,b\nc,'), 0xe9, 0x0a]));
    expect(notices[0]).toMatchObject({
      severity: 'warning',
      text: 'invalid UTF-8 at byte 7 (line 2): read as Windows-1252',
    });
  });
});

describe('delimited text beyond RFC 4180', () => {
  test.each<[string, string, object, (string | null)[][]]>([
    [
      'runs of blanks',
      '  Hask   12  7 \nUllin 5 6\n',
      { delimiter: ' ', runs: true },
      [
        ['Hask', '12', '7'],
        ['Ullin', '5', '6'],
      ],
    ],
    ['several characters', 'a||b||c\n', { delimiter: '||' }, [['a', 'b', 'c']]],
    [
      'brackets enclose blanks',
      'x [a b] "c d" y\n[open z\n',
      { delimiter: ' ', brackets: '[]' },
      [
        ['x', 'a b', 'c d', 'y'],
        ['[open', 'z', null, null],
      ],
    ],
    [
      'comment lines',
      '# head\na,b\n#x,y\nc,d\n',
      { comment: '#' },
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    ['another quote', "'a,b',c\n", { quote: "'" }, [['a,b', 'c']]],
    ['no quote at all', '"a,b"\n', { quote: null }, [['"a', 'b"']]],
    ['text behind a closing quote', '"a"x,"b" "c"\n', {}, [['ax', 'b "c"']]],
    ['a last cell that is blank', 'a,b,', {}, [['a', 'b', null]]],
    ['NUL bytes are text', 'a\u0000b,c\n', {}, [['a\u0000b', 'c']]],
  ])('%s', (_, text, params, expected) => {
    expect(cells(read('read-delimited', text, params))).toEqual(expected);
  });

  test('a quote that is never closed, ragged rows and comments are reported, with the line of the file', () => {
    const open = read('read-delimited', 'a,b\n"c\nd,e\nf');
    expect(open.notices.map((notice) => notice.text)).toContain('a quote that opens in line 2 is never closed');
    const { report, notices } = read('read-delimited', '#\na,b\n"x\ny",c,d\n\nz,1\n', { comment: '#' });
    expect([...report.parts[0]!.lines!]).toEqual([0, 1, 2, 4, 5]);
    expect(notices.map((notice) => notice.text)).toEqual([
      '1 comment line set aside',
      '2 rows with another number of cells than the first',
    ]);
  });

  test('a delimiter that makes too many columns is reported, not tried', () => {
    expect(() => read('read-delimited', `${'a '.repeat(17_000)}\n`, { delimiter: ' ' })).toThrow(
      'more than 16,384 cells',
    );
  });

  test('many different texts, and long ones, come through the byte dictionary whole', () => {
    const texts = Array.from({ length: 5000 }, (_, k) => `${'ä'.repeat(k % 7)}text ${k}${'x'.repeat(k % 90)}`);
    expect(cells(read('read-delimited', `${texts.join('\n')}\n${texts.join('\n')}\n`)).map((row) => row[0])).toEqual([
      ...texts,
      ...texts,
    ]);
  });
});

describe('fixed columns', () => {
  const lines = [
    'SKERROW FERRIES      PAGE 1',
    'CODE   TIME   GOODS          KG',
    'H-001  06:02  BARLEY     14 220',
    'H-002  06:11  TIMBER      2 905',
    'H-003  06:30  FISH, ICED    480-',
    'H-004  06:44  WOOL       11 060',
    '                SUBTOTAL 28 665',
  ];

  test('cuts are guessed from the blanks that the data lines share; what is flush right keeps its gap', () => {
    const cuts = guessCuts(lines);
    expect(cuts.slice(0, 2)).toEqual([7, 14]);
    expect(cuts).toHaveLength(3);
    const result = read('read-fixed-width', lines.join('\r\n'), { cuts, names: ['Code', 'Time'] });
    expect(namesOf(result.table)).toEqual(['Code', 'Time', 'C', 'D']);
    expect(cells(result).slice(2, 6)).toEqual([
      ['H-001', '06:02', 'BARLEY', '14 220'],
      ['H-002', '06:11', 'TIMBER', '2 905'],
      ['H-003', '06:30', 'FISH, ICED', '480-'],
      ['H-004', '06:44', 'WOOL', '11 060'],
    ]);
  });

  test('lines with words cut in two are reported with their rows; short lines are blank at the end', () => {
    const result = read('read-fixed-width', lines.join('\n'), { cuts: [7, 14] });
    expect(result.notices[0]).toMatchObject({
      text: expect.stringContaining('1 line with words cut in two: '),
      rows: { rows: Int32Array.of(0) },
    });
    expect(cells(read('read-fixed-width', 'ab\nabcdef\n', { cuts: [3] }))).toEqual([
      ['ab', null],
      ['abc', 'def'],
    ]);
    expect(fitsCuts('abc def', [3])).toBe(true);
    expect(fitsCuts('abcdef', [3])).toBe(false);
  });

  test('tabs go to the next stop, form feeds are skipped', () => {
    expect(expandTabs('a\tbc\td', 4)).toBe('a   bc  d');
    expect(cells(read('read-fixed-width', '\fa\tb\n', { cuts: [4], tab: 4 }))).toEqual([['a', 'b']]);
  });

  test('the layout of decennial census files in fixed columns (positions from memory): FIPS codes keep their zeros', () => {
    const record = '01001020100 Autauga      0054571';
    expect(cells(read('read-fixed-width', `${record}\n`, { cuts: [2, 5, 11, 25] }))).toEqual([
      ['01', '001', '020100', 'Autauga', '0054571'],
    ]);
  });
});

describe('lines by template', () => {
  // The two examples of the NCSA common and combined log formats as the web has quoted them since the nineties (from memory).
  const common = '127.0.0.1 user-identifier frank [10/Oct/2000:13:55:36 -0700] "GET /apache_pb.gif HTTP/1.0" 200 2326';

  test('the common log format is guessed and read', () => {
    const [template, ...others] = guessTemplates([common, common.replace('frank', '-')]);
    expect(template).toBe('{Host:word} {Ident:word} {User:word} [{Time:time}] "{Request}" {Status:number} {Size:word}');
    expect(others).toEqual([]);
    const result = read('read-pattern', `${common}\n`, { template });
    expect(namesOf(result.table)).toEqual(['Host', 'Ident', 'User', 'Time', 'Request', 'Status', 'Size', 'Line']);
    expect(cells(result)).toEqual([
      [
        '127.0.0.1',
        'user-identifier',
        'frank',
        '10/Oct/2000:13:55:36 -0700',
        'GET /apache_pb.gif HTTP/1.0',
        '200',
        '2326',
        null,
      ],
    ]);
  });

  test('lines that do not match are kept whole in their own column, counted, and lead to their rows', () => {
    const result = read('read-pattern', '[06:02] up\nretry\n\n[06:05] down\n', { template: '[{Time}] {Event}' });
    expect(cells(result)).toEqual([
      ['06:02', 'up', null],
      [null, null, 'retry'],
      [null, null, null],
      ['06:05', 'down', null],
    ]);
    expect(result.notices.at(-1)).toMatchObject({
      text: '1 line did not match: retry',
      column: 'Line',
      rows: { rows: Int32Array.of(1) },
    });
  });

  test.each([
    ['no piece', 'names no piece'],
    ['{a}{b}', 'Two pieces touch'],
    ['{a', 'never closed'],
  ])('the template %s is reported', (template, message) => {
    expect(() => read('read-pattern', 'x\n', { template })).toThrow(message);
  });
});

describe('what a text is taken for', () => {
  test.each([
    ['read-delimited', readFileSync('node_modules/vega-datasets/data/stocks.csv')],
    ['read-delimited', readFileSync('node_modules/vega-datasets/data/unemployment.tsv')],
    ['read-delimited', encode('one\ntwo\nthree\n')],
    ['read-fixed-width', readFileSync('demo/files/weighbridge.prn')],
    ['read-pattern', readFileSync('demo/files/gate.log')],
  ])('%s', (kind, bytes) => {
    expect(guessReading('s', { name: 'a', bytes }).kind).toBe(kind);
  });

  test('one endless line and an empty file are reported', () => {
    expect(() => read('read-fixed-width', 'x'.repeat(1_000_001))).toThrow('Line 1 of a.txt has 1,000,001 characters');
    expect(() => read('read-pattern', new Uint8Array())).not.toThrow(TypeError);
    expect(() => guessReading('s', { name: 'a', bytes: new Uint8Array() })).toThrow(ReadFailure);
  });
});
