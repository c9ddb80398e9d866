import { useCallback, useEffect } from 'react';
import { engineClient } from '../../engine/client.ts';
import type { Engine } from '../../engine/engine.ts';
import type { ColumnView } from '../../engine/protocol.ts';
import { useWindow } from '../../parts/grid/use-window.ts';
import { useMethodStore, whenRunEnds } from '../../stores/method-store.ts';
import { askAhead, useEngineQuery } from '../../stores/use-engine-query.ts';

const NONE: readonly ColumnView[] = [];

/** Columns and rows of the table after one step. */
export function useTableWindow(tableId: string, step: number, more = 0) {
  const run = useMethodStore((store) => store.run);
  const versionOf = useCallback((run: number) => `${tableId}/${run}/${step}/${more}`, [tableId, step, more]);
  const version = versionOf(run);
  const askColumns = useCallback((engine: Engine) => engine.tables.columns(tableId, step), [tableId, step]);
  const { data: columns = NONE } = useEngineQuery(['columns', version], askColumns, { when: step >= 0, keep: true });
  const fetch = useCallback(
    (from: number, to: number) => engineClient().engine.tables.rows(tableId, step, from, to),
    [tableId, step],
  );
  const { row, ensure, ask } = useWindow(fetch, version);
  useEffect(
    () =>
      whenRunEnds((next) => {
        if (step < 0) return;
        askAhead(['columns', versionOf(next)], askColumns);
        ask(versionOf(next));
      }),
    [step, versionOf, askColumns, ask],
  );
  return { columns, row, ensure };
}
