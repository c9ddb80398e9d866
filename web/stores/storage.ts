/** What is kept in this browser: job documents, and the bytes of their sources. */
import localforage from 'localforage';
import { Job } from '../../core/index.ts';

const jobs = localforage.createInstance({ name: 'rimefield', storeName: 'jobs', driver: localforage.INDEXEDDB });
const bytes = localforage.createInstance({ name: 'rimefield', storeName: 'sources', driver: localforage.INDEXEDDB });

export interface KeptJob {
  job: Job;
  saved: number;
}

const sourceKey = (jobId: string, sourceId: string) => `${jobId}/${sourceId}`;

export async function listJobs(): Promise<KeptJob[]> {
  const found: KeptJob[] = [];
  await jobs.iterate<KeptJob, void>((kept) => {
    if (Job.safeParse(kept?.job).success) found.push(kept);
  });
  return found.sort((a, b) => b.saved - a.saved);
}

export async function loadJob(id: string): Promise<Job | undefined> {
  const kept = await jobs.getItem<KeptJob>(id);
  const parsed = Job.safeParse(kept?.job);
  return parsed.success ? parsed.data : undefined;
}

/** @throws when the browser refuses to store */
export async function saveJob(job: Job): Promise<void> {
  await jobs.setItem<KeptJob>(job.id, { job, saved: Date.now() });
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
  for (const source of job.sources) await bytes.removeItem(sourceKey(job.id, source.id));
}
