import { describe, expect, test } from 'vitest';
import { cellsOfReport, guessReading, READINGS, type ReadResult, Runner } from '../index.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { fixedSpans } from './read-fixed-width.ts';
import { patternSpans } from './read-pattern.ts';

const source = (text: string) => ({ name: 'a.txt', bytes: new TextEncoder().encode(text) });
const read = (kind: string, text: string, params: object = {}): ReadResult => {
  const found = READINGS.get(kind)!;
  return found.read(source(text), found.params.parse({ source: 's', ...params }), quiet);
};

/**
 * Records told apart by their first character, with fields at fixed positions: the way of file header, batch header and
 * entry records in payment files (Nacha file layout: record type code in position 1; from memory, shortened).
 */
const payments = ['1 HASK    310602', '5 FREIGHT   ', '6 000123 0004520', '6 000124 0001999', '8 0006519'].join('\n');

describe('several kinds of record in fixed columns', () => {
  const records = {
    at: 0,
    length: 1,
    kinds: [
      { text: '1', cuts: [2, 10], names: ['', 'Port', 'Day'] },
      { text: '6', cuts: [2, 9], names: ['', 'Account', 'Pence'] },
    ],
  };

  test('each has its own cuts and columns, and lines of no kind stand whole beside them', () => {
    const result = read('read-fixed-width', payments, { records, rest: 'Line' });
    expect(namesOf(result.table)).toEqual(['Record', '1 A', 'Port', 'Day', '6 A', 'Account', 'Pence', 'Line']);
    expect(cellsOf(result.table)).toEqual([
      ['1', '1', 'HASK', '310602', null, null, null, null],
      ['5', null, null, null, null, null, null, '5 FREIGHT'],
      ['6', null, null, null, '6', '000123', '0004520', null],
      ['6', null, null, null, '6', '000124', '0001999', null],
      ['8', null, null, null, null, null, null, '8 0006519'],
    ]);
  });

  test('lines of no kind are cut by the common cuts where there are any', () => {
    const result = read('read-fixed-width', payments, { records, cuts: [2] });
    expect(namesOf(result.table).slice(0, 3)).toEqual(['Record', 'B', 'C']);
    expect(cellsOf(result.table)[1]!.slice(0, 3)).toEqual(['5', '5', 'FREIGHT']);
  });

  test('spans say which column each stretch of a line belongs to', () => {
    const kind = READINGS.get('read-fixed-width')!;
    const spans = fixedSpans(kind.params.parse({ source: 's', records, rest: 'Line' }) as never);
    expect(spans('6 000123 0004520')).toEqual({
      fits: true,
      spans: [
        { from: 0, to: 2, column: 4 },
        { from: 2, to: 9, column: 5 },
        { from: 9, to: 16, column: 6 },
      ],
    });
    expect(spans('8 0006519')).toEqual({ fits: false, spans: [{ from: 0, to: 9, column: 7 }] });
  });

  test('lines across a cut stand whole in a column when one is named', () => {
    const lines = 'SKERROW FERRIES PAGE 1\nB-01   4.20\nB-02   5.10';
    const result = read('read-fixed-width', lines, { cuts: [6], rest: 'Line' });
    expect(cellsOf(result.table)).toEqual([
      [null, null, 'SKERROW FERRIES PAGE 1'],
      ['B-01', '4.20', null],
      ['B-02', '5.10', null],
    ]);
  });
});

describe('pieces of lines by pattern', () => {
  // RFC 3164, 5.4, example 1, shortened to its header and tag.
  const line = "<34>Oct 11 22:14:15 mymachine su: 'su root' failed";

  test('spans show each piece where it stands', () => {
    const spans = patternSpans({ template: '<{Priority}>{Month} {Day} {Time} {Host} {Tag}: {Message}' });
    const found = spans(line);
    expect(found.fits).toBe(true);
    expect(found.spans.map(({ from, to }) => line.slice(from, to))).toEqual([
      '34',
      'Oct',
      '11',
      '22:14:15',
      'mymachine',
      'su',
      "'su root' failed",
    ]);
    expect(spans('no such line').fits).toBe(false);
  });
});

describe('blocks of lines', () => {
  const crew = [
    'CREW LIST  M.V. ORRIN',
    '',
    'Name:  Isla Tolm',
    'Rank:  Mate        Joined: 2029-04-01',
    'Notes: relieved at Ullin,',
    '       back on Friday',
    '',
    'Name:  Ewan Marr',
    'Joined: 2030-11-15  Rank: Cook',
  ].join('\r\n');

  test('each block is a row: several pairs on a line, values that go on, names in any order', () => {
    const guess = guessReading('s', source(crew));
    expect(guess).toMatchObject({ kind: 'read-blocks', params: { divider: ':', begins: null } });
    const result = read('read-blocks', crew, guess.params);
    expect(namesOf(result.table)).toEqual(['Name', 'Rank', 'Joined', 'Notes', 'Other lines']);
    expect(cellsOf(result.table)).toEqual([
      [null, null, null, null, 'CREW LIST M.V. ORRIN'.replace('LIST ', 'LIST  ')],
      ['Isla Tolm', 'Mate', '2029-04-01', 'relieved at Ullin, back on Friday', null],
      ['Ewan Marr', 'Cook', '2030-11-15', null, null],
    ]);
  });

  test('a cell leads to its own line', () => {
    const runner = new Runner();
    runner.setSource('s', source(crew));
    const run = runner.run([{ id: 'a', kind: 'read-blocks', params: { source: 's' } }], quiet);
    expect(cellsOfReport(run, 0, { row: 1, column: 1 })).toMatchObject([{ row: 3, column: 0 }]);
    expect(cellsOfReport(run, 0, { row: 2, column: 3 })).toEqual([]);
  });

  test('without blank lines a record begins at its first name; a name that comes twice begins one too', () => {
    const lines = 'Ref = B1\nFoot = 3\nRef = B2\nFoot = 4\nFoot = 5\n';
    expect(guessReading('s', source(lines)).params).toMatchObject({ divider: '=', begins: 'Ref' });
    expect(cellsOf(read('read-blocks', lines, { divider: '=', begins: 'Ref' }).table)).toEqual([
      ['B1', '3'],
      ['B2', '4'],
      [null, '5'],
    ]);
  });

  test('times and sentences are no names', () => {
    const result = read('read-blocks', 'Left: 06:10\nArrived: 07:25\n');
    expect(cellsOf(result.table)).toEqual([['06:10', '07:25']]);
    expect(() => read('read-blocks', 'nothing here\nnor here')).toThrow(/No line of a\.txt has a name and a value/);
  });
});
