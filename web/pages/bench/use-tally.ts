import { useEffect } from 'react';
import { fullTables, type Job } from '../../../core/index.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { loadRun, saveRun } from '../../stores/storage.ts';
import { tallyState, useTallyStore } from '../../stores/tally-store.ts';

/** After so long without an edit the tally is worked out. */
const QUIET_MS = 500;

/** Keeps the tally of the table on the bench, and how the last run of the job went. */
export function useTally(job: Job, tableId: string): void {
  const run = useMethodStore((store) => store.run);
  const view = useMethodStore((store) => (store.tableId === tableId ? store.view : undefined));
  useEffect(() => {
    if (view === undefined || run < 0) return;
    const files = job.sources.map((source) => source.file?.sha256 ?? '').join();
    const rows = view.steps.at(-1)?.rows ?? 0;
    const timer = setTimeout(async () => {
      const before = await loadRun(job.id).catch(() => undefined);
      const previous = before?.files === files ? before.previous : before?.rows;
      const tally = await useTallyStore
        .getState()
        .work(fullTables(job), tableId, previous)
        .catch(() => undefined);
      await saveRun(job.id, {
        at: Date.now(),
        files,
        ...(previous === undefined ? {} : { previous }),
        rows,
        unreadable: view.unreadable,
        ...(view.stop === undefined ? {} : { stop: view.stop.message }),
        ...(tally === undefined ? {} : { tally: tallyState(tally) }),
      }).catch(() => undefined);
    }, QUIET_MS);
    return () => clearTimeout(timer);
  }, [run, view, tableId, job]);
}
