import { describe, expect, test } from 'vitest';
import { CATALOGUE, countedColumn, makeTable, type Table, textColumn } from '../../index.ts';
import { chosenColumns } from '../../kinds/column-set.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';
import { monthsAmong } from '../../values/month-names.ts';

const run = (kind: string, table: Table, params: object) => {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), quiet);
};
const start = (kind: string, table: Table, columns: string[]) => CATALOGUE.get(kind)!.start(table, columns) as never;
const column = (...cells: (string | null)[]) => makeTable({ a: textColumn(cells) });
const all = { by: 'all' };

describe('months as names, in one language', () => {
  test.each<[string[], string]>([
    [['Set', 'January', 'February'], 'January February'],
    [['Out', 'Gen', 'Route'], ''],
    [['May total', 'May', 'June', 'Total'], 'May June'],
    [['Jan', 'Fev', 'Mar', 'Set', 'Out'], 'Jan Fev Mar Set Out'],
    [['Jan 2031', 'Feb-31', 'Mär.', 'Quay'], 'Jan 2031 Feb-31 Mär.'],
    [['Set', 'Port'], ''],
    [['März', 'Hafen'], 'März'],
    [['Mayflower', 'Marching'], ''],
  ])('%j', (names, months) => {
    const found = monthsAmong(names);
    expect(names.filter((_, k) => found[k]).join(' ')).toBe(months);
    const table = makeTable(Object.fromEntries(names.map((name) => [name, textColumn(['1'])])));
    expect(chosenColumns({ by: 'month' }, table).map((k) => names[k])).toEqual(
      months === '' ? [] : found.flatMap((is, k) => (is ? [names[k]] : [])),
    );
  });
});

describe('spaces alone are blank', () => {
  const table = makeTable({ a: textColumn(['x', '  ', '\u00a0', null]), b: textColumn(['1', ' ', '2', null]) });

  test('in rules', () => {
    expect(run('drop-rows', table, { rules: [{ test: 'empty' }] }).table.rows).toBe(2);
    expect(
      run('keep-rows', table, { rules: [{ test: 'filled', columns: { by: 'names', names: ['a'] } }] }).table.rows,
    ).toBe(1);
    expect(
      run('keep-rows', table, { rules: [{ test: 'blank', columns: { by: 'names', names: ['a'] } }] }).table.rows,
    ).toBe(3);
    expect(run('keep-rows', table, { rules: [{ test: 'only', columns: ['b'] }] }).table.rows).toBe(1);
  });

  test('in types: blank, and not unreadable', () => {
    const result = run('set-types', table, { types: [{ columns: { by: 'names', names: ['b'] }, type: 'number' }] });
    expect(cellsOf(result.table).map((row) => row[1])).toEqual(['1', null, '2', null]);
    expect(result.notices[0]!.text).toBe('2 values read, 0 unreadable');
    expect(start('set-types', table, ['b'])).toMatchObject({ types: [{ type: 'whole' }] });
  });
});

describe('case that does not matter', () => {
  test('of texts that mean blank', () => {
    const params = { texts: ['n/a'], exact: false };
    expect(cellsOf(run('blank-texts', column('N/A', 'n/a', 'x'), params).table)).toEqual([[null], [null], ['x']]);
    expect(cellsOf(run('blank-texts', column('N/A', 'n/a'), { texts: ['n/a'] }).table)).toEqual([['N/A'], [null]]);
  });

  test('of codes of a crosswalk', () => {
    const params = { column: 'a', crosswalk: [{ from: 'hsk', to: 'Hask' }], exact: false };
    expect(cellsOf(run('recode', column('HSK', 'hsk '), params).table)).toEqual([['Hask'], ['Hask']]);
  });
});

test('only the gaps in front are closed, where that is wanted', () => {
  const table = makeTable({
    a: textColumn([null, 'x', ' ']),
    b: textColumn(['x', null, null]),
    c: textColumn([null, 'y', 'x']),
    d: textColumn(['y', null, 'y']),
  });
  expect(cellsOf(run('close-gaps', table, { columns: all, front: true }).table)).toEqual([
    ['x', null, 'y', null],
    ['x', null, 'y', null],
    ['x', 'y', null, null],
  ]);
  expect(cellsOf(run('close-gaps', table, { columns: all, front: true, direction: 'right' }).table)[1]).toEqual([
    null,
    'x',
    null,
    'y',
  ]);
});

describe('times', () => {
  test('with and without seconds stand in one column', () => {
    const table = column('2031-06-02T15:30', '2031-06-02T15:30:07', '2031-06-02 15:30:07.250');
    const types = start('set-types', table, ['a']);
    expect(types).toMatchObject({ types: [{ type: 'datetime' }] });
    expect(cellsOf(run('set-types', table, types).table)).toEqual([
      ['2031-06-02T15:30'],
      ['2031-06-02T15:30:07'],
      ['2031-06-02T15:30:07.250'],
    ]);
  });

  // The examples of RFC 3339, 5.8.
  const zoned = () => column('1985-04-12T23:20:50.52Z', '1996-12-19T16:39:57-08:00', '1990-12-31T15:59:00-08:00');
  const typed = (zone?: string) =>
    run('set-types', zoned(), { types: [{ columns: all, type: 'datetime', ...(zone === undefined ? {} : { zone }) }] });

  test('offsets are read; without a zone the clock stays as written, and that is reported', () => {
    const { table, notices } = typed();
    expect(cellsOf(table)).toEqual([['1985-04-12T23:20:50.520'], ['1996-12-19T16:39:57'], ['1990-12-31T15:59']]);
    expect(notices.find((notice) => notice.severity === 'warning')?.text).toBe(
      'times of a kept as written, their offsets (Z, -08:00) left out',
    );
    expect(start('set-types', zoned(), ['a'])).toMatchObject({ types: [{ type: 'datetime' }] });
  });

  test('or turned to a stated zone', () => {
    expect(cellsOf(typed('UTC').table)).toEqual([
      ['1985-04-12T23:20:50.520'],
      ['1996-12-20T00:39:57'],
      ['1990-12-31T23:59'],
    ]);
    expect(cellsOf(typed('+01:00').table)[2]).toEqual(['1991-01-01T00:59']);
    // Summer time in Lisbon in April 1985: one hour ahead of UTC.
    expect(cellsOf(typed('Europe/Lisbon').table)[0]).toEqual(['1985-04-13T00:20:50.520']);
    expect(() => typed('Nowhere/Hask')).toThrow(/no time zone Nowhere\/Hask/);
  });
});

test.each<[string[], string]>([
  [['yes', 'no', 'yes'], 'yesno'],
  [['Ja', 'Nein'], 'yesno'],
  [['true', 'true'], 'yesno'],
  [['1', '0'], 'whole'],
  [['no', 'none'], 'text'],
  [['y', 'n'], 'text'],
])('yes and no are recognised where they are spelt out: %j is %s', (cells, type) => {
  expect(start('set-types', column(...cells), ['a'])).toMatchObject({ types: [{ type }] });
});

describe('names taken apart and made', () => {
  const wide = makeTable({
    Port: textColumn(['Hask']),
    'Foot (Apr)': textColumn(['5']),
    'Cars (Apr)': textColumn(['1']),
  });
  const parts = [{ as: 'column', name: 'Month' }, { as: 'each' }];
  const going = { columns: { by: 'all-but', names: ['Port'] }, parts };

  test('unpivot maps the pieces of a template by their names, whatever their order', () => {
    const { table } = run('unpivot', wide, { ...going, template: '{Kind} ({Month})' });
    expect(namesOf(table)).toEqual(['Port', 'Month', 'Foot', 'Cars']);
    expect(cellsOf(table)).toEqual([['Hask', 'Apr', '5', '1']]);
  });

  test('a piece that is named otherwise takes the part that is left, and is reported', () => {
    const { notices } = run('unpivot', wide, { ...going, template: '{Kind} ({Mon})' });
    expect(notices.map((notice) => notice.text)).toContain('the piece Kind goes into Month');
  });

  test('unpivot takes names apart by a pattern', () => {
    const { table } = run('unpivot', wide, { ...going, pattern: '^(?<Kind>\\w+) \\((?<Month>\\w+)\\)$' });
    expect(cellsOf(table)).toEqual([['Hask', 'Apr', '5', '1']]);
  });

  test('pivot makes names by a template', () => {
    const long = makeTable({
      Port: textColumn(['Hask', 'Hask']),
      Month: textColumn(['Apr', 'May']),
      Foot: countedColumn('whole', [5, 6]),
      Cars: countedColumn('whole', [1, 2]),
    });
    const params = {
      names: ['Month'],
      values: [{ column: 'Foot' }, { column: 'Cars' }],
      template: '{Value} ({Month})',
    };
    expect(namesOf(run('pivot', long, params).table)).toEqual([
      'Port',
      'Foot (Apr)',
      'Cars (Apr)',
      'Foot (May)',
      'Cars (May)',
    ]);
    expect(() => run('pivot', long, { ...params, template: '{Monat}' })).toThrow(/asks for \{Monat\}/);
  });

  test('split leaves out pieces without a name', () => {
    const params = { column: 'a', cut: { delimiters: ['-'] }, into: ['Ship', '', 'Berth'] };
    const { table } = run('split-to-columns', column('S1-x-B2'), params);
    expect(namesOf(table)).toEqual(['Ship', 'Berth']);
    expect(cellsOf(table)).toEqual([['S1', 'B2']]);
  });
});

test('a pile carries its mark, by its name or as the step says', () => {
  const rules = [{ test: 'contains', column: 'a', text: 'T' }];
  const marks = (pile: string, mark?: string) =>
    run('set-aside', column('T', 'x'), { pile, rules, ...(mark === undefined ? {} : { mark }) }).aside.map(
      (one) => one.mark,
    );
  expect(marks('totals')).toEqual(['total']);
  expect(marks('Quarter totals')).toEqual(['total']);
  expect(marks('Summen')).toEqual(['other']);
  expect(marks('Summen', 'total')).toEqual(['total']);
});

describe('codes are no numbers, and doubt is reported', () => {
  test.each<[string[], string]>([
    [['HUA-0710', 'HUA-0711'], 'text'],
    [['ABC123', 'ABC124'], 'text'],
    [['12B', '13B'], 'text'],
    [['1E5', '2E7'], 'text'],
    [['10.0.0.100', '10.0.0.101'], 'text'],
    [['EUR 12.50', '7.00 EUR', '€3'], 'number'],
    [['(12.50)', '7-', '12 %'], 'text'],
    [['(12.50)', '7-', '12'], 'number'],
    [['12.5k', '1.2 Mio', '3M'], 'whole'],
    [['12.5k', '1.2 Mio', '350'], 'text'],
    [['76,7 m', '80,1 m'], 'text'],
    [['€ 5', '$ 5', '£ 5'], 'text'],
    [['12%', '24'], 'text'],
    [['12%', '24 %', '0'], 'number'],
    [['453957876362148612', '453957876362148613'], 'text'],
    [['0.1234567890123456789', '0.5'], 'text'],
    [['1E10', '9E04'], 'text'],
    [['1.1', '1.10', '2.3'], 'text'],
    [['1.2', '1.10', '10.1'], 'text'],
    [['1.20', '1.10', '3'], 'number'],
    [['10.0', '1.25', '3.5'], 'number'],
    [['-1.50', '1.255'], 'number'],
    [['01.5', '2.5'], 'text'],
    [['+441234567', '+441234568'], 'text'],
    [['1.', '2.'], 'text'],
    [['20-03-2019', '05-04-2019'], 'date'],
    [['3/4/2019', '13/4/2019'], 'date'],
    [['6. Januar 2021', '2021/02/21', '25.12.2021'], 'date'],
    [['25 de enero de 2021', '1 de mayo de 2021'], 'date'],
    [['13/01/2021', '01/13/2021'], 'text'],
    [['120.50 CR', '8.00DR'], 'number'],
    [['1.5E3', '2e-4', '7e+21'], 'number'],
  ])('%j is guessed as %s', (cells, type) => {
    expect(start('set-types', column(...cells), ['a'])).toMatchObject({ types: [{ type }] });
  });

  const looks = (...cells: string[]) =>
    run('set-types', column(...cells), { types: [{ columns: all, type: 'number' }] })
      .notices.filter((notice) => notice.severity === 'warning')
      .map((notice) => notice.text);

  test('a mark with three digits behind it, beside the other one or alone', () => {
    expect(looks('1.234', '1,234')).toEqual(['a contains 1.234 and 1,234, which use different decimal marks']);
    expect(looks('1.234', '12.345')).toEqual(["1.234 in a could be 1.234 or 1234: each '.' has three digits after it"]);
    expect(looks('1.234', '1.5')).toEqual([]);
    expect(looks('1,234', '12')).toEqual([]);
    expect(looks('1,234', '5,678')).toEqual(["1,234 in a could be 1.234 or 1234: each ',' has three digits after it"]);
    expect(looks('0.234', '0.125')).toEqual([]);
  });

  test('several currencies and units', () => {
    expect(looks('€ 5', '$7')).toEqual(['a mixes EUR and USD']);
    expect(looks('12%', '24')).toEqual(['a mixes % and no unit']);
  });
});
