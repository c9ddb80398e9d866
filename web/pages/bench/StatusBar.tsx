import { Link } from 'react-router';
import { grouped, type Mark } from '../../../core/index.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { tallyState, useTallyStore } from '../../stores/tally-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';

const COLOUR: Partial<Record<Mark, string>> = {
  data: 'var(--spruce)',
  total: 'var(--ochre-line)',
  label: 'var(--spruce-strip)',
  header: 'var(--plum)',
  repeat: 'var(--plum)',
};

/** Piles are named by many: one of them is said as one. */
function pileOf(rows: number, pile: string): string {
  return rows === 1 && PLURALS.has(pile) ? pile.slice(0, -1) : pile;
}

const PLURALS = new Set(['titles', 'headers', 'labels', 'totals', 'notes', 'repeats', 'comments', 'blanks', 'others']);

/** Where every row is, what could not be read, and where the cell under the pointer came from. */
export function StatusBar({ onKeys, jobId, tableId }: { onKeys(): void; jobId: string; tableId: string }) {
  const tally = useTallyStore((store) => (store.tableId === tableId ? store.view : undefined));
  const counting = useTallyStore((store) => store.progress);
  const state = tally === undefined ? undefined : tallyState(tally);
  const view = useMethodStore((store) => store.view);
  const saying = useViewStore((store) => store.saying);
  if (view === undefined || view.steps.length === 0) return <footer className={styles.foot} />;
  const received = view.fates.reduce((sum, fate) => sum + fate.rows, 0);
  const piles = view.fates.filter((fate) => fate.pile !== undefined);
  const data = received - piles.reduce((sum, fate) => sum + fate.rows, 0);
  return (
    <footer className={styles.foot}>
      <span className={styles.meter} aria-hidden="true">
        {view.fates
          .toSorted((a, b) => (a.pile === undefined ? -1 : 1) - (b.pile === undefined ? -1 : 1))
          .map((fate) => (
            <i key={fate.pile ?? ''} style={{ flexGrow: fate.rows, background: COLOUR[fate.mark] ?? 'var(--hair)' }} />
          ))}
      </span>
      {received > 0 && (
        <span className={styles.fates}>
          <b>{grouped(received)} rows</b> received: {grouped(data)} in the table
          {piles.map((fate) => (
            <span key={fate.pile} className={fate.mark === 'total' ? styles.ochre : undefined}>
              , {grouped(fate.rows)} {pileOf(fate.rows, fate.pile ?? '')}
            </span>
          ))}
        </span>
      )}
      <span className={view.unreadable > 0 ? styles.wrong : undefined}>{grouped(view.unreadable)} unreadable</span>
      <Link
        to={`/jobs/${jobId}/tally`}
        state={{ table: tableId }}
        className={`${styles.tallyLink} ${state === undefined ? '' : state.good ? styles.agrees : styles.wrong}`}
      >
        {state === undefined || state.text === ''
          ? counting === undefined
            ? 'Tally'
            : `Tally, ${Math.round(counting * 100)}%`
          : `${state.good ? '✓' : '✗'} ${state.text.replace(' accounted for', '').replace(' agree', '')}`}
      </Link>
      <span className={styles.space} />
      <span className={styles.saying} aria-live="polite">
        {saying !== undefined && (
          <>
            <b>{saying.of}</b> {saying.text}
          </>
        )}
      </span>
      <button type="button" className={styles.keysButton} onClick={onKeys}>
        Keys
      </button>
    </footer>
  );
}
