import { useCallback, useEffect } from 'react';
import { fullTables, type JobTable } from '../../../../core/index.ts';
import { engineClient } from '../../../engine/client.ts';
import { useLatest } from '../../../parts/use-latest.ts';
import { type Choice, shownJob, useDraftStore } from '../../../stores/draft-store.ts';
import { newStep, useJobStore } from '../../../stores/job-store.ts';
import { useViewStore } from '../../../stores/view-store.ts';

const WAIT_MS = 120;

/** Shows the table that another way leads to, for as long as it is pointed at. */
export function useOtherWay(table: JobTable) {
  const tryOut = useViewStore((store) => store.tryOut);
  const { latest, drop } = useLatest(WAIT_MS);
  const clear = useCallback(() => {
    drop();
    if (useViewStore.getState().preview !== undefined) tryOut(undefined);
  }, [drop, tryOut]);
  const show = useCallback(
    (choice: Choice) =>
      latest(
        async () => {
          const steps = (await useDraftStore.getState().look(choice))?.map(newStep);
          const { job } = useJobStore.getState();
          if (steps === undefined || job === undefined) return undefined;
          const at = steps.length - 2;
          const tables = fullTables(shownJob(job)).map((one) => (one.id === table.id ? { ...one, steps } : one));
          return { at, view: await engineClient().preview(tables, table.id, at, steps.at(-1)!) };
        },
        (found) => {
          if (found === undefined) return;
          const { at, view } = found;
          tryOut(
            'message' in view
              ? { label: choice.gives, at, stop: view.message }
              : { label: `Or ${choice.gives}`, at, view },
          );
        },
      ),
    [table.id, tryOut, latest],
  );
  useEffect(() => clear, [clear]);
  return { show, clear };
}
