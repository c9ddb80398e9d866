import { describe, expect, test } from 'vitest';
import { countedColumn, textColumn } from '../table/builder.ts';
import type { Table } from '../table/table.ts';
import { identifyingColumns } from './identifying.ts';

function tableOf(columns: Record<string, readonly (string | number)[]>): Table {
  const fields = Object.entries(columns).map(([name, cells]) => ({
    name,
    nameOrigin: 'named' as const,
    column:
      typeof cells[0] === 'number'
        ? countedColumn(cells.every((cell) => Number.isInteger(cell)) ? 'whole' : 'number', cells as number[])
        : textColumn(cells as string[]),
  }));
  return { rows: Object.values(columns)[0]!.length, fields };
}

// A candidate key in the sense of the relational model: the least columns by which all rows differ.
describe('columns that tell every row apart', () => {
  test('one alone is preferred, whole numbers among them', () => {
    expect(identifyingColumns(tableOf({ Port: ['Hask', 'Hask', 'Ullin'], Ticket: [7, 8, 9] }))).toEqual(['Ticket']);
  });

  test('several together, without one that adds nothing', () => {
    const table = tableOf({
      Firm: ['Skerrow', 'Skerrow', 'Skerrow', 'Skerrow'],
      Port: ['Hask', 'Hask', 'Ullin', 'Ullin'],
      Month: ['May', 'June', 'May', 'June'],
      Foot: [12.5, 12.5, 3.25, 8],
    });
    expect(identifyingColumns(table)).toEqual(['Port', 'Month']);
  });

  test('measures are no key, though they may differ', () => {
    expect(identifyingColumns(tableOf({ Port: ['Hask', 'Hask'], Share: [0.25, 0.5] }))).toBeUndefined();
  });

  test('rows that stand twice have none', () => {
    expect(identifyingColumns(tableOf({ Port: ['Hask', 'Hask'], Month: ['May', 'May'] }))).toBeUndefined();
  });
});
