import { useCallback } from 'react';
import { engineClient } from '../../engine/client.ts';
import type { ColumnView } from '../../engine/protocol.ts';
import { useWindow } from '../../parts/grid/use-window.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useEngineQuery } from '../../stores/use-engine-query.ts';

const NONE: readonly ColumnView[] = [];

/** Columns and rows of the table after one step. */
export function useTableWindow(tableId: string, step: number, more = 0) {
  const run = useMethodStore((store) => store.run);
  const version = `${tableId}/${run}/${step}/${more}`;
  const { data: columns = NONE } = useEngineQuery(
    ['columns', version],
    (engine) => engine.tables.columns(tableId, step),
    { when: step >= 0, keep: true },
  );
  const fetch = useCallback(
    (from: number, to: number) => engineClient().engine.tables.rows(tableId, step, from, to),
    [tableId, step],
  );
  const { row, ensure } = useWindow(fetch, version);
  return { columns, row, ensure };
}
