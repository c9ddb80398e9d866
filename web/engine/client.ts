import { proxy, type Remote, transfer, wrap } from 'comlink';
import type { FullTable, JobStep, StepStop } from '../../core/index.ts';
import type { MethodView, SourceView, StepView } from './protocol.ts';
import type { EachAsked, EachView } from './run-desk.ts';
import type { TallyAsked, TallyView } from './tally-desk.ts';
import type { EngineApi } from './worker.ts';

/** The page's side of the worker. One for the whole application. */
export class EngineClient {
  private readonly remote: Remote<EngineApi>;
  private readonly wanted: Int32Array | undefined;
  private turn = 0;

  /** @param onCrash called when the worker broke down, for want of memory as a rule */
  constructor(onCrash: (message: string) => void) {
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('error', (event) => onCrash(event.message));
    this.remote = wrap<EngineApi>(worker);
    // Shared memory lets a running step see that it is overtaken; without it the step runs to its end.
    if (globalThis.crossOriginIsolated) {
      this.wanted = new Int32Array(new SharedArrayBuffer(4));
      void this.remote.connect(this.wanted);
    }
  }

  get engine(): Remote<EngineApi> {
    return this.remote;
  }

  /** Hands the bytes over; the caller's copy is gone afterwards. */
  setSource(id: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<SourceView> {
    return this.remote.setSource(id, name, transfer(bytes, [bytes.buffer]));
  }

  /** Runs the steps; any run still going on is stopped. */
  run(tables: readonly FullTable[], tableId: string, onProgress: (done: number) => void): Promise<MethodView> {
    const turn = ++this.turn;
    if (this.wanted !== undefined) Atomics.store(this.wanted, 0, turn);
    return this.remote.run(tables, tableId, turn, proxy(onProgress));
  }

  /** Tries a step behind another without keeping it. */
  preview(tables: readonly FullTable[], tableId: string, at: number, step: JobStep): Promise<StepView | StepStop> {
    return this.remote.preview(tables, tableId, at, step, this.turn);
  }

  /** Works out a tally; the next run stops it. */
  tally(asked: TallyAsked, onProgress: (done: number) => void): Promise<TallyView | undefined> {
    return this.remote.tally(asked, this.turn, proxy(onProgress));
  }

  /** Runs a table on many files, each on its own; the next run stops it. */
  runEach(asked: EachAsked, onFile: (done: number, all: number, view: EachView) => void): Promise<void> {
    return this.remote.runEach(asked, this.turn, proxy(onFile));
  }

  /** Stops the run that is going on, if the browser lets us reach it. */
  cancel(): void {
    if (this.wanted !== undefined) Atomics.store(this.wanted, 0, ++this.turn);
  }
}

let client: EngineClient | undefined;
let crashed: (message: string) => void = () => undefined;

export function engineClient(): EngineClient {
  client ??= new EngineClient((message) => {
    client = undefined;
    crashed(message);
  });
  return client;
}

/** Says what is to be done when a worker broke down; the next call starts another. */
export function onEngineCrash(act: (message: string) => void): void {
  crashed = act;
}
