/** What is kept in this browser: job documents, and the bytes of their sources. */
import localforage from 'localforage';
import { Job } from '../../core/index.ts';

const jobs = localforage.createInstance({ name: 'rimefield', storeName: 'jobs', driver: localforage.INDEXEDDB });
const runs = localforage.createInstance({ name: 'rimefield', storeName: 'runs', driver: localforage.INDEXEDDB });
const bytes = localforage.createInstance({ name: 'rimefield', storeName: 'sources', driver: localforage.INDEXEDDB });

/** How the last run of a job went. */
export interface RunSummary {
  at: number;
  rows: number;
  unreadable: number;
  /** Why it stopped, if it did. */
  stop?: string;
  /** The files it read, and the rows that the run before it gave, which read others. */
  files?: string;
  previous?: number;
  /** How its tally stood, in words. */
  tally?: { good: boolean; text: string };
}

export interface KeptJob {
  job: Job;
  saved: number;
  run?: RunSummary;
}

const sourceKey = (jobId: string, sourceId: string) => `${jobId}/${sourceId}`;

export async function listJobs(): Promise<KeptJob[]> {
  const found: KeptJob[] = [];
  await jobs.iterate<KeptJob, void>((kept) => {
    if (Job.safeParse(kept?.job).success) found.push(kept);
  });
  for (const kept of found) kept.run = (await runs.getItem<RunSummary>(kept.job.id)) ?? undefined;
  return found.sort((a, b) => b.saved - a.saved);
}

export async function loadJob(id: string): Promise<Job | undefined> {
  const kept = await jobs.getItem<KeptJob>(id);
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
  await jobs.setItem<KeptJob>(job.id, { job, saved: Date.now() });
  tabs?.postMessage(job.id);
}

/** Runs stand apart from jobs, so that keeping one can never write over an edit. */
export async function saveRun(jobId: string, run: RunSummary): Promise<void> {
  await runs.setItem(jobId, run);
}

export async function loadRun(jobId: string): Promise<RunSummary | undefined> {
  return (await runs.getItem<RunSummary>(jobId)) ?? undefined;
}

/** Bytes that are stored here, and how many the browser lets us store, if it says. */
export async function storageRoom(): Promise<{ used: number; most: number } | undefined> {
  const room = await navigator.storage?.estimate?.();
  return room?.usage === undefined || room.quota === undefined ? undefined : { used: room.usage, most: room.quota };
}

/** @throws when the browser refuses to store */
export async function saveSource(jobId: string, sourceId: string, data: Uint8Array): Promise<void> {
  await bytes.setItem(sourceKey(jobId, sourceId), data);
}

export async function loadSource(jobId: string, sourceId: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
  return (await bytes.getItem<Uint8Array<ArrayBuffer>>(sourceKey(jobId, sourceId))) ?? undefined;
}

export async function removeJob(job: Job): Promise<void> {
  await jobs.removeItem(job.id);
  await runs.removeItem(job.id);
  for (const source of job.sources) await bytes.removeItem(sourceKey(job.id, source.id));
}
