import Button from '@mui/material/Button';
import { useState } from 'react';
import { EXPORT_FORMATS, fitsPattern, type Job } from '../../../core/index.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { letRest, letStand, patternOf, useFolder, useFolderStore } from '../../stores/folder-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import styles from './combine/combine.module.css';
import { SourceNames, withPattern } from './SourceNames.tsx';

/** Which files a source waits for, and whether the server runs the job on its own when one arrives. */
export function StandingDialog({ job, onClose }: { job: Job; onClose(): void }) {
  const view = useFolder();
  const stands = view?.jobs.find((one) => one.id === job.id);
  const [chosen, setChosen] = useState<string | undefined>();
  const source = job.sources.find((one) => one.id === (chosen ?? stands?.source)) ?? job.sources[0]!;
  const [typed, setTyped] = useState<Record<string, string>>({});
  const pattern = typed[source.id] ?? (stands?.source === source.id ? stands.pattern : (patternOf(source) ?? '*'));
  const [trouble, setTrouble] = useState('');
  const edit = useJobStore((store) => store.edit);
  const fits = view?.arrivals.filter((file) => fitsPattern(pattern)(file.name)) ?? [];
  const outputs = job.tables.filter((table) => table.export !== undefined);
  const act = async (what: () => Promise<void>) => {
    try {
      await what();
      if (pattern !== patternOf(source))
        edit('say which files a source waits for', (before) => withPattern(before, source.id, pattern));
      await useFolderStore.getState().refresh();
      onClose();
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  return (
    <Sheet
      title={`When a file arrives for ${job.name}`}
      label="When a file arrives"
      width={520}
      trouble={trouble}
      onClose={onClose}
      acts={
        <>
          <Button onClick={onClose}>Cancel</Button>
          {stands !== undefined && (
            <Button onClick={() => void act(() => letRest(job.id))}>Stop running on arrival</Button>
          )}
          {stands === undefined && (
            <Button onClick={() => void act(async () => undefined)}>Only show me such files</Button>
          )}
          <Button
            variant="contained"
            disabled={view === undefined || pattern.trim() === ''}
            onClick={() => void act(() => letStand(job, source.id, pattern))}
          >
            Run on arrival
          </Button>
        </>
      }
    >
      <SourceNames
        job={job}
        source={source}
        pattern={pattern}
        onSource={setChosen}
        onPattern={(text) => setTyped({ ...typed, [source.id]: text })}
      />
      {view === undefined ? (
        <p className={styles.look}>This application is served without a drop folder, so no file can arrive.</p>
      ) : (
        <>
          <p>
            {fits.length === 0
              ? `No such file is in ${view.path}/in now.`
              : `In ${view.path}/in now: ${fits
                  .slice(0, 3)
                  .map((file) => file.name)
                  .join(', ')}${fits.length > 3 ? ` and ${fits.length - 3} more` : ''}.`}
          </p>
          <p className={styles.quiet}>
            By itself the server runs the job as it is now and puts{' '}
            {outputs.length === 0
              ? `${job.tables.at(-1)!.name} as CSV`
              : outputs.map((table) => `${table.name} as ${EXPORT_FORMATS[table.export!.as].title}`).join(', ')}{' '}
            with a record into {view.path}/out. A file that it cannot run goes to {view.path}/aside with the reason.
          </p>
        </>
      )}
      {stands !== undefined && (
        <p role="status">It runs when {stands.pattern} arrives. Set it again after the method has been changed.</p>
      )}
    </Sheet>
  );
}
