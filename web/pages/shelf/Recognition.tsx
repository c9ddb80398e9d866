import Button from '@mui/material/Button';
import { useEffect, useRef } from 'react';
import { likeliestOf, likenessText, type Recognized } from '../../../core/index.ts';
import { capital } from '../../parts/capital.ts';
import type { LookedAt } from '../../stores/job-store.ts';
import type { KeptJob } from '../../stores/storage.ts';
import styles from './shelf.module.css';

/** Jobs that are offered for one file. */
const MAX_OFFERED = 3;

/** A report that is like the last one of a kept job, or of several: the job is offered first. */
export function Recognition({
  looked,
  jobs,
  onRun,
  onBegin,
  onLeave,
}: {
  looked: LookedAt;
  jobs: readonly KeptJob[];
  onRun(match: Recognized): void;
  onBegin(): void;
  onLeave(): void;
}) {
  const main = useRef<HTMLButtonElement>(null);
  useEffect(() => main.current?.focus(), []);
  const [first] = looked.matches;
  if (first === undefined) return null;
  const offered = likeliestOf(looked.matches)
    .slice(0, MAX_OFFERED)
    .flatMap((match) => {
      const kept = jobs.find(({ job }) => job.id === match.job);
      return kept === undefined ? [] : [{ match, kept }];
    });
  const names = offered.map(({ kept }) => kept.job.name);
  return (
    <section
      className={styles.known}
      aria-label="Recognized report"
      onKeyDown={(event) => event.key === 'Escape' && onLeave()}
    >
      <p className={styles.call}>
        {looked.file.name} looks like the next report of {names.join(' or ')}
      </p>
      <p className={styles.quiet}>
        {capital(likenessText(first))}
        {offered.length === 1 && `. ${lastRunText(offered[0]!.kept)}`}
      </p>
      <div className={styles.buttons}>
        {offered.map(({ match, kept }, k) => (
          <Button
            key={`${match.job}/${match.source}`}
            ref={k === 0 ? main : undefined}
            variant={k === 0 ? 'contained' : 'outlined'}
            onClick={() => onRun(match)}
          >
            Run {kept.job.name} on it
          </Button>
        ))}
        <Button variant="outlined" onClick={onBegin}>
          Start a new job
        </Button>
        <Button onClick={onLeave}>Cancel</Button>
      </div>
    </section>
  );
}

function lastRunText({ run, saved }: KeptJob): string {
  const day = new Date(run?.at ?? saved).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
  });
  return run === undefined ? `Last opened on ${day}` : `Last run on ${day}`;
}
