import Button from '@mui/material/Button';
import { grouped, type Job, sizeText } from '../../../core/index.ts';
import { type ArrivedFile, type FolderView, takersOf } from '../../stores/folder-store.ts';
import styles from './shelf.module.css';

const STATE: Record<ArrivedFile['state'], string> = {
  waiting: 'still being written',
  whole: '',
  running: 'being run',
  stuck: 'stuck',
};
const SHOWN = 8;

/** Files that came into the drop folder, and the jobs that they are for. */
export function Arrivals({
  view,
  jobs,
  onRun,
  onBegin,
}: {
  view: FolderView;
  jobs: readonly Job[];
  onRun(file: string, job: Job, source: string): void;
  onBegin(file: string): void;
}) {
  const standing = new Set(view.jobs.map((one) => one.id));
  const recent = view.recent.slice(0, 5);
  return (
    <section aria-labelledby="arrivals">
      <h2 id="arrivals" className={styles.heading}>
        Arrivals
        <span className={styles.room}>
          in {view.path}/in
          {view.jobs.length > 0 &&
            ` · ${view.jobs.length === 1 ? '1 job runs on arrival' : `${view.jobs.length} jobs run on arrival`}`}
        </span>
      </h2>
      {view.arrivals.length === 0 && recent.length === 0 && (
        <p className={styles.none}>Reports that are put into this folder appear here, each beside the job it is for.</p>
      )}
      <ul className={styles.list} aria-label="Arrived files">
        {view.arrivals.slice(0, SHOWN).map((file) => {
          const takers = takersOf(file.name, jobs);
          return (
            <li key={file.name} className={styles.arrival}>
              <b>{file.name}</b>
              <span className={file.state === 'stuck' ? styles.wrong : styles.count}>
                {sizeText(file.size)}
                {STATE[file.state] !== '' && ` · ${STATE[file.state]}`}
                {file.trouble !== undefined && `: ${file.trouble}`}
              </span>
              <span className={styles.take}>
                {takers.slice(0, 2).map(({ job, source }) => (
                  <Button
                    key={`${job.id}/${source.id}`}
                    size="small"
                    variant="outlined"
                    disabled={file.state === 'waiting' || file.state === 'running'}
                    onClick={() => onRun(file.name, job, source.id)}
                  >
                    Run {job.name} with it{standing.has(job.id) && ' by hand'}
                  </Button>
                ))}
                {takers.length === 0 && (
                  <Button size="small" disabled={file.state !== 'whole'} onClick={() => onBegin(file.name)}>
                    Begin a job with it
                  </Button>
                )}
              </span>
            </li>
          );
        })}
        {view.count > SHOWN && <li className={styles.none}>and {grouped(view.count - SHOWN)} more</li>}
      </ul>
      {recent.length > 0 && (
        <ul className={styles.recent} aria-label="What became of files">
          {recent.map((one) => (
            <li key={`${one.at}/${one.file}/${one.job}`}>
              <b>{one.file}</b>
              <span className={one.outcome === 'aside' || one.good === false ? styles.wrong : undefined}>
                {one.job}
                {one.outcome === 'aside' ? ', set aside: ' : ': '}
                {one.text}
                {one.out !== undefined && one.outcome === 'done' && <i> · out/{one.out}</i>}
              </span>
              <time dateTime={new Date(one.at).toISOString()}>
                {new Date(one.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
              </time>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
