import type { JobTable } from '../../../core/index.ts';
import type { ReportView } from '../../engine/protocol.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useEngineQuery, useRunQuery } from '../../stores/use-engine-query.ts';

/** The report behind the table on the bench, or undefined until a run has read it. */
export function useReport(tableId: string): ReportView | undefined {
  return useRunQuery(['report', tableId], (engine) => engine.report.view(tableId), { keep: true }).data;
}

const NO_NAMES: readonly string[] = [];

/** Names of the sheets or files of a table's source. */
export function useSourceNames(table: JobTable): readonly string[] {
  const id = table.steps[0]?.params['source'];
  const file = useJobStore((store) => store.job?.sources.find((source) => source.id === id)?.file?.sha256);
  // The reading comes first, and where it was stopped its file is not read for the names alone.
  const isRead = useMethodStore(
    ({ tableId, view }) =>
      tableId === table.id && view !== undefined && (view.steps.length > 0 || view.stop?.leftOff === undefined),
  );
  const { data } = useEngineQuery(['names', id, file], (engine) => engine.sources.namesIn(String(id)), {
    when: typeof id === 'string' && file !== undefined && isRead,
    keep: true,
    // What is wrong with the file is said where it is read.
    shown: true,
  });
  return data ?? NO_NAMES;
}
