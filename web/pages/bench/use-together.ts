import { useCallback } from 'react';
import { engineClient } from '../../engine/client.ts';
import { useLatest } from '../../parts/use-latest.ts';
import { useLayoutStore } from '../../stores/layout-store.ts';
import { useViewStore } from '../../stores/view-store.ts';

const WAIT_MS = 60;

/** The report follows when the table is scrolled, to the row from which its first row in sight came. */
export function useReportFollows(tableId: string, step: number) {
  const { latest } = useLatest(WAIT_MS);
  return useCallback(
    (row: number) => {
      const { facing, bring } = useViewStore.getState();
      if (!useLayoutStore.getState().together || facing !== 'report') return;
      latest(
        () => engineClient().engine.traces.reportRowBeside(tableId, step, row),
        (place) => {
          if (place !== undefined) bring({ on: 'report', ...place });
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
      const { bring } = useViewStore.getState();
      if (!useLayoutStore.getState().together) return;
      latest(
        () => engineClient().engine.traces.tableRowBeside(tableId, step, { part, row }),
        (found) => {
          if (found !== undefined) bring({ on: 'table', row: found });
        },
      );
    },
    [tableId, step, part, latest],
  );
}
