import Button from '@mui/material/Button';
import { type Job, mendedJob } from '../../../core/index.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { Picker } from '../../parts/sentence/fields.tsx';
import { tellError } from '../../parts/trouble.ts';
import { markTaken } from '../../stores/folder-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './combine/combine.module.css';

/** The next report, seen before it takes the place of the last one: what is different, and what would mend it. */
export function AgainDialog({ job }: { job: Job }) {
  const again = useViewStore((store) => store.again);
  const set = useViewStore((store) => store.set);
  const { data: found, error } = useEngineQuery(
    ['next report', keyOf(again), keyOf(job)],
    async (engine) => {
      const { source, file } = again!;
      const bytes = new Uint8Array(await file.arrayBuffer());
      return engine.otherFiles.tryNext(job, source, { name: file.name, bytes });
    },
    { when: again !== undefined, shown: true },
  );
  const trouble = error?.message ?? '';
  if (again === undefined) return null;
  const source = job.sources.find((one) => one.id === again.source);
  const nameOf = (id: string) => job.tables.find((one) => one.id === id)?.name ?? id;
  const close = () => set({ again: undefined });
  const differing = found?.filter((one) => one.differences.length > 0) ?? [];
  const mends = differing.flatMap((one) => one.differences.flatMap((each) => each.mend ?? []));
  const take = async (mended: boolean) => {
    try {
      await useJobStore.getState().giveSource(again.source, again.file);
      if (again.arrived) await markTaken(again.file.name, job.name);
      if (mended)
        useJobStore.getState().edit('fix the method for the new report', (before) => mendedJob(before, found ?? []));
    } catch (error) {
      tellError(error);
    }
    close();
  };
  const tone = { told: styles.quiet, look: styles.look, stop: styles.stopping };
  return (
    <Sheet
      title={`${again.file.name}, in place of ${source?.file?.name ?? source?.name ?? 'nothing'}`}
      label="Run again"
      width={560}
      onClose={close}
      acts={
        <>
          <Button onClick={close}>Keep the current file</Button>
          {mends.length > 0 && (
            <Button variant="contained" onClick={() => void take(true)}>
              Use it with the fixes
            </Button>
          )}
          <Button
            variant={mends.length > 0 ? 'outlined' : 'contained'}
            disabled={found === undefined}
            onClick={() => void take(false)}
          >
            Use this file
          </Button>
        </>
      }
    >
      {job.sources.length > 1 && (
        <Picker
          label="Source"
          value={again.source}
          choices={Object.fromEntries(job.sources.map((one) => [one.id, `as the source ${one.name}`]))}
          onChange={(id) => set({ again: { ...again, source: id } })}
        />
      )}
      {trouble !== '' ? (
        <p className={styles.stopping} role="alert">
          {trouble}
        </p>
      ) : found === undefined ? (
        <p role="status">Running the method on it …</p>
      ) : differing.length === 0 ? (
        <p role="status">Nothing is different but the figures: every step does what it did last time.</p>
      ) : (
        <div className={styles.scrolls}>
          {differing.map((one) => (
            <section key={one.table} aria-label={nameOf(one.table)}>
              {job.tables.length > 1 && <h3>{nameOf(one.table)}</h3>}
              <ul className={styles.differences} aria-label={`What is different in ${nameOf(one.table)}`}>
                {one.differences.map((each) => (
                  <li key={each.text} className={tone[each.tone]}>
                    {each.text}
                    {each.mend !== undefined && <em>This would fix it: {each.mend.label}.</em>}
                  </li>
                ))}
              </ul>
            </section>
          ))}
        </div>
      )}
    </Sheet>
  );
}
