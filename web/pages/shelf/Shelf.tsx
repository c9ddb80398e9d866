import ContentCopy from '@mui/icons-material/ContentCopy';
import DeleteOutline from '@mui/icons-material/DeleteOutlined';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { type DragEvent, useCallback, useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { grouped, type Job, knownSources, sizeText } from '../../../core/index.ts';
import { warmUp } from '../../engine/client.ts';
import { droppedFile, isJobFile, JOB_FILES, pickFile, SOURCE_FILES } from '../../parts/files.ts';
import { Mark } from '../../parts/Mark.tsx';
import { NameInput } from '../../parts/NameInput.tsx';
import { notify } from '../../parts/notify.ts';
import { usePaste } from '../../parts/use-paste.ts';
import { arrivedFile, markTaken, useFolder, useFolderStore } from '../../stores/folder-store.ts';
import {
  jobFromFile,
  jobFromJobFile,
  jobOf,
  type LookedAt,
  letGoLookedAt,
  lookAt,
  useJobStore,
} from '../../stores/job-store.ts';
import {
  type KeptJob,
  listJobs,
  loadSource,
  type RunSummary,
  removeJob,
  saveFile,
  saveJob,
  storageRoom,
} from '../../stores/storage.ts';
import { Arrivals } from './Arrivals.tsx';
import { DEMO_JOBS, demoReport, takeDemo } from './demo-jobs.ts';
import { Recognition } from './Recognition.tsx';
import styles from './shelf.module.css';

const IDLE_MS = 300;
/** What is not known by then is shown when it is, and moves what stands below it. */
const SETTLED_MS = 3000;

/** The first page: all jobs kept in this browser, and how to begin a new one. */
export function Shelf() {
  const [jobs, setJobs] = useState<KeptJob[] | undefined>();
  const [sought, setSought] = useState('');
  const [room, setRoom] = useState<{ used: number; most: number } | undefined>();
  const [trouble, setTrouble] = useState<string | undefined>();
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState<string | undefined>();
  const [looked, setLooked] = useState<LookedAt | undefined>();
  const navigate = useNavigate();

  const folder = useFolder();
  const isFolderKnown = useFolderStore((store) => store.isKnown);
  const isSettled = useSettled(isFolderKnown && jobs !== undefined);

  const refresh = useCallback(async () => {
    try {
      await useJobStore.getState().settle();
      setJobs(await listJobs());
      setRoom(await storageRoom());
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
    // What the next file wants is made ready while nobody waits.
    const timer = setTimeout(() => {
      warmUp();
      void import('../bench/Bench.tsx');
    }, IDLE_MS);
    return () => clearTimeout(timer);
  }, [refresh]);

  /** Goes to the job that is made, if one is. */
  const begin = async (what: string, make: () => Promise<string | undefined>) => {
    setTrouble(undefined);
    setBusy(what);
    try {
      const id = await make();
      if (id !== undefined) navigate(`/jobs/${id}`);
    } catch (error) {
      setTrouble((error as Error).message);
    } finally {
      setBusy(undefined);
    }
  };
  /** Drafting begins while the bench is on its way. */
  const begun = (job: Job) => {
    // It comes with the bench, which is made ready while nobody waits.
    void import('../../stores/draft-store.ts').then(({ useDraftStore }) => useDraftStore.getState().prefetch(job));
    return job.id;
  };
  const take = async (file: File) => {
    leave();
    const isJob = await isJobFile(file);
    if (isJob) return begin(`Reading ${file.name}`, async () => jobFromJobFile(await file.text()));
    return begin(`Reading ${file.name}`, async () => {
      // A job that was kept a moment ago is known too.
      const known = (await listJobs().catch(() => [])).flatMap((kept) => knownSources(kept.job));
      const found = await lookAt(file, known);
      if (found.matches.length === 0) return begun(await jobOf(found));
      setLooked(found);
      return undefined;
    });
  };
  const leave = () => {
    if (looked !== undefined) letGoLookedAt(looked);
    setLooked(undefined);
  };
  usePaste((file) => void take(file));
  const pick = async (accept: string) => {
    const file = await pickFile(accept, accept === SOURCE_FILES);
    if (file !== undefined) await take(file);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void droppedFile(event.dataTransfer).then((file) => (file === undefined ? undefined : take(file)));
  };
  const rename = async (kept: KeptJob, name: string) => {
    await saveJob({ ...kept.job, name });
    await refresh();
  };
  const bytesOf = async (job: KeptJob['job']) => {
    const bytes = new Map<string, Uint8Array>();
    for (const source of job.sources) {
      const data = await loadSource(job.id, source);
      if (data !== undefined && source.file !== null) bytes.set(source.file.sha256, data);
    }
    return bytes;
  };
  const duplicate = async ({ job }: KeptJob) => {
    const copy = { ...job, id: crypto.randomUUID(), name: `${job.name}, copy` };
    try {
      await saveJob(copy);
      for (const [sha256, data] of await bytesOf(job)) await saveFile(copy.id, sha256, data);
    } catch (error) {
      setTrouble(
        `The copy could not be stored (${(error as Error).message}). Remove jobs that are no longer needed, or save them as files first.`,
      );
    }
    await refresh();
  };
  const remove = async ({ job }: KeptJob) => {
    const bytes = await bytesOf(job);
    useJobStore.getState().forget(job.id);
    await removeJob(job);
    await refresh();
    notify({
      text: `${job.name} is removed`,
      act: {
        label: 'Undo',
        run: async () => {
          await saveJob(job);
          for (const [sha256, data] of bytes) await saveFile(job.id, sha256, data);
          await refresh();
        },
      },
    });
  };

  const wanted = sought.trim().toLowerCase();
  const shown = jobs?.filter(({ job }) =>
    [job.name, ...job.sources.map((source) => source.file?.name ?? source.name)].some((text) =>
      text.toLowerCase().includes(wanted),
    ),
  );

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
        {looked !== undefined && (
          <Recognition
            key={looked.sourceId}
            looked={looked}
            jobs={jobs ?? []}
            onRun={({ job, source }) => {
              letGoLookedAt(looked);
              navigate(`/jobs/${job}`, { state: { arrival: { file: looked.file, source } } });
            }}
            onBegin={() => {
              setLooked(undefined);
              void begin(`Reading ${looked.file.name}`, async () => begun(await jobOf(looked)));
            }}
            onLeave={leave}
          />
        )}
        <section className={styles.begin} aria-label="Begin">
          <p className={styles.call}>
            Drop a report here, or several at once: workbooks, PDFs, text of any kind, web pages, archives. Or paste
            cells
          </p>
          <div className={styles.buttons}>
            <Button variant={looked === undefined ? 'contained' : 'outlined'} onClick={() => void pick(SOURCE_FILES)}>
              New job from a file
            </Button>
            <Button variant="outlined" onClick={() => void pick(JOB_FILES)}>
              Open a job file
            </Button>
          </div>
          <p className={styles.quiet}>
            Files stay in this browser. Only jobs set to run automatically are sent to your Rimefield server.
          </p>
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
        {isSettled && (
          <>
            {folder !== undefined && (
              <Arrivals
                view={folder}
                jobs={jobs?.map((kept) => kept.job) ?? []}
                onRun={(file, job, source) => navigate(`/jobs/${job.id}`, { state: { arrival: { file, source } } })}
                onBegin={(file) =>
                  void begin(`Reading ${file}`, async () => {
                    const begunJob = await jobFromFile(await arrivedFile(file));
                    await markTaken(file, 'a new job');
                    return begun(begunJob);
                  })
                }
              />
            )}
            <section aria-labelledby="kept">
              <h2 id="kept" className={styles.heading}>
                Jobs in this browser
                {room !== undefined && (
                  <span className={styles.room}>
                    {sizeText(room.used)} stored, room for {sizeText(room.most - room.used)}
                  </span>
                )}
              </h2>
              {jobs !== undefined && jobs.length === 0 && (
                <p className={styles.none}>
                  None yet. A job keeps a report, the steps that tidy it, and the table they make.
                </p>
              )}
              {jobs !== undefined && jobs.length > 4 && (
                <input
                  className={styles.search}
                  type="search"
                  aria-label="Search jobs"
                  placeholder="Search by name or file"
                  value={sought}
                  onChange={(event) => setSought(event.target.value)}
                />
              )}
              {shown?.length === 0 && jobs !== undefined && jobs.length > 0 && (
                <p className={styles.none}>No job matches {sought}.</p>
              )}
              <ul className={styles.list}>
                {shown?.map((kept) => (
                  <li key={kept.job.id} className={styles.item}>
                    <JobName kept={kept} onRename={(name) => void rename(kept, name)} />
                    <span className={styles.file}>
                      {kept.job.sources.map((source) => source.file?.name ?? source.name).join(', ')}
                    </span>
                    <span className={styles.count}>
                      {kept.job.tables.map((table) => `${table.name}, ${table.steps.length} steps`).join('; ')}
                      <RunState run={kept.run} />
                    </span>
                    <time className={styles.when} dateTime={new Date(kept.saved).toISOString()}>
                      {new Date(kept.saved).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
                    </time>
                    <span className={styles.acts}>
                      <IconButton
                        size="small"
                        aria-label={`Duplicate ${kept.job.name}`}
                        title="Duplicate"
                        onClick={() => void duplicate(kept)}
                      >
                        <ContentCopy fontSize="inherit" />
                      </IconButton>
                      <IconButton
                        size="small"
                        aria-label={`Remove ${kept.job.name}`}
                        title="Remove"
                        onClick={() => void remove(kept)}
                      >
                        <DeleteOutline fontSize="small" />
                      </IconButton>
                    </span>
                  </li>
                ))}
              </ul>
            </section>
            <section aria-labelledby="demo">
              <h2 id="demo" className={styles.heading}>
                Demo: Skerrow Ferries, an invented island line
                <span className={styles.room}>a job opens finished, a report opens as it came</span>
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
                    <span className={styles.file}>
                      <button
                        type="button"
                        className={styles.report}
                        title="Start with the report only; Rimefield drafts the method"
                        aria-label={`Begin with ${demo.file} alone`}
                        onClick={() =>
                          void begin(`Reading ${demo.file}`, async () =>
                            begun(await jobFromFile(await demoReport(demo))),
                          )
                        }
                      >
                        {demo.file}
                      </button>
                    </span>
                    <span className={styles.about}>{demo.about}</span>
                  </li>
                ))}
              </ul>
            </section>
          </>
        )}
      </main>
    </div>
  );
}

/** Whether the page can be shown whole, so that nothing moves away from under a pointer that is about to click. */
function useSettled(isKnown: boolean): boolean {
  const [isFontKnown, setFontKnown] = useState(false);
  const [isLate, setLate] = useState(false);
  useEffect(() => {
    // Lines break elsewhere in another font.
    void document.fonts.ready.then(() => setFontKnown(true));
    const timer = setTimeout(() => setLate(true), SETTLED_MS);
    return () => clearTimeout(timer);
  }, []);
  return isLate || (isKnown && isFontKnown);
}

/** How the last run went. */
function RunState({ run }: { run: RunSummary | undefined }) {
  if (run === undefined) return null;
  if (run.stop !== undefined) return <b className={styles.wrong}> · stopped: {run.stop}</b>;
  return (
    <span>
      {` · ${grouped(run.rows)} rows`}
      {run.unreadable > 0 && <b className={styles.wrong}>, {grouped(run.unreadable)} unreadable</b>}
      {run.tally !== undefined && run.tally.text !== '' && (
        <span className={run.tally.good ? styles.agrees : styles.wrong}>
          {' '}
          · {run.tally.good ? '✓' : '✗'} {run.tally.text}
        </span>
      )}
    </span>
  );
}

/** The way to a job; Press F2 or right-click to rename. */
function JobName({ kept, onRename }: { kept: KeptJob; onRename(name: string): void }) {
  const [naming, setNaming] = useState(false);
  const { job } = kept;
  if (!naming) {
    return (
      <Link
        className={styles.link}
        to={`/jobs/${job.id}`}
        title="Press F2 or right-click to rename"
        onKeyDown={(event) => event.key === 'F2' && setNaming(true)}
        onContextMenu={(event) => {
          event.preventDefault();
          setNaming(true);
        }}
      >
        {job.name}
      </Link>
    );
  }
  return (
    <NameInput
      className={styles.search}
      label={`New name of ${job.name}`}
      text={job.name}
      onDone={(name) => {
        setNaming(false);
        if (name !== '' && name !== job.name) onRename(name);
      }}
    />
  );
}
