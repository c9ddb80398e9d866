import { useMemo } from 'react';
import { type JobStep, type JobTable, type LeftPage, READING_WORDS } from '../../../../core/index.ts';
import { editShown } from '../../../stores/draft-store.ts';
import { newStep, useJobStore } from '../../../stores/job-store.ts';

export interface Reading {
  source: string;
  kind: string;
  params: Record<string, unknown>;
  /** Changes some params; edits under the same key are one step of undo. */
  change(label: string, params: Record<string, unknown>, merge?: string): void;
  /** Changes some params and puts steps behind the reading, as one edit. */
  changeAndAdd(label: string, params: Record<string, unknown>, steps: readonly Omit<JobStep, 'id'>[]): void;
}

/** The reading of a table's lines: its first step, or what that does to each of several files. */
export function useReading(table: JobTable): Reading {
  const edit = useJobStore((store) => store.edit);
  return useMemo(() => {
    const first = table.steps[0]!;
    const each = first.params['each'] as Omit<JobStep, 'id'> | undefined;
    const withParams = (step: JobStep, more: Record<string, unknown>): JobStep => {
      if (each === undefined) return { ...step, params: { ...step.params, ...more } };
      return { ...step, params: { ...step.params, each: { ...each, params: { ...each.params, ...more } } } };
    };
    const apply = (label: string, more: Record<string, unknown>, added: readonly JobStep[], merge?: string) =>
      edit(
        label,
        (job) =>
          editShown(job, table.id, (one) => ({
            ...one,
            steps: [withParams(one.steps[0]!, more), ...added, ...one.steps.slice(1)],
          })),
        merge,
      );
    return {
      source: String(first.params['source']),
      kind: each?.kind ?? first.kind,
      params: each?.params ?? first.params,
      change: (label, more, merge) => apply(label, more, [], merge),
      changeAndAdd: (label, more, steps) => apply(label, more, steps.map(newStep)),
    };
  }, [table, edit]);
}

/** What stands on the left page for a reading. */
export function leftPage(reading: Pick<Reading, 'kind'>): LeftPage {
  return READING_WORDS.get(reading.kind)?.page ?? 'lines';
}
