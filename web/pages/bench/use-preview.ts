import { useCallback, useEffect, useRef } from 'react';
import { fullTables, type JobStep, type JobTable } from '../../../core/index.ts';
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
const MAX_ROWS = 400_000;

/** Shows on the tidy page what other steps would give, for as long as they are looked at. */
export function useTryOut(table: JobTable) {
  const tryOut = useViewStore((store) => store.tryOut);
  const { latest, drop } = useLatest(WAIT_MS);
  const clear = useCallback(() => {
    drop();
    if (useViewStore.getState().preview !== undefined) tryOut(undefined);
  }, [drop, tryOut]);
  const show = useCallback(
    /** @param stepsOf the whole method of the table as it would be; undefined where there is nothing to show */
    (stepsOf: () => Promise<readonly PlainStep[] | undefined>, label: string) =>
      latest(
        async () => {
          const steps = (await stepsOf())?.map((step) => ('id' in step ? (step as JobStep) : newStep(step)));
          const last = steps?.at(-1);
          const { job } = useJobStore.getState();
          if (job === undefined || steps === undefined || last === undefined) return undefined;
          const shown = shownJob(job);
          const tables = fullTables({
            ...shown,
            tables: shown.tables.map((one) => (one.id === table.id ? { ...one, steps } : one)),
          });
          const at = steps.length - 2;
          return { at, found: await engineClient().preview(tables, table.id, at, last) };
        },
        (tried) => {
          if (tried === undefined) return;
          const { at, found } = tried;
          tryOut('message' in found ? { label, at, stop: found.message } : { label, at, view: found });
        },
      ),
    [table.id, tryOut, latest],
  );
  useEffect(() => clear, [clear]);
  // What was tried is of the method as it was.
  const { steps: now } = table;
  const tried = useRef(now);
  useEffect(() => {
    if (tried.current !== now) clear();
    tried.current = now;
  }, [now, clear]);
  return { show, clear };
}

/** Shows what steps behind another would do; one without params gets those that the table suggests. */
export function usePreview(table: JobTable, at: number) {
  const { show: tryOut, clear } = useTryOut(table);
  const show = useCallback(
    (asked: PlainStep | readonly PlainStep[], label: string) => {
      const steps = 'kind' in asked ? [asked] : asked;
      tryOut(async () => {
        const rows = useMethodStore.getState().view?.steps[at]?.rows ?? 0;
        if (rows > MAX_ROWS) return undefined;
        const [only] = steps;
        const columns = selectedColumns(useViewStore.getState());
        const guessed =
          only === undefined || Object.keys(only.params).length > 0
            ? undefined
            : await engineClient().engine.method.suggest(table.id, at, only.kind, columns);
        return [...table.steps.slice(0, at + 1), ...(guessed === undefined ? steps : [guessed])];
      }, label);
    },
    [table, at, tryOut],
  );
  return { show, clear };
}
