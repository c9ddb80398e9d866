import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Field, NAME, type Table, textColumn, traceBack } from '../../index.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';
import { dropColumns } from './drop-columns.ts';
import { headerFromRows } from './header-from-rows.ts';
import { keepColumns } from './keep-columns.ts';
import { rename } from './rename.ts';

function sheet(rows: (string | null)[][], ports?: string[]): Table {
  const letters = ['A', 'B', 'C', 'D', 'E', 'F'];
  const fields: Field[] = rows[0]!.map((_, c) => ({
    name: letters[c]!,
    nameOrigin: 'position',
    column: textColumn(rows.map((row) => row[c] ?? null)),
  }));
  if (ports !== undefined) fields.unshift({ name: 'Port', nameOrigin: 'beside', column: textColumn(ports) });
  return { rows: rows.length, fields };
}

const run = (table: Table, params: object) => headerFromRows.run(table, headerFromRows.params.parse(params), quiet);
const sailing = { test: 'equals', column: 'A', text: 'Sailing' };

describe('header from rows', () => {
  const two = [
    ['Quay returns', null, null, null, null],
    ['Sailing', 'April', null, 'May', null],
    [null, 'Foot', 'Vehicles', 'Foot', 'Vehicles'],
    ['07:10', '5', '1', '6', '2'],
    ['Sailing', 'April', null, 'May', null],
    [null, 'Foot', 'Vehicles', 'Foot', 'Vehicles'],
    ['08:10', '7', '3', '8', '4'],
  ];

  test('the first cell of each repeat may differ and is carried onto the rows below', () => {
    const blocks = [
      ['2030', 'Jan', 'Feb'],
      ['Hask', '5', '6'],
      ['2031', 'Jan', 'Feb'],
      ['Hask', '7', '8'],
      ['Ullin', '9', '4'],
    ];
    const result = run(sheet(blocks), { corner: 'Year' });
    expect(namesOf(result.table)).toEqual(['Year', 'A', 'Jan', 'Feb']);
    expect(cellsOf(result.table)).toEqual([
      ['2030', 'Hask', '5', '6'],
      ['2031', 'Hask', '7', '8'],
      ['2031', 'Ullin', '9', '4'],
    ]);
    expect(traceBack(result.origin, { row: 2, column: 0 })).toEqual([{ row: 2, column: 0, input: 0, role: 'label' }]);
    expect(traceBack(result.origin, { row: 2, column: 2 })).toEqual([{ row: 4, column: 1, input: 0, role: 'value' }]);
  });

  test('two tiers: the upper is filled across, tiers are joined, titles and repeats go on their piles', () => {
    const result = run(sheet(two), { rows: 2, at: sailing });
    expect(namesOf(result.table)).toEqual([
      'Sailing',
      'April / Foot',
      'April / Vehicles',
      'May / Foot',
      'May / Vehicles',
    ]);
    expect(cellsOf(result.table)).toEqual([two[3], two[6]]);
    expect(result.aside.map((pile) => [pile.name, [...pile.rows]])).toEqual([
      ['titles', [0]],
      ['headers', [1, 2]],
      ['repeats', [4, 5]],
    ]);
  });

  test('a name traces to the cell of each tier that it was made of', () => {
    const { origin } = run(sheet(two), { rows: 2, at: sailing });
    expect(traceBack(origin, { row: NAME, column: 2 })).toEqual([
      { row: 1, column: 1, input: 0, role: 'value' },
      { row: 2, column: 2, input: 0, role: 'value' },
    ]);
  });

  test('without filling across, a tier counts only where it stands', () => {
    const result = run(sheet(two), { rows: 2, at: sailing, fillAcross: false, join: '_' });
    expect(namesOf(result.table)).toEqual(['Sailing', 'April_Foot', 'Vehicles', 'May_Foot', 'Vehicles 2']);
    expect(result.notices[0]!.text).toContain('Vehicles 2');
  });

  test('stacked sheets: rows above the header of each are titles; columns beside keep their names', () => {
    const rows = [
      ['Title', null],
      ['Sailing', 'Foot'],
      ['07:10', '5'],
      ['Title 2', null],
      ['Printed', null],
      ['Sailing', 'Foot'],
      ['08:10', '7'],
    ];
    const result = run(sheet(rows, ['Hask', 'Hask', 'Hask', 'Ullin', 'Ullin', 'Ullin', 'Ullin']), {
      at: sailing,
      within: 'Port',
    });
    expect(namesOf(result.table)).toEqual(['Port', 'Sailing', 'Foot']);
    expect(cellsOf(result.table)).toEqual([
      ['Hask', '07:10', '5'],
      ['Ullin', '08:10', '7'],
    ]);
    expect(result.aside.find((pile) => pile.name === 'titles')!.rows).toEqual(Int32Array.from([0, 3, 4]));
  });

  test('a column with nothing in its header keeps its letter, also under a filled upper tier', () => {
    const result = run(
      sheet([
        ['Sailing', 'Quarter', null, null],
        [null, 'Foot', 'Vehicles', null],
        ['07:10', '1', '2', 'x'],
      ]),
      { rows: 2 },
    );
    expect(namesOf(result.table)).toEqual(['Sailing', 'Quarter / Foot', 'Quarter / Vehicles', 'D']);
  });

  test('no such row, or too few rows, stops with what was searched for', () => {
    expect(() => run(sheet(two), { at: { test: 'equals', column: 'A', text: 'Departure' } })).toThrow(
      'No row where A is Departure',
    );
    expect(() => run(sheet([['a']]), { rows: 2 })).toThrow('needs 2 rows from row 1 on, but the table has 1 row');
  });
});

describe('columns', () => {
  const table = sheet([['a', 'b', 'c']]);

  test('keep gives the order asked for, and drop goes by rule', () => {
    expect(namesOf(keepColumns.run(table, { columns: { by: 'names', names: ['C', 'A'] } }, quiet).table)).toEqual([
      'C',
      'A',
    ]);
    expect(namesOf(dropColumns.run(table, { columns: { by: 'matches', pattern: '^[AB]$' } }, quiet).table)).toEqual([
      'C',
    ]);
    expect(dropColumns.run(table, { columns: { by: 'starts', text: 'X' } }, quiet).notices[0]!.severity).toBe(
      'warning',
    );
  });

  test('a renamed column is a named one; a name that is taken is made unique and told', () => {
    const result = rename.run(
      table,
      {
        names: [
          { from: 'A', to: 'B' },
          { from: 'B', to: 'Foot' },
        ],
      },
      quiet,
    );
    expect(namesOf(result.table)).toEqual(['B', 'Foot', 'C']);
    expect(result.table.fields[0]!.nameOrigin).toBe('named');
    expect(namesOf(rename.run(table, { names: [{ from: 'A', to: 'C' }] }, quiet).table)).toEqual(['C 2', 'B', 'C']);
  });

  test('names that say what they mean take next month along', () => {
    const years: Table = {
      rows: 1,
      fields: ['Port', '2030', '2031', 'April'].map((name) => ({
        name,
        nameOrigin: 'named' as const,
        column: textColumn(['x']),
      })),
    };
    expect(namesOf(keepColumns.run(years, { columns: { by: 'year' } }, quiet).table)).toEqual(['2030', '2031']);
    expect(namesOf(keepColumns.run(years, { columns: { by: 'month' } }, quiet).table)).toEqual(['April']);
    expect(namesOf(keepColumns.run(years, { columns: { by: 'constant' } }, quiet).table)).toHaveLength(4);
  });
});

describe('sheets or files under each other, each with its own header', () => {
  const ports = (...counts: [string, number][]) => counts.flatMap(([port, count]) => Array<string>(count).fill(port));
  const met = (rows: (string | null)[][], names: string[], params: object = {}) =>
    run(sheet(rows, names), { within: 'Port', at: { test: 'equals', column: 'A', text: 'Sailing' }, ...params });

  test('columns in another order meet by name, whatever their case and outer spaces', () => {
    const result = met(
      [
        ['Sailing', 'Foot', 'Cars'],
        ['07:10', '5', '1'],
        ['Returns', null, null],
        [' cars', 'SAILING', 'Foot '],
        ['2', '08:10', '7'],
      ],
      ports(['Hask', 2], ['Ullin', 3]),
    );
    expect(namesOf(result.table)).toEqual(['Port', 'Sailing', 'Foot', 'Cars']);
    expect(cellsOf(result.table)).toEqual([
      ['Hask', '07:10', '5', '1'],
      ['Ullin', '08:10', '7', '2'],
    ]);
    expect(result.aside.map((pile) => [pile.name, [...pile.rows]])).toEqual([
      ['titles', [2]],
      ['headers', [0]],
      ['repeats', [3]],
    ]);
    expect(result.notices.map((notice) => notice.text)).toEqual([
      'Ullin has the columns in another order: met by name',
    ]);
    expect(traceBack(result.origin, { row: 1, column: 3 })).toEqual([{ row: 4, column: 1, input: 0, role: 'value' }]);
    expect(traceBack(result.origin, { row: NAME, column: 3 })).toEqual([
      { row: 0, column: 3, input: 0, role: 'value' },
    ]);
  });

  test('a column that one lacks is blank there, and one that only some have is added; both are reported', () => {
    const result = met(
      [
        ['Sailing', 'Foot', 'Cars'],
        ['07:10', '5', '1'],
        ['Sailing', 'Cars', null],
        ['08:10', '2', null],
        ['Sailing', 'Foot', 'Cars'],
        ['09:10', '3', '4'],
        ['Sailing', 'Note', 'Foot'],
        ['10:10', 'fog', '6'],
      ],
      ports(['Hask', 2], ['Ullin', 2], ['Brannoch', 2], ['Tarve', 2]),
    );
    expect(namesOf(result.table)).toEqual(['Port', 'Sailing', 'Foot', 'Cars', 'Note']);
    expect(cellsOf(result.table)).toEqual([
      ['Hask', '07:10', '5', '1', null],
      ['Ullin', '08:10', null, '2', null],
      ['Brannoch', '09:10', '3', '4', null],
      ['Tarve', '10:10', '6', null, 'fog'],
    ]);
    expect(result.notices.map(({ severity, text }) => [severity, text])).toEqual([
      ['warning', 'Ullin has no column Foot: blank in 2 rows'],
      ['warning', 'Tarve has no column Cars: blank in 2 rows'],
      ['warning', 'only Tarve has the column Note'],
      ['info', 'Tarve has the columns in another order: met by name'],
    ]);
  });

  test('one without a header is taken by its place, and told', () => {
    const result = met(
      [
        ['Sailing', 'Foot', 'Cars'],
        ['07:10', '5', '1'],
        ['08:10', '7', '2'],
      ],
      ports(['Hask', 2], ['Ullin', 1]),
    );
    expect(cellsOf(result.table)[1]).toEqual(['Ullin', '08:10', '7', '2']);
    expect(result.notices.map((notice) => notice.text)).toEqual([
      'Ullin has no row like the header: columns taken by their place',
    ]);
  });

  test('two tiers meet by both', () => {
    const result = met(
      [
        ['Sailing', 'April', null, 'May', null],
        [null, 'Foot', 'Cars', 'Foot', 'Cars'],
        ['07:10', '1', '2', '3', '4'],
        ['Sailing', 'May', null, 'April', null],
        [null, 'Foot', 'Cars', 'Foot', 'Cars'],
        ['08:10', '5', '6', '7', '8'],
      ],
      ports(['Hask', 3], ['Ullin', 3]),
      { rows: 2 },
    );
    expect(cellsOf(result.table)).toEqual([
      ['Hask', '07:10', '1', '2', '3', '4'],
      ['Ullin', '08:10', '7', '8', '5', '6'],
    ]);
  });

  test('any order of columns gives the same table (property)', () => {
    const names = ['Sailing', 'Foot', 'Cars', 'Vans'];
    fc.assert(
      fc.property(fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }), (order) => {
        const cells = ['08:10', '7', '2', '9'];
        const result = met(
          [names, ['07:10', '5', '1', '3'], order.map((k) => names[k]!), order.map((k) => cells[k]!)],
          ports(['Hask', 2], ['Ullin', 2]),
        );
        expect(cellsOf(result.table)[1]).toEqual(['Ullin', ...cells]);
      }),
    );
  });
});
