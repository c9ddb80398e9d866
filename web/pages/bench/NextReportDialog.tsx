import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import {
  counted,
  fixedJob,
  grouped,
  type Job,
  type JobStep,
  jobNames,
  sentenceText,
  stepSentence,
} from '../../../core/index.ts';
import { draftClient } from '../../engine/client.ts';
import type { NextDraftView } from '../../engine/protocol.ts';
import { bytesOf } from '../../parts/files.ts';
import { notifyError } from '../../parts/report-error.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { Picker } from '../../parts/sentence/fields.tsx';
import { noted } from '../../stores/draft-store.ts';
import { markTaken } from '../../stores/folder-store.ts';
import { editTable, newId, useJobStore } from '../../stores/job-store.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import { dialogAs } from '../../stores/view/asked.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './combine/combine.module.css';

/** The next report, seen before it takes the place of the last one: what is different, and what would fix it. */
export function NextReportDialog({ job }: { job: Job }) {
  const asked = useViewStore(dialogAs('next report'));
  const ask = useViewStore((store) => store.ask);
  const { data: found, error } = useEngineQuery(
    ['next report', keyOf(asked), keyOf(job)],
    async (engine) => {
      const { source, file } = asked!;
      const bytes = await bytesOf(file);
      return engine.otherFiles.tryNext(job, source, { name: file.name, bytes });
    },
    { when: asked !== undefined, shown: true },
  );
  const trouble = error?.message ?? '';
  // Where the method stops or loses rows, the report is drafted again to see whether that fits better.
  const failing = found?.find((one) =>
    one.differences.some(({ severity, code }) => severity === 'stop' || LOSES.has(code)),
  );
  const failingTable = job.tables.find((one) => one.id === failing?.table);
  const drafts = useQuery({
    queryKey: ['next draft', keyOf(asked), failingTable?.id],
    queryFn: async () => {
      const { source, file } = asked!;
      const bytes = await bytesOf(file);
      return (await draftClient().draftForNext(source, { name: file.name, bytes }, failingTable!.steps)) ?? null;
    },
    enabled: asked !== undefined && failingTable?.steps[0]?.params['source'] === asked.source,
    meta: { shown: true },
  });
  const draft = drafts.data ?? undefined;
  if (asked === undefined) return null;
  const source = job.sources.find((one) => one.id === asked.source);
  const nameOf = (id: string) => job.tables.find((one) => one.id === id)?.name ?? id;
  const close = () => ask(undefined);
  const differing = found?.filter((one) => one.differences.length > 0) ?? [];
  const fixes = differing.flatMap((one) => one.differences.flatMap((each) => each.fix ?? []));
  const take = async (how: 'as it is' | 'fixed' | 'drafted') => {
    try {
      await useJobStore.getState().giveSource(asked.source, asked.file);
      if (asked.arrived) await markTaken(asked.file.name, job.name);
      if (how === 'drafted' && draft !== undefined && failingTable !== undefined)
        useJobStore
          .getState()
          .edit('take the draft of the new report', (before) =>
            editTable(before, failingTable.id, (one) => ({ ...one, steps: draftedSteps(one.steps, draft) })),
          );
      if (how === 'fixed')
        useJobStore.getState().edit('fix the method for the new report', (before) => fixedJob(before, found ?? []));
    } catch (error) {
      notifyError(error);
    }
    close();
  };
  const readSighted = async (name: string) => {
    try {
      ask({ ...asked, file: await asked.sighted!.find((one) => one.name === name)!.read() });
    } catch (error) {
      notifyError(error);
    }
  };
  const severity = { info: styles.quiet, warning: styles.look, stop: styles.stopping };
  return (
    <Sheet
      title={`${asked.file.name}, in place of ${source?.file?.name ?? source?.name ?? 'nothing'}`}
      label="Run again"
      width={560}
      onClose={close}
      acts={
        <>
          <Button onClick={close}>Keep the current file</Button>
          {fixes.length > 0 && (
            <Button variant="contained" onClick={() => void take('fixed')}>
              Use it with the fixes
            </Button>
          )}
          {draft !== undefined && draft.come.length > 0 && (
            <Button variant={fixes.length > 0 ? 'outlined' : 'contained'} onClick={() => void take('drafted')}>
              Use it with the draft
            </Button>
          )}
          <Button
            variant={fixes.length > 0 ? 'outlined' : 'contained'}
            disabled={found === undefined}
            onClick={() => void take('as it is')}
          >
            Use this file
          </Button>
        </>
      }
    >
      <div className={styles.choice}>
        {asked.sighted !== undefined && asked.sighted.length > 1 && (
          <Picker
            label="File"
            value={asked.file.name}
            choices={Object.fromEntries(
              asked.sighted.map(({ name, note }) => [name, note === undefined ? name : `${name} (${note})`]),
            )}
            onChange={(name) => void readSighted(name)}
          />
        )}
        {job.sources.length > 1 && (
          <Picker
            label="Source"
            value={asked.source}
            choices={Object.fromEntries(job.sources.map((one) => [one.id, `as the source ${one.name}`]))}
            onChange={(id) => ask({ ...asked, source: id })}
          />
        )}
      </div>
      {trouble !== '' ? (
        <p className={styles.stopping} role="alert">
          {trouble}
        </p>
      ) : found === undefined ? (
        <p role="status">Running the method on it …</p>
      ) : differing.length === 0 ? (
        <p role="status">Only the figures differ. Every step works as it did last time.</p>
      ) : (
        <div className={styles.scrolls}>
          {differing.map((one) => (
            <section key={one.table} aria-label={nameOf(one.table)}>
              {job.tables.length > 1 && <h3>{nameOf(one.table)}</h3>}
              <ul className={styles.differences} aria-label={`What is different in ${nameOf(one.table)}`}>
                {one.differences.map((each) => (
                  <li key={each.text} className={severity[each.severity]}>
                    {each.text}
                    {each.fix !== undefined && <em>This would fix it: {each.fix.label}.</em>}
                  </li>
                ))}
              </ul>
            </section>
          ))}
          {drafts.isFetching && <p role="status">Drafting the new report …</p>}
          {draft !== undefined && draft.come.length > 0 && <Drafted draft={draft} job={job} />}
        </div>
      )}
    </Sheet>
  );
}

/** Differences after which rows may be lost. */
const LOSES: ReadonlySet<string> = new Set(['rows', 'pile', 'parts-gone', 'totals', 'idle-step']);

/** The method with the draft in its place: steps that do the same stay what they are. */
function draftedSteps(steps: readonly JobStep[], { steps: drafted, gone }: NextDraftView): JobStep[] {
  const kept = steps.filter((step) => !gone.some((one) => one.id === step.id));
  return drafted.map((step, k): JobStep => {
    const same = kept.find(
      ({ kind, params }) => kind === step.kind && JSON.stringify(params) === JSON.stringify(step.params),
    );
    return same ?? { id: k === 0 ? steps[0]!.id : newId(), ...noted(step) };
  });
}

/** What the draft of the new report would change of the method. */
function Drafted({ draft, job }: { draft: NextDraftView; job: Job }) {
  const names = jobNames(job);
  const said = (step: { kind: string; params: Record<string, unknown> }) =>
    sentenceText(stepSentence({ ...step, id: '' }, names));
  const { agree, of } = draft.totals;
  return (
    <section aria-label="The draft of the new report">
      <h3>
        Or use a new draft: {counted(draft.rows, 'row')} × {counted(draft.columns.length, 'column')}
        {of > 0 && `, ${grouped(agree)} of ${grouped(of)} totals agree`}
      </h3>
      <ul className={styles.differences} aria-label="Steps that differ">
        {draft.gone.map((step) => (
          <li key={step.id} className={styles.quiet}>
            removed: {said(step)}
          </li>
        ))}
        {draft.come.map((step) => (
          <li key={said(step)}>
            instead: {said(step)}
            <em>{step.why}</em>
          </li>
        ))}
      </ul>
    </section>
  );
}
