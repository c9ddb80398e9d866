import { useEffect } from 'react';
import { fullTables, type Job } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { sha256Of } from '../../engine/digest.ts';
import type { TallyView } from '../../engine/protocol.ts';
import { useDraftStore } from '../../stores/draft-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { keepInHistory, loadRun, saveRun } from '../../stores/storage.ts';
import { tallyState, useTallyStore } from '../../stores/tally-store.ts';

/** Keeps the header of the job's report, by which the next one is recognized. */
async function noteLayout(jobId: string, tableId: string): Promise<void> {
  // Whoever left the bench has no run to look at any more; the next one tells it.
  const found = await engineClient()
    .layout(tableId)
    .catch(() => undefined);
  if (found !== undefined) useJobStore.getState().noteLayout(jobId, found.source, found.layout);
}

/** After so long without an edit the tally is worked out. */
const QUIET_MS = 500;

/**
 * Keeps the tally of the table on the bench, and how the last run of the job went.
 * @param tables the job's tables as they are shown
 * @param drafted some steps are not kept yet: then nothing of the run is
 */
export function useTally(job: Job, tables: Job['tables'], tableId: string, drafted: boolean): void {
  const run = useMethodStore((store) => store.run);
  const drafting = useDraftStore((store) => store.progress !== undefined);
  const view = useMethodStore((store) => (store.tableId === tableId ? store.view : undefined));
  useEffect(() => {
    // While a table is drafted its reading is not proven: the draft will be.
    if (view === undefined || run < 0 || drafting) return;
    const files = job.sources.map((source) => source.file?.sha256 ?? '').join();
    const rows = view.steps.at(-1)?.rows ?? 0;
    let current = true;
    const full = fullTables({ tables, sets: job.sets });
    if (drafted) {
      const timer = setTimeout(
        () =>
          void useTallyStore
            .getState()
            .work({ tables: full, tableId, lastRows: undefined, offers: false })
            .catch(() => undefined),
        QUIET_MS,
      );
      return () => clearTimeout(timer);
    }
    /** Keeps how the run went, and tells the rows of the run that read other files. */
    const keep = async (tally?: TallyView) => {
      const before = await loadRun(job.id).catch(() => undefined);
      const own = before?.ofTable?.[tableId];
      const previous = own?.files === files ? own.previous : own?.rows;
      const of = await sha256Of(new TextEncoder().encode(JSON.stringify([tableId, job.tables, job.sets, files])));
      // Of a run that was done before the tally is known already.
      const known = tally === undefined ? (before?.of === of ? before.tally : undefined) : tallyState(tally);
      await saveRun(job.id, {
        at: Date.now(),
        of,
        ofTable: {
          ...before?.ofTable,
          [tableId]: { files, rows, ...(previous === undefined ? {} : { previous }) },
        },
        rows,
        unreadable: view.unreadable,
        ...(view.stop === undefined ? {} : { stop: view.stop.message }),
        ...(known === undefined ? {} : { tally: known }),
      }).catch(() => undefined);
      return previous;
    };
    const kept = keep();
    void noteLayout(job.id, tableId);
    const timer = setTimeout(async () => {
      const previous = await kept;
      const tally = await useTallyStore
        .getState()
        .work({ tables: full, tableId, lastRows: previous, offers: false })
        .catch(() => undefined);
      if (!current) return;
      if (tally !== undefined) await keep(tally);
      await keepInHistory(job, tableId, {
        rows,
        unreadable: view.unreadable,
        ...(view.stop === undefined ? {} : { stop: view.stop.message }),
        ...(tally === undefined ? {} : { tally: tallyState(tally) }),
      }).catch(() => undefined);
    }, QUIET_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [run, view, tableId, job, tables, drafted, drafting]);
}
