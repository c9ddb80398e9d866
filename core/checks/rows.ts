import { z } from 'zod';
import { blank } from '../kinds/sentence.ts';
import { counted } from '../values/counted.ts';
import { type CheckKind, checkSchema, limitText } from './check-kind.ts';

const schema = checkSchema('rows', {
  least: z.number().int().nonnegative().nullable(),
  most: z.number().int().nonnegative().nullable(),
});

export const rows = {
  schema,
  toFillIn: { title: 'The number of rows', start: () => ({ least: 1, most: null }) },
  sentence: ({ least, most }) => [
    'there are between ',
    blank('least', limitText(least), { as: 'figure', label: 'Least', optional: true }),
    ' and ',
    blank('most', limitText(most), { as: 'figure', label: 'Most', optional: true }),
    ' rows',
  ],
  run: (table, { least, most }) => ({
    ok: table.rows >= (least ?? 0) && table.rows <= (most ?? Number.POSITIVE_INFINITY),
    found: counted(table.rows, 'row'),
    rows: [],
  }),
} satisfies CheckKind<z.infer<typeof schema>>;
