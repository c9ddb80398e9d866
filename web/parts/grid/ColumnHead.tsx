import type { ColumnType } from '../../../core/index.ts';
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
  if (column.type === 'text') return `text · ${(column.distinct ?? 0).toLocaleString('en-GB')}`;
  return TYPE_WORDS[column.type];
}

/** Name, type, and a strip that shows where down the column it is blank. */
export function ColumnHead({ column, selected, end }: { column: ColumnView; selected: boolean; end: boolean }) {
  return (
    <div
      className={`${styles.head} ${selected ? styles.selected : ''} ${end ? styles.end : ''}`}
      title={`${column.name}: ${typeText(column)}${column.mixture === undefined ? '' : ` (${column.mixture.join(', ')})`}`}
    >
      <span className={`${styles.name} ${column.standing === 'position' ? styles.position : ''}`}>{column.name}</span>
      <small className={styles.type}>
        {typeText(column)}
        {column.unreadable > 0 && (
          <b className={styles.unreadable}> · {column.unreadable.toLocaleString('en-GB')} unreadable</b>
        )}
      </small>
      <Strip shares={column.strip} />
    </div>
  );
}

/** The name of a column while it is written anew. */
export function ColumnNaming({ name, onDone, onNext }: { name: string; onDone(name: string): void; onNext(): void }) {
  return (
    <NameInput className={styles.naming} label={`New name of ${name}`} text={name} onDone={onDone} onNext={onNext} />
  );
}

function Strip({ shares }: { shares: readonly number[] }) {
  const filled = shares.every((share) => share === 1);
  const stops = shares.map((share, k) => {
    const colour = `color-mix(in srgb, var(--spruce-strip) ${Math.round(share * 100)}%, var(--chip))`;
    return `${colour} ${(100 * k) / shares.length}% ${(100 * (k + 1)) / shares.length}%`;
  });
  const background = filled ? 'var(--spruce-strip)' : `linear-gradient(90deg, ${stops.join(', ')})`;
  return <span className={styles.strip} style={{ background: shares.length === 0 ? 'var(--chip)' : background }} />;
}

/** A width in pixels that fits most cells of the column. */
export function fittingWidth(name: string, characters: number, least = 56, most = 320): number {
  return Math.round(
    Math.min(most, Math.max(least, name.length * 7.1 + 16, characters * (characters <= 12 ? 7.2 : 6.4) + 16)),
  );
}
