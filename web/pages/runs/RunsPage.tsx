import Button from '@mui/material/Button';
import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Job } from '../../../core/index.ts';
import { JobPage, OpenedJob, TableChoice } from '../../parts/JobPage.tsx';
import { forgetRun, loadHistory, type PastRunKept } from '../../stores/storage.ts';
import { ComparePane } from './ComparePane.tsx';
import { RunList } from './RunList.tsx';
import styles from './runs.module.css';

/** The runs of a job that were kept, and any two of them against each other. */
export function RunsPage() {
  return <OpenedJob page={OpenRuns} />;
}

function OpenRuns({ job }: { job: Job }) {
  const [runs, setRuns] = useState<readonly PastRunKept[] | undefined>();
  const [chosen, setChosen] = useState<{ earlier: number; later: number } | undefined>();
  const [tableId, setTableId] = useState(job.tables[0]!.id);
  const navigate = useNavigate();
  const refresh = useCallback(async () => {
    const found = await loadHistory(job.id).catch(() => []);
    setRuns(found);
    const [later, earlier] = found;
    setChosen(later === undefined || earlier === undefined ? undefined : { earlier: earlier.at, later: later.at });
  }, [job.id]);
  useEffect(() => {
    document.title = `Runs of ${job.name} · Rimefield`;
    void refresh();
  }, [job.name, refresh]);
  const earlier = runs?.find((run) => run.at === chosen?.earlier);
  const later = runs?.find((run) => run.at === chosen?.later);
  return (
    <JobPage
      job={job}
      acts={
        <>
          {job.tables.length > 1 && <TableChoice job={job} chosen={tableId} onChoose={setTableId} />}
          <span className={styles.space} />
          <Button variant="outlined" onClick={() => navigate(`/jobs/${job.id}`, { state: { table: tableId } })}>
            Back to the bench
          </Button>
        </>
      }
    >
      <main className={styles.panes}>
        <RunList
          runs={runs}
          tableId={tableId}
          chosen={chosen}
          onChoose={setChosen}
          onForget={async (at) => {
            await forgetRun(job.id, at);
            await refresh();
          }}
        />
        {earlier !== undefined && later !== undefined ? (
          <ComparePane
            key={`${earlier.at}/${later.at}/${tableId}`}
            jobId={job.id}
            table={job.tables.find((one) => one.id === tableId)!}
            earlier={earlier}
            later={later}
          />
        ) : (
          <section className={styles.pane} aria-label="Comparison">
            <p className={styles.empty}>
              {runs === undefined
                ? 'Opening …'
                : 'Run the job again with another report: then the two runs can be compared here, row against row.'}
            </p>
          </section>
        )}
      </main>
    </JobPage>
  );
}
