import {
  counted,
  grouped,
  type Job,
  jobNames,
  type StepChange,
  type StepOutcome,
  stepHeadline,
} from '../../../core/index.ts';
import styles from './method-changes.module.css';

const STATES: Record<StepChange['state'], string> = { same: '', changed: 'changed', gone: 'removed', new: 'new' };

/** Two methods side by side, step against step, each with what it did to its own report. */
export function MethodChanges({
  label,
  changes,
  job,
  files: [last, next],
}: {
  label: string;
  changes: readonly StepChange[];
  job: Job;
  /** Names of the last report and of the next one. */
  files: readonly [string, string];
}) {
  return (
    <table className={styles.changes} aria-label={label}>
      <thead>
        <tr>
          <th scope="col">{last}</th>
          <th scope="col">{next}</th>
          <th scope="col">
            <span className={styles.unseen}>Change</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {changes.map((change, k) => (
          // Rows have no identity of their own beside their place.
          <tr key={k} className={styles[change.state]}>
            <td>{change.before !== undefined && <Outcome outcome={change.before} job={job} />}</td>
            <td>{change.after !== undefined && <Outcome outcome={change.after} job={job} />}</td>
            <td className={styles.state}>{change.after?.stops === true ? 'stops' : STATES[change.state]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Outcome({ outcome: { step, size, aside, stops }, job }: { outcome: StepOutcome; job: Job }) {
  return (
    <>
      <span>{stepHeadline({ ...step, id: '' }, aside > 0 ? { aside } : {}, jobNames(job))}</span>
      <small className={stops ? styles.stops : undefined}>
        {size !== undefined
          ? `${grouped(size.rows)} × ${counted(size.columns, 'column')}`
          : stops
            ? 'stops here'
            : 'not run'}
      </small>
    </>
  );
}
