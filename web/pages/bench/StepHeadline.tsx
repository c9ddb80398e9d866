import { grouped, type StepEffect } from '../../../core/index.ts';
import type { StepView } from '../../engine/protocol.ts';
import styles from './bench.module.css';

/** What a step did to this report, and how rows and columns changed by it. */
export function StepHeadline({ text, effect, isForTally }: { text: string; effect: string; isForTally: boolean }) {
  return (
    <p className={styles.headline}>
      <span>{text}</span>
      {effect !== '' && (
        <span className={`${styles.effect} ${isForTally ? styles.forTally : ''}`}>
          {effect}
          {isForTally && ' · for the tally'}
        </span>
      )}
    </p>
  );
}

export function effectOf(after: StepView | undefined): StepEffect {
  const rows = after?.piles.filter(({ columns }) => columns === 0).reduce((sum, pile) => sum + pile.rows, 0);
  return rows === undefined || rows === 0 ? {} : { aside: rows };
}

/** How rows and columns changed by a step. */
export function effectText(before: StepView | undefined, after: StepView): string {
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
