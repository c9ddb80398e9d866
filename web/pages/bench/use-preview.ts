import { useCallback, useEffect } from 'react';
import { fullTables, type JobStep, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { useLatest } from '../../parts/use-latest.ts';
import { shownJob } from '../../stores/draft-store.ts';
import { newStep, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { selectedColumns } from '../../stores/view/selection.ts';
import { useViewStore } from '../../stores/view-store.ts';

const WAIT_MS = 120;
/** A table past this many rows is not tried for a look. */
const MOST_ROWS = 400_000;

/** Shows what a step would do on the tidy page, for as long as it is looked at. */
export function usePreview(table: JobTable, at: number) {
  const tryOut = useViewStore((store) => store.tryOut);
  const { latest, drop } = useLatest(WAIT_MS);
  const clear = useCallback(() => {
    drop();
    if (useViewStore.getState().preview !== undefined) tryOut(undefined);
  }, [drop, tryOut]);
  const show = useCallback(
    (step: Omit<JobStep, 'id'>, label: string) => {
      latest(
        async () => {
          const { job } = useJobStore.getState();
          const rows = useMethodStore.getState().view?.steps[at]?.rows ?? 0;
          if (job === undefined || rows > MOST_ROWS) return undefined;
          const columns = selectedColumns(useViewStore.getState());
          const guessed =
            Object.keys(step.params).length > 0
              ? undefined
              : await engineClient().engine.method.suggest(table.id, at, step.kind, columns);
          return engineClient().preview(fullTables(shownJob(job)), table.id, at, newStep(guessed ?? step));
        },
        (found) => {
          if (found === undefined) return;
          tryOut('message' in found ? { label, at, stop: found.message } : { label, at, view: found });
        },
      );
    },
    [table.id, at, tryOut, latest],
  );
  useEffect(() => clear, [clear]);
  return { show, clear };
}
