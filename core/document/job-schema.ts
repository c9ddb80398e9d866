import { z } from 'zod';
import { FROM_TABLE, FromTable } from '../read/from-table.ts';
import { READING_WORDS } from '../read/words.ts';
import { STEP_GROUPS } from '../steps/words.ts';
import { Job, JobStep, JobTable } from './job.ts';
import { closed } from './unknown-keys.ts';

export interface KindEntry {
  kind: string;
  title: string;
  summary: string;
  params: z.ZodType;
}

/** All kinds that may stand in a method. */
export function allKinds(): KindEntry[] {
  return [
    ...[...READING_WORDS.values()].map(({ kind, title, params }) => ({
      kind,
      title,
      summary: 'Reading: the first step of a table',
      params,
    })),
    {
      kind: FROM_TABLE,
      title: 'Start from a table',
      summary: 'The first step of a table that starts from another',
      params: FromTable,
    },
    ...STEP_GROUPS.flatMap((group) => group.kinds),
  ];
}

/** The JSON Schema (draft 2020-12) of job files, made from the schemas that the application itself uses. */
export function jobSchema(): Record<string, unknown> {
  const steps = allKinds().map(({ kind, title, summary, params }) =>
    JobStep.extend({ kind: z.literal(kind), params }).meta({ title, description: summary }),
  );
  const table = JobTable.extend({ steps: z.array(z.union(steps)) });
  const job = Job.extend({ tables: z.array(table) }).meta({ title: 'Rimefield job' });
  // Parts that many kinds share (column sets, rules) stand once, among the definitions.
  return closed(z.toJSONSchema(job, { io: 'input', reused: 'ref' })) as Record<string, unknown>;
}
