import { create } from 'zustand';
import { type Job, type JobStep, type JobTable, READING_WORDS } from '../../core/index.ts';
import { draftClient } from '../engine/client.ts';
import type { DraftView, PlainStep, WantedTable } from '../engine/protocol.ts';
import { editTable, newId, newStep, useJobStore } from './job-store.ts';
import { useLayoutStore } from './layout-store.ts';
import { rowsInSight } from './method-store.ts';
import { loadSource } from './storage.ts';

export type Choice = DraftView['choices'][number];

/** A draft as it stands on the bench: the whole method of a table with what is not kept yet. */
export interface CurrentDraft {
  /** The table's own steps as they were when it was drafted, as methodKey gives them. */
  behind: string;
  tableId: string;
  /** Its own steps, then those that are drafted; the reading too where the draft reads the report otherwise. */
  steps: readonly JobStep[];
  /** Index of the first step that is not kept yet. */
  from: number;
  /** Steps that were left out: they are not proposed again. */
  without: readonly PlainStep[];
  /** What is known of the draft as a whole; undefined while the rest is drafted again. */
  told: DraftView | undefined;
}

interface DraftState {
  current: CurrentDraft | undefined;
  /** Share done while a table is drafted. */
  progress: number | undefined;
  /** Why there is no draft, where one was searched for. */
  none: string | undefined;
  /** How the table should come out, where that is shown, and of which table. */
  wanted: (WantedTable & { tableId: string }) | undefined;
  /** What was done to the draft, so that it can be taken back. */
  past: readonly CurrentDraft[];
  /** Drafts a table that has only a reading, and lets go a draft that an edit has overtaken. */
  syncWithTable(job: Job, table: JobTable, missing: boolean): void;
  /** Begins to draft a job that is about to be opened, unless its file takes long to read. */
  prefetch(job: Job): void;
  /** Drafts the rest of a table's method, whatever was declined before. */
  request(job: Job, table: JobTable): void;
  /** Drafts towards rows as they should come out; undefined: they are shown no more. */
  draftToRows(tableId: string, wanted: WantedTable | undefined): void;
  /** Makes the draft's steps, all or up to an index, steps of the table; one undo takes it back. */
  keep(upTo?: number): void;
  /** Nothing of the draft is kept, and none is offered again on its own. */
  decline(): void;
  /** Leaves a drafted step out; what follows is drafted again. */
  leaveOut(index: number): void;
  /** Changes a drafted step; what follows is drafted again. */
  change(index: number, params: Record<string, unknown>, param: string): void;
  /** Takes another way; what follows is drafted again. */
  take(choice: Choice): void;
  /** The whole method that another way leads to; undefined where it leads to none. @throws EngineError */
  look(choice: Choice): Promise<readonly PlainStep[] | undefined>;
  /** Takes back the last change of the draft. @returns whether there was one */
  takeBack(): boolean;
}

/** A changed blank has stood still for so long before the rest is drafted again. */
const QUIET_MS = 450;
/** Of a file that takes long to read. */
const LARGE_BYTES = 2_000_000;
/** Drafts that are kept in case they are wanted again, as after an undo. */
const MAX_KNOWN = 6;
const draftCache = new Map<string, Promise<DraftView | undefined>>();
/** Likeliest steps of drafts that are not proven yet, by the same keys; told when they come. */
const partialDrafts = new Map<string, DraftView['steps']>();
let onPartial: (key: string) => void = () => undefined;
/** Counts what was asked for: an answer that comes late is of no use. */
let requestId = 0;
/** The table whose draft goes on behind an edit in the middle of it. */
let continueTableId: string | undefined;
/** Which table and method are being drafted. */
let requestedFor = '';
let lastMerge: string | undefined;
let debounceTimer: ReturnType<typeof setTimeout> | undefined;

/** Equal for methods that do the same on the same file. */
function methodKey(job: Job, steps: readonly PlainStep[]): string {
  const file = job.sources.find((one) => one.id === steps[0]?.params['source'])?.file?.sha256;
  return JSON.stringify([file, steps.map(({ kind, params, muted }) => [kind, params, muted ?? false])]);
}

const plain = ({ kind, params }: PlainStep): PlainStep => ({ kind, params });
const isSame = (a: PlainStep, b: PlainStep) => JSON.stringify(plain(a)) === JSON.stringify(plain(b));

/** A proposed step as it is kept: its reason is its note. */
export const noted = ({ kind, params, why }: Choice['steps'][number]): PlainStep => ({ kind, params, note: why });

export const useDraftStore = create<DraftState>()((set, get) => {
  /** Hands the drafting worker the bytes of a source, once. */
  const hand = async (job: Job, sourceId: string) => {
    const source = job.sources.find((one) => one.id === sourceId);
    if (source?.file == null) return undefined;
    // Two workers that read a large file would wait for the same memory; its rows are wanted first.
    if (source.file.size > LARGE_BYTES) await rowsInSight();
    const worker = draftClient();
    if (worker.holds(sourceId, source.file.sha256)) return worker;
    await worker.begin();
    const bytes = await loadSource(job.id, source);
    if (bytes === undefined) return undefined;
    await worker.setSource(sourceId, source.file.name, bytes, { known: source.file.sha256 });
    return worker;
  };
  const keyFor = (job: Job, given: readonly PlainStep[], without: readonly PlainStep[], wanted?: WantedTable) =>
    JSON.stringify([methodKey(job, given), without.map(plain), wanted]);
  /** The best draft that begins with these steps. @throws EngineError */
  const find = (job: Job, given: readonly PlainStep[], without: readonly PlainStep[], wanted?: WantedTable) => {
    const key = keyFor(job, given, without, wanted);
    const before = draftCache.get(key);
    if (before !== undefined) return before;
    const found = make(job, given, without, wanted);
    draftCache.set(key, found);
    if (draftCache.size > MAX_KNOWN) draftCache.delete(draftCache.keys().next().value!);
    found.catch(() => draftCache.delete(key)).finally(() => partialDrafts.delete(key));
    return found;
  };
  const make = async (
    job: Job,
    given: readonly PlainStep[],
    without: readonly PlainStep[],
    wanted: WantedTable | undefined,
  ) => {
    const source = String(given[0]?.params['source']);
    const worker = await hand(job, source);
    let isDone = false;
    const asked = { source, given: given.map(plain), without: without.map(plain), most: 1, wanted };
    const [best] =
      (await worker?.draft(
        asked,
        (done) => {
          if (get().progress !== undefined) set({ progress: done });
        },
        (steps) => {
          // It may come behind the answer.
          if (isDone) return;
          const key = keyFor(job, given, without, wanted);
          partialDrafts.set(key, steps);
          onPartial(key);
        },
      )) ?? [];
    isDone = true;
    return best;
  };
  /** Drafts behind given steps, the first of which are the table's own. */
  const draft = async (
    job: Job,
    table: JobTable,
    given: readonly JobStep[],
    without: readonly PlainStep[],
    wanted?: WantedTable,
  ) => {
    const turn = ++requestId;
    const behind = methodKey(job, table.steps);
    set({ progress: 0, none: undefined });
    let best: DraftView | undefined;
    let trouble: string | undefined;
    const key = keyFor(job, given, without, wanted);
    const currentOf = (proposed: DraftView['steps'], told?: DraftView): CurrentDraft | undefined => {
      const shown = get().current?.steps;
      const steps = proposed.map((step, k): JobStep => {
        const own = given[k];
        // What was given is in the draft as it is; only a reading that was a guess may be another.
        if (own !== undefined && (k > 0 || isSame(own, step))) return own;
        const before = shown?.[k];
        const id = own?.id ?? (before !== undefined && isSame(before, step) ? before.id : newId());
        return { id, ...noted(step) };
      });
      const from = steps.findIndex((step, k) => table.steps[k] === undefined || !isSame(table.steps[k], step));
      return from < 0 ? undefined : { behind, tableId: table.id, steps, from, without, told };
    };
    const showFirst = async () => {
      await rowsInSight();
      const first = partialDrafts.get(key);
      if (turn !== requestId || first === undefined) return;
      const current = currentOf(first);
      if (current !== undefined) set({ current });
    };
    onPartial = (of) => {
      if (of === key) void showFirst();
    };
    void showFirst();
    try {
      best = await find(job, given, without, wanted);
    } catch (error) {
      if (turn !== requestId) return;
      trouble = `No draft was made. ${(error as Error).message}`;
    }
    await rowsInSight();
    if (turn !== requestId) return;
    set({ progress: undefined });
    if (trouble !== undefined) {
      set({ none: trouble, current: undefined });
      return;
    }
    const current = best === undefined ? undefined : currentOf(best.steps, best);
    if (current === undefined) {
      const found = best === undefined ? 'The reading contains no table.' : undefined;
      // What was shown may come out of the method as it is.
      const met = best?.likeness?.share === 1 ? 'The method already produces these rows.' : undefined;
      set({
        current: undefined,
        none: found ?? met ?? 'No more suggestions: every finding is already handled.',
      });
      return;
    }
    set({ current, none: undefined });
  };
  /**
   * Changes the draft, and drafts what is behind the given steps again.
   * @param shown stands there until then
   * @param merge changes with the same one in a row are taken back as one
   */
  const redraft = (given: readonly JobStep[], without: readonly PlainStep[], shown = given, merge?: string) => {
    const { current, past } = get();
    const { job } = useJobStore.getState();
    const table = job?.tables.find((one) => one.id === current?.tableId);
    if (current === undefined || job === undefined || table === undefined) return;
    const merged = merge !== undefined && merge === lastMerge;
    lastMerge = merge;
    requestId++;
    set({
      past: merged ? past : [...past, current],
      current: { ...current, steps: shown, without, told: undefined },
      progress: 0,
    });
    clearTimeout(debounceTimer);
    debounceTimer = setTimeout(() => void draft(job, table, given, without), merge === undefined ? 0 : QUIET_MS);
  };
  const otherWay = (current: CurrentDraft, choice: Choice) => ({
    given: [...current.steps.slice(0, choice.from), ...choice.steps.map((step) => newStep(noted(step)))],
    without: [...current.without, ...current.steps.slice(choice.from, choice.to)],
  });
  return {
    current: undefined,
    progress: undefined,
    none: undefined,
    wanted: undefined,
    past: [],
    syncWithTable(job, table, missing) {
      const { current, progress } = get();
      const behind = methodKey(job, table.steps);
      if (current?.tableId === table.id && current.behind === behind) return;
      if (progress !== undefined && requestedFor === `${table.id}/${behind}`) return;
      if (current !== undefined || progress !== undefined) requestId++;
      set({ current: undefined, progress: undefined, none: undefined, past: [] });
      const isReading = READING_WORDS.has(table.steps[0]?.kind ?? '');
      const { drafting, declined } = useLayoutStore.getState();
      const byItself = drafting && !declined.includes(`${job.id}/${table.id}`);
      const wanted = continueTableId === table.id || (table.steps.length === 1 && byItself);
      continueTableId = undefined;
      if (!isReading || missing || !wanted) return;
      requestedFor = `${table.id}/${behind}`;
      void draft(job, table, table.steps, []);
    },
    prefetch(job) {
      const [table] = job.tables;
      if (job.sources.some(({ file }) => file !== null && file.size > LARGE_BYTES)) return;
      if (table !== undefined && useLayoutStore.getState().drafting) find(job, table.steps, []).catch(() => undefined);
    },
    request(job, table) {
      useLayoutStore.getState().declineDraft(`${job.id}/${table.id}`, false);
      requestedFor = `${table.id}/${methodKey(job, table.steps)}`;
      void draft(job, table, table.steps, []);
    },
    draftToRows(tableId, wanted) {
      const { job } = useJobStore.getState();
      const table = job?.tables.find((one) => one.id === tableId);
      clearTimeout(debounceTimer);
      if (wanted === undefined || job === undefined || table === undefined) {
        requestId++;
        set({ wanted: undefined, progress: undefined });
        return;
      }
      set({ wanted: { ...wanted, tableId } });
      if (!wanted.rows.some((row) => row.some((cell) => cell.trim() !== ''))) return;
      requestId++;
      set({ progress: 0 });
      debounceTimer = setTimeout(() => void draft(job, table, table.steps.slice(0, 1), [], wanted), QUIET_MS);
    },
    keep(upTo) {
      const { current } = get();
      const { job } = useJobStore.getState();
      if (current === undefined || job === undefined) return;
      const count = upTo === undefined ? current.steps.length : upTo + 1;
      const kept = current.steps.slice(0, count);
      const label = upTo === undefined ? 'keep the draft' : `keep the draft to step ${count}`;
      useJobStore
        .getState()
        .edit(label, (before) => editTable(before, current.tableId, (one) => ({ ...one, steps: kept })));
      const after = useJobStore.getState().job!;
      set({
        past: [],
        // What is left stays as it is drafted.
        current:
          count === current.steps.length ? undefined : { ...current, behind: methodKey(after, kept), from: count },
      });
    },
    decline() {
      const { current } = get();
      const { job } = useJobStore.getState();
      requestId++;
      if (job !== undefined && current !== undefined)
        useLayoutStore.getState().declineDraft(`${job.id}/${current.tableId}`, true);
      set({ current: undefined, progress: undefined, none: undefined, past: [] });
    },
    leaveOut(index) {
      const { current } = get();
      if (current === undefined) return;
      redraft(current.steps.slice(0, index), [...current.without, current.steps[index]!]);
    },
    change(index, params, param) {
      const { current } = get();
      if (current === undefined) return;
      const { id } = current.steps[index]!;
      const steps = current.steps.with(index, { ...current.steps[index]!, params });
      redraft(steps.slice(0, index + 1), current.without, steps, `${id}/${param}`);
    },
    take(choice) {
      const { current } = get();
      if (current === undefined) return;
      const { given, without } = otherWay(current, choice);
      redraft(given, without);
    },
    async look(choice) {
      const { current } = get();
      const { job } = useJobStore.getState();
      if (current === undefined || job === undefined) return undefined;
      const { given, without } = otherWay(current, choice);
      return (await find(job, given, without))?.steps;
    },
    takeBack() {
      const { past } = get();
      const last = past.at(-1);
      if (last === undefined) return false;
      requestId++;
      set({ current: last, past: past.slice(0, -1), progress: undefined, none: undefined });
      return true;
    },
  };
});

/** A table as it is shown: with the steps of its draft, where one stands. */
export function shownTable(table: JobTable, current: CurrentDraft | undefined): JobTable {
  return current?.tableId === table.id ? { ...table, steps: [...current.steps] } : table;
}

/** A job as it is shown: with the draft of one of its tables, where one stands. */
export function shownJob(job: Job, current = useDraftStore.getState().current): Job {
  if (current === undefined) return job;
  return { ...job, tables: job.tables.map((table) => shownTable(table, current)) };
}

/**
 * Edits a table as it is shown. Drafted steps up to the last one that the edit reaches are kept with it; what is behind
 * them is released, and drafted again.
 */
export function editShown(job: Job, tableId: string, change: (table: JobTable) => JobTable): Job {
  const { current } = useDraftStore.getState();
  return editTable(job, tableId, (own) => {
    const shown = shownTable(own, current);
    if (shown === own || current === undefined) return change(own);
    const changed = change(shown);
    if (changed === shown) return own;
    const drafted = new Set(shown.steps.slice(current.from));
    let reach = changed.steps.length;
    while (reach > 0 && drafted.has(changed.steps[reach - 1]!)) reach--;
    if (reach < changed.steps.length) continueTableId = tableId;
    return { ...changed, steps: changed.steps.slice(0, reach) };
  });
}
