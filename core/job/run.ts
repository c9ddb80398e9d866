import { z } from 'zod';
import { READINGS } from '../read/catalogue.ts';
import { ReadFailure } from '../read/read-failure.ts';
import type { ReadResult, Source } from '../read/read-kind.ts';
import type { Places, Report } from '../read/report.ts';
import { CATALOGUE } from '../steps/catalogue.ts';
import { Cancelled, type Context, type Notice, type Pile, StepFailure } from '../steps/step.ts';
import type { Origin } from '../table/origin.ts';
import { sameColumns } from '../table/origin.ts';
import { type Table, tableBytes } from '../table/table.ts';
import type { JobStep } from './job.ts';

/** What one step of a method gave. */
export interface StepRun {
  step: JobStep;
  table: Table;
  /** From the table of the step before; for a reading see places. */
  origin: Origin;
  aside: readonly Pile[];
  notices: readonly Notice[];
  reading?: { report: Report; places: Places; source: string };
}

export interface StepStop {
  index: number;
  message: string;
  column?: string;
  alike?: string;
}

/** The steps that ran, in order, and why the method stopped if it did. */
export interface MethodRun {
  steps: readonly StepRun[];
  stop?: StepStop;
}

/** Gives each chain of steps over the same bytes a number, so that equal chains share one result. */
class Chains {
  private readonly ids = new Map<string, number>();

  id(before: number, step: JobStep, sourceKey: string): number {
    const key = `${before}\u0000${sourceKey}\u0000${step.kind}\u0000${JSON.stringify(step.params)}`;
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

/**
 * Runs methods and keeps results by what they depend on: the source's bytes and every step up to there.
 */
export class Runner {
  private readonly chains = new Chains();
  private readonly kept = new Map<number, Omit<StepRun, 'step'>>();
  private bytes = 0;
  private readonly sources = new Map<string, { source: Source; key: string }>();
  private generation = 0;
  readonly counts: RunCounts = { ran: 0, reused: 0 };

  /** @param budget bytes of results kept beyond the run in hand */
  constructor(private readonly budget = 1_500_000_000) {}

  setSource(id: string, source: Source): void {
    this.sources.set(id, { source, key: `${id}:${++this.generation}` });
  }

  source(id: string): Source | undefined {
    return this.sources.get(id)?.source;
  }

  /**
   * @throws Cancelled when the context says so; every other trouble is the run's stop
   */
  run(steps: readonly JobStep[], context: Context): MethodRun {
    const done: StepRun[] = [];
    let chain = 0;
    for (const [index, step] of steps.entries()) {
      const sourceId = READINGS.has(step.kind) ? String(step.params['source']) : '';
      chain = this.chains.id(chain, step, this.sources.get(sourceId)?.key ?? sourceId);
      let result = this.kept.get(chain);
      if (result === undefined) {
        try {
          result = this.runStep(step, index, done.at(-1)?.table, {
            progress: (part) => context.progress((index + part) / steps.length),
          });
        } catch (error) {
          if (error instanceof Cancelled) throw error;
          return { steps: done, stop: stopOf(error, index) };
        }
        this.counts.ran++;
        this.keep(chain, result);
      } else {
        this.counts.reused++;
        this.kept.delete(chain);
        this.kept.set(chain, result);
      }
      done.push({ ...result, step });
    }
    return { steps: done };
  }

  private runStep(step: JobStep, index: number, input: Table | undefined, context: Context): Omit<StepRun, 'step'> {
    const reading = READINGS.get(step.kind);
    if (reading !== undefined) {
      if (index !== 0) throw new StepFailure('A reading can only be the first step.');
      const params = reading.params.parse(step.params);
      const source = this.sources.get(params.source)?.source;
      if (source === undefined)
        throw new StepFailure('The file of this source is not here yet. Give it the file to go on.');
      const result: ReadResult = reading.read(source, params, context);
      return {
        table: result.table,
        origin: sameColumns(result.table.fields.length),
        aside: [],
        notices: result.notices,
        reading: { report: result.report, places: result.places, source: params.source },
      };
    }
    const kind = CATALOGUE.get(step.kind);
    if (kind === undefined) throw new StepFailure(`There is no kind of step called ${step.kind} in this version.`);
    if (input === undefined) throw new StepFailure('The first step must be a reading.');
    return kind.run(input, kind.params.parse(step.params), context);
  }

  /** Least recently used results go first when the budget is spent. */
  private keep(chain: number, result: Omit<StepRun, 'step'>): void {
    this.kept.set(chain, result);
    this.bytes += tableBytes(result.table);
    for (const [old, other] of this.kept) {
      if (this.bytes <= this.budget || old === chain) break;
      this.kept.delete(old);
      this.bytes -= tableBytes(other.table);
    }
  }
}

function stopOf(error: unknown, index: number): StepStop {
  if (error instanceof StepFailure) return { index, message: error.message, column: error.column, alike: error.alike };
  if (error instanceof ReadFailure) return { index, message: error.message };
  if (error instanceof z.ZodError) {
    const issue = error.issues[0]!;
    return { index, message: `This step is not complete: ${issue.path.join('.') || 'params'} (${issue.message}).` };
  }
  const message = error instanceof Error ? error.message : String(error);
  return { index, message: `This step could not be run: ${message}` };
}
