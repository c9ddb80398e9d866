import type { Job, JobSource } from '../../../core/index.ts';
import { Picker, TextBox } from '../../parts/sentence/fields.tsx';
import styles from './combine/combine.module.css';

/** Which source of a job is meant, and what its next files are called. */
export function SourceNames({
  job,
  source,
  pattern,
  onSource,
  onPattern,
}: {
  job: Job;
  source: JobSource;
  /** Undefined where names do not matter. */
  pattern: string | undefined;
  onSource(id: string): void;
  onPattern(pattern: string): void;
}) {
  return (
    <div className={styles.choice}>
      {job.sources.length > 1 && (
        <Picker
          label="Source"
          value={source.id}
          choices={Object.fromEntries(job.sources.map((one) => [one.id, `for the source ${one.name}`]))}
          onChange={onSource}
        />
      )}
      {pattern !== undefined && (
        <TextBox
          key={source.id}
          label="Names of its files"
          value={pattern}
          hint="* stands for any characters, ? for one"
          onChange={onPattern}
        />
      )}
    </div>
  );
}

/** The job in which a source waits for files of other names. */
export function withPattern(job: Job, sourceId: string, pattern: string): Job {
  return { ...job, sources: job.sources.map((one) => (one.id === sourceId ? { ...one, pattern } : one)) };
}
