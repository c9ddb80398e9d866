import type { z } from 'zod';
import { saysTotal } from '../glance/hint-words.ts';
import { profileTable, textAt } from '../glance/table-profile.ts';
import { ColumnSet, chosenColumns, columnSetText } from '../kinds/column-set.ts';
import { columnName } from '../kinds/param-marks.ts';
import { findSums } from '../rows/sums.ts';
import { runStarts } from './placed.ts';
import { type RuleKind, ruleSchema } from './rule-kind.ts';

const schema = ruleSchema(
  'adds-up',
  {
    columns: ColumnSet.describe('Columns of figures'),
    within: columnName().optional().describe('Column in whose every run sums begin again'),
  },
  'Figures of the row are the sum or the mean of those of the rows above it, whatever the row is called',
);

export const addsUp = {
  schema,
  title: 'adds up the rows above',
  looksAround: true,
  start: (column) => ({ columns: { by: 'names', names: column === '' ? [] : [column] } }),
  fields: [{ param: 'columns', edit: { as: 'columns', label: 'Columns of figures' } }],
  text: ({ columns }) => `${columnSetText(columns)} adds up the rows above`,
  mask({ columns, within }, table) {
    const mask = new Uint8Array(table.rows);
    const profile = profileTable(table);
    const chosen = new Set(chosenColumns(columns, table));
    const summed = profile.columns.filter((column) => chosen.has(column.index));
    const hints = new Uint8Array(table.rows);
    for (const column of profile.columns) {
      if (chosen.has(column.index)) continue;
      const says = column.texts.map(saysTotal);
      if (!says.includes(true)) continue;
      for (let r = 0; r < table.rows; r++) if (textAt(column, r) !== '' && says[column.codes[r]!]) hints[r] = 1;
    }
    const starts = runStarts(table, within).slice(0, -1);
    for (const { row } of findSums({ columns: summed.map((one) => one.values), rows: table.rows, starts, hints }))
      mask[row] = 1;
    return mask;
  },
} satisfies RuleKind<z.infer<typeof schema>>;
