import { READINGS } from '../read/catalogue.ts';
import { CATALOGUE } from '../steps/catalogue.ts';
import type { Phrase } from '../steps/sentence.ts';
import type { JobStep } from './job.ts';

/** The step as a sentence. A step of unknown kind or with broken params gives its kind, so that it can still be seen. */
export function stepSentence(step: JobStep, sourceName = 'the source'): Phrase[] {
  const reading = READINGS.get(step.kind);
  if (reading !== undefined) {
    const params = reading.params.safeParse(step.params);
    return params.success ? reading.sentence(params.data, sourceName) : [step.kind];
  }
  const kind = CATALOGUE.get(step.kind);
  const params = kind?.params.safeParse(step.params);
  return params?.success ? kind!.sentence(params.data) : [kind?.title ?? step.kind];
}
