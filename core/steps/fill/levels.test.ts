import { describe, expect, test } from 'vitest';
import { CATALOGUE, type Field, type StepResult, type Table, textColumn, traceBack } from '../../index.ts';
import { cellsOf, namesOf, quiet, received } from '../../test-support.ts';

function run(kind: string, params: object, table: Table): StepResult {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), quiet);
}
const raw = (rows: (string | null)[][], sheets?: string[]): Table => ({
  rows: rows.length,
  fields: [
    ...(sheets === undefined ? [] : [{ name: 'Sheet', nameOrigin: 'beside', column: textColumn(sheets) } as Field]),
    ...rows[0]!.map(
      (_, c): Field => ({ name: 'ABCDEF'[c]!, nameOrigin: 'position', column: textColumn(rows.map((row) => row[c]!)) }),
    ),
  ],
});

describe('levels by indentation', () => {
  const table: Table = {
    rows: 7,
    fields: [
      {
        name: 'Port',
        nameOrigin: 'named',
        column: textColumn(['North', '  Hask', '    Foot', '    Cars', '  Ullin', '    Foot', 'Total']),
      },
      { name: 'Count', nameOrigin: 'named', column: received([null, 9, 4, 5, 7, 7, 16]) },
    ],
  };

  test('each level becomes a column; rows above others are totals where they hold figures, else labels', () => {
    const result = run('levels', { column: 'Port', into: ['Area', 'Quay'] }, table);
    expect(namesOf(result.table)).toEqual(['Area', 'Quay', 'Port', 'Count']);
    expect(cellsOf(result.table)).toEqual([
      ['North', 'Hask', 'Foot', '4'],
      ['North', 'Hask', 'Cars', '5'],
      ['North', 'Ullin', 'Foot', '7'],
      [null, null, 'Total', '16'],
    ]);
    expect(result.aside.map(({ name, mark, rows }) => [name, mark, [...rows]])).toEqual([
      ['totals', 'total', [1, 4]],
      ['labels', 'label', [0]],
    ]);
    expect(traceBack(result.origin, { row: 2, column: 1 })).toEqual([{ row: 4, column: 0, input: 0, role: 'label' }]);
  });

  test('too few names for the levels stop with their number, and a flat column is no trouble', () => {
    expect(() => run('levels', { column: 'Port', into: ['Area'] }, table)).toThrow(
      '3 different widths, but there are names for 1 level',
    );
    const flat = run('levels', { column: 'A', into: ['Area'] }, raw([['x'], ['y']]));
    expect(cellsOf(flat.table)).toEqual([
      [null, 'x'],
      [null, 'y'],
    ]);
    expect(flat.notices[0]).toMatchObject({ idle: true });
  });
});

describe('lines of name and value', () => {
  test('in a cell or beside their name, they hold until the next, and each cell traces to its line', () => {
    const table = raw([
      ['Depot: Hask', null],
      ['Month:', 'May'],
      ['Foot', '12'],
      ['Depot: Ullin', null],
      ['Foot', '7'],
    ]);
    const result = run('lines-to-columns', { names: ['Depot', 'Month'] }, table);
    expect(namesOf(result.table)).toEqual(['Depot', 'Month', 'A', 'B']);
    expect(cellsOf(result.table)).toEqual([
      ['Hask', 'May', 'Foot', '12'],
      ['Ullin', 'May', 'Foot', '7'],
    ]);
    expect(result.aside).toMatchObject([{ name: 'labels', mark: 'label', rows: Int32Array.from([0, 1, 3]) }]);
    expect(traceBack(result.origin, { row: 1, column: 1 })).toEqual([{ row: 1, column: 1, input: 0, role: 'label' }]);
  });

  test('a line of one sheet does not reach into the next', () => {
    const table = raw([['Depot: Hask'], ['x'], ['y']], ['1', '1', '2']);
    const result = run('lines-to-columns', { names: ['Depot'], within: 'Sheet' }, table);
    expect(cellsOf(result.table)).toEqual([
      ['1', 'Hask', 'x'],
      ['2', null, 'y'],
    ]);
    expect(result.notices.some(({ text }) => text === '1 row above the first line of Depot')).toBe(true);
  });

  test('a name that no line has is reported, and its column is blank', () => {
    const result = run('lines-to-columns', { names: ['Depot'] }, raw([['x']]));
    expect(cellsOf(result.table)).toEqual([[null, 'x']]);
    expect(result.notices).toMatchObject([{ idle: true, text: 'no line begins with Depot' }]);
  });
});

describe('labels of several levels', () => {
  const table = raw([
    ['North', null],
    ['Hask', null],
    ['07:10', '12'],
    ['Ullin', null],
    ['08:30', '7'],
    ['South', null],
    ['Tarve', null],
    ['09:55', '3'],
  ]);

  test('of labels right under each other the last is the innermost', () => {
    const params = { from: 'A', rule: { test: 'only', columns: ['A'] }, into: 'Quay', outer: ['Area'] };
    const result = run('carry', params, table);
    expect(cellsOf(result.table)).toEqual([
      ['North', 'Hask', '07:10', '12'],
      ['North', 'Ullin', '08:30', '7'],
      ['South', 'Tarve', '09:55', '3'],
    ]);
    expect(traceBack(result.origin, { row: 2, column: 0 })).toEqual([{ row: 5, column: 0, input: 0, role: 'label' }]);
  });

  test('a label with its own figures is a total too', () => {
    const figured: Table = {
      rows: 3,
      fields: [
        { name: 'A', nameOrigin: 'named', column: textColumn(['North', 'Hask', 'Ullin']) },
        { name: 'B', nameOrigin: 'named', column: received([19, 12, 7]) },
      ],
    };
    const result = run(
      'carry',
      { from: 'A', rule: { test: 'equals', column: 'A', text: 'North' }, into: 'Area' },
      figured,
    );
    expect(result.aside).toMatchObject([{ name: 'totals', mark: 'total' }]);
  });
});
