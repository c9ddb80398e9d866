import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { blank, columnBlank } from '../kinds/sentence.ts';
import { numbersOf } from '../table/numbers.ts';
import { type CheckKind, checkSchema, columnOf, failing, limitText } from './check-kind.ts';

const schema = checkSchema('between', {
  column: columnName(),
  least: z.number().nullable(),
  most: z.number().nullable(),
});

export const between = {
  schema,
  toFillIn: { title: 'A column is between two numbers', start: (column) => ({ column, least: null, most: null }) },
  sentence: ({ column, least, most }) => [
    columnBlank('column', column, 'Column'),
    ' is between ',
    blank('least', limitText(least), { as: 'figure', label: 'Least', optional: true }),
    ' and ',
    blank('most', limitText(most), { as: 'figure', label: 'Most', optional: true }),
  ],
  run(table, { column, least, most }) {
    const values = numbersOf(columnOf(table, column));
    if (values === undefined) return { ok: false, found: 'the column holds no numbers', rows: [], column };
    const [from, to] = [least ?? Number.NEGATIVE_INFINITY, most ?? Number.POSITIVE_INFINITY];
    return failing(table, column, (r) => values[r]! < from || values[r]! > to, 'outside');
  },
  /** Columns without a negative number. */
  offers: (table) =>
    table.fields.flatMap(({ name, column }) => {
      const values = numbersOf(column);
      if (values === undefined || !values.some((value) => value >= 0) || values.some((value) => value < 0)) return [];
      return [{ column: name, least: 0, most: null }];
    }),
} satisfies CheckKind<z.infer<typeof schema>>;
