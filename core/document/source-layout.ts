import { z } from 'zod';
import { few } from '../values/counted.ts';

/** What a report is known again by: what its header says, without what changes from month to month. */
export const SourceLayout = z.object({
  /** Plain words of the header or of the fields, each once, in their order. */
  words: z.array(z.string()),
  /** The pattern of the file's name: # for digits and months. */
  name: z.string(),
});
export type SourceLayout = z.infer<typeof SourceLayout>;

/** A source of a kept job, with the step that reads it. */
export interface KnownSource {
  job: string;
  source: string;
  layout: SourceLayout;
  reading: { kind: string; params: Record<string, unknown> };
}

/** How a report is like the last one of a source. */
export interface Recognized {
  job: string;
  source: string;
  /** Words of its header that are the same, of how many. */
  met: number;
  of: number;
  /** Words that are gone, and words beside the others that are new. */
  gone: readonly string[];
  come: readonly string[];
  /** 0 to 1; 1: the same header, in a file of the same name but for digits. */
  likeness: number;
}

/** By how much one match must be the best to be the only one. */
const CLEAR_LEAD = 0.05;

/** Of matches, the likeliest first, the first and those that are hardly less like it: one where the match is clear. */
export function likeliestOf(found: readonly Recognized[]): Recognized[] {
  return found.filter(({ likeness }) => found[0]!.likeness - likeness < CLEAR_LEAD);
}

/** Why a report is taken for the next one of a source: a sentence without a full stop. */
export function likenessText({ met, of, gone, come }: Recognized): string {
  const parts = [
    met === of ? `all ${of} names in its header are the same` : `${met} of ${of} names in its header are the same`,
    ...(gone.length > 0 ? [`gone: ${few(gone)}`] : []),
    ...(come.length > 0 ? [`new: ${few(come)}`] : []),
  ];
  return parts.join('; ');
}
