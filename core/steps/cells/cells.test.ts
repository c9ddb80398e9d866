import { describe, expect, test } from 'vitest';
import {
  CATALOGUE,
  countedColumn,
  makeTable,
  type StepResult,
  type Table,
  textColumn,
  unreadableAt,
} from '../../index.ts';
import { cellsOf, namesOf, quiet, received } from '../../test-support.ts';

function run(kind: string, params: object, table: Table): StepResult {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), quiet);
}
const column = (result: StepResult, k = 0) => cellsOf(result.table).map((row) => row[k]);
const all = { by: 'all' };
const texts = (...cells: (string | null)[]) => makeTable({ T: textColumn(cells) });

describe('clean text', () => {
  test('blanks, invisible characters and no-break blanks', () => {
    const result = run(
      'clean-text',
      {},
      texts('  Hask \u00a0 to\u200b  Ullin ', 'plain', ' ', null, 'soft\u00adhyphen\tx'),
    );
    expect(column(result)).toEqual(['Hask to Ullin', 'plain', null, null, 'softhyphen x']);
    expect(result.notices[0]!.text).toBe('3 cells changed');
  });
  test.each([
    ['lower', 'HASK to ÅBO', 'hask to åbo'],
    ['upper', 'hask', 'HASK'],
    ['title', "o'neil's QUAY of hask", "O'neil's Quay Of Hask"],
    ['sentence', 'HASK TO ULLIN', 'Hask to ullin'],
  ])('letters %s', (letters, from, to) => {
    expect(column(run('clean-text', { letters }, texts(from)))).toEqual([to]);
  });
  test('letters, digits or punctuation left out; Unicode forms', () => {
    expect(column(run('clean-text', { leaveOut: ['letters'] }, texts('HU-0710/b')))).toEqual(['-0710/']);
    expect(column(run('clean-text', { leaveOut: ['digits', 'punctuation'] }, texts('HU-0710/b €5')))).toEqual(['HUb']);
    expect(column(run('clean-text', { normal: 'NFKC' }, texts('ﬁsh ①')))).toEqual(['fish 1']);
    expect(column(run('clean-text', { normal: 'NFC' }, texts('e\u0301')))).toEqual(['é']);
  });
  test('numbers stay numbers where nothing changes', () => {
    const table = makeTable({ A: countedColumn('number', [1, 2]) });
    expect(run('clean-text', {}, table).table.fields[0]!.column).toBe(table.fields[0]!.column);
  });
});

describe('replace', () => {
  test('part, whole cell, pattern, case; blank where nothing is left', () => {
    expect(column(run('replace', { find: 'a', with: 'x' }, texts('banana', 'A', 'a')))).toEqual(['bxnxnx', 'A', 'x']);
    expect(
      column(run('replace', { find: 'a', with: '', how: 'whole', exact: false }, texts('banana', 'A', 'a'))),
    ).toEqual(['banana', null, null]);
    expect(
      column(
        run('replace', { find: '^(\\w+) to (\\w+)$', with: '$2 from $1', how: 'pattern' }, texts('Hask to Ullin')),
      ),
    ).toEqual(['Ullin from Hask']);
    expect(column(run('replace', { find: '.', with: '$&' }, texts('1.2')))).toEqual(['1$&2']);
  });
  test('works on any type as it reads, and a number column that changes becomes text', () => {
    const result = run(
      'replace',
      { find: '2', with: 'two' },
      makeTable({ A: countedColumn('number', [1.5, 2.5]), D: countedColumn('date', [0]) }),
    );
    expect(cellsOf(result.table)[1]![0]).toBe('two.5');
    expect(
      run('replace', { find: '9', with: '8' }, makeTable({ A: countedColumn('number', [1]) })).notices[0]!.severity,
    ).toBe('warning');
  });
});

describe('blanks', () => {
  test('texts that mean blank, the column keeping its type and shedding its unreadable cells', () => {
    const typed = run('set-types', { types: [{ columns: all, type: 'number' }] }, texts('1', 'n/a', ' - ', '2')).table;
    const result = run('blank-texts', { texts: ['n/a', '-'] }, typed);
    expect(result.table.fields[0]!.column.type).toBe('number');
    expect(column(result)).toEqual(['1', null, null, '2']);
    expect(unreadableAt(result.table.fields[0]!.column, 1)).toBeUndefined();
    expect(CATALOGUE.get('blank-texts')!.start(texts('1', '..', 'N/A'), [])).toMatchObject({ texts: ['..', 'N/A'] });
  });
  test('what blanks become is read as the type of the column', () => {
    const table = makeTable({
      n: countedColumn('number', [1, null]),
      t: textColumn([null, 'x']),
      d: countedColumn('date', [null, 0]),
    });
    expect(
      cellsOf(run('fill-blanks', { columns: { by: 'names', names: ['n', 't'] }, with: '0' }, table).table),
    ).toEqual([
      ['1', '0', null],
      ['0', 'x', '1970-01-01'],
    ]);
    expect(() => run('fill-blanks', { columns: all, with: 'none' }, table)).toThrow(
      "'none' cannot stand in n, which holds number",
    );
  });
});

describe('recode', () => {
  const table = texts('1', '2 ', '9', null);
  const crosswalk = [
    { from: '1', to: 'Foot' },
    { from: '2', to: 'Vehicle' },
  ];
  test.each([
    ['keep', ['Foot', 'Vehicle', '9', null]],
    ['blank', ['Foot', 'Vehicle', null, null]],
    ['list', ['Foot', 'Vehicle', '9', null]],
  ])('unmatched: %s, and always told with their rows', (unmatched, cells) => {
    const result = run('recode', { column: 'T', crosswalk, unmatched }, table);
    expect(column(result)).toEqual(cells);
    expect(result.notices[1]).toMatchObject({
      severity: 'warning',
      text: '1 cell with codes that are not in the crosswalk: 9',
      rows: { rows: Int32Array.from([2]) },
    });
    expect(unreadableAt(result.table.fields[0]!.column, 2)?.reason).toBe(
      unmatched === 'list' ? 'not in the crosswalk' : undefined,
    );
  });
  test('into a new column beside it', () => {
    expect(namesOf(run('recode', { column: 'T', crosswalk, into: 'Kind' }, table).table)).toEqual(['T', 'Kind']);
  });
});

describe('date parts', () => {
  test('of a date and of a date and time, names of months by language', () => {
    const table = makeTable({
      D: countedColumn('date', [22461, null]),
      M: countedColumn('datetime', [22461.5 * 86_400_000, null]),
    });
    const parts = [
      'year',
      'quarter',
      'month',
      'month-name',
      'week',
      'isodow',
      'weekday-name',
      'start-quarter',
      'start-week',
    ];
    const result = run('date-parts', { column: 'D', parts, language: 'de' }, table);
    expect(cellsOf(result.table)[0]!.slice(0, 10)).toEqual([
      '2031-07-01',
      '2031',
      '3',
      '7',
      'Juli',
      '27',
      '2',
      'Tuesday',
      '2031-07-01',
      '2031-06-30',
    ]);
    expect(cellsOf(result.table)[1]).toEqual(Array(11).fill(null));
    expect(namesOf(result.table)[1]).toBe('D year');
    expect(cellsOf(run('date-parts', { column: 'M', parts: ['day'] }, table).table)[0]![2]).toBe('1');
    expect(() => run('date-parts', { column: 'T' }, texts('x'))).toThrow('holds no dates');
  });
});

describe('round', () => {
  test('half up and half to even, to digits and to quarters', () => {
    const table = makeTable({ A: countedColumn('number', [0.125, 2.5, -2.5, null]) });
    expect(column(run('round', { columns: all, size: 2 }, table))).toEqual(['0.13', '2.5', '-2.5', null]);
    expect(column(run('round', { columns: all, ties: 'half-even' }, table))).toEqual(['0', '2', '-2', null]);
    expect(column(run('round', { columns: all, to: 'fraction', size: 4 }, table))).toEqual([
      '0.25',
      '2.5',
      '-2.5',
      null,
    ]);
    expect(() => run('round', { columns: all }, texts('x'))).toThrow('holds no numbers');
    expect(() => run('round', { columns: all, to: 'fraction', size: 0 }, table)).toThrow('at least 1');
  });
});

describe('extract', () => {
  const table = texts('HU-0710/b', 'HT-1640/a', 'none', null);
  test('by template: named pieces, the misfits told', () => {
    const result = run('extract', { column: 'T', template: '{Route}-{Time}/{Part}' }, table);
    expect(namesOf(result.table)).toEqual(['T', 'Route', 'Time', 'Part']);
    expect(cellsOf(result.table).slice(0, 3)).toEqual([
      ['HU-0710/b', 'HU', '0710', 'b'],
      ['HT-1640/a', 'HT', '1640', 'a'],
      ['none', null, null, null],
    ]);
    expect(result.notices[0]).toMatchObject({ text: '1 cell did not fit: none', rows: { rows: Int32Array.from([2]) } });
  });
  test('by pattern, with named and numbered groups', () => {
    const result = run('extract', { column: 'T', by: 'pattern', pattern: '(?<Hour>\\d\\d)(\\d\\d)' }, table);
    expect(namesOf(result.table)).toEqual(['T', 'Hour', 'Piece 2']);
    expect(cellsOf(result.table)[1]).toEqual(['HT-1640/a', '16', '40']);
  });
  test('by position from either end, by whole characters', () => {
    expect(column(run('extract', { column: 'T', by: 'position', take: 2 }, table), 1)).toEqual([
      'HU',
      'HT',
      'no',
      null,
    ]);
    expect(column(run('extract', { column: 'T', by: 'position', take: 4, skip: 2, end: 'end' }, table), 1)).toEqual([
      '0710',
      '1640',
      'no',
      null,
    ]);
    expect(column(run('extract', { column: 'T', by: 'position', take: 1, skip: 1 }, texts('a𝄞b')), 1)).toEqual(['𝄞']);
  });
  test.each([
    [{ template: 'no pieces' }, 'names no piece'],
    [{ template: '{a}{b}' }, 'Two pieces touch'],
    [{ template: '{a' }, 'never closed'],
    [{ template: '{a}-{a}' }, 'stands twice'],
    [{ by: 'pattern', pattern: 'a+' }, 'has no group'],
    [{ by: 'pattern', pattern: '(' }, 'cannot be used'],
  ])('%j is reported', (params, message) => {
    expect(() => run('extract', { column: 'T', ...params }, table)).toThrow(message);
  });
});

describe('join text and expressions', () => {
  const table = makeTable({ a: textColumn(['x', null, null]), b: countedColumn('whole', [1, 2, null]) });
  test('blanks are passed over, and all blank is blank', () => {
    expect(column(run('join-text', { columns: all, with: '-', into: 'c' }, table), 2)).toEqual(['x-1', '2', null]);
    expect(namesOf(run('join-text', { columns: all, into: 'c', keep: false }, table).table)).toEqual(['c']);
  });
  test('an expression into a new column or an old one; the trace leads to what it reads', () => {
    const fresh = run('expression', { into: 'c', text: 'b * 2' }, table);
    expect(column(fresh, 2)).toEqual(['2', '4', null]);
    expect(fresh.origin[2]!.cells.map((cell) => cell.column)).toEqual([1]);
    expect(namesOf(run('expression', { into: 'b', text: "coalesce(a, 'none')" }, table).table)).toEqual(['a', 'b']);
    expect(() => run('expression', { into: 'c', text: 'b *' }, table)).toThrow(
      'Expected a column, a value or a function, at the end.',
    );
  });
  test('rows that cannot be computed are reported with the reason', () => {
    const result = run('expression', { into: 'c', text: '1 / (b - 1)' }, table);
    expect(result.notices[0]).toMatchObject({
      severity: 'warning',
      text: '1 cell of c could not be computed: division by zero',
      column: 'c',
    });
  });
});

describe('conversions that lose something are reported', () => {
  test('dates that read day first and month first', () => {
    const days = texts('03/04/2031', '05/06/2031');
    const notices = run(
      'set-types',
      { types: [{ columns: all, type: 'date', patterns: ['dd/MM/yyyy'] }] },
      days,
    ).notices;
    expect(notices.some((notice) => notice.severity === 'warning' && notice.text.includes('month first'))).toBe(true);
    const clear = run(
      'set-types',
      { types: [{ columns: all, type: 'date', patterns: ['dd/MM/yyyy'] }] },
      texts('03/04/2031', '25/06/2031'),
    ).notices;
    expect(clear.every((notice) => notice.severity === 'info')).toBe(true);
  });
  test('workbook serial numbers become dates in either system', () => {
    const serials = makeTable({ A: received([45000, 60, 'x', null]) });
    const read = (system: number) =>
      column(run('set-types', { types: [{ columns: all, type: 'date', serial: system }] }, serials));
    expect(read(1900)).toEqual(['2023-03-15', '60', 'x', null]);
    expect(read(1904)).toEqual(['2027-03-16', '1904-03-01', 'x', null]);
    expect(
      column(run('set-types', { types: [{ columns: all, type: 'date', serial: 1900 }] }, texts('45000', '45000.5'))),
    ).toEqual(['2023-03-15', '2023-03-15']);
  });
});
