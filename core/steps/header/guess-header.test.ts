import { describe, expect, test } from 'vitest';
import { textColumn } from '../../table/builder.ts';
import { makeTable } from '../../table/table.ts';
import { guessHeader } from './guess-header.ts';

/** A table of texts; '' is blank. */
function guess(rows: string[][]) {
  const width = Math.max(...rows.map((row) => row.length));
  const columns = Object.fromEntries(
    Array.from({ length: width }, (_, c) => [`c${c}`, textColumn(rows.map((row) => row[c] || null))]),
  );
  return guessHeader(makeTable(columns));
}

describe('where the header stands', () => {
  test('rows of data without figures are data all the same', () => {
    const rows = [
      ['Returns of the quays'],
      [''],
      ['Quay', 'Foot', 'Cars'],
      ['Hask', 'n/a', '-'],
      ['Ullin', '..', ''],
      ['Brannoch', '12', '3'],
      ['Tarve', '9', '1'],
    ];
    expect(guess(rows)).toEqual({ row: 2, tiers: 1 });
  });

  test('a rule under the header is no header', () => {
    const rows = [
      ['Quay', 'Foot', 'Cars'],
      ['--------', '----', '----'],
      ['Hask', '12', '3'],
      ['Ullin', '7', '1'],
      ['--------', '----', '----'],
      ['Total', '19', '4'],
    ];
    expect(guess(rows)).toEqual({ row: 0, tiers: 1 });
  });

  test('a lone note above is no tier, and a dated title no data', () => {
    const rows = [
      ['Returns', '02.06.2031', ''],
      ['', '', 'unaudited'],
      ['Quay', 'Foot', 'Cars'],
      ['Hask', '12', '3'],
      ['Ullin', '7', '1'],
    ];
    expect(guess(rows)).toEqual({ row: 2, tiers: 1 });
  });

  test('two tiers: merged months or seasons over names that come again', () => {
    const under = ['Quay', 'Foot', 'Cars', 'Foot', 'Cars'];
    const data = ['Hask', '1', '2', '3', '4'];
    for (const upper of [
      ['', 'April', '', 'May', ''],
      ['', '2030/31', '', '2031/32', ''],
      ['', 'April', 'April', 'May', 'May'],
    ]) {
      expect(guess([['Title'], upper, under, data, data])).toEqual({ row: 1, tiers: 2 });
    }
  });

  test('the first column named in the upper tier', () => {
    const rows = [
      ['Quay', 'April', '', 'May', ''],
      ['', 'Foot', 'Cars', 'Foot', 'Cars'],
      ['Hask', '1', '2', '3', '4'],
      ['Ullin', '1', '2', '3', '4'],
    ];
    expect(guess(rows)).toEqual({ row: 0, tiers: 2 });
  });

  test('years across are names, and a table of texts has its header in the first wide row', () => {
    const years = ['Quay', '2029', '2030', '2031'];
    expect(guess([['Foot passengers'], years, ['Hask', '12', '14', '9'], ['Ullin', '3', '4', '5']])).toEqual({
      row: 1,
      tiers: 1,
    });
    expect(guess([['List of mates'], ['Name', 'Quay'], ['Tolm', 'Hask'], ['Marr', 'Ullin']])).toEqual({
      row: 1,
      tiers: 1,
    });
  });
});
