import { z } from 'zod';
import { choiceBlank } from '../kinds/sentence.ts';
import { counted, grouped } from '../values/counted.ts';
import { type CheckKind, checkSchema } from './check-kind.ts';

const schema = checkSchema('last-run', {
  share: z.number().positive().default(0.2).describe('By how large a share the rows may differ from the last run'),
});

export const lastRun = {
  schema,
  sentence: ({ share }) => [
    'rows differ from the last run by no more than ',
    choiceBlank('share', share, 'Share', [
      [0.05, '5 %'],
      [0.1, '10 %'],
      [0.2, '20 %'],
      [0.5, '50 %'],
    ]),
  ],
  run(table, check, { lastRows }) {
    if (lastRows === undefined) return { ok: true, found: 'there is no last run yet', rows: [] };
    const share = lastRows === 0 ? Math.min(1, table.rows) : Math.abs(table.rows - lastRows) / lastRows;
    return {
      ok: share <= check.share,
      found: `${counted(table.rows, 'row')}, ${grouped(lastRows)} last time`,
      rows: [],
    };
  },
  offers: () => [{ share: 0.2 }],
} satisfies CheckKind<z.infer<typeof schema>>;
