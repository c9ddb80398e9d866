import { z } from 'zod';
import { blank, type Phrase } from '../kinds/sentence.ts';

/** The first step of a table that starts from another table, after any of its steps. */
export const FromTable = z.object({
  table: z.string().min(1).describe('Id of the other table'),
  step: z.string().nullable().default(null).describe('Id of the step after which it is taken; null: its end'),
});
export type FromTable = z.infer<typeof FromTable>;

export const FROM_TABLE = 'from-table';

export function fromTableSentence(params: FromTable, nameOf: (tableId: string) => string): Phrase[] {
  return [
    'Start from ',
    blank('table', nameOf(params.table), { as: 'table', label: 'The table to start from' }),
    params.step === null ? '' : ', part of the way',
  ];
}
