import { useMemo } from 'react';
import type { JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { StepView } from '../../engine/protocol.ts';
import type { SentenceContext } from '../../parts/sentence/context.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';

/** What the blanks of a step's sentence ask: columns before it, sheets, tables, and the engine. */
export function useSentenceContext(
  table: JobTable,
  index: number,
  before: StepView | undefined,
  sheets: readonly string[],
): SentenceContext {
  const tables = useJobStore((store) => store.job?.tables);
  const sets = useJobStore((store) => store.job?.sets);
  return useMemo(
    () => ({
      columns: before?.columns ?? [],
      sheets,
      tables: tables?.filter((one) => one.id !== table.id) ?? [],
      sets: sets ?? [],
      picking: (take) =>
        useViewStore.getState().askForColumns(take === undefined ? undefined : { take, step: index - 1 }),
      ask: {
        formula: (text) => engineClient().engine.method.tryFormula(table.id, index - 1, text),
        patterns: (columns, type) => engineClient().engine.method.patternsFor(table.id, index - 1, columns, type),
      },
    }),
    [before, sheets, tables, sets, table.id, index],
  );
}
