import {
  type CollisionDetection,
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import LinearProgress from '@mui/material/LinearProgress';
import type { KeyboardEvent } from 'react';
import { counted, type JobTable } from '../../../core/index.ts';
import type { MethodView } from '../../engine/protocol.ts';
import { editShown, useDraftStore } from '../../stores/draft-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { DraftBar } from './draft/DraftBar.tsx';
import { DraftedCard } from './draft/DraftedCard.tsx';
import { DraftMenu } from './draft/DraftMenu.tsx';
import { Findings } from './draft/Findings.tsx';
import { StepCard } from './StepCard.tsx';
import { useMethodEdits } from './use-method-edits.ts';
import { useSourceNames } from './use-report.ts';
import { WhatNext } from './WhatNext.tsx';

/** Index of the step in view: the selected one, or the last that ran. */
export function shownStep(selected: number | undefined, view: MethodView | undefined): number {
  const last = (view?.steps.length ?? 0) - 1;
  return selected === undefined ? last : Math.min(selected, last);
}

/** The step under the pointer: cards differ in height, so that their centers would mislead. */
const underPointer: CollisionDetection = (drag) => {
  const under = pointerWithin(drag);
  return under.length > 0 ? under : closestCenter(drag);
};

/** The steps of the table as numbered sentences, those that are drafted behind those that are kept. */
export function MethodPage({ table }: { table: JobTable }) {
  const view = useMethodStore((store) => store.view);
  const progress = useMethodStore((store) => store.progress);
  const trouble = useMethodStore((store) => store.trouble);
  const step = useViewStore((store) => store.step);
  const showStep = useViewStore((store) => store.showStep);
  const edit = useJobStore((store) => store.edit);
  const names = useSourceNames(table);
  const edits = useMethodEdits(table);
  const current = useDraftStore((store) => (store.current?.tableId === table.id ? store.current : undefined));
  const own = current?.from ?? table.steps.length;
  const selected = step ?? table.steps.length - 1;
  // A few pixels tell a drag from a click.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const select = (index: number) => showStep(index === table.steps.length - 1 ? undefined : index);
  const change = (index: number, params: Record<string, unknown>, param: string) => {
    const { id } = table.steps[index]!;
    edit(
      `edit step ${index + 1}`,
      (job) =>
        editShown(job, table.id, (one) => ({
          ...one,
          steps: one.steps.map((s) => (s.id === id ? { ...s, params } : s)),
        })),
      `${id}/${param}`,
    );
  };
  const onKey = (event: KeyboardEvent, index: number) => {
    if (event.target !== event.currentTarget) return;
    const command = event.ctrlKey || event.metaKey;
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const isDrafted = index >= own;
    if (by !== 0 && event.altKey && !isDrafted && index + by < own) edits.move(index, index + by);
    else if (by !== 0) {
      const next = event.currentTarget[by > 0 ? 'nextElementSibling' : 'previousElementSibling'];
      (next as HTMLElement | null)?.focus();
      select(Math.min(table.steps.length - 1, Math.max(0, index + by)));
    } else if (event.key === 'Enter' || event.key === ' ') select(index);
    else if (isDrafted && event.key === 'Delete' && index > 0) useDraftStore.getState().leaveOut(index);
    else if (isDrafted) return;
    else if (event.key === 'Delete' && index > 0) void edits.remove(index);
    else if (command && event.key === 'c') void edits.copy([index]);
    else if (command && event.key === 'v') void edits.paste(index);
    else if (!command && event.key === 'm' && index > 0) edits.mute(index);
    else if (!command && event.key === 'd' && index > 0) edits.duplicate(index);
    else return;
    event.preventDefault();
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const at = (id: unknown) => table.steps.findIndex((one) => one.id === id);
    if (over !== null) edits.move(at(active.id), at(over.id));
  };

  return (
    <section className={`${styles.page} ${styles.frost}`} aria-label="Method">
      <div className={styles.cap}>
        <h2>Method</h2>
        <span>
          {current === undefined ? counted(table.steps.length, 'step') : draftedText(table.steps.length, own)}
        </span>
        <DraftMenu table={table} drafted={current !== undefined} />
      </div>
      <div className={styles.line} role="status" aria-live="polite">
        {progress !== undefined && (
          <>
            <LinearProgress variant="determinate" value={progress * 100} aria-label="Running the method" />
            <span className={styles.running}>Running the method, {Math.round(progress * 100)}%</span>
          </>
        )}
      </div>
      <DndContext sensors={sensors} collisionDetection={underPointer} onDragEnd={onDragEnd}>
        <SortableContext items={table.steps.slice(0, own).map((one) => one.id)} strategy={verticalListSortingStrategy}>
          <ol className={styles.steps}>
            {table.steps.slice(0, own).map((one, index) => (
              <StepCard
                key={one.id}
                step={one}
                index={index}
                table={table}
                view={view}
                sheets={names}
                selected={index === selected}
                later={index > selected}
                edits={edits}
                onSelect={() => select(index)}
                onKey={(event) => onKey(event, index)}
                onChange={(params, param) => change(index, params, param)}
              />
            ))}
            {table.steps.slice(own).map((one, k) => (
              <DraftedCard
                key={one.id}
                step={one}
                index={own + k}
                table={table}
                before={view?.steps[own + k - 1]}
                after={view?.steps[own + k]}
                stop={view?.stop?.index === own + k ? view.stop.message : undefined}
                sheets={names}
                selected={own + k === selected}
                onSelect={() => select(own + k)}
                onKey={(event) => onKey(event, own + k)}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {trouble !== undefined && (
        <p className={styles.stop} role="alert">
          {trouble}
        </p>
      )}
      <DraftBar table={table} />
      <Findings table={table} at={selected} />
      <WhatNext table={table} at={selected} />
    </section>
  );
}

function draftedText(all: number, kept: number): string {
  const drafted = counted(all - kept, 'step');
  return kept < 2 ? `drafted, ${drafted}, none kept yet` : `${counted(kept, 'step')} kept, ${all - kept} drafted`;
}
