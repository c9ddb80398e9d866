import type { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { columnBlank } from '../kinds/sentence.ts';
import { blankMask } from '../table/column.ts';
import { type CheckKind, checkSchema, columnOf, failing } from './check-kind.ts';

const schema = checkSchema('filled', { column: columnName() });

export const filled = {
  schema,
  sentence: ({ column }) => [columnBlank('column', column, 'Column'), ' is never blank'],
  run(table, { column }) {
    const blanks = blankMask(columnOf(table, column));
    return failing(table, column, (r) => blanks[r] === 1, 'blank');
  },
  offers: (table) =>
    table.rows === 0
      ? []
      : table.fields.filter((field) => !blankMask(field.column).includes(1)).map(({ name }) => ({ column: name })),
} satisfies CheckKind<z.infer<typeof schema>>;
