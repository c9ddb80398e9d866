import { useCallback } from 'react';
import type { JobTable } from '../../../core/index.ts';
import { editShown, shownJob } from '../../stores/draft-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import { useAddStep } from './use-add-step.ts';

interface Renaming {
  from: string;
  to: string;
}

/** Gives a column another name: in the selected step where that renames already, else in a step behind it. */
export function useRenameColumn(table: JobTable, at: number) {
  const addStep = useAddStep(table, at);
  return useCallback(
    (column: string, name: string) => {
      const view = useViewStore.getState();
      view.select(undefined);
      // Names may come faster than tables: the newest steps count, not those that the table in sight was made by.
      const { job: now } = useJobStore.getState();
      const steps = (now && shownJob(now).tables.find((one) => one.id === table.id)?.steps) ?? table.steps;
      const last = view.step === undefined ? steps.length - 1 : at;
      const step = steps[last];
      if (step?.kind !== 'rename') {
        void addStep('rename', `rename ${column}`, [column], { names: [{ from: column, to: name }] });
        return;
      }
      const names = (step.params['names'] as Renaming[] | undefined) ?? [];
      const known = names.some((one) => one.to === column);
      const next = known
        ? names.map((one) => (one.to === column ? { ...one, to: name } : one))
        : [...names, { from: column, to: name }];
      useJobStore.getState().edit(`rename ${column}`, (job) =>
        editShown(job, table.id, (one) => ({
          ...one,
          steps: one.steps.with(last, { ...step, params: { ...step.params, names: next } }),
        })),
      );
    },
    [table, at, addStep],
  );
}
