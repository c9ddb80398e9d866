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
    standing: 'position',
    column: textColumn(rows.map((row) => row[c] ?? null)),
  }));
  if (ports !== undefined) fields.unshift({ name: 'Port', standing: 'beside', column: textColumn(ports) });
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

  test('no such row, or too few rows, stops with what was looked for', () => {
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
    expect(dropColumns.run(table, { columns: { by: 'starts', text: 'X' } }, quiet).notices[0]!.tone).toBe('look');
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
    expect(result.table.fields[0]!.standing).toBe('named');
    expect(namesOf(rename.run(table, { names: [{ from: 'A', to: 'C' }] }, quiet).table)).toEqual(['C 2', 'B', 'C']);
  });

  test('names that say what they mean take next month along', () => {
    const years: Table = {
      rows: 1,
      fields: ['Port', '2030', '2031', 'April'].map((name) => ({
        name,
        standing: 'named' as const,
        column: textColumn(['x']),
      })),
    };
    expect(namesOf(keepColumns.run(years, { columns: { by: 'year' } }, quiet).table)).toEqual(['2030', '2031']);
    expect(namesOf(keepColumns.run(years, { columns: { by: 'month' } }, quiet).table)).toEqual(['April']);
    expect(namesOf(keepColumns.run(years, { columns: { by: 'constant' } }, quiet).table)).toHaveLength(4);
  });
});
