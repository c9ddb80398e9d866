import { useCallback, useEffect } from 'react';
import { fullTables, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { PlainStep } from '../../engine/protocol.ts';
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
    (asked: PlainStep | readonly PlainStep[], label: string) => {
      const steps = 'kind' in asked ? [asked] : asked;
      const step = steps.at(-1);
      const last = at + steps.length - 1;
      latest(
        async () => {
          const { job } = useJobStore.getState();
          const rows = useMethodStore.getState().view?.steps[at]?.rows ?? 0;
          if (job === undefined || step === undefined || rows > MOST_ROWS) return undefined;
          const columns = selectedColumns(useViewStore.getState());
          const guessed =
            Object.keys(step.params).length > 0
              ? undefined
              : await engineClient().engine.method.suggest(table.id, at, step.kind, columns);
          const tables = fullTables(shownJob(job)).map((one) =>
            one.id === table.id
              ? { ...one, steps: [...one.steps.slice(0, at + 1), ...steps.slice(0, -1).map(newStep)] }
              : one,
          );
          return engineClient().preview(tables, table.id, last, newStep(guessed ?? step));
        },
        (found) => {
          if (found === undefined) return;
          tryOut('message' in found ? { label, at: last, stop: found.message } : { label, at: last, view: found });
        },
      );
    },
    [table.id, at, tryOut, latest],
  );
  useEffect(() => clear, [clear]);
  return { show, clear };
}
