import type { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../kinds/column-set.ts';
import { unreadableAt, unseenMask } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { type RuleKind, ruleSchema } from './rule-kind.ts';

/** A test on how the cells of some columns stand. */
function stateKind<T extends string>(
  test: T,
  title: string,
  words: string,
  mask: (set: ColumnSet, table: Table) => Uint8Array,
) {
  const schema = ruleSchema(test, { columns: ColumnSet });
  return {
    schema,
    title,
    start: (column) => ({ columns: { by: 'names', names: [column] } }),
    fields: [{ param: 'columns', edit: { as: 'columns', label: 'Columns' } }],
    text: ({ columns }) => `${columnSetText(columns)} ${words}`,
    mask: ({ columns }, table) => mask(columns, table),
  } satisfies RuleKind<z.infer<typeof schema>>;
}

export const blank = stateKind('blank', 'cells are blank', 'is blank', (set, table) => everyColumn(table, set, 1));
export const filled = stateKind('filled', 'cells have a value', 'has a value', (set, table) =>
  everyColumn(table, set, 0),
);
export const unreadable = stateKind('unreadable', 'cells are unreadable', 'is unreadable', (set, table) => {
  const mask = new Uint8Array(table.rows);
  for (const k of chosenColumns(set, table)) {
    const { column } = table.fields[k]!;
    for (let r = 0; r < table.rows; r++) if (unreadableAt(column, r) !== undefined) mask[r] = 1;
  }
  return mask;
});

/** 1 for each row in which nothing (wanted 1) or something (wanted 0) can be seen in every one of the columns. */
function everyColumn(table: Table, set: ColumnSet, wanted: 0 | 1): Uint8Array {
  const chosen = chosenColumns(set, table);
  const mask = new Uint8Array(table.rows).fill(chosen.length === 0 ? 0 : 1);
  for (const k of chosen) {
    const unseen = unseenMask(table.fields[k]!.column);
    for (let r = 0; r < table.rows; r++) if (unseen[r] !== wanted) mask[r] = 0;
  }
  return mask;
}
