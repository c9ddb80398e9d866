import { useEffect, useState } from 'react';
import { engineClient } from '../../engine/client.ts';
import type { ReportView } from '../../engine/protocol.ts';
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
