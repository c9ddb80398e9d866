import type { StepEffect } from '../kinds/headline.ts';
import type { Phrase } from '../kinds/sentence.ts';
import { FROM_TABLE, FromTable, fromTableSentence } from '../read/from-table.ts';
import { READING_WORDS } from '../read/words.ts';
import { STEP_WORDS } from '../steps/words.ts';
import type { JobStep } from './job.ts';
import { setSentence, USE_SET, UseSet } from './step-set.ts';

/** What sources and tables are called. */
export interface Names {
  source(id: string): string;
  table(id: string): string;
  set?(id: string): string;
}

const ANY: Names = { source: () => 'the source', table: (id) => id };

/** The step as a sentence. A step of unknown kind or with broken params gives its kind, so that it can still be seen. */
export function stepSentence(step: JobStep, names: Names = ANY): Phrase[] {
  const reading = READING_WORDS.get(step.kind);
  if (reading !== undefined) {
    const params = reading.params.safeParse(step.params);
    return params.success ? reading.sentence(params.data, names.source(params.data.source)) : [reading.title];
  }
  if (step.kind === FROM_TABLE) {
    const params = FromTable.safeParse(step.params);
    return params.success ? fromTableSentence(params.data, names.table) : ['Start from another table'];
  }
  if (step.kind === USE_SET) {
    const params = UseSet.safeParse(step.params);
    return params.success ? setSentence(params.data, names.set ?? ((id) => id)) : ['Do a set of steps'];
  }
  const kind = STEP_WORDS.get(step.kind);
  const params = kind?.params.safeParse(step.params);
  return params?.success ? kind!.sentence(params.data, names.table) : [kind?.title ?? step.kind];
}

/** The step as a headline of at most seven words. A step of unknown kind or with broken params gives its title. */
export function stepHeadline(step: JobStep, did: StepEffect = {}, names: Names = ANY): string {
  if (step.kind === FROM_TABLE) {
    const params = FromTable.safeParse(step.params);
    return params.success ? `Start from ${names.table(params.data.table)}` : 'Start from another table';
  }
  if (step.kind === USE_SET) {
    const params = UseSet.safeParse(step.params);
    return params.success ? `Do the steps ${names.set?.(params.data.set) ?? params.data.set}` : 'Do a set of steps';
  }
  const kind = READING_WORDS.get(step.kind) ?? STEP_WORDS.get(step.kind);
  const params = kind?.params.safeParse(step.params);
  return params?.success ? kind!.headline(params.data as never, did) : (kind?.title ?? step.kind);
}
