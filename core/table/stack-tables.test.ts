import { expect, test } from 'vitest';
import { cellText, countedColumn, makeTable, stackByName, stackNamed, type Table, textColumn } from '../index.ts';

const spring = makeTable({ Quay: textColumn(['Hask', 'Ullin']), Foot: countedColumn('whole', [5, null]) });
const summer = makeTable({ Foot: countedColumn('whole', [7]), Quay: textColumn(['Tarve']), Cars: textColumn(['x']) });
const rowsOf = (table: Table) =>
  Array.from({ length: table.rows }, (_, r) => table.fields.map((field) => cellText(field.column, r)));

test('columns stand under those of their name, in the order in which they first appear; what is missing is blank', () => {
  const stacked = stackByName([spring, summer]);
  expect(stacked.map(({ field, at }) => [field.name, at])).toEqual([
    ['Quay', [0, 1]],
    ['Foot', [1, 0]],
    ['Cars', [-1, 2]],
  ]);
  expect(stacked[1]!.field.column.type).toBe('whole');
});

test('the names of the tables stand in a first column, which takes no name that is there', () => {
  const table = stackNamed(
    [
      { name: 'spring.csv', table: spring },
      { name: 'summer.csv', table: makeTable({ Quay: textColumn(['Tarve']), File: textColumn(['kept']) }) },
    ],
    'File',
  );
  expect(table.fields.map((field) => field.name)).toEqual(['File 2', 'Quay', 'Foot', 'File']);
  expect(rowsOf(table)).toEqual([
    ['spring.csv', 'Hask', '5', null],
    ['spring.csv', 'Ullin', null, null],
    ['summer.csv', 'Tarve', null, 'kept'],
  ]);
});
