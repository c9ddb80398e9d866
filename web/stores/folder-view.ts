import { z } from 'zod';

const ArrivedFile = z.object({
  name: z.string(),
  size: z.number(),
  modified: z.number(),
  state: z.enum(['waiting', 'whole', 'running', 'stuck']),
  trouble: z.string().optional(),
});
export type ArrivedFile = z.infer<typeof ArrivedFile>;

/** What the server says of its drop folder. */
export const FolderView = z.object({
  path: z.string(),
  count: z.number(),
  arrivals: z.array(ArrivedFile),
  recent: z.array(
    z.object({
      at: z.number(),
      file: z.string(),
      outcome: z.enum(['done', 'aside', 'again', 'taken']),
      job: z.string().optional(),
      out: z.string().optional(),
      good: z.boolean().optional(),
      text: z.string(),
    }),
  ),
  jobs: z.array(z.object({ id: z.string(), name: z.string(), source: z.string(), pattern: z.string() })),
});
export type FolderView = z.infer<typeof FolderView>;
