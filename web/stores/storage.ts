/** What is kept in this browser: job documents, and the bytes of their sources. */
import type { Job, JobSource } from '../../core/index.ts';

// Comes beside the first page, which is drawn meanwhile.
const library = import('localforage');

function openStore(storeName: string) {
  const opened = library.then(({ default: localforage }) =>
    localforage.createInstance({ name: 'rimefield', storeName, driver: localforage.INDEXEDDB }),
  );
  return {
    get: async <T>(key: string) => (await opened).getItem<T>(key),
    set: async (key: string, value: unknown) => (await opened).setItem(key, value),
    remove: async (key: string) => (await opened).removeItem(key),
    keys: async () => (await opened).keys(),
    each: async <T>(seen: (value: T, key: string) => void) =>
      (await opened).iterate<T, void>((value, key) => void seen(value, key)),
  };
}

const jobs = openStore('jobs');
const runs = openStore('runs');
const history = openStore('history');
const places = openStore('places');
const bytes = openStore('sources');

/** How the last run of a job went. */
export interface RunSummary {
  at: number;
  rows: number;
  unreadable: number;
  /** Why it stopped, if it did. */
  stop?: string;
  /** What was run on what, by its SHA-256. */
  of?: string;
  /** Of each table, by its id, when it was last run. */
  ofTable?: Record<string, TableRows>;
  /** How its tally stood, in words. */
  tally?: { good: boolean; text: string };
}

/** The files that a table's last run read, its rows, and the rows of the run before, which read other files. */
export interface TableRows {
  files: string;
  rows: number;
  previous?: number;
}

export interface KeptJob {
  job: Job;
  saved: number;
  run?: RunSummary;
}

/** Files are known by what stands in them, so that those of earlier runs stay and none is stored twice. */
const fileKey = (jobId: string, sha256: string) => `${jobId}/${sha256}`;

/** A run that was kept: the job as it was, which names its files. Run again, it gives the same tables. */
export interface PastRunKept {
  at: number;
  job: Job;
  /** How its tables came out, by table. */
  tables: Record<string, TableOutcome>;
}

export interface TableOutcome {
  rows: number;
  unreadable: number;
  stop?: string;
  tally?: { good: boolean; text: string };
}

/** So many runs of a job are kept. */
const MAX_RUNS = 24;

export async function listJobs(): Promise<KeptJob[]> {
  const found: KeptJob[] = [];
  await jobs.each<KeptJob>((kept) => {
    if (isJob(kept?.job)) found.push(kept);
  });
  for (const kept of found) kept.run = (await runs.get<RunSummary>(kept.job.id)) ?? undefined;
  return found.sort((a, b) => b.saved - a.saved);
}

/** Enough of a job to stand in a list; it is looked at as a whole when it is opened. */
function isJob(found: Partial<Job> | undefined): boolean {
  return (
    found?.rimefield === 'job' &&
    typeof found.name === 'string' &&
    Array.isArray(found.sources) &&
    Array.isArray(found.tables)
  );
}

export async function loadJob(id: string): Promise<Job | undefined> {
  const kept = await jobs.get<KeptJob>(id);
  const { Job } = await import('./read-job-file.ts');
  const parsed = Job.safeParse(kept?.job);
  return parsed.success ? parsed.data : undefined;
}

const tabs = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('rimefield-jobs');

/** Calls when another tab of this browser has kept a job. */
export function onKeptElsewhere(heard: (jobId: string) => void): void {
  tabs?.addEventListener('message', (event: MessageEvent<string>) => heard(event.data));
}

/** @throws when the browser refuses to store */
export async function saveJob(job: Job): Promise<void> {
  await jobs.set(job.id, { job, saved: Date.now() });
  tabs?.postMessage(job.id);
}

/** Runs stand apart from jobs, so that keeping one can never write over an edit. */
export async function saveRun(jobId: string, run: RunSummary): Promise<void> {
  await runs.set(jobId, run);
}

export async function loadRun(jobId: string): Promise<RunSummary | undefined> {
  return (await runs.get<RunSummary>(jobId)) ?? undefined;
}

/** Rows that each table of a job gave the last time with other files, by the table's id. */
export async function lastRowsOf(jobId: string): Promise<Record<string, number>> {
  const run = await loadRun(jobId);
  return Object.fromEntries(
    Object.entries(run?.ofTable ?? {}).flatMap(([id, { previous }]) =>
      previous === undefined ? [] : [[id, previous]],
    ),
  );
}

/** Bytes that are stored here, and how many the browser lets us store, if it says. */
export async function storageRoom(): Promise<{ used: number; most: number } | undefined> {
  const room = await navigator.storage?.estimate?.();
  return room?.usage === undefined || room.quota === undefined ? undefined : { used: room.usage, most: room.quota };
}

/** The runs of a job that were kept, newest first. */
export async function loadHistory(jobId: string): Promise<PastRunKept[]> {
  return (await history.get<PastRunKept[]>(jobId)) ?? [];
}

/** Keeps how a table of the job came out. The same files are the same run, as its method gave it last. */
export async function keepInHistory(job: Job, tableId: string, outcome: TableOutcome): Promise<void> {
  const runs = await loadHistory(job.id);
  const files = filesOf(job).join();
  const same = runs.find((run) => filesOf(run.job).join() === files);
  // Runs are distinguished by their time.
  const at = Math.max(Date.now(), (runs[0]?.at ?? 0) + 1);
  const run = { at, job, tables: { ...same?.tables, [tableId]: outcome } };
  await history.set(job.id, [run, ...runs.filter((one) => one !== same)].slice(0, MAX_RUNS));
}

/** Takes a run out of the history. Its files go when the job is opened the next time. */
export async function forgetRun(jobId: string, at: number): Promise<void> {
  const runs = await loadHistory(jobId);
  await history.set(
    jobId,
    runs.filter((run) => run.at !== at),
  );
}

function filesOf(job: Job): string[] {
  return job.sources.flatMap((source) => source.file?.sha256 ?? []);
}

/** Removes files of a job that neither it nor any of its runs names. */
export async function removeUnusedFiles(job: Job): Promise<void> {
  const runs = await loadHistory(job.id);
  const used = new Set([job, ...runs.map((run) => run.job)].flatMap(filesOf).map((sha) => fileKey(job.id, sha)));
  const old = new Set(job.sources.map((source) => `${job.id}/${source.id}`));
  for (const key of await bytes.keys())
    if (key.startsWith(`${job.id}/`) && !used.has(key) && !old.has(key)) await bytes.remove(key);
}

/** Why the browser refused to store, as the end of a sentence. Browsers often give an error without a message. */
export function storeFailure(error: unknown): string {
  const { name, message } = error as Error;
  if (name === 'QuotaExceededError' || /quota|disk|space/i.test(message)) return 'its storage is full';
  return message.replace(/\.$/, '') || name;
}

interface AtHand {
  data: Uint8Array | Blob;
  done: Promise<void>;
  /** Why it was refused. */
  why?: string;
}

/** Files that are being stored, and those that were refused: while the page lives they are here all the same. */
const atHand = new Map<string, AtHand>();

/**
 * Stores a file. Given as a Blob, its bytes go into the store without passing through the page.
 * @throws when the browser refuses to store
 */
export async function saveFile(jobId: string, sha256: string, data: Uint8Array | Blob): Promise<void> {
  const key = fileKey(jobId, sha256);
  const done = bytes.set(key, data).then(() => undefined);
  const one: AtHand = { data, done };
  atHand.set(key, one);
  try {
    await done;
    if (atHand.get(key) === one) atHand.delete(key);
  } catch (error) {
    one.why = storeFailure(error);
    throw error;
  }
}

/** Why a file of the job is not stored, if the browser refused one. */
export function whyUnstored(jobId: string): string | undefined {
  return [...atHand].find(([key, { why }]) => why !== undefined && key.startsWith(`${jobId}/`))?.[1].why;
}

/** Whether files of the job are still on their way into the store. */
export function isStoring(jobId: string): boolean {
  return [...atHand].some(([key, { why }]) => why === undefined && key.startsWith(`${jobId}/`));
}

/** Waits until all files of the job are stored or refused. */
export async function filesSettled(jobId: string): Promise<void> {
  const own = [...atHand].filter(([key]) => key.startsWith(`${jobId}/`));
  await Promise.allSettled(own.map(([, { done }]) => done));
}

/** The bytes of the file that a source read last. */
export async function loadSource(jobId: string, source: JobSource): Promise<Uint8Array<ArrayBuffer> | undefined> {
  const here = source.file === null ? undefined : atHand.get(fileKey(jobId, source.file.sha256));
  if (here !== undefined) return (await bytesOf(here.data)).slice();
  const own = source.file === null ? null : await bytes.get<Stored>(fileKey(jobId, source.file.sha256));
  // Jobs that were kept before files were known by what stands in them.
  const found = own ?? (await bytes.get<Stored>(`${jobId}/${source.id}`));
  return found === null ? undefined : bytesOf(found);
}

type Stored = Uint8Array | Blob;

async function bytesOf(data: Stored): Promise<Uint8Array<ArrayBuffer>> {
  return data instanceof Blob ? new Uint8Array(await data.arrayBuffer()) : (data as Uint8Array<ArrayBuffer>);
}

/** Where a source finds its next report: in a folder by its name, in a file that is written again, or in all files of a folder. */
export type KeptPlace =
  | { as: 'folder' | 'all of a folder'; handle: FileSystemDirectoryHandle }
  | { as: 'file'; handle: FileSystemFileHandle };

/** What the sources of a job keep in sight, by source. */
export async function loadPlaces(jobId: string): Promise<Record<string, KeptPlace>> {
  const found: Record<string, KeptPlace> = {};
  await places.each<KeptPlace>((place, key) => {
    if (key.startsWith(`${jobId}/`)) found[key.slice(jobId.length + 1)] = place;
  });
  return found;
}

export async function savePlace(jobId: string, source: string, place: KeptPlace): Promise<void> {
  await places.set(`${jobId}/${source}`, place);
}

export async function removePlace(jobId: string, source: string): Promise<void> {
  await places.remove(`${jobId}/${source}`);
}

export async function removeJob(job: Job): Promise<void> {
  await filesSettled(job.id);
  for (const key of atHand.keys()) if (key.startsWith(`${job.id}/`)) atHand.delete(key);
  await jobs.remove(job.id);
  await runs.remove(job.id);
  await history.remove(job.id);
  for (const store of [bytes, places])
    for (const key of await store.keys()) if (key.startsWith(`${job.id}/`)) await store.remove(key);
}
