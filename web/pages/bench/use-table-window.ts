import { useCallback, useEffect, useState } from 'react';
import { engineClient } from '../../engine/client.ts';
import type { ColumnView } from '../../engine/protocol.ts';
import { useWindow } from '../../parts/grid/use-window.ts';
import { useMethodStore } from '../../stores/method-store.ts';

/** Columns and rows of the table after one step. */
export function useTableWindow(tableId: string, step: number, more = 0) {
  const run = useMethodStore((store) => store.run);
  const version = `${tableId}/${run}/${step}/${more}`;
  const [shown, setShown] = useState<{ version: string; columns: ColumnView[] }>({ version: '', columns: [] });
  useEffect(() => {
    let current = true;
    if (step < 0) return;
    void engineClient()
      .engine.columns(tableId, step)
      .then((columns) => {
        if (current) setShown({ version, columns });
      });
    return () => {
      current = false;
    };
  }, [tableId, step, version]);
  const fetch = useCallback(
    (from: number, to: number) => engineClient().engine.rows(tableId, step, from, to),
    [tableId, step],
  );
  const { row, ensure } = useWindow(fetch, version);
  return { columns: shown.columns, row, ensure };
}
