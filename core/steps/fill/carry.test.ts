import { describe, expect, test } from 'vitest';
import { type Field, textColumn, traceBack } from '../../index.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';
import { carry } from './carry.ts';

const fields: Field[] = [
  { name: 'Port', nameOrigin: 'beside', column: textColumn(['Hask', 'Hask', 'Hask', 'Hask', 'Ullin', 'Ullin']) },
  {
    name: 'Sailing',
    nameOrigin: 'named',
    column: textColumn(['Hask to Ullin', '07:10', 'Hask to Tarve', '08:10', '09:10', 'Ullin to Hask']),
  },
  { name: 'Foot', nameOrigin: 'named', column: textColumn([null, '5', null, '6', '7', null]) },
];
const table = { rows: 6, fields };
const params = {
  from: 'Sailing',
  rule: { test: 'only' as const, columns: ['Sailing'] },
  into: 'Route',
  within: 'Port',
};

describe('carry', () => {
  test('each row takes the label above it, not past the end of its sheet', () => {
    const result = carry.run(table, params, quiet);
    expect(namesOf(result.table)).toEqual(['Port', 'Route', 'Sailing', 'Foot']);
    expect(cellsOf(result.table).map((row) => row[1])).toEqual(['Hask to Ullin', 'Hask to Tarve', null]);
    expect([...result.aside[0]!.rows]).toEqual([0, 2, 5]);
    expect(result.notices.map((notice) => notice.text)).toEqual([
      '3 labels carried onto 2 rows',
      '1 row above the first label',
    ]);
    expect(result.notices[1]!.rows).toEqual({ of: 'after', rows: Int32Array.from([2]) });
  });

  test('labels below their rows are carried up, the innermost first', () => {
    const texts = ['Hask', 'Ullin', 'Total North', 'Tarve', 'Total South', 'Total coast'];
    const given: Field[] = [
      { name: 'Quay', nameOrigin: 'named', column: textColumn(texts) },
      { name: 'Foot', nameOrigin: 'named', column: textColumn(['1', '2', '3', '4', '4', '7']) },
    ];
    const up = {
      from: 'Quay',
      rule: { test: 'starts' as const, column: 'Quay', text: 'Total' },
      into: 'Area',
      up: true,
    };
    const result = carry.run({ rows: 6, fields: given }, { ...up, outer: ['Coast'] }, quiet);
    expect(cellsOf(result.table).map((row) => row.slice(0, 3))).toEqual([
      ['Total coast', 'Total North', 'Hask'],
      ['Total coast', 'Total North', 'Ullin'],
      ['Total coast', 'Total South', 'Tarve'],
    ]);
    // Their figures are totals, which the tally looks at.
    expect(result.aside.map(({ mark }) => mark)).toEqual(['total']);
    expect(traceBack(result.origin, { row: 0, column: 1 })).toEqual([{ row: 2, column: 0, input: 0, role: 'label' }]);
  });

  test('a carried cell traces to the label it came from', () => {
    const { origin } = carry.run(table, params, quiet);
    expect(traceBack(origin, { row: 1, column: 1 })).toEqual([{ row: 2, column: 1, input: 0, role: 'label' }]);
    expect(traceBack(origin, { row: 2, column: 1 })).toEqual([]);
    expect(traceBack(origin, { row: 1, column: 3 })).toEqual([{ row: 3, column: 2, input: 0, role: 'value' }]);
  });

  test('other cells of a label row come along, each with its trace, and make no total of it', () => {
    const rows = [
      ['North', '12', null],
      [null, 'Hask', '5'],
      [null, 'Ullin', '6'],
      ['South', '7', null],
      [null, 'Tarve', '4'],
    ];
    const given = {
      rows: rows.length,
      fields: ['Region', 'Quay', 'Foot'].map(
        (name, k): Field => ({
          name,
          nameOrigin: 'named',
          column: textColumn(rows.map((row) => row[k]!)),
        }),
      ),
    };
    const rule = { test: 'filled' as const, columns: { by: 'names' as const, names: ['Region'] } };
    const result = carry.run(
      given,
      { from: 'Region', rule, into: 'Area', also: [{ from: 'Quay', into: 'Quays' }] },
      quiet,
    );
    expect(namesOf(result.table)).toEqual(['Area', 'Quays', 'Region', 'Quay', 'Foot']);
    expect(cellsOf(result.table).map(([area, quays, , quay]) => [area, quays, quay])).toEqual([
      ['North', '12', 'Hask'],
      ['North', '12', 'Ullin'],
      ['South', '7', 'Tarve'],
    ]);
    expect(traceBack(result.origin, { row: 2, column: 1 })).toEqual([{ row: 3, column: 1, input: 0, role: 'label' }]);
    expect(result.aside.map(({ name }) => name)).toEqual(['labels']);
  });

  test('a name that is taken is made unique, and a rule that no row follows is reported', () => {
    expect(namesOf(carry.run(table, { ...params, into: 'Foot' }, quiet).table)).toContain('Foot 2');
    const none = carry.run(table, { ...params, rule: { test: 'equals', column: 'Sailing', text: 'x' } }, quiet);
    expect(none.notices[0]!.text).toContain('no row follows the rule');
  });
});
