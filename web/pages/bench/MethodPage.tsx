import DeleteOutline from '@mui/icons-material/DeleteOutlined';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import { type KeyboardEvent, useMemo, useState } from 'react';
import { type JobStep, type JobTable, jobNames, stepSentence } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { MethodView, NoticeView, StepView } from '../../engine/protocol.ts';
import { pickFile, SOURCE_FILES } from '../../parts/files.ts';
import type { SentenceContext } from '../../parts/sentence/context.ts';
import { Sentence } from '../../parts/sentence/Sentence.tsx';
import { editTable, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { useSourceNames } from './use-report.ts';
import { WhatNext } from './WhatNext.tsx';

const thousands = (n: number) => n.toLocaleString('en-GB');

/** What a step did, in one line. */
export function effectText(before: StepView | undefined, after: StepView): string {
  const size = (view: StepView) => `${thousands(view.rows)} × ${view.columns.length}`;
  if (before === undefined) return `${thousands(after.rows)} rows × ${after.columns.length} columns`;
  const rows = after.rows - before.rows;
  const columns = after.columns.length - before.columns.length;
  if (rows > 0) return `${size(before)} → ${size(after)}`;
  const change = (n: number, what: string) =>
    `${n > 0 ? '+' : '−'}${thousands(Math.abs(n))} ${what}${Math.abs(n) === 1 ? '' : 's'}`;
  const changes = [...(columns === 0 ? [] : [change(columns, 'column')]), ...(rows === 0 ? [] : [change(rows, 'row')])];
  return changes.join(', ');
}

/** Index of the step in view: the selected one, or the last that ran. */
export function shownStep(selected: number | undefined, view: MethodView | undefined): number {
  const last = (view?.steps.length ?? 0) - 1;
  return selected === undefined ? last : Math.min(selected, last);
}

const scrollHere = (element: HTMLElement | null) => element?.scrollIntoView({ block: 'nearest' });

export function MethodPage({ table }: { table: JobTable }) {
  const view = useMethodStore((store) => store.view);
  const progress = useMethodStore((store) => store.progress);
  const trouble = useMethodStore((store) => store.trouble);
  const step = useViewStore((store) => store.step);
  const setView = useViewStore((store) => store.set);
  const edit = useJobStore((store) => store.edit);
  const names = useSourceNames(table);
  const selected = step ?? table.steps.length - 1;

  const select = (index: number) =>
    setView({
      step: index === table.steps.length - 1 ? undefined : index,
      columns: [],
      cell: undefined,
      litReport: [],
      litTable: [],
      noticed: undefined,
    });
  const change = (index: number, params: Record<string, unknown>, param: string) => {
    const { id } = table.steps[index]!;
    edit(
      `edit step ${index + 1}`,
      (job) =>
        editTable(job, table.id, (one) => ({
          ...one,
          steps: one.steps.map((s) => (s.id === id ? { ...s, params } : s)),
        })),
      `${id}/${param}`,
    );
  };
  const remove = (index: number) => {
    const { id } = table.steps[index]!;
    edit(`remove step ${index + 1}`, (job) =>
      editTable(job, table.id, (one) => ({ ...one, steps: one.steps.filter((s) => s.id !== id) })),
    );
    if (step !== undefined) select(Math.max(0, index - 1));
  };
  const walk = (event: KeyboardEvent, index: number) => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'Enter' || event.key === ' ') select(index);
    else if (event.key === 'Delete' && index > 0) remove(index);
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const next = event.currentTarget[event.key === 'ArrowDown' ? 'nextElementSibling' : 'previousElementSibling'];
      (next as HTMLElement | null)?.focus();
      const to = Math.min(table.steps.length - 1, Math.max(0, index + (event.key === 'ArrowDown' ? 1 : -1)));
      select(to);
    } else return;
    event.preventDefault();
  };

  return (
    <section className={`${styles.page} ${styles.frost}`} aria-label="Method">
      <div className={styles.cap}>
        <h2>Method</h2>
        <span>{table.steps.length === 1 ? '1 step' : `${table.steps.length} steps`}</span>
      </div>
      <div className={styles.line} role="status" aria-live="polite">
        {progress !== undefined && (
          <>
            <LinearProgress variant="determinate" value={progress * 100} aria-label="Running the method" />
            <span className={styles.running}>
              Running the method, {Math.round(progress * 100)}%
              <Button size="small" onClick={() => engineClient().cancel()}>
                Stop
              </Button>
            </span>
          </>
        )}
      </div>
      <ol className={styles.steps}>
        {table.steps.map((one, index) => (
          <li
            key={one.id}
            tabIndex={index === selected ? 0 : -1}
            ref={index === selected ? scrollHere : undefined}
            aria-current={index === selected ? 'step' : undefined}
            className={`${styles.step} ${index === selected ? styles.on : ''} ${index > selected ? styles.later : ''}`}
            onClick={() => select(index)}
            onKeyDown={(event) => walk(event, index)}
          >
            <StepCard
              step={one}
              index={index}
              table={table}
              view={view}
              sheets={names}
              selected={index === selected}
              onChange={(params, param) => change(index, params, param)}
              onRemove={() => remove(index)}
            />
          </li>
        ))}
      </ol>
      {trouble !== undefined && (
        <p className={styles.stop} role="alert">
          {trouble}
        </p>
      )}
      <WhatNext table={table} at={selected} />
    </section>
  );
}

interface CardProps {
  step: JobStep;
  index: number;
  table: JobTable;
  view: MethodView | undefined;
  sheets: readonly string[];
  selected: boolean;
  onChange(params: Record<string, unknown>, param: string): void;
  onRemove(): void;
}

function StepCard({ step, index, table, view, sheets, selected, onChange, onRemove }: CardProps) {
  const job = useJobStore((store) => store.job)!;
  const after = view?.steps[index];
  const before = view?.steps[index - 1];
  const phrases = stepSentence(step, jobNames(job));
  const context = useMemo<SentenceContext>(
    () => ({ columns: before?.columns ?? [], sheets, tables: job.tables.filter((one) => one.id !== table.id) }),
    [before, sheets, job.tables, table.id],
  );
  const stop = view?.stop?.index === index ? view.stop : undefined;
  const kept = after?.piles.some((pile) => pile.mark === 'total');
  const effect = after === undefined ? '' : effectText(before, after);
  const told = after?.notices.filter((notice) => notice.tone === 'told').map((notice) => notice.text) ?? [];
  return (
    <>
      <span className={styles.number}>{index + 1}</span>
      <div>
        <Sentence phrases={phrases} params={step.params} context={context} selected={selected} onChange={onChange} />
        {(effect !== '' || told.length > 0) && (
          <p className={styles.did}>
            {[effect, ...told].filter((text) => text !== '').join(' · ')}
            {kept && <b> kept for the tally</b>}
          </p>
        )}
        {after?.notices.map(
          (notice, n) =>
            notice.tone === 'look' && (
              <Look key={notice.text} notice={notice} tableId={table.id} step={index} index={n} />
            ),
        )}
        {stop !== undefined && (
          <div className={styles.stop} role="alert">
            {stop.message}
            <MissingSource step={step} />
          </div>
        )}
      </div>
      {index > 0 && (
        <span className={styles.remove}>
          <IconButton
            size="small"
            aria-label={`Remove step ${index + 1}`}
            onClick={(event) => {
              event.stopPropagation();
              onRemove();
            }}
          >
            <DeleteOutline fontSize="inherit" />
          </IconButton>
        </span>
      )}
    </>
  );
}

/** What wants a look; where it speaks of rows, each click leads to the next of them. */
function Look({ notice, tableId, step, index }: { notice: NoticeView; tableId: string; step: number; index: number }) {
  const [at, setAt] = useState(0);
  if (notice.rows === undefined || notice.rows.count === 0) return <p className={styles.look}>{notice.text}</p>;
  const { of } = notice.rows;
  const lead = async () => {
    const { rows, column } = await engineClient().engine.noticed(tableId, step, index);
    const row = rows[at % rows.length];
    if (row === undefined) return;
    const cells = rows.map((one) => ({ row: one, column: Math.max(0, column) }));
    useViewStore.getState().set({
      step,
      facing: of === 'before' ? 'before' : useViewStore.getState().facing,
      noticed: { of, cells, goTo: { row, column: Math.max(0, column), turn: Date.now() } },
    });
    setAt(at + 1);
  };
  return (
    <button
      type="button"
      className={styles.look}
      title={`Show the rows, one after the other (${notice.rows.count.toLocaleString('en-GB')})`}
      onClick={(event) => {
        event.stopPropagation();
        void lead();
      }}
    >
      {notice.text}
    </button>
  );
}

/** The way out when a reading's file is not in this browser. */
function MissingSource({ step }: { step: JobStep }) {
  const sourceId = String(step.params['source'] ?? '');
  const why = useJobStore((store) => store.missing[sourceId]);
  const source = useJobStore((store) => store.job?.sources.find((one) => one.id === sourceId));
  const giveSource = useJobStore((store) => store.giveSource);
  if (why === undefined) return null;
  return (
    <p className={styles.give}>
      {why}{' '}
      <Button
        variant="outlined"
        onClick={async (event) => {
          event.stopPropagation();
          const file = await pickFile(SOURCE_FILES);
          if (file === undefined) return;
          try {
            await giveSource(sourceId, file);
          } catch (error) {
            useMethodStore.setState({ trouble: (error as Error).message });
          }
        }}
      >
        Give {source?.file?.name ?? 'the file'}
      </Button>
    </p>
  );
}
