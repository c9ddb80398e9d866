import { useCallback, useEffect } from 'react';
import { fullTables, type JobStep, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { useLatest } from '../../parts/use-latest.ts';
import { newStep, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';

const WAIT_MS = 120;
/** A table past this many rows is not tried for a look. */
const MOST_ROWS = 400_000;
/** Tells one look from the next, which may be at a table of the same shape. */
let looks = 0;

/** Shows what a step would do on the tidy page, for as long as it is looked at. */
export function usePreview(table: JobTable, at: number) {
  const set = useViewStore((store) => store.set);
  const { latest, drop } = useLatest(WAIT_MS);
  const clear = useCallback(() => {
    drop();
    if (useViewStore.getState().preview !== undefined) set({ preview: undefined });
  }, [drop, set]);
  const show = useCallback(
    (step: Omit<JobStep, 'id'>, label: string) => {
      latest(
        async () => {
          const { job } = useJobStore.getState();
          const rows = useMethodStore.getState().view?.steps[at]?.rows ?? 0;
          if (job === undefined || rows > MOST_ROWS) return undefined;
          const { columns } = useViewStore.getState();
          const guessed =
            Object.keys(step.params).length > 0
              ? undefined
              : await engineClient().engine.method.suggest(table.id, at, step.kind, columns);
          return engineClient().preview(fullTables(job), table.id, at, newStep(guessed ?? step));
        },
        (found) => {
          if (found === undefined) return;
          if ('message' in found) set({ preview: { label, at, stop: found.message } });
          else set({ preview: { label, at, view: found, turn: ++looks } });
        },
      );
    },
    [table.id, at, set, latest],
  );
  useEffect(() => clear, [clear]);
  return { show, clear };
}
