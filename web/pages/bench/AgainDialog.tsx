import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { type Difference, fullTables, type Job, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { editTable, useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './combine/combine.module.css';

/** The next report, seen before it takes the place of the last one: what is different, and what would mend it. */
export function AgainDialog({ job, table }: { job: Job; table: JobTable }) {
  const again = useViewStore((store) => store.again);
  const set = useViewStore((store) => store.set);
  const [found, setFound] = useState<readonly Difference[] | undefined>();
  const [trouble, setTrouble] = useState('');
  const { enqueueSnackbar } = useSnackbar();
  useEffect(() => {
    setFound(undefined);
    setTrouble('');
    if (again === undefined) return;
    let current = true;
    void (async () => {
      try {
        const bytes = new Uint8Array(await again.file.arrayBuffer());
        const { job: now } = useJobStore.getState();
        const file = { name: again.file.name, bytes };
        const differences = await engineClient().engine.tryAgain(fullTables(now ?? job), table.id, again.source, file);
        if (current) setFound(differences);
      } catch (error) {
        if (current) setTrouble((error as Error).message);
      }
    })();
    return () => {
      current = false;
    };
  }, [again, table.id, job]);
  if (again === undefined) return null;
  const source = job.sources.find((one) => one.id === again.source);
  const close = () => set({ again: undefined });
  const mends = found?.flatMap((one) => one.mend ?? []) ?? [];
  const take = async (mended: boolean) => {
    try {
      await useJobStore.getState().giveSource(again.source, again.file);
      if (mended)
        useJobStore.getState().edit('mend the method for the new report', (before) =>
          editTable(before, table.id, (one) => ({
            ...one,
            steps: one.steps.map((step, k) => {
              const mend = mends.find((each) => each.step === k);
              return mend === undefined ? step : { ...step, params: mend.params };
            }),
          })),
        );
    } catch (error) {
      enqueueSnackbar((error as Error).message, { variant: 'error', autoHideDuration: 12_000 });
    }
    close();
  };
  const tone = { told: styles.quiet, look: styles.look, stop: styles.stopping };
  return (
    <Dialog
      open
      onClose={close}
      slotProps={{ paper: { className: styles.paper, style: { width: 560 }, 'aria-label': 'Run again' } }}
    >
      <h2 className={styles.title}>
        {again.file.name}, in place of {source?.file?.name ?? source?.name}
      </h2>
      {trouble !== '' ? (
        <p className={styles.stopping} role="alert">
          {trouble}
        </p>
      ) : found === undefined ? (
        <p role="status">Running the method on it …</p>
      ) : found.length === 0 ? (
        <p role="status">Nothing is different but the figures: every step does what it did last time.</p>
      ) : (
        <ul className={styles.differences} aria-label="What is different">
          {found.map((one) => (
            <li key={one.text} className={tone[one.tone]}>
              {one.text}
              {one.mend !== undefined && <em>It would be mended by this: {one.mend.label}.</em>}
            </li>
          ))}
        </ul>
      )}
      <div className={styles.foot}>
        <Button onClick={close}>Leave all as it was</Button>
        {mends.length > 0 && (
          <Button variant="contained" onClick={() => void take(true)}>
            Take it with the mends
          </Button>
        )}
        <Button
          variant={mends.length > 0 ? 'outlined' : 'contained'}
          disabled={found === undefined}
          onClick={() => void take(false)}
        >
          Take it
        </Button>
      </div>
    </Dialog>
  );
}
