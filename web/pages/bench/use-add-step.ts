import { useCallback } from 'react';
import type { JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { editShown } from '../../stores/draft-store.ts';
import { newStep, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { selectedColumns } from '../../stores/view/selection.ts';
import { useViewStore } from '../../stores/view-store.ts';

/** Puts a new step behind the step at this index, with params guessed from the data unless they are given. */
export function useAddStep(table: JobTable, at: number) {
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
      const added = newStep(step);
      useJobStore
        .getState()
        .edit(`add ${title.toLowerCase()}`, (job) =>
          editShown(job, table.id, (one) => ({ ...one, steps: one.steps.toSpliced(at + 1, 0, added) })),
        );
      const last = at + 1 >= table.steps.length;
      useViewStore.getState().showStep(last ? undefined : at + 1);
    },
    [table, at],
  );
}
