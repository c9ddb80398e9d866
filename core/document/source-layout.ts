import { z } from 'zod';

/** What a report is known again by: what its header says, without what changes from month to month. */
export const SourceLayout = z.object({
  /** Plain words of the header or of the fields, each once, in their order. */
  words: z.array(z.string()),
  /** The pattern of the file's name: # for digits and months. */
  name: z.string(),
});
export type SourceLayout = z.infer<typeof SourceLayout>;
