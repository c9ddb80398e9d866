import { Cancelled, type MethodRun, type Report, Runner, type StepRun, type Table } from '../../core/index.ts';
import { Shared } from './protocol.ts';

/** Work that nobody waits for stops for what somebody does. */
export class Preempted extends Error {
  override name = 'Preempted';
}

/** For runs that nobody waits for by the clock. */
export const QUIET = { progress: () => undefined };

/** Rows and cells beyond this many are counted, not sent. */
export const MAX_SENT = 2000;

/** What the services of an engine share: the sources and the runner that reads them, and the newest run of each table. */
export class EngineState {
  readonly runner = new Runner();
  /** The newest run by the table's id, and under PREVIEW that of a step that is tried. */
  readonly runs = new Map<string, MethodRun>();
  /** Shared with the page, where the browser allows it; see Shared. */
  shared: Int32Array | undefined;
  private readonly onBegin: (() => void)[] = [];

  /** Another job is opened: nothing of the one before is available any more. */
  begin(): void {
    this.runs.clear();
    this.runner.forget();
    for (const act of this.onBegin) act();
  }

  /** A service lets go what it holds of a job when another is opened. */
  whenBegun(act: () => void): void {
    this.onBegin.push(act);
  }

  stepOf(tableId: string, step: number): StepRun | undefined {
    return this.runs.get(tableId)?.steps[step];
  }

  tableOf(tableId: string, step: number): Table | undefined {
    return this.stepOf(tableId, step)?.table;
  }

  reportOf(tableId: string): Report | undefined {
    return this.stepOf(tableId, 0)?.reading?.report;
  }

  /**
   * What a run calls on its way: it ends the run when a newer one is wanted, and tells how much is done.
   * @param everyMs the progress is reported no more often than so
   * @param yields it also stops when anything else is asked
   * @returns a function that throws Cancelled, or Preempted
   */
  watch(
    turn: number,
    onProgress: (done: number) => void = () => undefined,
    { everyMs = 80, yields = false } = {},
  ): (done: number) => void {
    let told = performance.now();
    return (done) => {
      if (this.shared !== undefined) {
        if (Atomics.load(this.shared, Shared.wanted) > turn) throw new Cancelled('A newer run is wanted');
        if (yields && Atomics.load(this.shared, Shared.waiting) > 1) throw new Preempted('Something else is asked');
      }
      const now = performance.now();
      if (now - told < everyMs) return;
      told = now;
      onProgress(done);
    };
  }
}
