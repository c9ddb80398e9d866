import { z } from 'zod';
import { blank, type Phrase } from '../kinds/sentence.ts';
import type { Job, JobStep, JobTable } from './job.ts';

/** A step that runs the steps of a set that the job keeps under a name. */
export const UseSet = z.object({ set: z.string().min(1).describe('Id of the set of steps') });
export type UseSet = z.infer<typeof UseSet>;

export const USE_SET = 'use-set';

export function setSentence(params: UseSet, nameOf: (setId: string) => string): Phrase[] {
  return ['Do ', blank('set', nameOf(params.set), { as: 'set', label: 'The set of steps' })];
}

/** A step of a set, or one with the steps of its set at hand. */
export type FullStep = JobStep & { inner?: readonly JobStep[] };
export type FullTable = Omit<JobTable, 'steps'> & { steps: readonly FullStep[] };

/** The tables with the steps of each set written into the steps that use it, as they are run. */
export function fullTables(job: Pick<Job, 'tables' | 'sets'>): readonly FullTable[] {
  const { tables, sets } = job;
  if (sets === undefined || sets.length === 0) return tables;
  return tables.map((table) =>
    table.steps.every((step) => step.kind !== USE_SET)
      ? table
      : {
          ...table,
          steps: table.steps.map((step) =>
            step.kind === USE_SET ? { ...step, inner: sets.find((set) => set.id === step.params['set'])?.steps } : step,
          ),
        },
  );
}

/** The job with some steps of a table put into their own set, and one step in their place that uses it. */
export function keepAsSet(
  job: Job,
  tableId: string,
  steps: readonly string[],
  ids: { set: string; step: string },
  name: string,
): Job {
  const table = job.tables.find((one) => one.id === tableId);
  const kept = table?.steps.filter((step, k) => k > 0 && step.kind !== USE_SET && steps.includes(step.id)) ?? [];
  if (table === undefined || kept.length === 0) return job;
  const first = table.steps.findIndex((step) => step.id === kept[0]!.id);
  const others = table.steps.filter((step) => !kept.includes(step));
  return {
    ...job,
    sets: [...(job.sets ?? []), { id: ids.set, name, steps: kept }],
    tables: job.tables.map((one) =>
      one.id === tableId
        ? { ...one, steps: others.toSpliced(first, 0, { id: ids.step, kind: USE_SET, params: { set: ids.set } }) }
        : one,
    ),
  };
}

/** The job with a step that uses a set replaced by copies of the set's steps. */
export function unfoldSet(job: Job, tableId: string, stepId: string, newId: () => string): Job {
  return {
    ...job,
    tables: job.tables.map((table) =>
      table.id !== tableId
        ? table
        : {
            ...table,
            steps: table.steps.flatMap((step) => {
              if (step.id !== stepId || step.kind !== USE_SET) return [step];
              const set = job.sets?.find((one) => one.id === step.params['set']);
              return set === undefined ? [step] : set.steps.map((one) => ({ ...one, id: newId() }));
            }),
          },
    ),
  };
}
