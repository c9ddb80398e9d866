/** Files and folders that a source keeps in sight, so that the next report is found without asking for it. */
import { create } from 'zustand';
import { fitsPattern, type Job, type JobSource, orderOfNames } from '../../core/index.ts';
import { sha256Of } from '../engine/digest.ts';
import { bytesOf, filesAsOne } from '../parts/files.ts';
import { patternOf } from './folder-store.ts';
import * as storage from './storage.ts';

/** A report that was found there. */
export interface FoundReport {
  name: string;
  /** Told where it is not the name that is new. */
  note?: string;
  read(): Promise<File>;
}

/** What was found for a source, the likeliest first. */
export interface FoundReports {
  source: string;
  files: readonly FoundReport[];
}

interface WatchState {
  /** What sources of the open job keep in sight, by source. */
  places: Readonly<Record<string, storage.KeptPlace>>;
  /** What has come since the last file was read, as far as it may be looked at without asking. */
  come: FoundReports | undefined;
  open(jobId: string): Promise<void>;
  /** Has a source keep a file or a folder in sight. */
  keep(jobId: string, source: string, place: storage.KeptPlace): Promise<void>;
  drop(jobId: string, source: string): Promise<void>;
  /** Looks without asking for anything. */
  glance(job: Job): Promise<void>;
}

/** Whether this browser lets a page keep files and folders. */
export const canKeepPlaces = () => window.showDirectoryPicker !== undefined && window.showOpenFilePicker !== undefined;

let opened = '';

export const useWatchStore = create<WatchState>()((set, get) => ({
  places: {},
  come: undefined,
  async open(jobId) {
    opened = jobId;
    set({ places: {}, come: undefined });
    const places = canKeepPlaces() ? await storage.loadPlaces(jobId) : {};
    if (opened === jobId) set({ places });
  },
  async keep(jobId, source, place) {
    await storage.savePlace(jobId, source, place);
    if (opened === jobId) set({ places: { ...get().places, [source]: place }, come: undefined });
  },
  async drop(jobId, source) {
    await storage.removePlace(jobId, source);
    const { [source]: _, ...places } = get().places;
    if (opened === jobId) set({ places, come: undefined });
  },
  async glance(job) {
    const { places } = get();
    // What cannot be looked at now is reported when it is asked for.
    const come = await firstSighted(job, places, false).catch(() => undefined);
    if (opened === job.id && get().places === places) set({ come });
  },
}));

/**
 * Looks for the next report of a job's sources, and asks to be allowed to where that is needed.
 * @returns undefined where there is none
 * @throws Error that says what could not be looked at
 */
export function lookForNext(job: Job): Promise<FoundReports | undefined> {
  return firstSighted(job, useWatchStore.getState().places, true);
}

async function firstSighted(
  job: Job,
  places: WatchState['places'],
  mayAsk: boolean,
): Promise<FoundReports | undefined> {
  for (const source of job.sources) {
    const place = places[source.id];
    if (place === undefined || !(await isAllowed(place.handle, mayAsk))) continue;
    const files = await sightedIn(place, source);
    if (files.length > 0) return { source: source.id, files };
  }
  return undefined;
}

/** Whether it may be read. @throws Error when it was asked for and refused */
async function isAllowed(handle: FileSystemHandle, mayAsk: boolean): Promise<boolean> {
  const mode = { mode: 'read' } as const;
  if (((await handle.queryPermission?.(mode)) ?? 'granted') === 'granted') return true;
  if (!mayAsk) return false;
  if ((await handle.requestPermission?.(mode)) === 'granted') return true;
  throw new Error(`${handle.name} may not be looked at: allow it when the browser asks, or choose the file yourself.`);
}

/**
 * Reports in a place that a source has not read yet: what follows the one that it read last, the next one first, then
 * that one itself where it has changed.
 * @throws Error when the place is gone
 */
export async function sightedIn(place: storage.KeptPlace, source: JobSource): Promise<FoundReport[]> {
  try {
    if (place.as === 'folder') return await nextInFolder(place.handle, source);
    const file =
      place.as === 'file'
        ? await place.handle.getFile()
        : await filesAsOne(await filesIn(place.handle), place.handle.name);
    if (file === undefined || !(await isOther(file, source))) return [];
    return [
      { name: file.name, ...(file.name === source.file?.name ? { note: 'changed' } : {}), read: async () => file },
    ];
  } catch (error) {
    if ((error as Error).name !== 'NotFoundError') throw error;
    throw new Error(`${place.handle.name} is not where it was. Choose it again under 'Watch a folder'.`);
  }
}

async function nextInFolder(folder: FileSystemDirectoryHandle, source: JobSource): Promise<FoundReport[]> {
  const fits = fitsPattern(patternOf(source) ?? '*');
  const last = source.file?.name;
  const found: FileSystemFileHandle[] = [];
  let same: FileSystemFileHandle | undefined;
  for await (const handle of folder.values()) {
    if (!isFile(handle) || handle.name.startsWith('.') || !fits(handle.name)) continue;
    if (handle.name === last) same = handle;
    else if (last === undefined || orderOfNames(handle.name, last) > 0) found.push(handle);
  }
  found.sort((a, b) => orderOfNames(a.name, b.name));
  const files: FoundReport[] = found.map((handle) => ({ name: handle.name, read: () => handle.getFile() }));
  if (same !== undefined && (await isOther(await same.getFile(), source)))
    files.push({ name: same.name, note: 'changed', read: () => same.getFile() });
  return files;
}

const isFile = (handle: FileSystemHandle): handle is FileSystemFileHandle => handle.kind === 'file';

async function filesIn(folder: FileSystemDirectoryHandle): Promise<File[]> {
  const found: File[] = [];
  for await (const handle of folder.values()) {
    if (handle.name.startsWith('.')) continue;
    if (isFile(handle)) found.push(await handle.getFile());
    else found.push(...(await filesIn(handle as FileSystemDirectoryHandle)));
  }
  return found.sort((a, b) => orderOfNames(a.name, b.name));
}

/** What stood in files of a name, size and time: they are not read again each time they are looked at. */
const digests = new Map<string, string>();

/** Whether it is not the file that a source read last. */
async function isOther(file: File, { file: last }: JobSource): Promise<boolean> {
  if (last === null || file.size !== last.size) return true;
  const key = `${last.sha256}/${file.name}/${file.lastModified}`;
  let sha256 = digests.get(key);
  if (sha256 === undefined) {
    sha256 = await sha256Of(await bytesOf(file));
    digests.set(key, sha256);
  }
  return sha256 !== last.sha256;
}
