import { utils, write } from '@e965/xlsx';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import {
  CATALOGUE,
  cellsOfReport,
  cellsOfTable,
  guessReading,
  NAME,
  READINGS,
  ReadFailure,
  type ReadResult,
  Runner,
} from '../index.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { bundleFiles } from './archive.ts';
import { guessNameTemplate } from './read-files.ts';
import type { Source } from './read-kind.ts';

const files = (of: Record<string, string>): Source => ({
  name: 'months.zip',
  bytes: bundleFiles(Object.entries(of).map(([name, text]) => ({ name, bytes: strToU8(text) }))),
});
const read = (source: Source, params: object = {}): ReadResult => {
  const guess = guessReading('s', source);
  const kind = READINGS.get(guess.kind)!;
  return kind.read(source, kind.params.parse({ ...guess.params, ...params }), quiet);
};

const months = {
  'bookings-2031-02.csv': 'Ref,Foot\nB3,5\n',
  'bookings-2031-01.csv': 'Ref,Foot\nB1,3\nB2,4\n',
};

describe('several files as one source', () => {
  test('are stacked in natural order, with the name and its pieces beside each row', () => {
    const result = read(files(months));
    expect(namesOf(result.table)).toEqual(['File', 'Part', 'A', 'B']);
    expect(cellsOf(result.table)).toEqual([
      ['bookings-2031-01.csv', '2031-01', 'Ref', 'Foot'],
      ['bookings-2031-01.csv', '2031-01', 'B1', '3'],
      ['bookings-2031-01.csv', '2031-01', 'B2', '4'],
      ['bookings-2031-02.csv', '2031-02', 'Ref', 'Foot'],
      ['bookings-2031-02.csv', '2031-02', 'B3', '5'],
    ]);
    expect(result.report.parts.map((part) => part.name)).toEqual(['bookings-2031-01.csv', 'bookings-2031-02.csv']);
  });

  test('every cell leads to its own file, and the name to the name', () => {
    const runner = new Runner();
    const source = files(months);
    runner.setSource('s', source);
    const run = runner.run([{ id: 'a', ...guessReading('s', source) }], quiet);
    expect(cellsOfReport(run, 0, { row: 4, column: 3 })).toEqual([
      { source: 's', part: 1, row: 1, column: 1, role: 'value' },
    ]);
    expect(cellsOfReport(run, 0, { row: 4, column: 0 })).toEqual([
      { source: 's', part: 1, row: NAME, column: NAME, role: 'label' },
    ]);
    expect(cellsOfTable(run, 0, { source: 's', part: 1, row: 1, column: 1 })).toEqual([
      { row: 4, column: 3, role: 'value' },
    ]);
  });

  test('fields of nested files meet by name, whatever their order', () => {
    const source = files({ 'a.json': '[{"x":1,"y":2}]', 'b.json': '[{"y":3,"z":4}]' });
    const result = read(source, { nameTemplate: null });
    expect(namesOf(result.table)).toEqual(['File', 'x', 'y', 'z']);
    expect(cellsOf(result.table)).toEqual([
      ['a.json', '1', '2', null],
      ['b.json', null, '3', '4'],
    ]);
  });

  test('a file that cannot be read is named; one with more columns is reported; others are left out by name', () => {
    expect(() => read(files({ 'a.json': '[{"x":1}]', 'b.json': '[{"x":' }))).toThrow(/b\.json.*not valid JSON/);
    const wider = read(files({ 'a.csv': 'x,y\n1,2\n', 'b.csv': 'x,y\n1,2\n', 'c.csv': 'x,y,z\n1,2,3\n' }));
    expect(wider.notices.map((notice) => notice.text).join()).toContain('another number of columns');
    const some = read(files({ 'a.csv': 'x\n1\n', 'b.csv': 'x\n2\n', 'read me.txt': 'nothing' }));
    expect(new Set(cellsOf(some.table).map((row) => row[0]))).toEqual(new Set(['a.csv', 'b.csv']));
    expect(() => read(files(months), { files: { by: 'names', names: ['bookings-2031-3.csv'] } })).toThrow(
      /no file bookings-2031-3\.csv.*Did you mean/s,
    );
  });

  test.each([
    [['bookings-2031-01.csv', 'bookings-2031-12.csv'], 'bookings-{Part}.csv'],
    [['Hask.txt', 'Ullin.txt'], '{Part}.txt'],
    [['2031 Q1 returns.xlsx', '2031 Q2 returns.xlsx'], '2031 {Part} returns.xlsx'],
    [['same.csv'], null],
  ])('pieces of %j: %s', (names, template) => {
    expect(guessNameTemplate(names)).toBe(template);
  });
});

describe('archives that cannot be taken', () => {
  const whole = zipSync({ 'a.csv': strToU8('x,y\n1,2\n'.repeat(500)) });

  test('one cut off says so', () => {
    expect(() => guessReading('s', { name: 'a.zip', bytes: whole.subarray(0, whole.length - 40) })).toThrow(
      /a\.zip is damaged or cut off: its directory is not there/,
    );
  });

  test('an empty one, a picture and a gzip say what they are', () => {
    expect(() => guessReading('s', { name: 'a.zip', bytes: zipSync({}) })).toThrow(/holds no files/);
    expect(() => guessReading('s', { name: 'a.csv', bytes: Uint8Array.of(0x89, 0x50, 0x4e, 0x47) })).toThrow(/picture/);
    expect(() => guessReading('s', { name: 'a.csv', bytes: Uint8Array.of(0x1f, 0x8b, 8) })).toThrow(
      /packed with gzip.*unpack it/,
    );
  });
});

describe('files that are not read are named, with what to do', () => {
  const bytesOf = (text: string) => Uint8Array.from(text, (character) => character.charCodeAt(0));
  const padded = (text: string) => bytesOf(`${text}${'\0\x01\x02'.repeat(200)}`);
  // First bytes as the public descriptions of the formats have them.
  test.each<[string, Uint8Array, RegExp]>([
    ['SPSS', padded('$FL2@(#)'), /an SPSS data file/],
    ['bzip2', padded('BZh91AY'), /bzip2.*Unpack/],
    ['xz', padded('\xfd7zXZ\0'), /xz/],
    ['zstd', padded('\x28\xb5\x2f\xfd'), /zstd/],
    ['tar', bytesOf(`${'a\0'.padEnd(257, '\0')}ustar\x00${'00'.padEnd(300, '\0')}`), /a tar archive/],
    ['a program', padded('\x7fELF\x02'), /a program/],
    [
      'a document',
      zipSync({ '[Content_Types].xml': bytesOf('<a/>'), 'word/document.xml': bytesOf('<a/>') }),
      /a text document/,
    ],
    ['slides', zipSync({ '[Content_Types].xml': bytesOf('<a/>'), 'ppt/a.xml': bytesOf('<a/>') }), /a set of slides/],
    ['bytes of no kind', bytesOf('\x01\x02\x03\x04'.repeat(100)), /is a file type that Rimefield cannot read/],
  ])('%s', (_, bytes, message) => {
    expect(() => guessReading('s', { name: 'a.csv', bytes })).toThrow(message);
    expect(() => guessReading('s', { name: 'a.csv', bytes })).toThrow(ReadFailure);
  });

  test('a text that begins like one of them is a text', () => {
    expect(guessReading('s', { name: 'a.csv', bytes: bytesOf('MZ,BZh\n1,2\n3,4\n') }).kind).toBe('read-delimited');
  });
});

describe('files that are stacked', () => {
  const encode = (text: string) => new TextEncoder().encode(text);
  const stack = (files: Record<string, string>, params: object = {}) => {
    const bytes = bundleFiles(Object.entries(files).map(([name, text]) => ({ name, bytes: encode(text) })));
    const source = { name: 'all.zip', bytes };
    const guess = guessReading('s', source);
    const kind = READINGS.get(guess.kind)!;
    return kind.read(source, kind.params.parse({ ...guess.params, ...params }), quiet);
  };
  const looks = (result: ReadResult) =>
    result.notices.filter((notice) => notice.severity === 'warning').map((notice) => notice.text);
  const hask = 'Sailing,Foot,Cars\n07:10,5,1\n07:40,9,2\n';

  test('one with its columns in another order, one with a column more: told by file and column', () => {
    const files = {
      'a.csv': hask,
      'b.csv': 'Cars,Sailing,Foot\n2,08:10,7\n1,08:20,3\n',
      'c.csv': 'Sailing,Foot,Note\n09:10,7,fog\n09:40,6,calm\n',
    };
    expect(looks(stack(files))).toEqual([
      'b.csv has its columns in another order than a.csv',
      'c.csv has other columns (no Cars, also Note) than a.csv',
    ]);
    expect(looks(stack(files, { nameColumn: null }))[0]).toBe(
      'b.csv has its columns in another order than a.csv, and columns are stacked by their place',
    );
  });

  test('many that differ are reported together', () => {
    const names = Array.from({ length: 12 }, (_, k) => `q${k}.csv`);
    const told = looks(
      stack({ 'a.csv': hask, ...Object.fromEntries(names.map((name) => [name, 'Sailing,Foot,Note\n09:10,7,fog\n'])) }),
    );
    expect(told).toHaveLength(6);
    expect(told.at(-1)).toMatch(/^7 other parts not like a\.csv either: /);
  });

  test('the header step then brings them together by name', () => {
    const runner = new Runner();
    const bytes = bundleFiles([
      { name: 'a.csv', bytes: encode(hask) },
      { name: 'b.csv', bytes: encode('Cars,sailing,Foot\n2,08:10,7\n1,08:20,3\n') },
    ]);
    const source = { name: 'all.zip', bytes };
    runner.setSource('s', source);
    const guess = guessReading('s', source);
    const reading = { id: '1', kind: guess.kind, params: guess.params };
    const raw = runner.run([reading], quiet).steps[0]!.table;
    const header = CATALOGUE.get('header-from-rows')!;
    const run = runner.run(
      [reading, { id: '2', kind: header.kind, params: header.start(raw, []) as Record<string, unknown> }],
      quiet,
    );
    expect(namesOf(run.steps[1]!.table)).toEqual(['File', 'Part', 'Sailing', 'Foot', 'Cars']);
    expect(cellsOf(run.steps[1]!.table).slice(2)).toEqual([
      ['b.csv', 'b', '08:10', '7', '2'],
      ['b.csv', 'b', '08:20', '3', '1'],
    ]);
  });

  test('nested text meets by name, whatever the case, and what one lacks is reported', () => {
    const result = stack({
      'a.json': '[{"Foot":1,"Cars":2}]',
      'b.json': '[{"cars":4,"foot":3}]',
      'c.json': '[{"Foot":5}]',
    });
    expect(cellsOf(result.table)).toEqual([
      ['a.json', 'a', '1', '2'],
      ['b.json', 'b', '3', '4'],
      ['c.json', 'c', '5', null],
    ]);
    expect(looks(result)).toEqual(['c.json has no column Cars: blank there']);
  });

  test('a file that stands alone is read as the only one', () => {
    const kind = READINGS.get('read-files')!;
    const each = { kind: 'read-delimited', params: {} };
    const source = { name: 'hask.csv', bytes: encode(hask) };
    const { table } = kind.read(source, kind.params.parse({ source: 's', each }), quiet);
    expect(cellsOf(table)[1]).toEqual(['hask.csv', '07:10', '5', '1']);
  });
});

test('sheets that are unlike the others are left for their own table, and named', () => {
  const sheets = {
    Cover: utils.aoa_to_sheet([['Returns of all quays'], ['Made by the office'], ['Ask Isla']]),
    Hask: utils.aoa_to_sheet([
      ['Sailing', 'Foot'],
      ['07:10', 5],
      ['07:40', 9],
    ]),
    Ullin: utils.aoa_to_sheet([
      ['Sailing', 'Foot'],
      ['08:10', 7],
      ['08:40', 1],
    ]),
  };
  const bytes = new Uint8Array(
    write({ SheetNames: Object.keys(sheets), Sheets: sheets }, { type: 'buffer', bookType: 'xlsx' }) as Buffer,
  );
  const source = { name: 'a.xlsx', bytes };
  const guess = guessReading('s', source);
  expect(guess.params).toMatchObject({ sheets: { by: 'names', names: ['Hask', 'Ullin'] }, nameColumn: 'Sheet' });
  const kind = READINGS.get('read-sheets')!;
  const texts = (params: object) =>
    kind.read(source, kind.params.parse({ ...guess.params, ...params }), quiet).notices.map((notice) => notice.text);
  expect(texts({})).toEqual(['1 sheet not read here: Cover']);
  expect(texts({ sheets: { by: 'all' } })).toContain('Hask differs from Cover: read it as a separate table');
});
