import { useEffect, useState } from 'react';
import type { JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { ReportView } from '../../engine/protocol.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';

/** The report behind the table on the bench, or undefined until a run has read it. */
export function useReport(tableId: string): ReportView | undefined {
  const run = useMethodStore((store) => store.run);
  const [report, setReport] = useState<ReportView | undefined>();
  useEffect(() => {
    let current = true;
    void engineClient()
      .engine.report(tableId)
      .then((found) => {
        if (current) setReport(found);
      });
    return () => {
      current = false;
    };
  }, [tableId, run]);
  return report;
}

const NO_NAMES: readonly string[] = [];

/** Names of the sheets or files of a table's source. */
export function useSourceNames(table: JobTable): readonly string[] {
  const id = table.steps[0]?.params['source'];
  const file = useJobStore((store) => store.job?.sources.find((source) => source.id === id)?.file?.sha256);
  const [names, setNames] = useState(NO_NAMES);
  // The reading comes first, and where it was stopped its file is not read for the names alone.
  const isRead = useMethodStore(
    ({ tableId, view }) =>
      tableId === table.id && view !== undefined && (view.steps.length > 0 || view.stop?.leftOff === undefined),
  );
  useEffect(() => {
    let current = true;
    if (typeof id !== 'string' || file === undefined || !isRead) return;
    void engineClient()
      .engine.namesIn(id)
      .then(
        (found) => current && setNames(found),
        () => current && setNames(NO_NAMES),
      );
    return () => {
      current = false;
    };
  }, [id, file, isRead]);
  return names;
}
