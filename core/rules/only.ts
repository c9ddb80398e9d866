import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { needColumn } from '../kinds/step.ts';
import { unseenMask } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { type RuleKind, ruleSchema } from './rule-kind.ts';

const schema = ruleSchema('only', { columns: z.array(columnName()) }, 'Of the cells of the row only these are filled');
const bare = ruleSchema('empty', {}, 'Nothing stands in the row');

export const only = {
  schema,
  title: 'only these cells are filled',
  start: (column) => ({ columns: column === '' ? [] : [column] }),
  fields: [{ param: 'columns', edit: { as: 'names', label: 'Columns' } }],
  text: ({ columns }) => `only ${columns.join(', ') || 'nothing'} has a value`,
  mask: ({ columns }, table) => onlyMask(columns, table),
} satisfies RuleKind<z.infer<typeof schema>>;

export const empty = {
  schema: bare,
  title: 'the whole row is empty',
  start: () => ({}),
  text: () => 'the row is empty',
  mask: (_, table) => onlyMask([], table),
} satisfies RuleKind<z.infer<typeof bare>>;

function onlyMask(names: readonly string[], table: Table): Uint8Array {
  const wanted = new Set(names.map((name) => needColumn(table, name)));
  const mask = new Uint8Array(table.rows).fill(1);
  table.fields.forEach((field, k) => {
    if (field.nameOrigin === 'beside' && !wanted.has(k)) return;
    const blank = unseenMask(field.column);
    const want = wanted.has(k) ? 0 : 1;
    for (let r = 0; r < mask.length; r++) if (blank[r] !== want) mask[r] = 0;
  });
  return mask;
}
