import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { countedColumn, makeTable, READINGS, setTypes, textColumn } from '../index.ts';
import { openDuck } from '../test-duck.ts';
import { quiet } from '../test-support.ts';
import { chartOf } from './chart.ts';
import { findText } from './find.ts';
import { glanceAt, patternOf } from './glance.ts';

describe('glance', () => {
  test('counts, commonest values and patterns of text', () => {
    const glance = glanceAt(textColumn(['HU-07', 'HU-07', 'ut-1', null, 'HT-09']));
    expect(glance).toMatchObject({ rows: 5, blank: 1, distinct: 3, by: 'none', bins: [] });
    expect(glance.values[0]).toEqual({ text: 'HU-07', count: 2 });
    expect(glance.patterns).toEqual([
      { text: 'AA-99', count: 3 },
      { text: 'aa-9', count: 1 },
    ]);
  });

  test.each([
    ['2031-06-02T07:12', '9999-99-99A99:99'],
    ['Skerrow Ferries', 'Aaaaa… Aaaaa…'],
    ['ÉÉ 12345678', 'AA 9999…'],
  ])('the pattern of %s', (text, pattern) => {
    expect(patternOf(text)).toBe(pattern);
  });

  test('bins cover every number once; dates have a timeline without gaps', () => {
    const numbers = glanceAt(countedColumn('whole', [1, 5, 5, 9, null, 100]));
    expect(numbers.bins.reduce((sum, bin) => sum + bin.count, 0)).toBe(5);
    expect(numbers.range).toMatchObject({ least: '1', most: '100', median: '5', mean: '24', sum: '120' });
    const dates = glanceAt(countedColumn('date', [0, 31, 31, 120]));
    expect(dates.by).toBe('month');
    expect(dates.bins.map((bin) => [bin.from, bin.count])).toEqual([
      ['1970-01', 1],
      ['1970-02', 2],
      ['1970-03', 0],
      ['1970-04', 0],
      ['1970-05', 1],
    ]);
    expect(glanceAt(countedColumn('number', [null, null])).by).toBe('none');
    expect(glanceAt(countedColumn('number', [3, 3])).bins).toEqual([{ from: '3', to: '3', count: 2 }]);
  });

  test('DuckDB agrees on a column of vega-datasets', async () => {
    const path = 'node_modules/vega-datasets/data/seattle-weather.csv';
    const kind = READINGS.get('read-delimited')!;
    const source = { name: 'w.csv', bytes: new Uint8Array(readFileSync(path)) };
    const { table } = kind.read(source, kind.params.parse({ source: 's' }), quiet);
    const rows = table.fields.map((field) => ({ ...field }));
    const typed = setTypes.run(
      { rows: table.rows, fields: rows },
      { types: [{ columns: { by: 'names', names: ['C'] }, type: 'number' }] },
      quiet,
    ).table;
    const glance = glanceAt(typed.fields[2]!.column);
    const duck = await openDuck();
    const [theirs] = await duck.query(
      `select min(temp_max), max(temp_max), median(temp_max), count(distinct temp_max) from read_csv('${path}')`,
    );
    // The header is among the rows here: it is the one unreadable cell, and one distinct text more.
    expect(glance.unreadable).toBe(1);
    expect([
      Number(glance.range!.least),
      Number(glance.range!.most),
      Number(glance.range!.median),
      glance.distinct - 1,
    ]).toEqual(theirs!.map(Number));
  });
});

describe('find', () => {
  test('whatever the case, row by row, counted past what is listed', () => {
    const columns = [textColumn(['Hask', 'Ullin', null]), countedColumn('whole', [12, 3, 12])];
    expect(findText(columns, 'H', 10)).toEqual({ cells: [{ row: 0, column: 0 }], total: 1 });
    expect(findText(columns, '12', 1)).toEqual({ cells: [{ row: 0, column: 1 }], total: 2 });
    expect(findText(columns, '', 10).total).toBe(0);
  });
});

describe('chart', () => {
  const table = makeTable({
    Port: textColumn(['Hask', 'Hask', 'Ullin', null]),
    Kind: textColumn(['Foot', 'Cars', 'Foot', 'Foot']),
    Count: countedColumn('whole', [3, 1, 4, null]),
  });

  test('sums by one and by two columns; without a measure rows are counted', () => {
    expect(chartOf(table, 'Port', null, 'Count')).toEqual({
      categories: ['Hask', 'Ullin'],
      series: ['Count'],
      values: [[4, 4]],
      more: 0,
    });
    expect(chartOf(table, 'Port', 'Kind', 'Count')).toMatchObject({
      series: ['Foot', 'Cars'],
      values: [
        [3, 4],
        [1, null],
      ],
    });
    expect(chartOf(table, 'Port', null, null)).toMatchObject({
      categories: ['Hask', 'Ullin', 'blank'],
      values: [[2, 1, 1]],
    });
    expect(chartOf(table, 'Nowhere', null, null)).toBeUndefined();
  });
});
