import type { Mark } from '../../../../core/index.ts';
import styles from '../bench.module.css';

/** Says what the row is, beside its number. */
export function Tape({
  row,
  mark,
  wide,
  onMark,
}: {
  row: number;
  mark: Mark | undefined;
  wide: boolean;
  onMark?(anchor: HTMLElement): void;
}) {
  return (
    <div className={styles.tape} data-mark={mark}>
      <button
        type="button"
        tabIndex={-1}
        className={`${styles.markName} ${wide ? '' : styles.narrow}`}
        aria-label={`Row ${row + 1}${mark === undefined ? '' : `, ${mark}`}: say what it is`}
        title="Say what this row is"
        onClick={(event) => {
          event.stopPropagation();
          onMark?.(event.currentTarget);
        }}
      >
        {mark === 'other' ? 'aside' : wide ? mark : ''}
      </button>
      <span className={styles.rowNumber}>{row + 1}</span>
    </div>
  );
}
