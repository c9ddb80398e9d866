import { useCallback } from 'react';
import { engineClient } from '../../engine/client.ts';
import { useLatest } from '../../parts/use-latest.ts';
import { useViewStore } from '../../stores/view-store.ts';

const WAIT_MS = 60;
let turn = 0;

/** The report follows when the table is scrolled, to the row from which its first row in sight came. */
export function useReportFollows(tableId: string, step: number) {
  const { latest } = useLatest(WAIT_MS);
  return useCallback(
    (row: number) => {
      const { together, facing, set } = useViewStore.getState();
      if (!together || facing !== 'report') return;
      latest(
        () => engineClient().engine.traces.reportRowBeside(tableId, step, row),
        (place) => {
          if (place !== undefined) set({ part: place.part, followReport: { ...place, turn: ++turn } });
        },
      );
    },
    [tableId, step, latest],
  );
}

/** The table follows when the report is scrolled. */
export function useTableFollows(tableId: string, step: number, part: number) {
  const { latest } = useLatest(WAIT_MS);
  return useCallback(
    (row: number) => {
      const { together, set } = useViewStore.getState();
      if (!together) return;
      latest(
        () => engineClient().engine.traces.tableRowBeside(tableId, step, { part, row }),
        (found) => {
          if (found !== undefined) set({ followTable: { row: found, turn: ++turn } });
        },
      );
    },
    [tableId, step, part, latest],
  );
}
