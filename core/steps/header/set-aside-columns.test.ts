import { describe, expect, test } from 'vitest';
import { StepFailure } from '../../kinds/step.ts';
import { textColumn } from '../../table/builder.ts';
import type { Table } from '../../table/table.ts';
import { setAsideColumns } from './set-aside-columns.ts';

const table: Table = {
  rows: 2,
  fields: ['Port', 'April', 'Quarter / Foot'].map((name) => ({
    name,
    nameOrigin: 'named',
    column: textColumn([`${name} 1`, `${name} 2`]),
  })),
};
const context = {
  progress: () => undefined,
  name: 'Table',
  other: () => {
    throw new Error('none');
  },
};
const run = (params: object) => setAsideColumns.run(table, setAsideColumns.params.parse(params), context);

describe('columns set aside', () => {
  test('they leave the table, stand on the pile, and nothing else moves', () => {
    const { table: left, aside, notices } = run({ pile: 'totals', columns: { by: 'starts', text: 'Quarter' } });
    expect(left.fields.map((field) => field.name)).toEqual(['Port', 'April']);
    expect(left.rows).toBe(2);
    expect(aside).toEqual([{ name: 'totals', mark: 'total', rows: new Int32Array(), columns: [2] }]);
    expect(notices).toEqual([{ severity: 'info', text: 'Quarter / Foot' }]);
  });

  test('where no column is chosen it says that it did nothing', () => {
    const { table: left, aside, notices } = run({ columns: { by: 'starts', text: 'Year' } });
    expect(left.fields).toHaveLength(3);
    expect(aside).toEqual([]);
    expect(notices).toMatchObject([{ severity: 'warning', idle: true }]);
  });

  test('a column that is gone stops it, with the one most alike', () => {
    const gone = () => run({ columns: { by: 'names', names: ['Aprill'] } });
    expect(gone).toThrow(StepFailure);
    expect(gone).toThrow(/no column Aprill.*Did you mean April/s);
  });
});
