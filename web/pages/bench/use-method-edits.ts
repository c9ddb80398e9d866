import { useMemo } from 'react';
import {
  copySteps,
  FROM_TABLE,
  type JobStep,
  type JobTable,
  keepAsSet,
  pasteSteps,
  READING_WORDS,
  unfoldSet,
} from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { notify } from '../../parts/notify.ts';
import { notifyError } from '../../parts/report-error.ts';
import { editShown } from '../../stores/draft-store.ts';
import { newId, newStep, useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';

export interface MethodEdits {
  mute(index: number): void;
  duplicate(index: number): void;
  move(from: number, to: number): void;
  remove(index: number): Promise<void>;
  annotate(index: number, what: 'name' | 'note', text: string): void;
  copy(indexes: readonly number[]): Promise<void>;
  paste(behind: number): Promise<void>;
  startTable(index: number): void;
  from(index: number): number[];
  /** Puts steps into a set that other tables can use; undo takes it back. */
  keepSet(indexes: readonly number[]): void;
  unfold(index: number): void;
}

/** Everything that is done to steps as a whole. Each edit can be undone by its name. */
export function useMethodEdits(table: JobTable): MethodEdits {
  return useMemo(() => {
    const edit = (label: string, change: (steps: JobStep[]) => JobStep[], merge?: string) =>
      useJobStore
        .getState()
        .edit(label, (job) => editShown(job, table.id, (one) => ({ ...one, steps: change([...one.steps]) })), merge);
    const select = (index: number, count: number) =>
      useViewStore.getState().showStep(index >= count - 1 ? undefined : index);
    const said = (message: string) => notify({ text: message, tone: 'info' });
    /** Says which later steps name what this one brings. */
    const warn = async (index: number, did: string) => {
      const leaning = await engineClient().engine.method.leaning(table.id, index);
      if (leaning.length === 0) return;
      const steps = leaning.map((k) => k + 1).join(', ');
      said(`${did}; ${leaning.length === 1 ? 'step' : 'steps'} ${steps} used what it brought. Ctrl Z brings it back.`);
    };
    return {
      from: (index) => table.steps.slice(index).map((_, k) => index + k),
      keepSet(indexes) {
        const name = `Steps of ${table.name}`;
        const ids = indexes.map((k) => table.steps[k]!.id);
        useJobStore
          .getState()
          .edit('keep steps as a set', (job) => keepAsSet(job, table.id, ids, { set: newId(), step: newId() }, name));
        useViewStore.getState().showStep(undefined);
        said(`The steps are kept as ‘${name}’. What next? finds them in every table of this job.`);
      },
      unfold(index) {
        const { id } = table.steps[index]!;
        useJobStore.getState().edit('unfold a set', (job) => unfoldSet(job, table.id, id, newId));
      },
      mute(index) {
        const { muted } = table.steps[index]!;
        if (!muted) void warn(index, `Step ${index + 1} is skipped`);
        edit(`${muted ? 'run' : 'skip'} step ${index + 1}`, (steps) => {
          const { muted: _, ...step } = steps[index]!;
          return steps.with(index, muted ? step : { ...step, muted: true });
        });
      },
      duplicate(index) {
        const { id: _, ...step } = table.steps[index]!;
        edit(`duplicate step ${index + 1}`, (steps) => steps.toSpliced(index + 1, 0, newStep(step)));
        select(index + 1, table.steps.length + 1);
      },
      move(from, to) {
        if (from < 1 || to < 1 || from === to || to >= table.steps.length) return;
        edit(`move step ${from + 1}`, (steps) => {
          const [step] = steps.splice(from, 1);
          return steps.toSpliced(to, 0, step!);
        });
        select(to, table.steps.length);
      },
      async remove(index) {
        const { id } = table.steps[index]!;
        await warn(index, `Step ${index + 1} is removed`);
        edit(`remove step ${index + 1}`, (steps) => steps.filter((step) => step.id !== id));
        const { step } = useViewStore.getState();
        if (step !== undefined) select(Math.max(0, index - 1), table.steps.length - 1);
      },
      annotate(index, what, text) {
        edit(`${what === 'name' ? 'name' : 'note on'} step ${index + 1}`, (steps) => {
          const { [what]: _, ...step } = steps[index]!;
          return steps.with(index, text.trim() === '' ? (step as JobStep) : { ...steps[index]!, [what]: text.trim() });
        });
      },
      async copy(indexes) {
        await navigator.clipboard.writeText(copySteps(indexes.map((k) => table.steps[k]!)));
        said(indexes.length === 1 ? 'The step is copied' : `${indexes.length} steps are copied`);
      },
      async paste(behind) {
        try {
          const pasted = pasteSteps(await navigator.clipboard.readText()).filter(
            (step) => !READING_WORDS.has(step.kind) && step.kind !== FROM_TABLE,
          );
          if (pasted.length === 0) throw new Error('Only a reading was copied; a table has its own.');
          edit(pasted.length === 1 ? 'paste a step' : `paste ${pasted.length} steps`, (steps) =>
            steps.toSpliced(behind + 1, 0, ...pasted.map(newStep)),
          );
          select(behind + pasted.length, table.steps.length + pasted.length);
        } catch (error) {
          notifyError(error);
        }
      },
      startTable(index) {
        const id = newId();
        const step = table.steps[index]!.id;
        const whole = index === table.steps.length - 1;
        useJobStore.getState().edit('add a table', (job) => ({
          ...job,
          tables: [
            ...job.tables,
            {
              id,
              name: `Table ${job.tables.length + 1}`,
              steps: [newStep({ kind: FROM_TABLE, params: { table: table.id, step: whole ? null : step } })],
            },
          ],
        }));
        useViewStore.getState().showTable(id);
      },
    };
  }, [table]);
}
