import { z } from 'zod';

/** What a person said a total covers, by its place in the report; all count from 0. */
export const Coverage = z.object({
  total: z.string().describe('part!row:column of the total'),
  cells: z.string().describe('first row:first column-last row:last column of what it covers, in its part'),
});
export type Coverage = z.infer<typeof Coverage>;
