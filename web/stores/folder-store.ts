import { useEffect } from 'react';
import { create } from 'zustand';
import { fitsPattern, guessPattern, type Job, type JobSource } from '../../core/index.ts';
import type { FolderView } from './folder-view.ts';
import { loadSource } from './storage.ts';

export type { ArrivedFile, FolderView } from './folder-view.ts';

interface FolderState {
  /** Undefined where this application is served without a drop folder. */
  view: FolderView | undefined;
  /** Whether it has been asked for, and was reported or is not there. */
  isKnown: boolean;
  refresh(): Promise<void>;
}

const LOOK_EVERY_MS = 2500;

/** The drop folder of the server that this application came from. */
export const useFolderStore = create<FolderState>()((set) => ({
  view: undefined,
  isKnown: false,
  async refresh() {
    set({ view: await told().catch(() => undefined), isKnown: true });
  },
}));

/** What the server says; undefined where nobody can read it. @throws Error where it says nothing */
async function told(): Promise<FolderView | undefined> {
  const answer = await fetch('/api/folder');
  if (!answer.ok) throw new Error();
  // What the server says is looked at where there is a folder alone: the first paint waits for nothing of it.
  const [said, { FolderView }] = await Promise.all([answer.json(), import('./folder-view.ts')]);
  return FolderView.safeParse(said).data;
}

/** Keeps looking into the folder while a page shows it. */
export function useFolder(): FolderView | undefined {
  const view = useFolderStore((store) => store.view);
  const refresh = useFolderStore((store) => store.refresh);
  useEffect(() => {
    void refresh();
    const timer = setInterval(() => document.visibilityState === 'visible' && void refresh(), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, [refresh]);
  return view;
}

/** Which files are the next report of a source: as was said, or like the one it read last. */
export function patternOf(source: JobSource): string | undefined {
  return source.pattern ?? (source.file === null ? undefined : guessPattern(source.file.name));
}

/** The job and the source that an arrived file is likely for. */
export function takersOf(name: string, jobs: readonly Job[]): { job: Job; source: JobSource }[] {
  return jobs.flatMap((job) =>
    job.sources.flatMap((source) => {
      const pattern = patternOf(source);
      return pattern !== undefined && fitsPattern(pattern)(name) ? [{ job, source }] : [];
    }),
  );
}

/** @throws Error with what the server says */
async function asked(address: string, init?: RequestInit): Promise<Response> {
  const answer = await fetch(address, init);
  if (answer.ok) return answer;
  const said = (await answer.json().catch(() => ({}))) as { error?: string };
  throw new Error(said.error ?? `The server answered with ${answer.status}.`);
}

/** A file that arrived. @throws Error */
export async function arrivedFile(name: string): Promise<File> {
  const answer = await asked(`/api/arrivals/${encodeURIComponent(name)}`);
  return new File([await answer.blob()], name);
}

/** Says that a file was taken into a job, so that it arrives no longer. @throws Error */
export async function markTaken(name: string, job: string): Promise<void> {
  await asked(`/api/arrivals/${encodeURIComponent(name)}/taken`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ job }),
  });
}

/** Has the server run a job on its own when a file of that name arrives. @throws Error */
export async function letStand(job: Job, source: string, pattern: string): Promise<void> {
  const address = `/api/jobs/${encodeURIComponent(job.id)}`;
  for (const other of job.sources.filter((one) => one.id !== source))
    if ((await loadSource(job.id, other)) === undefined)
      throw new Error(`${other.file?.name ?? other.name} is not in this browser, so the server cannot have it either.`);
  await asked(address, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ job, source, pattern }),
  });
  for (const other of job.sources.filter((one) => one.id !== source)) {
    const bytes = await loadSource(job.id, other);
    await asked(`${address}/sources/${encodeURIComponent(other.id)}`, { method: 'PUT', body: bytes! });
  }
}

/** @throws Error */
export async function letRest(jobId: string): Promise<void> {
  await asked(`/api/jobs/${encodeURIComponent(jobId)}`, { method: 'DELETE' });
}
