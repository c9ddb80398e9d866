import { proxy, type Remote, transfer, wrap } from 'comlink';
import type { FullTable, JobStep, StepAtWork, StepStop } from '../../core/index.ts';
import { leaveOff, leftOff, takeUpAgain } from './left-off.ts';
import { type MethodView, OVERTAKEN, type SourceView, type StepView } from './protocol.ts';
import type { EachAsked, EachView } from './run-desk.ts';
import type { TallyAsked, TallyView } from './tally-desk.ts';
import type { EngineApi } from './worker.ts';

/** A worker that is asked to stop gets so long before it is ended. */
const STOP_WITHIN_MS = 400;

/** What a worker has been at since a moment, in milliseconds of performance.now(). */
export interface Work {
  since: number;
  what: string;
}

/** How a worker ended, or what it was stopped at. */
export interface EngineEnd {
  /** Its sources are gone, and another is started. */
  restarted: boolean;
  /** In words, for whoever looks at the page. */
  text: string;
}

interface Call extends Work {
  reject(error: Error): void;
}

/** The page's side of a worker. */
export class EngineClient {
  /** Everything that the worker does, by name. */
  readonly engine: Remote<EngineApi>;
  private readonly worker: Worker;
  private readonly remote: Remote<EngineApi>;
  private readonly wanted: Int32Array | undefined;
  private readonly calls = new Set<Call>();
  private step: StepAtWork | undefined;
  /** What is said of its end, once the worker has ended. */
  ended: string | undefined;
  private turn = 0;

  /** @param onEnd told when the worker broke down, for want of memory as a rule, or was ended */
  constructor(private readonly onEnd: (end: EngineEnd) => void) {
    this.worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    this.worker.addEventListener('error', (event) => {
      const why = event.message || 'out of memory';
      this.end(`The computation broke down (${why}) and was started again. Nothing of the job is lost.`);
    });
    this.remote = wrap<EngineApi>(this.worker);
    this.engine = new Proxy({} as Remote<EngineApi>, {
      get: (_, name: keyof EngineApi) => this.callOf(name),
    });
    // Shared memory lets a running step see that it is overtaken; without it the step runs to its end.
    if (globalThis.crossOriginIsolated) this.wanted = new Int32Array(new SharedArrayBuffer(4));
    void this.remote.connect(
      this.wanted,
      proxy((step: StepAtWork | undefined) => {
        this.step = step;
      }),
      leftOff(),
    );
  }

  /** The oldest call that is not answered yet. */
  get work(): Work | undefined {
    const [oldest] = this.calls;
    if (oldest === undefined) return undefined;
    const { step } = this;
    return step === undefined ? oldest : { ...oldest, what: `at step ${step.index + 1} of ${step.table}` };
  }

  /** Hands the bytes over; the caller's copy is gone afterwards. */
  setSource(id: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<SourceView> {
    return this.tracked(`reading ${name}`, this.remote.setSource(id, name, transfer(bytes, [bytes.buffer])));
  }

  /** The reading that suits a source. */
  guess(id: string, name: string): Promise<Awaited<ReturnType<EngineApi['guess']>>> {
    return this.tracked(`reading ${name}`, this.remote.guess(id));
  }

  /** Runs the steps; any run still going on is stopped. */
  run(tables: readonly FullTable[], tableId: string, onProgress: (done: number) => void): Promise<MethodView> {
    const turn = ++this.turn;
    if (this.wanted !== undefined) Atomics.store(this.wanted, 0, turn);
    return this.tracked('running the method', this.remote.run(tables, tableId, turn, proxy(onProgress)));
  }

  /** Tries a step behind another without keeping it. */
  preview(tables: readonly FullTable[], tableId: string, at: number, step: JobStep): Promise<StepView | StepStop> {
    const answer: Promise<StepView | StepStop> = this.remote.preview(tables, tableId, at, step, this.turn);
    return this.tracked('trying a step', answer);
  }

  /** Works out a tally; the next run stops it. */
  tally(asked: TallyAsked, onProgress: (done: number) => void): Promise<TallyView | undefined> {
    return this.tracked('counting', this.remote.tally(asked, this.turn, proxy(onProgress)));
  }

  /** Runs a table on many files, each on its own; the next run stops it. */
  runEach(asked: EachAsked, onFile: (done: number, all: number, view: EachView) => void): Promise<void> {
    return this.tracked('running many files', this.remote.runEach(asked, this.turn, proxy(onFile)));
  }

  /** Stops the run that is going on, if the browser lets us reach it. */
  cancel(): void {
    if (this.wanted !== undefined) Atomics.store(this.wanted, 0, ++this.turn);
  }

  /**
   * Stops whatever the worker is at: it is asked to, and ended if it does not. The step that it was at is left off.
   */
  async stop(): Promise<void> {
    const { step, work } = this;
    if (work === undefined) return;
    const seconds = Math.max(1, Math.round((performance.now() - work.since) / 1000));
    if (step !== undefined) {
      const took = `${seconds} ${seconds === 1 ? 'second' : 'seconds'}`;
      leaveOff(step.key, `You stopped this step after ${took}. It stays off until it is changed.`);
    }
    this.cancel();
    const until = performance.now() + STOP_WITHIN_MS;
    while (this.calls.size > 0 && performance.now() < until) await new Promise((done) => setTimeout(done, 20));
    const text =
      step === undefined
        ? `Stopped: Rimefield was ${work.what}.`
        : `Stopped at step ${step.index + 1} of ${step.table}. It stays off until it is changed.`;
    if (this.calls.size > 0) {
      this.end(text);
      return;
    }
    await this.remote.leaveOff(leftOff());
    this.onEnd({ restarted: false, text });
  }

  /** Lets a step that was stopped run once more. */
  async takeUpAgain(key: string): Promise<void> {
    takeUpAgain(key);
    await this.engine.leaveOff(leftOff());
  }

  /** Ends a worker that nobody asks anything any more. */
  close(): void {
    this.worker.terminate();
  }

  /** Ends the worker: what was asked of it is never answered. */
  private end(text: string): void {
    this.ended = text;
    this.worker.terminate();
    for (const call of this.calls) call.reject(new Error(OVERTAKEN));
    this.calls.clear();
    this.onEnd({ restarted: true, text });
  }

  private callOf(name: keyof EngineApi) {
    const call = this.remote[name] as unknown as (...given: unknown[]) => Promise<unknown>;
    return (...given: unknown[]) => this.tracked('working', call(...given));
  }

  private tracked<T>(what: string, answer: Promise<T>): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const call: Call = { since: performance.now(), what, reject };
      this.calls.add(call);
      answer.then(resolve, reject).finally(() => this.calls.delete(call));
    });
  }
}

let client: EngineClient | undefined;
let spare: EngineClient | undefined;
const clients = new Set<EngineClient>();
let ended: (end: EngineEnd) => void = () => undefined;

function started(onEnd: (end: EngineEnd) => void): EngineClient {
  const made = new EngineClient((end) => {
    if (end.restarted) clients.delete(made);
    onEnd(end);
  });
  clients.add(made);
  return made;
}

/** The worker of the open job. */
export function engineClient(): EngineClient {
  client ??= started((end) => {
    if (end.restarted) client = undefined;
    ended(end);
  });
  return client;
}

/**
 * A worker of its own for a file that comes in, so that it is looked at whatever the open job's worker is at.
 * @throws what use throws; Error when it was stopped
 */
export async function withIntake<T>(use: (intake: EngineClient) => Promise<T>): Promise<T> {
  const intake = spare ?? started(() => undefined);
  spare = undefined;
  try {
    return await use(intake);
  } catch (error) {
    throw intake.ended === undefined ? error : new Error(intake.ended);
  } finally {
    if (intake.ended === undefined) letGo(intake);
  }
}

/** One worker is kept for the next file, without this one's bytes. */
function letGo(intake: EngineClient): void {
  if (spare === undefined) {
    void intake.engine.begin();
    spare = intake;
  } else {
    clients.delete(intake);
    intake.close();
  }
}

/** The worker that has been at something for the longest time. */
function busiest(): EngineClient | undefined {
  const since = (one: EngineClient) => one.work?.since ?? Number.POSITIVE_INFINITY;
  return [...clients].filter((one) => one.work !== undefined).sort((a, b) => since(a) - since(b))[0];
}

/** What a worker has been at for the longest time. */
export function engineWork(): Work | undefined {
  return busiest()?.work;
}

/** Stops what has been going on for the longest time. */
export async function stopEngine(): Promise<void> {
  await busiest()?.stop();
}

/** Says what is to be done when the open job's worker broke down or was stopped; the next call starts another. */
export function onEngineEnd(act: (end: EngineEnd) => void): void {
  ended = act;
}
