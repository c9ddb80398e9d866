import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { counted, type Difference, fixedJob, grouped, type Job, type JobStep } from '../../../core/index.ts';
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
import { MethodChanges } from './MethodChanges.tsx';

type Way = 'as it is' | 'drafted' | 'fixed';

const TAKE: Record<Way, string> = {
  'as it is': 'Use this file',
  drafted: 'Use it with the draft',
  fixed: 'Use it with the fixes',
};

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
  const take = async (how: Way) => {
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
  const lastFile = source?.file?.name ?? 'the last report';
  const canDraft = draft !== undefined && draft.come.length > 0;
  // The last one is what suits this report best.
  const ways: readonly Way[] = [
    'as it is',
    ...(canDraft ? (['drafted'] as const) : []),
    ...(fixes.length > 0 ? (['fixed'] as const) : []),
  ];
  return (
    <Sheet
      title={`${asked.file.name}, in place of ${source?.file?.name ?? source?.name ?? 'nothing'}`}
      label="Run again"
      width={820}
      onClose={close}
      acts={
        <>
          <Button onClick={close}>Keep the current file</Button>
          {ways.map((way) => (
            <Button
              key={way}
              variant={way === ways.at(-1) ? 'contained' : 'text'}
              disabled={found === undefined}
              onClick={() => void take(way)}
            >
              {TAKE[way]}
            </Button>
          ))}
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
              <Differences label={`What is different in ${nameOf(one.table)}`} all={one.differences} />
              <MethodChanges
                label={`Steps of ${nameOf(one.table)}`}
                changes={one.steps}
                job={job}
                files={[lastFile, asked.file.name]}
              />
            </section>
          ))}
          {drafts.isFetching && <p role="status">Drafting the new report …</p>}
          {draft !== undefined && draft.come.length > 0 && (
            <Drafted draft={draft} job={job} files={[lastFile, asked.file.name]} />
          )}
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

/** Differences that are shown at once; the others open on demand. */
const MAX_SHOWN = 3;
const ORDER = { stop: 0, warning: 1, info: 2 };

function Differences({ label, all }: { label: string; all: readonly Difference[] }) {
  const severity = { info: styles.quiet, warning: styles.look, stop: styles.stopping };
  const sorted = all.toSorted((a, b) => ORDER[a.severity] - ORDER[b.severity]);
  const list = (some: readonly Difference[], name?: string) => (
    <ul className={styles.differences} aria-label={name}>
      {some.map((each) => (
        <li key={each.text} className={severity[each.severity]}>
          {each.text}
          {each.fix !== undefined && <em>This would fix it: {each.fix.label}.</em>}
        </li>
      ))}
    </ul>
  );
  const more = sorted.slice(MAX_SHOWN);
  return (
    <>
      {list(sorted.slice(0, MAX_SHOWN), label)}
      {more.length > 0 && (
        <details>
          <summary>{counted(more.length, 'more difference')}</summary>
          {list(more)}
        </details>
      )}
    </>
  );
}

/** The draft of the new report beside the method. */
function Drafted({ draft, job, files }: { draft: NextDraftView; job: Job; files: readonly [string, string] }) {
  const { agree, of } = draft.totals;
  return (
    <section aria-label="The draft of the new report">
      <h3>
        Or use a new draft: {counted(draft.rows, 'row')} × {counted(draft.columns.length, 'column')}
        {of > 0 && `, ${grouped(agree)} of ${grouped(of)} totals agree`}
      </h3>
      <MethodChanges label="Steps of the draft" changes={draft.changes} job={job} files={files} />
    </section>
  );
}
