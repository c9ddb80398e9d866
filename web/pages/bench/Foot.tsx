import type { Mark } from '../../../core/index.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { shownStep } from './MethodPage.tsx';

const COLOUR: Partial<Record<Mark, string>> = {
  data: 'var(--spruce)',
  total: 'var(--ochre-line)',
  label: 'var(--spruce-strip)',
  header: 'var(--plum)',
  repeat: 'var(--plum)',
};
const thousands = (n: number) => n.toLocaleString('en-GB');

/** Where every row is, what could not be read, and where the cell under the pointer came from. */
export function Foot({ onKeys }: { onKeys(): void }) {
  const view = useMethodStore((store) => store.view);
  const saying = useViewStore((store) => store.saying);
  const selected = useViewStore((store) => store.step);
  if (view === undefined || view.steps.length === 0) return <footer className={styles.foot} />;
  const received = view.fates.reduce((sum, fate) => sum + fate.rows, 0);
  const step = view.steps[shownStep(selected, view)];
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
          <b>{thousands(received)} rows</b> received: {thousands(data)} in the table
          {piles.map((fate) => (
            <span key={fate.pile} className={fate.mark === 'total' ? styles.ochre : undefined}>
              , {thousands(fate.rows)} {fate.pile}
            </span>
          ))}
        </span>
      )}
      <span>
        <b>{thousands(step?.rows ?? 0)}</b> rows × <b>{step?.columns.length ?? 0}</b> columns
      </span>
      <span className={view.unreadable > 0 ? styles.wrong : undefined}>{thousands(view.unreadable)} unreadable</span>
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
