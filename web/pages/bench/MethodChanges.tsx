import {
  grouped,
  type Job,
  jobNames,
  type StepChange,
  type StepOutcome,
  sentenceText,
  stepHeadline,
  stepSentence,
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
          // The list is only replaced as a whole.
          <tr key={k} className={styles[change.state]}>
            <td>
              {change.before !== undefined && (
                <Outcome outcome={change.before} job={job} withRule={change.state === 'changed'} />
              )}
            </td>
            <td>
              {change.after !== undefined && (
                <Outcome outcome={change.after} job={job} withRule={change.state === 'changed'} />
              )}
            </td>
            <td className={styles.state}>{change.after?.failed === 'stops' ? 'stops' : STATES[change.state]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** @param withRule the rule is shown too, since two headlines may read the same */
function Outcome({ outcome, job, withRule }: { outcome: StepOutcome; job: Job; withRule: boolean }) {
  const { size, aside, failed } = outcome;
  const step = { ...outcome.step, id: '' };
  const effect = size === undefined ? failed : `${grouped(size.rows)} rows × ${grouped(size.columns)}`;
  return (
    <div className={styles.outcome}>
      <span>{stepHeadline(step, aside > 0 ? { aside } : {}, jobNames(job))}</span>
      <small className={failed === 'stops' ? styles.stops : undefined}>{effect}</small>
      {withRule && <p>{sentenceText(stepSentence(step, jobNames(job)))}</p>}
    </div>
  );
}
