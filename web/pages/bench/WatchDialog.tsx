import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { grouped, type Job } from '../../../core/index.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { patternOf } from '../../stores/folder-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import type { KeptPlace } from '../../stores/storage.ts';
import { sightedIn, useWatchStore } from '../../stores/watch-store.ts';
import styles from './combine/combine.module.css';
import { SourceNames, withPattern } from './SourceNames.tsx';

/** Whether a source reads several files as one, and so wants all of a folder. */
const READS_MANY = /\(\d+ files\)\.zip$/;
const SHOWN = 4;

/** Where 'Run again' looks for the next report of a source. */
export function WatchDialog({ job, first, onClose }: { job: Job; first: string; onClose(): void }) {
  const [chosen, setChosen] = useState(first);
  const [trouble, setTrouble] = useState('');
  const source = job.sources.find((one) => one.id === chosen) ?? job.sources[0]!;
  const { places, keep, drop } = useWatchStore();
  const place = places[source.id];
  const edit = useJobStore((store) => store.edit);
  const pattern = patternOf(source) ?? '*';
  const { data: found, error } = useQuery({
    queryKey: ['in sight', job.id, source.id, pattern, source.file?.sha256, place?.as, place?.handle.name],
    queryFn: () => sightedIn(place!, source),
    enabled: place !== undefined,
    meta: { shown: true },
  });
  const act = async (what: () => Promise<void>) => {
    setTrouble('');
    try {
      await what();
    } catch (error) {
      // Whoever chooses nothing has nothing to see.
      if ((error as Error).name !== 'AbortError') setTrouble((error as Error).message);
    }
  };
  const chooseFolder = async () => {
    const handle = await window.showDirectoryPicker!({ id: 'reports', mode: 'read' });
    const as = READS_MANY.test(source.file?.name ?? '') ? 'all of a folder' : 'folder';
    await keep(job.id, source.id, { as, handle });
  };
  const chooseFile = async () => {
    const [handle] = await window.showOpenFilePicker!({ id: 'reports' });
    if (handle !== undefined) await keep(job.id, source.id, { as: 'file', handle });
  };
  return (
    <Sheet
      title={`Where the next file for ${job.name} comes from`}
      label="Watch a folder"
      width={560}
      trouble={trouble}
      onClose={onClose}
      acts={
        <>
          {place === undefined && <Button onClick={onClose}>Cancel</Button>}
          {place !== undefined && (
            <Button onClick={() => void act(() => drop(job.id, source.id).then(onClose))}>Stop watching</Button>
          )}
          <Button onClick={() => void act(chooseFile)}>Choose a file …</Button>
          <Button variant={place === undefined ? 'contained' : 'outlined'} onClick={() => void act(chooseFolder)}>
            Choose a folder …
          </Button>
          {place !== undefined && (
            <Button variant="contained" onClick={onClose}>
              Done
            </Button>
          )}
        </>
      }
    >
      <SourceNames
        job={job}
        source={source}
        pattern={place?.as === 'folder' ? pattern : undefined}
        onSource={setChosen}
        onPattern={(text) =>
          text.trim() !== '' &&
          edit(
            'say which files a source waits for',
            (before) => withPattern(before, source.id, text),
            `pattern ${source.id}`,
          )
        }
      />
      <div className={styles.paragraphs}>
        <p>{place === undefined ? NOTHING : seenText(place)}</p>
        {error !== null && (
          <p className={styles.stopping} role="alert">
            {error.message}
          </p>
        )}
        {place !== undefined && found !== undefined && (
          <p role="status">
            {found.length === 0
              ? `No file has arrived since ${source.file?.name ?? 'it was chosen'}.`
              : `New: ${found
                  .slice(0, SHOWN)
                  .map(({ name, note }) => (note === undefined ? name : `${name} (${note})`))
                  .join(', ')}${found.length > SHOWN ? ` and ${grouped(found.length - SHOWN)} more` : ''}.`}
          </p>
        )}
        <p className={styles.quiet}>
          Only this browser on this computer remembers it; nothing is sent anywhere. After a while the browser asks
          again whether the page may look.
        </p>
      </div>
    </Sheet>
  );
}

const NOTHING =
  "Choose the folder where the reports arrive: 'Run again' then finds the next one there by its name. Choose a file where the report is always saved under the same name.";

function seenText({ as, handle }: KeptPlace): string {
  if (as === 'file') return `'Run again' looks whether ${handle.name} has changed.`;
  if (as === 'folder') return `'Run again' looks in ${handle.name} for the file whose name follows the last one's.`;
  return `'Run again' reads all files of ${handle.name} together, as the report is read now.`;
}
