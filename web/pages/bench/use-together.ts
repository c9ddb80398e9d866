import { useCallback, useRef } from 'react';
import { engineClient } from '../../engine/client.ts';
import { useViewStore } from '../../stores/view-store.ts';

const WAIT_MS = 60;
let turn = 0;

/** Asks the newest question after a short wait, and drops the answers to older ones. */
function useAfterwards() {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const asked = useRef(0);
  return useCallback(<T>(ask: () => Promise<T>, use: (answer: T) => void) => {
    clearTimeout(timer.current);
    const mine = ++asked.current;
    timer.current = setTimeout(async () => {
      const answer = await ask();
      if (mine === asked.current) use(answer);
    }, WAIT_MS);
  }, []);
}

/** The report follows when the table is scrolled, to the row from which its first row in sight came. */
export function useReportFollows(tableId: string, step: number) {
  const afterwards = useAfterwards();
  return useCallback(
    (row: number) => {
      const { together, facing, set } = useViewStore.getState();
      if (!together || facing !== 'report') return;
      afterwards(
        () => engineClient().engine.besideTable(tableId, step, row),
        (place) => {
          if (place !== undefined) set({ part: place.part, followReport: { ...place, turn: ++turn } });
        },
      );
    },
    [tableId, step, afterwards],
  );
}

/** The table follows when the report is scrolled. */
export function useTableFollows(tableId: string, step: number, part: number) {
  const afterwards = useAfterwards();
  return useCallback(
    (row: number) => {
      const { together, set } = useViewStore.getState();
      if (!together) return;
      afterwards(
        () => engineClient().engine.besideReport(tableId, step, { part, row }),
        (found) => {
          if (found !== undefined) set({ followTable: { row: found, turn: ++turn } });
        },
      );
    },
    [tableId, step, part, afterwards],
  );
}
