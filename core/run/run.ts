import { z } from 'zod';
import type { JobStep } from '../document/job.ts';
import { type FullStep, type FullTable, USE_SET } from '../document/step-set.ts';
import { tablesIn } from '../kinds/param-marks.ts';
import { Cancelled, type Notice, type OtherTable, type Pile, StepDisabled, StepFailure } from '../kinds/step.ts';
import { READINGS } from '../read/catalogue.ts';
import { withExpected } from '../read/expected-columns.ts';
import { FROM_TABLE, FromTable } from '../read/from-table.ts';
import { ReadFailure } from '../read/read-failure.ts';
import type { ReadPile, Source } from '../read/read-kind.ts';
import type { Places, Report } from '../read/report.ts';
import { unwrapped } from '../read/unwrap.ts';
import { CATALOGUE } from '../steps/catalogue.ts';
import { HeldMemory, memoryOf } from '../table/held-memory.ts';
import { type ColumnMap, fromColumn, type Origin, type RowMap, sameColumns } from '../table/origin.ts';
import type { Table } from '../table/table.ts';

/** What one step of a method gave. */
export interface StepRun {
  step: JobStep;
  table: Table;
  /** From the table of the step before (input 0) and from others (1 and on); for a reading see reading. */
  origin: Origin;
  aside: readonly Pile[];
  notices: readonly Notice[];
  reading?: { report: Report; places: Places; source: string; aside: readonly ReadPile[] };
  /** The tables behind inputs 1 and on of the origin, each as it stood after one of its steps. */
  others: readonly { tableId: string; run: MethodRun; step: number }[];
  /** What the steps of a set gave, one after the other. */
  inner?: readonly StepRun[];
}

export interface StepStop {
  index: number;
  message: string;
  column?: string;
  alike?: string;
  /** The key of a step that is left off. */
  leftOff?: string;
}

/** A step that is being worked out. */
export interface StepAtWork {
  /** Tells the step, with what it reads, from all others. */
  key: string;
  /** Name of its table. */
  table: string;
  index: number;
}

/** The steps that ran, in order, and why the method stopped if it did. */
export interface MethodRun {
  steps: readonly StepRun[];
  stop?: StepStop;
}

/** Gives each chain of steps over the same bytes a number, so that equal chains share one result. */
class Chains {
  private readonly ids = new Map<string, number>();

  id(before: number, step: JobStep, inputs: string): number {
    const key = `${before}\u0000${inputs}\u0000${step.kind}\u0000${JSON.stringify(step.params)}`;
    let id = this.ids.get(key);
    if (id === undefined) {
      id = this.ids.size + 1;
      this.ids.set(key, id);
    }
    return id;
  }
}

export interface RunCounts {
  ran: number;
  reused: number;
}

export interface RunContext {
  progress(done: number): void;
}

type StepResultRun = Omit<StepRun, 'step' | 'others' | 'inner'>;

interface RunState {
  context: RunContext;
  tables: readonly FullTable[];
  /** Tables that are being run, outermost first, with the step each is at, to find circles. */
  path: readonly { id: string; step: number }[];
  /** Runs of this call, by table and the step they go up to. */
  done: Map<string, CachedRun>;
  /** Chains of this call: what the next edit starts from. */
  used: Set<number>;
}

/** Which step of which table is run. */
interface StepPosition {
  index: number;
  upTo: number;
  name: string;
}

interface CachedRun {
  run: MethodRun;
  chain: number;
}

/**
 * Runs methods and keeps results by what they depend on: the sources' bytes, other tables, and every step up to there.
 */
export class Runner {
  private chains = new Chains();
  /** By chain, those used last at the end, with what each held when it was last used. */
  private readonly kept = new Map<number, { result: StepResultRun; memory: ReadonlyMap<object, number> }>();
  private held = new HeldMemory();
  private readonly sources = new Map<string, { source: Source; key: string }>();
  private readonly generations = new WeakMap<Source, number>();
  private generation = 0;
  private disabled: ReadonlyMap<string, string> = new Map();
  /** Told before each step that is worked out, and without one at the end: what does not come to an end can be named. */
  onStep: (step: StepAtWork | undefined) => void = () => undefined;
  readonly counts: RunCounts = { ran: 0, reused: 0 };

  /** @param budget bytes of results kept beyond the current run */
  constructor(private readonly budget = 1_500_000_000) {}

  /** @throws ReadFailure when it is packed with gzip and damaged */
  setSource(id: string, given: Source): void {
    const source = unwrapped(given);
    // A source that is put back finds what was made of it.
    const generation = this.generations.get(source) ?? ++this.generation;
    this.generations.set(source, generation);
    this.sources.set(id, { source, key: `${id}:${generation}` });
  }

  /** Disabled steps by their keys, each with the message to show instead. */
  disableSteps(steps: ReadonlyMap<string, string>): void {
    this.disabled = steps;
  }

  /** Lets go of everything: another job is opened, and neither sources nor results of this one are needed. */
  forget(): void {
    this.sources.clear();
    this.kept.clear();
    this.held = new HeldMemory();
    this.chains = new Chains();
  }

  source(id: string): Source | undefined {
    return this.sources.get(id)?.source;
  }

  /**
   * Runs one table of a job, and first whatever it reads.
   *
   * @throws Cancelled when the context says so; every other trouble is the run's stop
   */
  runTable(tables: readonly FullTable[], tableId: string, context: RunContext): MethodRun {
    const table = tables.find((one) => one.id === tableId);
    if (table === undefined)
      return { steps: [], stop: { index: 0, message: `There is no table ${tableId} in this job.` } };
    const used = new Set<number>();
    try {
      return this.chainOf(table, table.steps.length, { context, tables, path: [], done: new Map(), used }).run;
    } finally {
      this.onStep(undefined);
      this.keepWithin(used);
    }
  }

  /** Runs steps that stand alone. @throws Cancelled */
  run(steps: readonly JobStep[], context: RunContext): MethodRun {
    return this.runTable([{ id: 'table', name: 'Table', steps: [...steps] }], 'table', context);
  }

  private chainOf(table: FullTable, upTo: number, state: RunState): CachedRun {
    const key = `${table.id}/${upTo}`;
    const known = state.done.get(key);
    if (known !== undefined) return known;
    const done: StepRun[] = [];
    let chain = 0;
    let stop: StepStop | undefined;
    for (const [index, step] of table.steps.slice(0, upTo).entries()) {
      const before = done.at(-1);
      const inside: RunState = { ...state, path: [...state.path, { id: table.id, step: index }] };
      if (step.muted && before !== undefined) {
        done.push(skippedStep(step, before.table));
        continue;
      }
      try {
        const at: StepPosition = { index, upTo, name: table.name };
        if (step.kind === USE_SET) {
          const set = this.runSet(step, before, chain, at, inside);
          chain = set.chain;
          done.push(set.run);
        } else {
          const next = this.advance(step, before?.table, chain, at, inside);
          chain = next.chain;
          done.push(next.run);
        }
      } catch (error) {
        if (error instanceof Cancelled) throw error;
        stop = stopOf(error, index);
        break;
      }
    }
    const chained = { run: stop === undefined ? { steps: done } : { steps: done, stop }, chain };
    state.done.set(key, chained);
    return chained;
  }

  /** Runs one step, or takes its result from what is kept. @throws StepFailure and others: the step stops */
  private advance(
    step: JobStep,
    input: Table | undefined,
    before: number,
    at: StepPosition,
    state: RunState,
  ): { run: StepRun; chain: number } {
    const others = this.othersOf(step, state).map((one) => ({ ...one, stepRun: endOf(one, state) }));
    const inputs = [
      this.sourceKey(step),
      ...others.map((one) => `${one.tableId}@${one.chain}`),
      others.length > 0 ? at.name : '',
    ].join('|');
    const chain = this.chains.id(before, step, inputs);
    state.used.add(chain);
    let result = this.kept.get(chain)?.result;
    if (result === undefined) {
      this.begin(step, at);
      const named = new Map(
        others.map((one): [string, OtherTable] => [
          one.tableId,
          { name: nameOf(state, one.tableId), table: one.stepRun.table },
        ]),
      );
      result = this.runStep(step, at.index, input, at.name, named, {
        progress: (part) => state.context.progress((at.index + part) / at.upTo),
      });
      this.counts.ran++;
    } else {
      this.counts.reused++;
    }
    this.keep(chain, result);
    return {
      run: { ...result, step, others: others.map(({ tableId, run, step: to }) => ({ tableId, run, step: to })) },
      chain,
    };
  }

  /** @throws StepDisabled */
  private begin(step: JobStep, at: StepPosition): void {
    const source = this.sources.get(String(step.params['source']))?.source;
    const file = READINGS.has(step.kind) && source !== undefined ? `${source.name}:${source.bytes.length}` : '';
    const key = `${step.kind}\u0000${JSON.stringify(step.params)}\u0000${file}`;
    const why = this.disabled.get(key);
    if (why !== undefined) throw new StepDisabled(why, key);
    this.onStep({ key, table: at.name, index: at.index });
  }

  /** Runs the steps of a set as one step. @throws StepFailure that names the step inside */
  private runSet(
    step: FullStep,
    before: StepRun | undefined,
    chain: number,
    at: StepPosition,
    state: RunState,
  ): { run: StepRun; chain: number } {
    if (step.inner === undefined)
      throw new StepFailure('The set of steps is not in this job any more. Choose another, or take the step away.');
    if (before === undefined) throw new StepFailure('The first step must be a reading.');
    const inner: StepRun[] = [];
    let last = chain;
    for (const [k, one] of step.inner.entries()) {
      const input = inner.at(-1)?.table ?? before.table;
      if (one.muted) {
        inner.push(skippedStep(one, input));
        continue;
      }
      try {
        const next = this.advance(one, input, last, at, state);
        inner.push(next.run);
        last = next.chain;
      } catch (error) {
        if (!(error instanceof StepFailure)) throw error;
        if (error instanceof StepDisabled)
          throw new StepDisabled(`Step ${k + 1} of the set: ${error.message}`, error.key);
        throw new StepFailure(`Step ${k + 1} of the set: ${error.message}`, error.column, error.alike);
      }
    }
    const { table } = inner.at(-1) ?? before;
    const notices = inner.flatMap((one, k) =>
      // Rows that a notice inside speaks of are rows of a table that is not in sight.
      one.notices.map(({ severity, text }) => ({ severity, text: `${k + 1}: ${text}` })),
    );
    const aside = inner.flatMap((one) => one.aside);
    return {
      run: { step, table, origin: sameColumns(table.fields.length), aside, notices, others: [], inner },
      chain: last,
    };
  }

  private sourceKey(step: JobStep): string {
    if (!READINGS.has(step.kind)) return '';
    const id = String(step.params['source']);
    return this.sources.get(id)?.key ?? id;
  }

  /** Runs the tables that a step reads. @throws StepFailure when one is not there or the tables go in a circle */
  private othersOf(step: JobStep, state: RunState): (CachedRun & { tableId: string; step: number })[] {
    const wanted: { id: string; step: string | null }[] = [];
    if (step.kind === FROM_TABLE) {
      const params = FromTable.parse(step.params);
      wanted.push({ id: params.table, step: params.step });
    } else {
      const kind = CATALOGUE.get(step.kind);
      // In the order of the inputs of its Origin from 1 on. Other kinds' params, which may be long, are not walked.
      if (kind?.otherTableVerb !== undefined)
        for (const id of tablesIn(kind.params, kind.params.parse(step.params))) wanted.push({ id, step: null });
    }
    return wanted.map(({ id, step: after }) => {
      const table = state.tables.find((one) => one.id === id);
      if (table === undefined) {
        const names = state.tables.filter((one) => one.id !== state.path.at(-1)?.id).map((one) => one.name);
        throw new StepFailure(
          id === ''
            ? 'Choose the other table.'
            : `There is no table ${id}. The other tables are ${names.join(', ') || 'none'}.`,
        );
      }
      const upTo = after === null ? table.steps.length : table.steps.findIndex((one) => one.id === after) + 1;
      // A table may use what its earlier steps made; what needs the current step makes a loop.
      const at = state.path.findIndex((one) => one.id === id && upTo > one.step);
      if (at >= 0) {
        const circle = [...state.path.slice(at).map((one) => one.id), id].map((one) => nameOf(state, one));
        throw new StepFailure(`These tables depend on each other in a loop: ${circle.join(' needs ')}.`);
      }
      if (upTo === 0)
        throw new StepFailure(`${table.name} no longer has the step that this table starts from. Choose another.`);
      return { ...this.chainOf(table, upTo, state), tableId: id, step: upTo - 1 };
    });
  }

  private runStep(
    step: JobStep,
    index: number,
    input: Table | undefined,
    name: string,
    others: ReadonlyMap<string, OtherTable>,
    context: RunContext,
  ): StepResultRun {
    const full = {
      ...context,
      name,
      other: (id: string) => {
        const found = others.get(id);
        if (found === undefined) throw new StepFailure(`The table ${id} is not available.`);
        return found;
      },
    };
    const reading = READINGS.get(step.kind);
    if ((reading !== undefined || step.kind === FROM_TABLE) && index !== 0)
      throw new StepFailure('A reading can only be the first step.');
    if (step.kind === FROM_TABLE) {
      const { table } = full.other(FromTable.parse(step.params).table);
      const origin = table.fields.map((_, k) => {
        const of = fromColumn(k);
        return {
          cells: of.cells.map((cell) => ({ ...cell, input: 1 })),
          name: of.name.map((cell) => ({ ...cell, input: 1 })),
        };
      });
      return { table, origin, aside: [], notices: [] };
    }
    if (reading !== undefined) {
      const params = reading.params.parse(step.params);
      const source = this.sources.get(params.source)?.source;
      if (source === undefined) throw new StepFailure('This source has no file yet. Choose one to continue.');
      const read = reading.read(source, params, full);
      const result = withExpected(read, (params as { expects?: readonly string[] }).expects ?? []);
      return {
        table: result.table,
        origin: sameColumns(result.table.fields.length),
        aside: (result.aside ?? []).map(({ name, mark, rows }) => ({ name, mark, rows })),
        notices: result.notices,
        reading: { report: result.report, places: result.places, source: params.source, aside: result.aside ?? [] },
      };
    }
    const kind = CATALOGUE.get(step.kind);
    if (kind === undefined) throw new StepFailure(`There is no step kind called ${step.kind} in this version.`);
    if (input === undefined) throw new StepFailure('The first step must be a reading.');
    return kind.run(input, kind.params.parse(step.params), full);
  }

  private keep(chain: number, result: StepResultRun): void {
    this.letGo(chain);
    const memory = memoryOfResult(result);
    this.kept.set(chain, { result, memory });
    this.held.add(memory);
  }

  /** Results that were not used for the longest time go first when the budget is spent; those of the current run stay. */
  private keepWithin(used: ReadonlySet<number>): void {
    for (const old of this.kept.keys()) {
      if (this.held.bytes <= this.budget) return;
      if (!used.has(old)) this.letGo(old);
    }
  }

  private letGo(chain: number): void {
    const before = this.kept.get(chain);
    if (before === undefined) return;
    this.kept.delete(chain);
    this.held.remove(before.memory);
  }

  /** Bytes of the results that are kept, what they share counted once. */
  get heldBytes(): number {
    return this.held.bytes;
  }
}

/** What a result keeps in memory: its table, where its cells came from, its piles, and the report of a reading. */
function memoryOfResult({ table, origin, aside, reading }: StepResultRun): Map<object, number> {
  const columns = table.fields.map((field) => field.column);
  const vectors = origin.flatMap((of) =>
    [...of.cells, ...of.name].flatMap(({ rows, column }) => vectorsOf(rows, column)),
  );
  for (const pile of aside) vectors.push(pile.rows);
  if (reading !== undefined) {
    for (const part of reading.report.parts) columns.push(...part.columns);
    vectors.push(reading.places.part, reading.places.row);
  }
  return memoryOf(columns, vectors);
}

function vectorsOf(rows: RowMap, column: ColumnMap): Int32Array[] {
  const own = typeof column === 'number' ? [] : [column.columns];
  if (rows.kind === 'take') return [...own, rows.rows];
  if (rows.kind === 'lists') return [...own, rows.starts, rows.items];
  if (rows.kind === 'groups') return [...own, rows.rows.of];
  return rows.kind === 'stretches' ? [...own, rows.starts] : own;
}

/**
 * The steps up to an index with those inside of sets in the places of the sets. index is that of the outer step.
 */
export function walkedSteps(run: MethodRun, stepIndex: number): { run: StepRun; index: number }[] {
  return run.steps
    .slice(0, stepIndex + 1)
    .flatMap((step, index) => (step.inner ?? [step]).map((one) => ({ run: one, index })));
}

/** A muted step: the table before it, as it stood. */
function skippedStep(step: JobStep, table: Table): StepRun {
  return { step, table, origin: sameColumns(table.fields.length), aside: [], notices: [], others: [] };
}

function nameOf(state: RunState, id: string): string {
  return state.tables.find((one) => one.id === id)?.name ?? id;
}

/** The last step that another table has to give. @throws StepFailure when it stopped before */
function endOf({ run, step, tableId }: CachedRun & { tableId: string; step: number }, state: RunState): StepRun {
  const end = run.steps[step];
  if (end !== undefined) return end;
  const why =
    run.stop === undefined ? 'it has no steps' : `it stops at its step ${run.stop.index + 1}: ${run.stop.message}`;
  throw new StepFailure(`${nameOf(state, tableId)} has no result to give: ${why}`);
}

function stopOf(error: unknown, index: number): StepStop {
  if (error instanceof StepDisabled) return { index, message: error.message, leftOff: error.key };
  if (error instanceof StepFailure) return { index, message: error.message, column: error.column, alike: error.alike };
  if (error instanceof ReadFailure) return { index, message: error.message };
  if (error instanceof z.ZodError) {
    const issue = error.issues[0]!;
    return { index, message: `This step is not complete: ${issue.path.join('.') || 'params'} (${issue.message}).` };
  }
  const message = error instanceof Error ? error.message : String(error);
  return { index, message: `This step could not be run: ${message}` };
}
