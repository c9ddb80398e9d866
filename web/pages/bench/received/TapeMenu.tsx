import Popover, { type PopoverActions } from '@mui/material/Popover';
import { useCallback, useEffect, useRef, useState } from 'react';
import { grouped, type JobTable, type Mark } from '../../../../core/index.ts';
import type { RowOffer, RowOffers } from '../../../engine/protocol.ts';
import { editShown } from '../../../stores/draft-store.ts';
import { useJobStore } from '../../../stores/job-store.ts';
import { useRunQuery } from '../../../stores/use-engine-query.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import { useAddSteps } from '../use-add-step.ts';
import { usePreview } from '../use-preview.ts';
import styles from './received.module.css';

export interface TapePlace {
  anchor: HTMLElement;
  part: number;
  row: number;
  /** The last of several rows. */
  to?: number | undefined;
  mark: Mark | undefined;
}

const MARKS: readonly [Mark, string][] = [
  ['title', 'title'],
  ['header', 'header'],
  ['label', 'label'],
  ['total', 'total'],
  ['note', 'note'],
  ['repeat', 'repeat'],
  ['blank', 'blank'],
  ['other', 'other'],
];

/** Says what a row of the report is: one row marked offers the rule that it and others follow. */
export function TapeMenu({
  table,
  step,
  place,
  onDone,
}: {
  table: JobTable;
  step: number;
  place: TapePlace | undefined;
  onDone(): void;
}) {
  const actions = useRef<PopoverActions>(null);
  // The menu grows when its rules come: near the foot of the page it has to move up.
  const grown = useCallback((paper: HTMLElement | null) => {
    if (paper === null) return;
    const observer = new ResizeObserver(() => actions.current?.updatePosition());
    observer.observe(paper);
    return () => observer.disconnect();
  }, []);
  return (
    <Popover
      action={actions}
      open={place !== undefined}
      anchorEl={place?.anchor}
      onClose={onDone}
      anchorOrigin={{ vertical: 'center', horizontal: 'right' }}
      transformOrigin={{ vertical: 'top', horizontal: 'left' }}
      slotProps={{
        paper: {
          ref: grown,
          className: styles.tapeMenu,
          role: 'dialog',
          'aria-label': `${rowsText(place)} of the report`,
        },
      }}
    >
      {place !== undefined && <Marking table={table} step={step} place={place} onDone={onDone} />}
    </Popover>
  );
}

function Marking({ table, step, place, onDone }: { table: JobTable; step: number; place: TapePlace; onDone(): void }) {
  const [mark, setMark] = useState<Mark>(place.mark === undefined || place.mark === 'data' ? 'total' : place.mark);
  const [chosen, setChosen] = useState(false);
  const addSteps = useAddSteps(table, step);
  const preview = usePreview(table, step);
  const lightRows = useViewStore((store) => store.lightRows);
  const { data: offered } = useRunQuery(
    ['row offers', table.id, step, place.part, place.row, place.to, mark],
    async (engine) => ({
      mark,
      offers: await engine.report.rowOffers(table.id, step, { part: place.part, row: place.row, to: place.to }, mark),
    }),
    { keep: true },
  );
  const offers = offered?.offers;
  useEffect(() => () => lightRows([]), [lightRows]);
  if (offers === undefined) return null;
  const several = place.to !== undefined && place.to !== place.row;
  if (offers.at === 'nowhere')
    return (
      <p className={styles.hint}>
        {several ? 'None of these rows is' : 'This row is not'} in the table after this step.
      </p>
    );
  if (offers.at === 'aside') return <Aside table={table} offers={offers} onDone={onDone} />;
  const take = (offer: RowOffer) => {
    preview.clear();
    onDone();
    addSteps(offer.steps, `mark rows as ${mark}`);
  };
  const show = (offer: RowOffer | undefined) => {
    lightRows(offer?.rows ?? []);
    if (offer === undefined) preview.clear();
    else preview.show(offer.steps, offer.text);
  };
  return (
    <>
      <p className={styles.menuHead}>
        {rowsText(place)} {several ? 'are each a' : 'is a'}
      </p>
      <div className={styles.marks} role="radiogroup" aria-label="Mark">
        {MARKS.map(([one, name]) => (
          <button
            key={one}
            type="button"
            role="radio"
            aria-checked={chosen && mark === one}
            onClick={() => {
              setMark(one);
              setChosen(true);
            }}
          >
            {name}
          </button>
        ))}
      </div>
      {chosen && offered?.mark === mark && (
        <>
          <p className={styles.menuHead}>
            {offers.offers.length === 0 ? 'No rule takes in all of these rows' : 'and so are rows where'}
          </p>
          <ul className={styles.rules} aria-label="Rules">
            {offers.offers.map((offer) => (
              <li key={offer.text}>
                <button
                  type="button"
                  onMouseEnter={() => show(offer)}
                  onMouseLeave={() => show(undefined)}
                  onFocus={() => show(offer)}
                  onBlur={() => show(undefined)}
                  onClick={() => take(offer)}
                >
                  <span>{offer.text}</span>
                  <b>{countText(offer.count, place)}</b>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

const rowsText = (place: TapePlace | undefined) =>
  place?.to === undefined || place.to === place.row
    ? `Row ${(place?.row ?? 0) + 1}`
    : `Rows ${place.row + 1} to ${place.to + 1}`;

function countText(count: number, { row, to = row }: TapePlace): string {
  if (count === 1) return 'only this row';
  return to > row && count === to - row + 1 ? 'only these rows' : `${grouped(count)} rows`;
}

/** The row is on a pile already: the step that put it there, and how to change that. */
function Aside({
  table,
  offers,
  onDone,
}: {
  table: JobTable;
  offers: Extract<RowOffers, { at: 'aside' }>;
  onDone(): void;
}) {
  const edit = useJobStore((store) => store.edit);
  const showStep = useViewStore((store) => store.showStep);
  const step = table.steps[offers.step];
  if (step === undefined) return null;
  const piles: readonly [Mark, string][] = [
    ['title', 'titles'],
    ['total', 'totals'],
    ['note', 'notes'],
    ['repeat', 'repeats'],
    ['other', 'others'],
  ];
  return (
    <>
      <p className={styles.menuHead}>
        Set aside as {offers.pile} by step {offers.step + 1}
      </p>
      {step.kind === 'set-aside' && (
        <div className={styles.marks} role="radiogroup" aria-label="Mark">
          {piles.map(([mark, pile]) => (
            <button
              key={pile}
              type="button"
              role="radio"
              aria-checked={offers.mark === mark}
              onClick={() => {
                edit(`mark as ${pile}`, (job) =>
                  editShown(job, table.id, (one) => ({
                    ...one,
                    steps: one.steps.map((s) => (s.id === step.id ? { ...s, params: { ...s.params, pile, mark } } : s)),
                  })),
                );
                onDone();
              }}
            >
              {mark}
            </button>
          ))}
        </div>
      )}
      <div className={styles.menuActions}>
        <button
          type="button"
          onClick={() => {
            showStep(offers.step);
            onDone();
          }}
        >
          Go to the step
        </button>
        <button
          type="button"
          onClick={() => {
            edit(`take step ${offers.step + 1} away`, (job) =>
              editShown(job, table.id, (one) => ({ ...one, steps: one.steps.filter((s) => s.id !== step.id) })),
            );
            onDone();
          }}
        >
          They are data: take the step away
        </button>
      </div>
    </>
  );
}
