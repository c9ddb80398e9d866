import { type ColumnType, grouped } from '../../../core/index.ts';
import type { ColumnView } from '../../engine/protocol.ts';
import { NameInput } from '../NameInput.tsx';
import styles from './column-head.module.css';

const TYPE_WORDS: Record<ColumnType, string> = {
  text: 'text',
  number: 'number',
  whole: 'whole',
  yesno: 'yes/no',
  date: 'date',
  time: 'time',
  datetime: 'date and time',
  received: 'as received',
};

export function typeText(column: ColumnView): string {
  if (column.type === 'text' && column.distinct !== undefined) return `text · ${grouped(column.distinct)}`;
  return TYPE_WORDS[column.type];
}

/** Name, type, and ticks that show where down the column it is blank. */
export function ColumnHead({ column, selected, end }: { column: ColumnView; selected: boolean; end: boolean }) {
  return (
    <div
      className={`${styles.head} ${selected ? styles.selected : ''} ${end ? styles.end : ''}`}
      title={`${column.name}: ${typeText(column)}${column.mixture === undefined ? '' : ` (${column.mixture.join(', ')})`}`}
    >
      <span className={`${styles.name} ${column.nameOrigin === 'position' ? styles.position : ''}`}>{column.name}</span>
      <small className={styles.type}>
        {typeText(column)}
        {column.unreadable > 0 && <b className={styles.unreadable}> · {grouped(column.unreadable)} unreadable</b>}
      </small>
      <Gaps shares={column.strip} />
    </div>
  );
}

/** The name of a column while it is written again. */
export function ColumnNaming({ name, onDone, onNext }: { name: string; onDone(name: string): void; onNext(): void }) {
  return (
    <NameInput className={styles.naming} label={`New name of ${name}`} text={name} onDone={onDone} onNext={onNext} />
  );
}

/** Short ticks at the places down the column where cells are blank; nothing where none is. */
function Gaps({ shares }: { shares: readonly number[] }) {
  return (
    <span className={styles.gaps} aria-hidden="true">
      {shares.map((share, k) => {
        const left = `${(100 * (k + 0.5)) / shares.length}%`;
        // The fuller the stretch, the shorter its tick.
        return share < 1 && <i key={left} style={{ left, height: `${Math.round(35 + 65 * (1 - share))}%` }} />;
      })}
    </span>
  );
}

/** A width in pixels that fits most cells of the column. */
export function fittingWidth(name: string, characters: number, least = 56, most = 320): number {
  return Math.round(
    Math.min(most, Math.max(least, name.length * 7.1 + 16, characters * (characters <= 12 ? 7.2 : 6.4) + 16)),
  );
}
