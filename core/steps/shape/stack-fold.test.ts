import { describe, expect, test } from 'vitest';
import { CATALOGUE, type Field, type StepResult, type Table, textColumn, traceBack } from '../../index.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';

function run(kind: string, params: object, table: Table): StepResult {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), quiet);
}
const raw = (rows: (string | null)[][]): Table => ({
  rows: rows.length,
  fields: rows[0]!.map(
    (_, c): Field => ({ name: 'ABCDEF'[c]!, nameOrigin: 'position', column: textColumn(rows.map((row) => row[c]!)) }),
  ),
});

describe('tables beside each other', () => {
  const table = raw([
    ['Quays', null, null, null, null],
    ['North', null, null, 'South', null],
    ['Quay', 'Foot', null, 'Quay', 'Foot'],
    ['Hask', '12', null, 'Tarve', '3'],
    ['Ullin', '7', null, null, null],
    [null, null, null, null, null],
    ['Source: gates', null, null, null, null],
  ]);
  const at = { test: 'equals', column: 'A', text: 'Quay' };

  test('are put one under the other, each with its heading; what stands below all of them comes last', () => {
    const result = run('stack-beside', { at }, table);
    expect(namesOf(result.table)).toEqual(['A', 'B']);
    expect(cellsOf(result.table)).toEqual([
      ['Quays', null],
      ['North', null],
      ['Quay', 'Foot'],
      ['Hask', '12'],
      ['Ullin', '7'],
      ['South', null],
      ['Quay', 'Foot'],
      ['Tarve', '3'],
      ['Source: gates', null],
    ]);
    expect(result.aside).toMatchObject([{ mark: 'blank', rows: Int32Array.from([5]) }]);
    expect(traceBack(result.origin, { row: 7, column: 1 })).toEqual([{ row: 3, column: 4, input: 0, role: 'value' }]);
  });

  test('without a gap between, the first name says where the next begins; one table alone is reported', () => {
    const close = raw([
      ['Quay', 'Foot', 'Quay', 'Foot'],
      ['Hask', '12', 'Tarve', '3'],
    ]);
    expect(cellsOf(run('stack-beside', { at }, close).table)).toEqual([
      ['Quay', 'Foot'],
      ['Hask', '12'],
      ['Quay', 'Foot'],
      ['Tarve', '3'],
    ]);
    const one = run(
      'stack-beside',
      { at },
      raw([
        ['Quay', 'Foot'],
        ['Hask', '12'],
      ]),
    );
    expect(one.notices).toMatchObject([{ idle: true, text: 'only one table stands under the header' }]);
    expect(() => run('stack-beside', { at: { ...at, text: 'Port' } }, table)).toThrow('No row where A is Port');
  });
});

describe('records over several rows', () => {
  const table = raw([
    ['List', null, null],
    ['Ref', 'Name', 'Rank'],
    [null, 'Ship', 'Since'],
    ['1', 'Isla', 'Cook'],
    [null, 'Orrin', '2022'],
    [null, null, null],
    ['2', 'Ewan', 'Mate'],
    [null, 'Tolm', '2019'],
  ]);
  const first = { test: 'filled', columns: { by: 'names', names: ['A'] } };

  test('become one row, the header with them; nothing is lost', () => {
    const result = run('fold-rows', { first }, table);
    expect(namesOf(result.table)).toEqual(['A', 'B', 'C', 'B of line 2', 'C of line 2']);
    expect(cellsOf(result.table)).toEqual([
      ['List', null, null, null, null],
      ['Ref', 'Name', 'Rank', 'Ship', 'Since'],
      ['1', 'Isla', 'Cook', 'Orrin', '2022'],
      ['2', 'Ewan', 'Mate', 'Tolm', '2019'],
    ]);
    expect(traceBack(result.origin, { row: 3, column: 4 })).toEqual([{ row: 7, column: 2, input: 0, role: 'value' }]);
    expect(result.notices[0]!.text).toBe('3 records over up to 2 rows folded');
  });

  test('a record does not reach from one sheet into the next, and one without an end is refused', () => {
    const sheets: Table = {
      rows: 3,
      fields: [
        { name: 'Sheet', nameOrigin: 'beside', column: textColumn(['x', 'x', 'y']) },
        { name: 'A', nameOrigin: 'position', column: textColumn(['1', 'a', 'b']) },
      ],
    };
    expect(cellsOf(run('fold-rows', { first: { test: 'equals', column: 'A', text: '1' } }, sheets).table)).toEqual([
      ['x', '1', 'a'],
      ['y', 'b', null],
    ]);
    const long = raw(Array.from({ length: 30 }, (_, r) => [r === 0 ? '1' : 'x']));
    expect(() => run('fold-rows', { first: { test: 'equals', column: 'A', text: '1' } }, long)).toThrow(
      'A record would span 30 rows',
    );
  });
});
