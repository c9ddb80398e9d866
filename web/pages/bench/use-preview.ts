import { useCallback, useEffect, useRef } from 'react';
import { fullTables, type JobStep, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { newStep, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';

const WAIT_MS = 120;
/** A table past this many rows is not tried for a look. */
const MOST_ROWS = 400_000;

/** Shows what a step would do on the tidy page, for as long as it is looked at. */
export function usePreview(table: JobTable, at: number) {
  const set = useViewStore((store) => store.set);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const turn = useRef(0);
  const clear = useCallback(() => {
    clearTimeout(timer.current);
    turn.current++;
    if (useViewStore.getState().preview !== undefined) set({ preview: undefined });
  }, [set]);
  const show = useCallback(
    (step: Omit<JobStep, 'id'>, label: string) => {
      clearTimeout(timer.current);
      const mine = ++turn.current;
      timer.current = setTimeout(async () => {
        const { job } = useJobStore.getState();
        const rows = useMethodStore.getState().view?.steps[at]?.rows ?? 0;
        if (job === undefined || rows > MOST_ROWS) return;
        try {
          const { columns } = useViewStore.getState();
          const full =
            Object.keys(step.params).length > 0
              ? step
              : ((await engineClient().engine.suggest(table.id, at, step.kind, columns))?.step ?? step);
          const found = await engineClient().preview(fullTables(job), table.id, at, newStep(full));
          if (mine !== turn.current) return;
          set({
            preview: 'message' in found ? { label, at, stop: found.message } : { label, at, view: found, turn: mine },
          });
        } catch {
          // Overtaken by a run: there is nothing to look at.
        }
      }, WAIT_MS);
    },
    [table.id, at, set],
  );
  useEffect(() => clear, [clear]);
  return { show, clear };
}
