import Button from '@mui/material/Button';
import { fixedJob, type Job } from '../../../core/index.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { Picker } from '../../parts/sentence/fields.tsx';
import { tellError } from '../../parts/trouble.ts';
import { markTaken } from '../../stores/folder-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import { dialogAs } from '../../stores/view/asked.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './combine/combine.module.css';

/** The next report, seen before it takes the place of the last one: what is different, and what would fix it. */
export function NextReportDialog({ job }: { job: Job }) {
  const asked = useViewStore(dialogAs('next report'));
  const ask = useViewStore((store) => store.ask);
  const { data: found, error } = useEngineQuery(
    ['next report', keyOf(asked), keyOf(job)],
    async (engine) => {
      const { source, file } = asked!;
      const bytes = new Uint8Array(await file.arrayBuffer());
      return engine.otherFiles.tryNext(job, source, { name: file.name, bytes });
    },
    { when: asked !== undefined, shown: true },
  );
  const trouble = error?.message ?? '';
  if (asked === undefined) return null;
  const source = job.sources.find((one) => one.id === asked.source);
  const nameOf = (id: string) => job.tables.find((one) => one.id === id)?.name ?? id;
  const close = () => ask(undefined);
  const differing = found?.filter((one) => one.differences.length > 0) ?? [];
  const fixes = differing.flatMap((one) => one.differences.flatMap((each) => each.fix ?? []));
  const take = async (fixed: boolean) => {
    try {
      await useJobStore.getState().giveSource(asked.source, asked.file);
      if (asked.arrived) await markTaken(asked.file.name, job.name);
      if (fixed)
        useJobStore.getState().edit('fix the method for the new report', (before) => fixedJob(before, found ?? []));
    } catch (error) {
      tellError(error);
    }
    close();
  };
  const tone = { told: styles.quiet, look: styles.look, stop: styles.stopping };
  return (
    <Sheet
      title={`${asked.file.name}, in place of ${source?.file?.name ?? source?.name ?? 'nothing'}`}
      label="Run again"
      width={560}
      onClose={close}
      acts={
        <>
          <Button onClick={close}>Keep the current file</Button>
          {fixes.length > 0 && (
            <Button variant="contained" onClick={() => void take(true)}>
              Use it with the fixes
            </Button>
          )}
          <Button
            variant={fixes.length > 0 ? 'outlined' : 'contained'}
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
          value={asked.source}
          choices={Object.fromEntries(job.sources.map((one) => [one.id, `as the source ${one.name}`]))}
          onChange={(id) => ask({ ...asked, source: id })}
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
                    {each.fix !== undefined && <em>This would fix it: {each.fix.label}.</em>}
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
