import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { countedColumn, makeTable, textColumn } from '../index.ts';
import { openDuck } from '../test-duck.ts';
import { findSumColumns, findSums } from './sums.ts';

const columns = (rows: (number | null)[][]) =>
  rows[0]!.map((_, c) => Float64Array.from(rows, (row) => row[c] ?? Number.NaN));

describe('rows that sum others', () => {
  test('groups and a grand total explain each other, without a word', () => {
    const rows = [
      [12.5, 310],
      [7.25, 42],
      [19.75, 352],
      [100.1, 7],
      [50.4, 12],
      [3.25, 1],
      [153.75, 20],
      [173.5, 372],
    ];
    const found = findSums({ columns: columns(rows), rows: rows.length, starts: [0] });
    expect(found.map(({ row, of, level, fit }) => ({ row, of, level, fit }))).toEqual([
      { row: 2, of: [0, 1], level: 1, fit: 2 },
      { row: 6, of: [3, 4, 5], level: 1, fit: 2 },
      { row: 7, of: [2, 6], level: 2, fit: 2 },
    ]);
  });

  test('sums above their rows, sums of one row where a word says so, and lines that carry a sum forward', () => {
    const above = [
      [173.5, 372],
      [19.75, 352],
      [12.5, 310],
      [7.25, 42],
      [153.75, 20],
      [100.1, 7],
      [53.65, 13],
    ];
    expect(findSums({ columns: columns(above), rows: 7, starts: [0], above: true }).map(({ row }) => row)).toEqual([
      0, 1, 4,
    ]);
    const pages = [[1204.5], [866.1], [2070.6], [2070.6], [302.2], [2372.8]];
    const hints = Uint8Array.from([0, 0, 1, 1, 0, 1]);
    expect(
      findSums({ columns: columns(pages), rows: 6, starts: [0], hints }).map(({ row, kind }) => [row, kind]),
    ).toEqual([
      [2, 'sum'],
      [3, 'again'],
      [5, 'sum'],
    ]);
  });

  test('a mean under the sum is found, and takes nothing from it', () => {
    const rows = [[10.5], [20.25], [60.75], [91.5], [30.5]];
    const hints = Uint8Array.from([0, 0, 0, 0, 1]);
    const found = findSums({ columns: columns(rows), rows: 5, starts: [0], hints });
    expect(found.map(({ row, kind }) => [row, kind])).toEqual([[3, 'sum']]);
    const mean = findSums({
      columns: columns([[10.5], [20.25], [60.75], [30.5]]),
      rows: 4,
      starts: [0],
      hints: Uint8Array.from([0, 0, 0, 1]),
    });
    expect(mean.map(({ row, kind, of }) => [row, kind, of.length])).toEqual([[3, 'mean', 3]]);
  });

  test('figures that only happen to add up in one column are data', () => {
    const rows = Array.from({ length: 200 }, (_, r) => [(r * 7) % 10, (r * 13) % 11]);
    expect(findSums({ columns: columns(rows), rows: 200, starts: [0] })).toEqual([]);
  });

  // ROLLUP of the SQL standard, as DuckDB works it out: every row that it adds is a sum, and no other is.
  test('every row that a rollup of DuckDB adds is found', async () => {
    const duck = await openDuck();
    const n = 400;
    const at = (r: number, step: number, of: number) => (r * step) % of;
    await duck.load(
      'sums',
      makeTable({
        port: textColumn(Array.from({ length: n }, (_, r) => ['Hask', 'Ullin', 'Tarve', 'Brannoch'][at(r, 7, 4)]!)),
        month: textColumn(Array.from({ length: n }, (_, r) => ['April', 'May', 'June'][at(r, 5, 3)]!)),
        foot: countedColumn(
          'whole',
          Array.from({ length: n }, (_, r) => 1000 + at(r, 7919, 4001)),
        ),
        fare: countedColumn(
          'number',
          Array.from({ length: n }, (_, r) => 10 + at(r, 104729, 9973) / 100),
        ),
      }),
    );
    const rows = await duck.query(
      'select grouping(port, month) as g, sum(foot) as foot, round(sum(fare), 2) as fare from sums group by rollup(port, month) order by port nulls last, month nulls last',
    );
    const figures = rows.map((row) => [Number(row[1]), Number(row[2])]);
    const found = findSums({ columns: columns(figures), rows: figures.length, starts: [0] });
    expect(found.map(({ row }) => row)).toEqual(rows.flatMap((row, r) => (Number(row[0]) > 0 ? [r] : [])));
  });

  test('law: groups of any figures with their sums are found as groups', () => {
    const figure = fc.integer({ min: 1000, max: 9_999_999 });
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.tuple(figure, figure, figure), { minLength: 2, maxLength: 8 }), {
          minLength: 1,
          maxLength: 6,
        }),
        (groups) => {
          const rows: number[][] = [];
          const sums: number[] = [];
          for (const group of groups) {
            rows.push(...group);
            sums.push(rows.length);
            rows.push([0, 1, 2].map((c) => group.reduce((sum, one) => sum + one[c as 0 | 1 | 2], 0)));
          }
          const found = findSums({ columns: columns(rows), rows: rows.length, starts: [0] });
          expect(found.map(({ row }) => row)).toEqual(expect.arrayContaining(sums));
          expect(found.length).toBe(sums.length);
        },
      ),
    );
  });
});

describe('columns that sum others', () => {
  const rows = Array.from({ length: 12 }, (_, r) => [101 + r * 7, 205 + r * 11, 17 + r * 3]);

  test('quarters, the year over them, and every second column', () => {
    const months = rows.map((row, r) => [...row, row[0]! + row[1]! + row[2]!, 11 + r, 23 + r * 5, 34 + r * 6]);
    const all = months.map((row) => [...row, row[3]! + row[6]!]);
    expect(findSumColumns(columns(all), [...rows.keys()]).map(({ column, of }) => [column, of])).toEqual([
      [3, [0, 1, 2]],
      [6, [4, 5]],
      [7, [0, 1, 2, 4, 5]],
    ]);
    const pairs = rows.map((row, r) => [row[0]!, r + 0.5, row[1]!, r * 2 + 0.25, row[0]! + row[1]!, r * 3 + 0.75]);
    expect(findSumColumns(columns(pairs), [...rows.keys()]).map(({ column, of }) => [column, of])).toEqual([
      [4, [0, 2]],
      [5, [1, 3]],
    ]);
  });

  test('a mean beside, a sum in front, and nothing where nothing adds up', () => {
    const mean = rows.map((row) => [...row, Number(((row[0]! + row[1]! + row[2]!) / 3).toFixed(2))]);
    expect(findSumColumns(columns(mean), [...rows.keys()]).map(({ column, kind }) => [column, kind])).toEqual([
      [3, 'mean'],
    ]);
    const front = rows.map((row) => [row[0]! + row[1]! + row[2]!, ...row]);
    expect(findSumColumns(columns(front), [...rows.keys()]).map(({ column }) => column)).toEqual([0]);
    expect(findSumColumns(columns(rows), [...rows.keys()])).toEqual([]);
  });
});
