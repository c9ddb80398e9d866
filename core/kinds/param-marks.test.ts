import { describe, expect, test } from 'vitest';
import { z } from 'zod';
import { CATALOGUE } from '../steps/catalogue.ts';
import { textColumn } from '../table/builder.ts';
import { columnName, mapMarked, markedIn, namesColumns, standsFor, tablesIn } from './param-marks.ts';

const kinds = [...CATALOGUE.values()];
const kindOf = (name: string) => kinds.find((one) => one.kind === name)!;

describe('what params name', () => {
  test.each([
    ['sort', { keys: [{ column: 'Port' }, { column: 'Year', descending: true }] }, ['Port', 'Year']],
    ['fill', { columns: { by: 'names', names: ['Port'] }, within: 'Year' }, ['Port', 'Year']],
    ['keep-rows', { rules: [{ test: 'below-last', row: { test: 'equals', column: 'Port', text: 'x' } }] }, ['Port']],
    ['keep-rows', { rules: [{ test: 'same', cells: { Port: 'Hask', Year: null } }] }, ['Port', 'Year']],
    ['pivot', { names: ['Month'], values: [{ column: 'Cars' }] }, ['Month', 'Cars']],
    [
      'join',
      { table: 't2', keys: [{ left: 'Port', right: 'Code' }], bring: { by: 'names', names: ['Fare'] } },
      ['Port'],
    ],
  ])('%s %j: columns %j', (kind, params, columns) => {
    const found = markedIn(kindOf(kind).params, params).filter((one) => one.stands === 'column');
    expect(found.map((one) => one.text)).toEqual(columns);
  });

  test('columns of the other table and the table itself are distinguished', () => {
    const params = { table: 't2', keys: [{ left: 'Port', right: 'Code' }], bring: { by: 'names', names: ['Fare'] } };
    expect(markedIn(kindOf('join').params, params)).toEqual([
      { stands: 'table', text: 't2' },
      { stands: 'column', text: 'Port' },
      { stands: 'other column', text: 'Code' },
      { stands: 'other column', text: 'Fare' },
    ]);
    expect(tablesIn(kindOf('append').params, { tables: ['b', 'a'] })).toEqual(['b', 'a']);
  });

  test('an expression names its columns, quoted as they stand and bare in any case', () => {
    const { params } = kindOf('expression');
    const text = `coalesce("Fare paid", 0) * cars + length('Berths')`;
    const names = (name: string) => namesColumns(params, { into: 'Sum', text }, new Set([name]));
    expect([names('Fare paid'), names('Cars'), names('Berths'), names('Sum'), names('fare paid')]).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
    expect(namesColumns(params, { text: 'cars +' }, new Set(['cars']))).toBe(false);
  });

  test('a text that only looks like a column is left alone', () => {
    const params = { columns: { by: 'names', names: ['Port'] }, find: 'Port', with: 'Port' };
    const changed = mapMarked(kindOf('replace').params, params, (stands, text) =>
      stands === 'column' ? 'Quay' : text,
    );
    expect(changed).toEqual({ columns: { by: 'names', names: ['Quay'] }, find: 'Port', with: 'Port' });
  });
});

// Common practice: what a step starts with for a table names columns of that table only, so each name must be marked.
test.each(kinds.map((kind) => [kind.kind, kind] as const))('%s: every column it starts with is marked', (_, kind) => {
  const names = ['Zq port', 'Zq year', 'Zq cars'];
  const column = textColumn(['1', '2', '3']);
  const table = { rows: 3, fields: names.map((name) => ({ name, nameOrigin: 'named' as const, column })) };
  const params = kind.start(table, names);
  const marked = markedIn(kind.params, params).filter((one) => one.stands === 'column' || one.stands === 'expression');
  const json = JSON.stringify(params);
  for (const name of names.filter((one) => json.includes(JSON.stringify(one))))
    expect(marked.map((one) => one.text)).toContain(name);
});

test('a mark further out takes the place of those inside', () => {
  const schema = standsFor('other column', z.object({ names: z.array(columnName()) }));
  expect(markedIn(schema.nullable().default(null), { names: ['a'] })).toEqual([{ stands: 'other column', text: 'a' }]);
});
