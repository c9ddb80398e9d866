import { create } from 'zustand';
import type { Job, JobSource, JobStep, JobTable, KnownSource, Recognized } from '../../core/index.ts';
import {
  adopt,
  type EngineClient,
  engineClient,
  giveBack,
  onEngineEnd,
  restDrafter,
  takeIntake,
} from '../engine/client.ts';
import { sha256Of } from '../engine/digest.ts';
import { bytesOf } from '../parts/files.ts';
import { notify } from '../parts/notify.ts';
import { useMethodStore } from './method-store.ts';
import * as storage from './storage.ts';
import { useTallyStore } from './tally-store.ts';

export type SaveState = { as: 'saved'; at: number } | { as: 'saving' } | { as: 'refused'; why: string };

interface Moment {
  job: Job;
  /** What was done to get from here to the next moment. */
  label: string;
}

interface JobState {
  job: Job | undefined;
  past: readonly Moment[];
  future: readonly Moment[];
  save: SaveState;
  /** Why a source has no bytes here, by source id; a source that is here is not in it. */
  missing: Record<string, string>;
  /** Opens a job kept in this browser. Resolves to false when there is none of this id. */
  open(id: string): Promise<boolean>;
  /** No page shows the open job any more: if none does for a while, what was computed of it is released. */
  leave(): void;
  /**
   * Changes the job. Edits with the same merge key in a row are one step of undo.
   */
  edit(label: string, change: (job: Job) => Job, merge?: string): void;
  undo(): void;
  redo(): void;
  /** Keeps what the next report of a source is known by. It is no edit that a person made. */
  noteLayout(jobId: string, source: string, layout: NonNullable<JobSource['layout']>): void;
  /** Keeps at once what waits to be kept. */
  settle(): Promise<void>;
  /** The job is removed: nothing of it is kept any more. */
  forget(id: string): void;
  /** Has the open table run again, as when a file came. */
  runAgain(): void;
  /** Hands all sources to a worker that has just been started. */
  handAgain(): Promise<void>;
  /** Reads a file as a source of this job. @throws when it cannot be read; nothing is changed then */
  giveSource(sourceId: string, file: File): Promise<void>;
  /**
   * Adds a file as another source, with a table that reads it.
   * @returns the table's id
   * @throws when it cannot be read; nothing is changed then
   */
  addSource(file: File): Promise<string>;
}

/** Edits that follow each other so closely are kept together. */
const SAVE_AFTER_MS = 120;
/** A job that was left is mostly opened again soon, or not at all. */
const LET_GO_AFTER_MS = 30_000;
let leaveTimer: ReturnType<typeof setTimeout> | undefined;
let saveTimer: ReturnType<typeof setTimeout> | undefined;
let lastMerge: string | undefined;
/** Counts openings: bytes and jobs that come late belong to one that is over. */
let openings = 0;
/** The job whose sources the worker holds. */
let loadedJobId: string | undefined;
/** The job that is not opened yet, and the worker that has read its file and nothing else. */
let preloaded: { jobId: string; intake: EngineClient } | undefined;

/** A file that came when its job was no longer open. */
class CameLate extends Error {
  constructor(file: string) {
    super(`${file} was not taken: the job was left before it was read. Give it again there.`);
  }
}

/** @throws CameLate when the job that a file was given to is no longer the open one */
function mustBeOpen(id: string, file: File): void {
  if (useJobStore.getState().job?.id !== id) throw new CameLate(file.name);
}

export const useJobStore = create<JobState>()((set, get) => {
  const put = (job: Job, more: Partial<JobState>) => {
    set({ job, save: { as: 'saving' }, ...more });
    clearTimeout(saveTimer);
    saveTimer = setTimeout(() => void keep(), SAVE_AFTER_MS);
  };
  const keep = async () => {
    const { job } = get();
    if (job === undefined) return;
    try {
      await storage.saveJob(job);
      await storage.filesSettled(job.id);
      if (get().job === job) set({ save: saveState(job.id) });
    } catch (error) {
      set({ save: { as: 'refused', why: storage.storeFailure(error) } });
    }
  };
  /** Files that one state of the job reads and the other does not are handed over with it. */
  const handChanged = async (before: Job, after: Job) => {
    const sha = (job: Job, id: string) => job.sources.find((one) => one.id === id)?.file?.sha256;
    const sources = after.sources.filter((source) => sha(before, source.id) !== sha(after, source.id));
    if (sources.length === 0) return;
    const isOpen = () => get().job?.id === after.id;
    const missing = await handOver({ ...after, sources }, (source) => storage.loadSource(after.id, source), isOpen);
    if (!isOpen()) return;
    const kept = Object.entries(get().missing).filter(([id]) => !sources.some((source) => source.id === id));
    set({ missing: { ...Object.fromEntries(kept), ...missing } });
  };
  /** Keeps the job at once, after its bytes; says so where those were refused. */
  const keepWith = async (refused: string | undefined) => {
    await get().settle();
    if (refused !== undefined) set({ save: { as: 'refused', why: refused } });
  };
  storage.onKeptElsewhere((id) => void followOtherTab(id));
  /** Another tab kept this job: it is taken over as its own edit, so that neither tab writes over the other. */
  const followOtherTab = async (id: string) => {
    if (get().job?.id !== id) return;
    const kept = await storage.loadJob(id);
    const { job, past, save } = get();
    if (job?.id !== id || kept === undefined || JSON.stringify(kept) === JSON.stringify(job)) return;
    if (save.as === 'saving') clearTimeout(saveTimer);
    lastMerge = undefined;
    // At once, so that no edit falls between; only the files that changed are handed over.
    set({
      job: kept,
      past: [...past, { job, label: 'take over what another tab did' }],
      future: [],
      save: { as: 'saved', at: Date.now() },
    });
    await handChanged(job, kept);
  };
  if (typeof document !== 'undefined') {
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'hidden') void keep();
    });
    // A file on its way into the store would be lost, and so would an edit: the browser asks before it goes.
    window.addEventListener('beforeunload', (event) => {
      const { job, save } = get();
      if (job === undefined) return;
      void get().settle();
      if (save.as === 'saving' || storage.isStoring(job.id)) event.preventDefault();
    });
  }
  return {
    job: undefined,
    past: [],
    future: [],
    save: { as: 'saved', at: 0 },
    missing: {},
    leave() {
      clearTimeout(leaveTimer);
      leaveTimer = setTimeout(letGo, LET_GO_AFTER_MS);
    },
    async open(id) {
      clearTimeout(leaveTimer);
      const turn = ++openings;
      const isWanted = () => turn === openings;
      if (get().job?.id === id && loadedJobId === id) return true;
      await get().settle();
      const job = get().job?.id === id ? get().job : await storage.loadJob(id);
      if (!isWanted()) return true;
      if (job === undefined) return false;
      // Table and source ids are the job file's own: copies of a job share them, so nothing of another may be left.
      loadedJobId = undefined;
      const missing = adoptPreloaded(job) ? {} : await handAnew(job, isWanted);
      // An edit of the job before may have come while this one was read.
      while (isWanted() && get().save.as === 'saving') await get().settle();
      if (!isWanted()) return true;
      loadedJobId = id;
      if (get().job?.id === id) {
        set({ missing });
        return true;
      }
      lastMerge = undefined;
      useMethodStore.getState().forget();
      useTallyStore.getState().forget();
      set({ job, past: [], future: [], missing, save: saveState(id) });
      void storage.filesSettled(id).then(() => {
        if (get().job === job) set({ save: saveState(id) });
      });
      void storage.removeUnusedFiles(job).catch(() => undefined);
      return true;
    },
    edit(label, change, merge) {
      const { job, past } = get();
      if (job === undefined) return;
      const next = change(job);
      if (next === job) return;
      const merged = merge !== undefined && merge === lastMerge && past.length > 0;
      lastMerge = merge;
      put(next, { past: merged ? past : [...past, { job, label }], future: [] });
    },
    noteLayout(jobId, source, layout) {
      const { job } = get();
      const before = job?.sources.find((one) => one.id === source);
      if (job?.id !== jobId || before === undefined) return;
      if (JSON.stringify(before.layout) === JSON.stringify(layout)) return;
      put({ ...job, sources: job.sources.map((one) => (one === before ? { ...one, layout } : one)) }, {});
    },
    undo() {
      const { job, past, future } = get();
      const last = past.at(-1);
      if (job === undefined || last === undefined) return;
      lastMerge = undefined;
      put(last.job, { past: past.slice(0, -1), future: [{ job, label: last.label }, ...future] });
      void handChanged(job, last.job);
    },
    redo() {
      const { job, past, future } = get();
      const [next, ...rest] = future;
      if (job === undefined || next === undefined) return;
      lastMerge = undefined;
      put(next.job, { past: [...past, { job, label: next.label }], future: rest });
      void handChanged(job, next.job);
    },
    async settle() {
      if (get().save.as !== 'saving') return;
      clearTimeout(saveTimer);
      await keep();
    },
    forget(id) {
      if (get().job?.id !== id) return;
      clearTimeout(saveTimer);
      set({ job: undefined, past: [], future: [], missing: {}, save: { as: 'saved', at: 0 } });
    },
    runAgain() {
      set({ missing: { ...get().missing } });
    },
    async handAgain() {
      const { job } = get();
      if (job === undefined) return;
      const isOpen = () => get().job?.id === job.id;
      const missing = await handOver(job, (source) => storage.loadSource(job.id, source), isOpen);
      if (isOpen()) set({ missing });
    },
    async giveSource(sourceId, file) {
      const job = get().job!;
      const stillOpen = () => mustBeOpen(job.id, file);
      const bytes = await bytesOf(file);
      stillOpen();
      const reading = job.tables.flatMap(({ steps }) => steps).find(({ params }) => params['source'] === sourceId);
      const { sha256 } = await engineClient().setSource(sourceId, file.name, bytes, { reading });
      stillOpen();
      const { [sourceId]: _, ...missing } = get().missing;
      set({ missing });
      const kept = await keepBytes(job.id, sha256, file);
      stillOpen();
      get().edit(`take ${file.name}`, (before) => ({
        ...before,
        sources: before.sources.map((source) =>
          source.id === sourceId ? { ...source, file: { name: file.name, size: file.size, sha256 } } : source,
        ),
      }));
      await keepWith(kept);
    },
    async addSource(file) {
      const job = get().job!;
      const stillOpen = () => mustBeOpen(job.id, file);
      const sourceId = newId();
      const bytes = await bytesOf(file);
      stillOpen();
      const { sha256 } = await engineClient().setSource(sourceId, file.name, bytes);
      stillOpen();
      const { step } = await engineClient().guess(sourceId, file.name);
      const table: JobTable = { id: newId(), name: freeName(baseName(file.name), job), steps: [newStep(step)] };
      const added = { name: file.name, size: file.size, sha256 };
      const kept = await keepBytes(job.id, sha256, file);
      stillOpen();
      get().edit(`add ${file.name}`, (before) => ({
        ...before,
        sources: [...before.sources, { id: sourceId, name: baseName(file.name), file: added }],
        tables: [...before.tables, table],
      }));
      await keepWith(kept);
      return table.id;
    },
  };
});

// Whichever page is in sight: what ended is said, and another worker gets what the job reads.
onEngineEnd(({ restarted, text }) => {
  notify({ text, tone: 'warning', long: true });
  const { job, handAgain, runAgain } = useJobStore.getState();
  if (job === undefined) return;
  if (restarted) void handAgain();
  else runAgain();
});

/**
 * Hands the worker the bytes of every source of a job.
 * @param isWanted asked before each: bytes of a job that is no longer open go nowhere
 * @returns why a source has none there, by source id
 */
async function handOver(
  job: Job,
  bytesOf: (source: JobSource) => Promise<Uint8Array<ArrayBuffer> | undefined>,
  isWanted: () => boolean,
): Promise<Record<string, string>> {
  const missing: Record<string, string> = {};
  for (const source of job.sources) {
    const name = source.file?.name ?? source.name;
    const bytes = await bytesOf(source);
    if (!isWanted()) return missing;
    if (bytes === undefined) {
      missing[source.id] = `${name} is not in this browser.`;
      continue;
    }
    try {
      await engineClient().setSource(source.id, name, bytes, { known: source.file?.sha256 });
    } catch (error) {
      missing[source.id] = (error as Error).message;
    }
  }
  return missing;
}

/** Lets the worker go what it holds, and hands it what this job reads. */
async function handAnew(job: Job, isWanted: () => boolean): Promise<Record<string, string>> {
  restDrafter();
  await engineClient().begin();
  return handOver(job, (source) => storage.loadSource(job.id, source), isWanted);
}

/** Lets go what the workers hold of the job that was left; opened again, it is handed to them again. */
function letGo(): void {
  loadedJobId = undefined;
  useMethodStore.getState().forget();
  useTallyStore.getState().forget();
  restDrafter();
  void engineClient()
    .begin()
    .catch(() => undefined);
}

/** The worker that has read what the job reads, if there is one, becomes that of the open job. */
function adoptPreloaded(job: Job): boolean {
  const { jobId, intake } = preloaded ?? {};
  preloaded = undefined;
  if (intake === undefined) return false;
  const isIt =
    jobId === job.id &&
    intake.ended === undefined &&
    job.sources.every(({ id, file }) => file !== null && intake.holds(id, file.sha256));
  if (isIt) adopt(intake);
  else giveBack(intake);
  return isIt;
}

function saveState(jobId: string): SaveState {
  const why = storage.whyUnstored(jobId);
  if (why !== undefined) return { as: 'refused', why };
  return storage.isStoring(jobId) ? { as: 'saving' } : { as: 'saved', at: Date.now() };
}

/** Why the bytes could not be stored, if they could not. They are stored before the job names them. */
async function keepBytes(jobId: string, sha256: string, bytes: Blob): Promise<string | undefined> {
  try {
    await storage.saveFile(jobId, sha256, bytes);
    return undefined;
  } catch (error) {
    return (error as Error).message;
  }
}

export function newId(): string {
  return crypto.randomUUID().slice(0, 8);
}

export function newStep(step: Omit<JobStep, 'id'>): JobStep {
  return { ...step, id: newId() };
}

/** A name that no table of the job has yet. */
export function freeName(wanted: string, job: Job): string {
  const taken = new Set(job.tables.map((table) => table.name));
  let name = wanted;
  for (let n = 2; taken.has(name); n++) name = `${wanted} ${n}`;
  return name;
}

/** The file's name without its ending. */
function baseName(name: string): string {
  return name.replace(/\.[^.]+$/, '');
}

/** A file that an intake has read, and that is in no job yet. */
export interface LookedAt {
  file: File;
  sourceId: string;
  sha256: string;
  /** The reading that suits it. */
  step: Omit<JobStep, 'id'>;
  /** Kept jobs whose next report it may be, the likeliest first. */
  matches: readonly Recognized[];
  intake: EngineClient;
}

/**
 * Reads a dropped file, finds the reading that suits it, and the kept jobs that know it.
 * @throws when it cannot be read, or is stopped
 */
export async function lookAt(file: File, known: readonly KnownSource[] = []): Promise<LookedAt> {
  const intake = takeIntake(loadedJobId !== undefined);
  const sourceId = newId();
  try {
    const { sha256 } = await intake.setSource(sourceId, file.name, await bytesOf(file));
    const { step } = await intake.guess(sourceId, file.name);
    const matches = known.length === 0 ? [] : await intake.recognize(sourceId, known);
    return { file, sourceId, sha256, step, matches, intake };
  } catch (error) {
    if (intake.ended !== undefined) throw new Error(intake.ended);
    giveBack(intake);
    throw error;
  }
}

/** A file that was looked at goes to a kept job, or nowhere. */
export function letGoLookedAt({ intake }: LookedAt): void {
  if (intake.ended === undefined) giveBack(intake);
}

/** Makes a job of a file that was looked at and keeps it. */
export async function jobOf({ file, sourceId, sha256, step, intake }: LookedAt): Promise<Job> {
  const id = crypto.randomUUID();
  const { size } = file;
  const job: Job = {
    rimefield: 'job',
    version: 1,
    id,
    name: baseName(file.name),
    sources: [{ id: sourceId, name: baseName(file.name), file: { name: file.name, size, sha256 } }],
    tables: [{ id: newId(), name: 'Table 1', steps: [newStep(step)] }],
  };
  if (preloaded !== undefined) giveBack(preloaded.intake);
  preloaded = { jobId: id, intake };
  await keepNew(job, new Map([[sourceId, file]]));
  return job;
}

/**
 * Makes a job of a dropped file and keeps it.
 * @throws when the file cannot be read
 */
export async function jobFromFile(file: File): Promise<Job> {
  return jobOf(await lookAt(file));
}

/**
 * Keeps the job of a job file under a new id, so that it never overwrites one that is here.
 * @throws JobFileError
 */
export async function jobFromJobFile(
  text: string,
  sources = new Map<string, Uint8Array<ArrayBuffer>>(),
): Promise<string> {
  const { readJobFile } = await import('./read-job-file.ts');
  const job: Job = { ...readJobFile(text), id: crypto.randomUUID() };
  for (const source of job.sources) {
    const bytes = sources.get(source.id);
    if (bytes !== undefined)
      source.file = { name: source.file?.name ?? source.name, size: bytes.length, sha256: await sha256Of(bytes) };
  }
  await keepNew(job, sources);
  return job.id;
}

/** The files are stored behind the job: until they are, and if they are refused, they are available all the same. */
async function keepNew(job: Job, sources: ReadonlyMap<string, Uint8Array | Blob>): Promise<void> {
  for (const source of job.sources) {
    const bytes = sources.get(source.id);
    if (bytes === undefined || source.file === null) continue;
    storage.saveFile(job.id, source.file.sha256, bytes).catch(() => {
      if (useJobStore.getState().job?.id === job.id) useJobStore.setState({ save: saveState(job.id) });
    });
  }
  try {
    await storage.saveJob(job);
  } catch (error) {
    // Nothing could be stored: the job still opens, and lives for as long as the page does.
    const missing = adoptPreloaded(job) ? {} : await handAnew(job, () => true);
    lastMerge = undefined;
    loadedJobId = job.id;
    const save: SaveState = { as: 'refused', why: storage.storeFailure(error) };
    useJobStore.setState({ job, past: [], future: [], missing, save });
  }
}

export function editTable(job: Job, tableId: string, change: (table: JobTable) => JobTable): Job {
  return { ...job, tables: job.tables.map((table) => (table.id === tableId ? change(table) : table)) };
}
