import LinearProgress from '@mui/material/LinearProgress';
import { counted, type DoubtPlace, grouped, type JobTable } from '../../../../core/index.ts';
import { useDraftStore } from '../../../stores/draft-store.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import styles from './draft.module.css';

const SURE = { sure: 'Sure', likely: 'Likely', guess: 'A guess' } as const;

/** What is known of the draft as a whole, and the choice to keep or discard it. */
export function DraftBar({ table }: { table: JobTable }) {
  const { current, progress, none, keep, decline } = useDraftStore();
  const { select, goTo } = useViewStore();
  if (current?.tableId !== table.id) {
    if (progress !== undefined) return <AtWork progress={progress} text="Drafting the method" />;
    return none === undefined ? null : (
      <p className={styles.none} role="status">
        {none}
      </p>
    );
  }
  const { told } = current;
  const lead = ({ row, column }: DoubtPlace) => {
    select({ of: 'cell', row, column });
    goTo({ on: 'table', row, column });
  };
  const count = current.steps.length - current.from;
  return (
    <section className={styles.bar} aria-label="Draft">
      {told === undefined ? (
        <AtWork progress={progress ?? 0} text="Checking the draft" />
      ) : (
        <div className={styles.told} role="status">
          <b>{totalsText(told.totals) ?? `${counted(count, 'step')} drafted`}</b>
          <span>
            {told.sureness === 'sure' && told.totals.of > 0
              ? 'Sure: the figures of the report prove it'
              : `${SURE[told.sureness]}: ${told.why}`}
            {told.place !== undefined && (
              <button type="button" className={styles.lead} onClick={() => lead(told.place!)}>
                Show the cell
              </button>
            )}
          </span>
        </div>
      )}
      <button type="button" className={styles.none} onClick={decline} aria-keyshortcuts="Escape">
        Discard
      </button>
      <button
        type="button"
        className={styles.keep}
        onClick={() => keep()}
        disabled={told === undefined}
        aria-keyshortcuts="Enter"
      >
        Keep all <span aria-hidden="true">⏎</span>
      </button>
    </section>
  );
}

function AtWork({ progress, text }: { progress: number; text: string }) {
  return (
    <div className={styles.atWork} role="status">
      <span>{text} …</span>
      <LinearProgress variant="determinate" value={progress * 100} aria-label={text} />
    </div>
  );
}

function totalsText({ agree, of }: { agree: number; of: number }): string | undefined {
  if (of === 0) return undefined;
  return agree === of
    ? `${grouped(of)} of ${grouped(of)} totals agree with this draft`
    : `${grouped(agree)} of ${grouped(of)} totals agree, ${grouped(of - agree)} do not`;
}
