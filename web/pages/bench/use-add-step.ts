import { useCallback } from 'react';
import type { JobStep, JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { editShown } from '../../stores/draft-store.ts';
import { newStep, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { selectedColumns } from '../../stores/view/selection.ts';
import { useViewStore } from '../../stores/view-store.ts';

/** Puts steps behind the step at this index, as one edit. */
export function useAddSteps(table: JobTable, at: number) {
  return useCallback(
    (steps: readonly Omit<JobStep, 'id'>[], label: string) => {
      const added = steps.map(newStep);
      useJobStore
        .getState()
        .edit(label, (job) =>
          editShown(job, table.id, (one) => ({ ...one, steps: one.steps.toSpliced(at + 1, 0, ...added) })),
        );
      const last = at + 1 >= table.steps.length;
      useViewStore.getState().showStep(last ? undefined : at + added.length);
    },
    [table, at],
  );
}

/** Puts a new step behind the step at this index, with params guessed from the data unless they are given. */
export function useAddStep(table: JobTable, at: number) {
  const add = useAddSteps(table, at);
  return useCallback(
    async (kind: string, title: string, columns?: readonly string[], params?: Record<string, unknown>) => {
      const chosen = columns ?? selectedColumns(useViewStore.getState());
      let step = params === undefined ? undefined : { kind, params };
      if (step === undefined) {
        try {
          step = await engineClient().engine.method.suggest(table.id, at, kind, chosen);
        } catch (error) {
          useMethodStore.setState({ trouble: (error as Error).message });
        }
      }
      if (step === undefined) return;
      add([step], `add ${title.toLowerCase()}`);
    },
    [table.id, at, add],
  );
}
