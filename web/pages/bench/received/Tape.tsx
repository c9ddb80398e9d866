import type { Mark } from '../../../../core/index.ts';
import styles from '../bench.module.css';

/** Says what the row is, beside its number. */
export function Tape({ row, mark, wide }: { row: number; mark: Mark | undefined; wide: boolean }) {
  return (
    <div className={styles.tape} data-mark={mark}>
      {wide && <span className={styles.markName}>{mark === 'other' ? 'aside' : mark}</span>}
      <span className={styles.rowNumber}>{row + 1}</span>
    </div>
  );
}
