import type { Mark } from '../../../../core/index.ts';
import styles from '../bench.module.css';
import type { TapeHands } from './use-tape.ts';

/** Says what the row is, beside its number. */
export function RowRoleGutter({
  row,
  mark,
  wide,
  hands,
}: {
  row: number;
  mark: Mark | undefined;
  wide: boolean;
  hands: TapeHands;
}) {
  return (
    <div className={styles.tape} data-mark={mark}>
      <button
        type="button"
        tabIndex={-1}
        data-tape={row}
        className={`${styles.markName} ${wide ? '' : styles.narrow}`}
        aria-label={`Row ${row + 1}${mark === undefined ? '' : `, ${mark}`}: say what it is`}
        title="Choose the role of this row; drag or Shift-click for several"
        onPointerDown={(event) => {
          // Over the rows that follow, as far as it is dragged.
          event.currentTarget.releasePointerCapture?.(event.pointerId);
          event.preventDefault();
          hands.press(row);
        }}
        onPointerEnter={(event) => (event.buttons & 1) !== 0 && hands.over(row)}
        onPointerUp={(event) => hands.release(event.currentTarget, row, mark)}
        onClick={(event) => {
          event.stopPropagation();
          hands.mark(event.currentTarget, row, mark, event.shiftKey);
        }}
      >
        {mark === 'other' ? 'aside' : wide ? mark : ''}
      </button>
      <span className={styles.rowNumber}>{row + 1}</span>
    </div>
  );
}
