import { expect, test } from 'vitest';
import { type Field, type Table, textColumn } from '../index.ts';
import { Rule, ruleMask, ruleText } from './rules.ts';

const raw = (rows: (string | null)[][]): Table => ({
  rows: rows.length,
  fields: rows[0]!.map(
    (_, c): Field => ({ name: 'ABC'[c]!, nameOrigin: 'position', column: textColumn(rows.map((row) => row[c]!)) }),
  ),
});
const followed = (rule: object, table: Table) =>
  [...ruleMask(Rule.parse(rule), table)].flatMap((one, r) => (one === 1 ? [r] : []));

const RETURNS = raw([
  ['Hask', '12,50', '310'],
  ['Ullin', '7,25', '42'],
  ['together', '19,75', '352'],
  ['Tarve', '100,10', '7'],
  ['Skene', '3,25', '12'],
  [null, '103,35', '19'],
]);

test('a row that adds up the rows above is found whatever it is called', () => {
  const rule = { test: 'adds-up', columns: { by: 'names', names: ['B', 'C'] } };
  expect(followed(rule, RETURNS)).toEqual([2, 5]);
  expect(ruleText(Rule.parse(rule))).toBe('B, C adds up the rows above');
});

test('sums begin again in each sheet', () => {
  const sheets: Table = {
    rows: 4,
    fields: [
      { name: 'Sheet', nameOrigin: 'beside', column: textColumn(['x', 'x', 'y', 'y']) },
      { name: 'B', nameOrigin: 'position', column: textColumn(['1204', '866', '2070', '9']) },
      { name: 'C', nameOrigin: 'position', column: textColumn(['310', '42', '352', '9']) },
    ],
  };
  const rule = { test: 'adds-up', columns: { by: 'names', names: ['B', 'C'] } };
  expect(followed(rule, sheets)).toEqual([2]);
  expect(followed({ ...rule, within: 'Sheet' }, sheets)).toEqual([]);
});

test('the nearest filled row above one that follows a rule', () => {
  const table = raw([
    ['North', null, null],
    [null, null, null],
    ['Quay', 'Foot', 'Cars'],
    ['Hask', '1', '2'],
    ['South', null, null],
    ['Quay', 'Foot', 'Cars'],
    ['Quay', 'Foot', 'Cars'],
  ]);
  const rule = { test: 'right-above', row: { test: 'equals', column: 'A', text: 'Quay' } };
  expect(followed(rule, table)).toEqual([0, 4]);
  expect(ruleText(Rule.parse(rule))).toBe('directly above a row where A is Quay');
});
