import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { blank } from '../kinds/sentence.ts';
import { groupRows } from '../rows/keys.ts';
import { grouped } from '../values/counted.ts';
import { type CheckKind, checkSchema, columnOf, MAX_ROWS } from './check-kind.ts';

const schema = checkSchema('key', { columns: z.array(columnName()).min(1) });

export const key = {
  schema,
  sentence: ({ columns }) => [
    blank('columns', columns.join(', '), { as: 'names', label: 'Columns that identify a row' }),
    columns.length === 1 ? ' identifies each row' : ' identify each row',
  ],
  run(table, { columns }) {
    const groups = groupRows(
      columns.map((name) => columnOf(table, name)),
      table.rows,
    );
    const rows: number[] = [];
    groups.of.forEach((group, r) => {
      if (groups.first[group] !== r && rows.length < MAX_ROWS) rows.push(r);
    });
    return {
      ok: groups.count === table.rows,
      found: `${grouped(groups.count)} of ${grouped(table.rows)} different`,
      rows,
      column: columns[0],
    };
  },
  offers(_, { identifying }) {
    const columns = identifying();
    return columns === undefined ? [] : [{ columns: [...columns] }];
  },
} satisfies CheckKind<z.infer<typeof schema>>;
