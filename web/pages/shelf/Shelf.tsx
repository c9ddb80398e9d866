import DeleteOutline from '@mui/icons-material/DeleteOutlined';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useSnackbar } from 'notistack';
import { type DragEvent, useCallback, useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { asOneFile, droppedFiles, isJobFile, JOB_FILES, pickFile, SOURCE_FILES } from '../../parts/files.ts';
import { Mark } from '../../parts/Mark.tsx';
import { jobFromFile, jobFromJobFile } from '../../stores/job-store.ts';
import { type KeptJob, listJobs, loadSource, removeJob, saveJob, saveSource } from '../../stores/storage.ts';
import { DEMO_JOBS, takeDemo } from './demo-jobs.ts';
import styles from './shelf.module.css';

/** The first page: all jobs kept in this browser, and how to begin a new one. */
export function Shelf() {
  const [jobs, setJobs] = useState<KeptJob[] | undefined>();
  const [trouble, setTrouble] = useState<string | undefined>();
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState<string | undefined>();
  const navigate = useNavigate();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();

  const refresh = useCallback(async () => {
    try {
      setJobs(await listJobs());
    } catch (error) {
      setJobs([]);
      setTrouble(
        `This browser does not let Rimefield keep jobs (${(error as Error).message}). Save each job as a file instead.`,
      );
    }
  }, []);
  useEffect(() => {
    document.title = 'Rimefield';
    void refresh();
  }, [refresh]);

  const begin = async (what: string, make: () => Promise<string>) => {
    setTrouble(undefined);
    setBusy(what);
    try {
      navigate(`/jobs/${await make()}`);
    } catch (error) {
      setTrouble((error as Error).message);
    } finally {
      setBusy(undefined);
    }
  };
  const begun = ({ id, why }: { id: string; why: string }) => {
    enqueueSnackbar(why, { autoHideDuration: 7000 });
    return id;
  };
  const take = (file: File) =>
    begin(`Reading ${file.name}`, async () =>
      (await isJobFile(file)) ? jobFromJobFile(await file.text()) : begun(await jobFromFile(file)),
    );
  const pick = async (accept: string) => {
    const file = await pickFile(accept, accept === SOURCE_FILES);
    if (file !== undefined) await take(file);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void droppedFiles(event.dataTransfer)
      .then(asOneFile)
      .then((file) => (file === undefined ? undefined : take(file)));
  };
  const remove = async ({ job }: KeptJob) => {
    const bytes = new Map<string, Uint8Array>();
    for (const source of job.sources) {
      const data = await loadSource(job.id, source.id);
      if (data !== undefined) bytes.set(source.id, data);
    }
    await removeJob(job);
    await refresh();
    enqueueSnackbar(`${job.name} is removed`, {
      action: (key) => (
        <Button
          color="inherit"
          onClick={async () => {
            closeSnackbar(key);
            await saveJob(job);
            for (const [id, data] of bytes) await saveSource(job.id, id, data);
            await refresh();
          }}
        >
          Undo
        </Button>
      ),
    });
  };

  return (
    <div
      className={`${styles.shelf} ${over ? styles.over : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <header className={styles.top}>
        <Mark size={26} />
        <h1 className={styles.brand}>Rimefield</h1>
        <span className={styles.lead}>Reports in, tidy tables out, every cell accounted for.</span>
      </header>
      <main className={styles.main}>
        <section className={styles.begin} aria-label="Begin">
          <p className={styles.call}>
            Drop a report here, or several at once: workbooks, text of any kind, web pages, archives
          </p>
          <div className={styles.buttons}>
            <Button variant="contained" onClick={() => void pick(SOURCE_FILES)}>
              New job from a file
            </Button>
            <Button variant="outlined" onClick={() => void pick(JOB_FILES)}>
              Open a job file
            </Button>
          </div>
          <p className={styles.quiet}>Files stay in this browser. Nothing is sent anywhere.</p>
          {busy !== undefined && (
            <p className={styles.quiet} role="status">
              {busy} …
            </p>
          )}
          {trouble !== undefined && (
            <p className={styles.trouble} role="alert">
              {trouble}
            </p>
          )}
        </section>
        <section aria-labelledby="kept">
          <h2 id="kept" className={styles.heading}>
            Jobs in this browser
          </h2>
          {jobs !== undefined && jobs.length === 0 && (
            <p className={styles.none}>
              None yet. A job keeps a report, the steps that tidy it, and the table they make.
            </p>
          )}
          <ul className={styles.list}>
            {jobs?.map((kept) => (
              <li key={kept.job.id} className={styles.item}>
                <Link className={styles.link} to={`/jobs/${kept.job.id}`}>
                  {kept.job.name}
                </Link>
                <span className={styles.file}>
                  {kept.job.sources.map((source) => source.file?.name ?? source.name).join(', ')}
                </span>
                <span className={styles.count}>
                  {kept.job.tables.map((table) => `${table.name}, ${table.steps.length} steps`).join('; ')}
                </span>
                <time className={styles.when} dateTime={new Date(kept.saved).toISOString()}>
                  {new Date(kept.saved).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
                </time>
                <IconButton size="small" aria-label={`Remove ${kept.job.name}`} onClick={() => void remove(kept)}>
                  <DeleteOutline fontSize="small" />
                </IconButton>
              </li>
            ))}
          </ul>
        </section>
        <section aria-labelledby="demo">
          <h2 id="demo" className={styles.heading}>
            Demo: Skerrow Ferries, an invented island line
          </h2>
          <ul className={styles.list}>
            {DEMO_JOBS.map((demo) => (
              <li key={demo.name} className={styles.item}>
                <button
                  type="button"
                  className={styles.link}
                  onClick={() => void begin(`Opening ${demo.name}`, () => takeDemo(demo))}
                >
                  {demo.name}
                </button>
                <span className={styles.file}>{demo.file}</span>
                <span className={styles.about}>{demo.about}</span>
              </li>
            ))}
          </ul>
        </section>
      </main>
    </div>
  );
}
