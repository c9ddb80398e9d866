import type { z } from 'zod';
import { grouped } from '../values/counted.ts';
import { type CheckKind, checkSchema } from './check-kind.ts';

const schema = checkSchema('totals', {});

export const totals = {
  schema,
  sentence: () => ["the report's totals agree"],
  run: (_table, _check, { totals: { agrees, disagrees, cannotTell, leftOut } }) => ({
    ok: disagrees === 0,
    found: `${grouped(agrees)} of ${grouped(agrees + disagrees + cannotTell + leftOut)} agree`,
    rows: [],
  }),
  offers: (_, { totals: { agrees, disagrees } }) => (agrees + disagrees > 0 ? [{}] : []),
} satisfies CheckKind<z.infer<typeof schema>>;
