import Popover from '@mui/material/Popover';
import { type ColumnFate, columnLetters, type JobTable } from '../../../../core/index.ts';
import { useRunQuery } from '../../../stores/use-engine-query.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import { useAddStep } from '../use-add-step.ts';
import { usePreview } from '../use-preview.ts';
import styles from './received.module.css';

export interface ColumnPlace {
  anchor: HTMLElement;
  part: number;
  column: number;
  fate: ColumnFate | undefined;
}

const NONE: never[] = [];

/** Where the columns of a part of the report are after a step. */
export function useColumnFates(tableId: string, step: number, part: number): readonly (ColumnFate | undefined)[] {
  const { data } = useRunQuery(
    ['column fates', tableId, step, part],
    (engine) => engine.report.columnFates(tableId, step, part),
    { keep: true },
  );
  return data ?? NONE;
}

const PILES = ['totals', 'notes', 'blanks', 'others'] as const;
const MARKS: Record<(typeof PILES)[number], string> = {
  totals: 'total',
  notes: 'note',
  blanks: 'blank',
  others: 'other',
};

/** Says what a column of the report is. */
export function ColumnMenu({
  table,
  step,
  place,
  onDone,
}: {
  table: JobTable;
  step: number;
  place: ColumnPlace | undefined;
  onDone(): void;
}) {
  const letters = columnLetters(place?.column ?? 0);
  return (
    <Popover
      open={place !== undefined}
      anchorEl={place?.anchor}
      onClose={onDone}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      slotProps={{
        paper: { className: styles.tapeMenu, role: 'dialog', 'aria-label': `Column ${letters} of the report` },
      }}
    >
      {place !== undefined && <Marking table={table} step={step} letters={letters} fate={place.fate} onDone={onDone} />}
    </Popover>
  );
}

function Marking({
  table,
  step,
  letters,
  fate,
  onDone,
}: {
  table: JobTable;
  step: number;
  letters: string;
  fate: ColumnFate | undefined;
  onDone(): void;
}) {
  const { select, showStep } = useViewStore.getState();
  const addStep = useAddStep(table, step);
  const preview = usePreview(table, step);
  if (fate === undefined)
    return <p className={styles.hint}>Column {letters} was not read: the first step says what is.</p>;
  if (fate.names.length === 0) {
    const by = fate.step ?? 0;
    return (
      <>
        <p className={styles.menuHead}>
          Column {letters} {fate.pile === undefined ? 'is taken out' : `is set aside as ${fate.pile}`} by step {by + 1}
        </p>
        <div className={styles.menuActions}>
          <button
            type="button"
            onClick={() => {
              showStep(by);
              onDone();
            }}
          >
            Go to the step
          </button>
        </div>
      </>
    );
  }
  // Columns that were unpivoted are one now: only where a column stands for itself can it be set aside.
  const columns = { by: 'names', names: [...fate.names] };
  return (
    <>
      <p className={styles.menuHead}>Column {letters} is a</p>
      <div className={styles.marks} role="radiogroup" aria-label="Mark">
        {PILES.map((pile) => (
          <button
            key={pile}
            type="button"
            role="radio"
            aria-checked={false}
            onMouseEnter={() =>
              preview.show({ kind: 'set-aside-columns', params: { pile, columns } }, `Set aside as ${pile}`)
            }
            onMouseLeave={preview.clear}
            onClick={() => {
              preview.clear();
              onDone();
              void addStep('set-aside-columns', `mark a column as ${MARKS[pile]}`, [], { pile, columns });
            }}
          >
            {MARKS[pile]}
          </button>
        ))}
      </div>
      <div className={styles.menuActions}>
        <button
          type="button"
          onClick={() => {
            select({ of: 'columns', names: fate.names });
            onDone();
          }}
        >
          Select {fate.names.join(', ')} in the table
        </button>
      </div>
    </>
  );
}
