import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { useLocation, useNavigate, useParams } from 'react-router';
import { fullTables, type Job } from '../../../core/index.ts';
import { droppedFile, isJobFile } from '../../parts/files.ts';
import { OpenedJob } from '../../parts/JobPage.tsx';
import { notifyError } from '../../parts/report-error.ts';
import { usePaste } from '../../parts/use-paste.ts';
import { shownTable, useDraftStore } from '../../stores/draft-store.ts';
import { arrivedFile } from '../../stores/folder-store.ts';
import { jobFromFile, jobFromJobFile, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { CombineDialog } from './combine/CombineDialog.tsx';
import { DropDialog, type Dropped } from './combine/DropDialog.tsx';
import { KeysSheet } from './KeysSheet.tsx';
import { ManyFilesDialog } from './ManyFilesDialog.tsx';
import { MethodPage, shownStep } from './MethodPage.tsx';
import { NextReportDialog } from './NextReportDialog.tsx';
import { ReceivedPage } from './ReceivedPage.tsx';
import { StatusBar } from './StatusBar.tsx';
import { TidyPage } from './TidyPage.tsx';
import { TopBar } from './TopBar.tsx';
import { useBenchKeys } from './use-bench-keys.ts';
import { useTally } from './use-tally.ts';

/** What another page leads to: a table, one of its steps, a cell of its report or of itself. */
interface Shown {
  table?: string;
  step?: number;
  report?: { part: number; row: number; column: number };
  cell?: { row: number; column: number };
  /** A file that is to be run: one that was given, or of the drop folder by its name. */
  arrival?: { file: File | string; source: string };
}

const PANELS = ['received', 'method', 'tidy'];

/** The page where a table is made: As received, Method, Tidy side by side. */
export function Bench() {
  const { jobId = '' } = useParams();
  // Another page leads to a table, or to one of its steps.
  const shown = useRef(useLocation().state as Shown | null);
  useLayoutEffect(() => {
    if (jobId === '') return;
    const { table, step, report, cell } = shown.current ?? {};
    const { showTable, goTo, select } = useViewStore.getState();
    showTable(table, { step });
    if (report !== undefined) goTo({ on: 'report', ...report });
    if (cell === undefined) return;
    select({ of: 'cell', ...cell });
    goTo({ on: 'table', ...cell });
  }, [jobId]);
  return <OpenedJob page={OpenBench} />;
}

/** Looks at the file that led here, once: not again when the page is loaded again. */
function useArrival(): void {
  const arrival = (useLocation().state as Shown | null)?.arrival;
  const navigate = useNavigate();
  useEffect(() => {
    if (arrival === undefined) return;
    navigate('.', { replace: true, state: null });
    const { file, source } = arrival;
    const ask = useViewStore.getState().ask;
    if (typeof file !== 'string') ask({ as: 'next report', source, file });
    else
      void arrivedFile(file)
        .then((arrived) => ask({ as: 'next report', source, file: arrived, arrived: true }))
        .catch(notifyError);
  }, [arrival, navigate]);
}

function OpenBench({ job }: { job: Job }) {
  useArrival();
  const missing = useJobStore((store) => store.missing);
  const chosen = useViewStore((store) => store.table);
  const table = job.tables.find((one) => one.id === chosen) ?? job.tables[0]!;
  const current = useDraftStore((store) => store.current);
  // Everything shows the table with its draft; the job itself has no part of it until it is kept.
  const shown = useMemo(() => shownTable(table, current), [table, current]);
  const execute = useMethodStore((store) => store.execute);
  const layout = useDefaultLayout({ id: 'bench-pages', panelIds: PANELS, storage: localStorage });
  const navigate = useNavigate();

  useEffect(() => {
    document.title = `${job.name} · Rimefield`;
  }, [job.name]);
  const { sets } = job;
  const tables = useMemo(() => job.tables.map((one) => (one === table ? shown : one)), [job.tables, table, shown]);
  const files = job.sources.map((source) => source.file?.sha256).join();
  useEffect(() => {
    void execute(fullTables({ tables, sets }), table.id);
  }, [tables, sets, table.id, execute, files, missing]);

  const sourceMissing = missing[String(table.steps[0]?.params['source'])] !== undefined;
  const follow = useDraftStore((store) => store.syncWithTable);
  useEffect(() => follow(job, table, sourceMissing), [follow, job, table, sourceMissing]);

  useTally(job, tables, table.id, shown !== table);

  const [keys, setKeys] = useState(false);
  const showKeys = useCallback(() => setKeys(true), []);
  const chosenStep = useViewStore((store) => store.step);
  const view = useMethodStore((store) => store.view);
  useBenchKeys({ tableId: table.id, step: shownStep(chosenStep, view) }, showKeys);

  const [dropped, setDropped] = useState<File | undefined>();
  const drop = useCallback(
    async (file: File) => {
      try {
        const gone = job.sources.find((source) => missing[source.id] !== undefined);
        if (gone !== undefined) await useJobStore.getState().giveSource(gone.id, file);
        else if (await isJobFile(file)) navigate(`/jobs/${await jobFromJobFile(await file.text())}`);
        else setDropped(file);
      } catch (error) {
        notifyError(error);
      }
    },
    [job.sources, missing, navigate],
  );

  usePaste((file) => void drop(file));

  const take = async (what: Dropped) => {
    const file = dropped!;
    setDropped(undefined);
    try {
      if (what.as === 'again') useViewStore.getState().ask({ as: 'next report', source: what.source, file });
      else if (what.as === 'each')
        useViewStore.getState().ask({ as: 'many files', job, table: table.id, source: what.source, file });
      else if (what.as === 'source') {
        useViewStore.getState().showTable(await useJobStore.getState().addSource(file));
      } else {
        const begun = await jobFromFile(file);
        useDraftStore.getState().prefetch(begun);
        navigate(`/jobs/${begun.id}`);
      }
    } catch (error) {
      notifyError(error);
    }
  };
  return (
    <div
      className={styles.bench}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void droppedFile(event.dataTransfer).then((file) => (file === undefined ? undefined : drop(file)));
      }}
    >
      <TopBar table={table} />
      <main className={styles.pages}>
        <Group orientation="horizontal" defaultLayout={layout.defaultLayout} onLayoutChanged={layout.onLayoutChanged}>
          <Panel
            id="received"
            className={styles.panel}
            defaultSize="33%"
            minSize="120px"
            collapsible
            collapsedSize="34px"
          >
            <ReceivedPage table={shown} />
          </Panel>
          <Separator className={styles.separator} aria-label="Width of As received" />
          <Panel id="method" className={styles.panel} defaultSize="25.5%" minSize="240px" maxSize="560px">
            <MethodPage table={shown} />
          </Panel>
          <Separator className={styles.separator} aria-label="Width of Method" />
          <Panel id="tidy" className={styles.panel} minSize="240px">
            <TidyPage table={shown} />
          </Panel>
        </Group>
      </main>
      <StatusBar onKeys={showKeys} jobId={job.id} tableId={table.id} />
      <CombineDialog table={shown} step={shownStep(chosenStep, view)} />
      <NextReportDialog job={job} />
      <ManyFilesDialog table={table} />
      <DropDialog file={dropped} job={job} onChoose={(what) => void take(what)} onClose={() => setDropped(undefined)} />
      <KeysSheet open={keys} onClose={() => setKeys(false)} />
    </div>
  );
}
