import Button from '@mui/material/Button';
import type { Job } from '../../../../core/index.ts';
import { Sheet } from '../../../parts/Sheet.tsx';
import styles from './combine.module.css';

export type Dropped = { as: 'again' | 'each'; source: string } | { as: 'source' } | { as: 'job' };

/** Asks what a file is that was dropped onto an open job. */
export function DropDialog({
  file,
  job,
  onChoose,
  onClose,
}: {
  file: File | undefined;
  job: Job;
  onChoose(what: Dropped): void;
  onClose(): void;
}) {
  if (file === undefined) return null;
  return (
    <Sheet title={file.name} width={440} onClose={onClose} acts={<Button onClick={onClose}>Cancel</Button>}>
      <div className={styles.choice}>
        {job.sources.map((source) => (
          <Button key={source.id} variant="outlined" onClick={() => onChoose({ as: 'again', source: source.id })}>
            Run again with it, in place of {source.file?.name ?? source.name}
          </Button>
        ))}
        {/\.zip$/i.test(file.name) &&
          job.sources.map((source) => (
            <Button key={source.id} variant="outlined" onClick={() => onChoose({ as: 'each', source: source.id })}>
              Run each file in it on its own, as {source.name}
            </Button>
          ))}
        <Button variant="outlined" onClick={() => onChoose({ as: 'source' })}>
          Add it to this job, with its own table
        </Button>
        <Button variant="outlined" onClick={() => onChoose({ as: 'job' })}>
          Begin another job with it
        </Button>
      </div>
    </Sheet>
  );
}
