import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useEffect, useMemo, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { fullTables, type Job, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { PlacedEntry, TallyView } from '../../engine/protocol.ts';
import { downloadFile, fileName } from '../../parts/files.ts';
import { JobPage, OpenedJob, TableChoice } from '../../parts/JobPage.tsx';
import { lastRowsOf } from '../../stores/storage.ts';
import { tallyState, useTallyStore } from '../../stores/tally-store.ts';
import { ChecksPane } from './ChecksPane.tsx';
import { LedgerPane } from './LedgerPane.tsx';
import { type Lighted, MapPane } from './MapPane.tsx';
import styles from './tally.module.css';

/** The proof that a table is its report. */
export function TallyPage() {
  return <OpenedJob page={OpenTally} />;
}

function OpenTally({ job }: { job: Job }) {
  const from = useLocation().state as { table?: string } | null;
  const [chosen, setChosen] = useState(from?.table);
  const table = job.tables.find((one) => one.id === chosen) ?? job.tables[0]!;
  const navigate = useNavigate();
  const { view, progress, lastRows } = useWorkedOut(job, table);
  const [lighted, setLighted] = useState<Lighted | undefined>();
  const [part, setPart] = useState(0);
  const [dragged, setDragged] = useState<string | undefined>();
  useEffect(() => {
    document.title = `Tally of ${table.name} · Rimefield`;
    setLighted(undefined);
  }, [table.name]);
  const state = view === undefined ? undefined : tallyState(view);
  const toBench = (shown: object) => navigate(`/jobs/${job.id}`, { state: { table: table.id, ...shown } });
  const select = (entry: PlacedEntry | undefined) => {
    setDragged(undefined);
    setLighted(
      entry === undefined
        ? undefined
        : { places: entry.cells, total: entry.place, causes: entry.explanation?.cells ?? [] },
    );
    if (entry === undefined || view === undefined) return;
    const at = view.parts.findIndex((one) => one.source === entry.place.source && one.part === entry.place.part);
    if (at >= 0) setPart(at);
  };
  const proof = async () => {
    const at = `run on ${new Date().toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'short' })}`;
    const asked = { tables: fullTables(job), tableId: table.id, lastRows, offers: false };
    const page = await engineClient().engine.tally.proof(job, asked, at);
    if (page !== undefined) downloadFile(`${fileName(table.name)}-proof.html`, 'text/html', page);
  };
  return (
    <JobPage
      job={job}
      acts={
        <>
          <TableChoice job={job} chosen={table.id} onChoose={setChosen} />
          <span className={styles.space} />
          <Button variant="outlined" onClick={() => toBench({})}>
            Back to the bench
          </Button>
          <Button variant="contained" disabled={view === undefined} onClick={() => void proof()}>
            Download the proof
          </Button>
        </>
      }
    >
      <div className={styles.body}>
        <main className={styles.panes}>
          {view === undefined ? (
            <section className={styles.pane} aria-label="Where every cell went">
              <p className={styles.empty} role="status">
                Counting every cell …
              </p>
              <LinearProgress variant="determinate" value={(progress ?? 0) * 100} aria-label="Calculating the tally" />
            </section>
          ) : (
            <>
              <MapPane
                job={job}
                table={table}
                view={view}
                part={Math.min(part, Math.max(0, view.parts.length - 1))}
                onPart={setPart}
                lighted={lighted}
                onDragged={lighted === undefined ? undefined : setDragged}
                onBench={toBench}
              />
              <LedgerPane job={job} table={table} view={view} onSelect={select} dragged={dragged} onBench={toBench} />
              <ChecksPane table={table} view={view} onBench={toBench} />
            </>
          )}
        </main>
        <footer className={styles.foot}>
          {state !== undefined && (
            <b className={state.good ? styles.good : styles.bad} role="status">
              {state.good ? '✓' : '✗'} {state.text === '' ? 'There is nothing to count.' : state.text}
            </b>
          )}
        </footer>
      </div>
    </JobPage>
  );
}

/** The tally of a table as it stands, worked out again when something it depends on changes. */
function useWorkedOut(
  job: Job,
  table: JobTable,
): { view: TallyView | undefined; progress: number | undefined; lastRows: number | undefined } {
  const view = useTallyStore((store) => (store.tableId === table.id ? store.view : undefined));
  const progress = useTallyStore((store) => store.progress);
  const work = useTallyStore((store) => store.work);
  const [lastRows, setLastRows] = useState<number | undefined>();
  const { tables, sets } = job;
  const full = useMemo(() => fullTables({ tables, sets }), [tables, sets]);
  useEffect(() => {
    let current = true;
    void lastRowsOf(job.id).then(({ [table.id]: rows }) => {
      if (!current) return;
      setLastRows(rows);
      void work({ tables: full, tableId: table.id, lastRows: rows, offers: true }).catch(() => undefined);
    });
    return () => {
      current = false;
    };
  }, [job.id, full, table.id, work]);
  return { view, progress, lastRows };
}
