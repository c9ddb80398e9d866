import { grouped, type JobStep, jobNames, type StepEffect, stepHeadline } from '../../../core/index.ts';
import type { StepView } from '../../engine/protocol.ts';
import { useJobStore } from '../../stores/job-store.ts';
import styles from './bench.module.css';

interface Props {
  step: JobStep;
  before: StepView | undefined;
  after: StepView | undefined;
}

/** What a step did to this report, and how rows and columns changed by it. */
export function StepHeadline({ step, before, after }: Props) {
  const job = useJobStore((store) => store.job)!;
  const effect = after === undefined || step.muted ? '' : effectText(before, after);
  const isForTally = after?.piles.some((pile) => pile.mark === 'total') === true;
  return (
    <p className={styles.headline}>
      <span>{stepHeadline(step, effectOf(after), jobNames(job))}</span>
      {effect !== '' && (
        <span data-effect className={`${styles.effect} ${isForTally ? styles.forTally : ''}`}>
          {effect}
          {isForTally && ' · for the tally'}
        </span>
      )}
    </p>
  );
}

function effectOf(after: StepView | undefined): StepEffect {
  const rows = after?.piles.filter(({ columns }) => columns === 0).reduce((sum, pile) => sum + pile.rows, 0);
  return rows === undefined || rows === 0 ? {} : { aside: rows };
}

/** How rows and columns changed by a step. */
function effectText(before: StepView | undefined, after: StepView): string {
  const size = `${grouped(after.rows)} rows × ${after.columns.length}`;
  if (before === undefined) return size;
  const rows = after.rows - before.rows;
  const columns = after.columns.length - before.columns.length;
  if (rows > 0) return size;
  const change = (n: number, what: string) =>
    `${n > 0 ? '+' : '−'}${grouped(Math.abs(n))} ${what}${Math.abs(n) === 1 ? '' : 's'}`;
  const changes = [...(columns === 0 ? [] : [change(columns, 'column')]), ...(rows === 0 ? [] : [change(rows, 'row')])];
  return changes.join(', ');
}
