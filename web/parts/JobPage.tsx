import type { ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import type { Job } from '../../core/index.ts';
import { useOpenJob } from '../stores/use-open-job.ts';
import styles from './job-page.module.css';
import { Mark } from './Mark.tsx';

/** Opens the job that the address names, and says so where there is none. */
export function OpenedJob({ page: Page }: { page: (props: { job: Job }) => ReactNode }) {
  const { jobId = '' } = useParams();
  const job = useOpenJob(jobId);
  if (job === 'unknown')
    return (
      <p className={styles.whole}>
        This job is not in this browser. It may have been removed, or it lives in another browser: open its job file
        there. <Link to="/">Back to the shelf</Link>
      </p>
    );
  if (job === 'opening') return <p className={styles.whole}>Opening …</p>;
  return <Page key={jobId} job={job} />;
}

/** A page about a whole job: its name, what the page can do, and below what it shows. */
export function JobPage({ job, acts, children }: { job: Job; acts: ReactNode; children: ReactNode }) {
  return (
    <div className={styles.page}>
      <header className={styles.top}>
        <Link to="/" className={styles.brand} title="To the shelf">
          <Mark /> Rimefield
        </Link>
        <h1>{job.name}</h1>
        {acts}
      </header>
      {children}
    </div>
  );
}

/** The tables of a job, one of them chosen. */
export function TableChoice({ job, chosen, onChoose }: { job: Job; chosen: string; onChoose(tableId: string): void }) {
  return (
    <div className={styles.tables} role="tablist" aria-label="Tables">
      {job.tables.map((one) => (
        <button
          key={one.id}
          type="button"
          role="tab"
          aria-selected={one.id === chosen}
          onClick={() => onChoose(one.id)}
        >
          {one.name}
        </button>
      ))}
    </div>
  );
}
