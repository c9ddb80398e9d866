import { type Endpoint, proxy, transfer, wrap } from 'comlink';
import type { FullTable, JobStep, KnownSource, NamedFile, StepAtWork, StepStop } from '../../core/index.ts';
import { disabledSteps, disableStep, enableStep } from './disabled-steps.ts';
import type { Engine } from './engine.ts';
import {
  type DraftAsked,
  type DraftView,
  EngineError,
  type FileView,
  type ManyAsked,
  type MethodView,
  type NextDraftView,
  Shared,
  type SourceView,
  type StepView,
  type TallyAsked,
  type TallyView,
} from './protocol.ts';

/** Work that was postponed is taken up again when nothing was asked for so long. */
const AT_REST_MS = 240;
const LOOK_EVERY_MS = 40;
/** What can wait is asked when nothing else was for so long. */
const ANSWERED_MS = 80;

/** A worker that is asked to stop gets so long before it is ended. */
const STOP_WITHIN_MS = 400;

/** Code that has run so often runs fast. */
const WARMINGS = 6;
const WARM_PAUSE_MS = 40;

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
  /** The share that is done, where it is reported. */
  done?: number;
  reject(error: Error): void;
}

/** What the engine works in: as a rule a worker. */
export interface EngineHost {
  endpoint: Endpoint;
  /** Ends it at once. */
  terminate(): void;
  /** Told why, when it crashed. */
  onBroken(act: (why: string) => void): void;
}

/** The page's side of a worker. */
export class EngineClient {
  /** Everything that the worker does, by service. */
  readonly engine: Engine;
  private readonly remote: Engine;
  private readonly shared: Int32Array | undefined;
  private readonly calls = new Set<Call>();
  /** SHA-256 of the sources that it was handed, by id. */
  private readonly held = new Map<string, string>();
  private step: StepAtWork | undefined;
  /** What is said of its end, once the worker has ended. */
  ended: string | undefined;
  private turn = 0;

  /** @param onEnd told when the worker crashed, for want of memory as a rule, or was ended */
  constructor(
    private readonly host: EngineHost,
    private readonly onEnd: (end: EngineEnd) => void,
  ) {
    host.onBroken((why) => this.end(`The calculation crashed (${why}) and was restarted. Your job is safe.`));
    // Services are paths of the port, which the library's types do not tell.
    this.remote = wrap(host.endpoint) as unknown as Engine;
    this.engine = new Proxy({} as Engine, { get: (_, service: keyof Engine) => this.serviceOf(service) });
    // Shared memory lets a running step see that it is overtaken; without it the step runs to its end.
    if (globalThis.crossOriginIsolated) this.shared = new Int32Array(new SharedArrayBuffer(8));
    void this.remote.job.connect(
      this.shared,
      proxy((step: StepAtWork | undefined) => {
        this.step = step;
      }),
    );
    void this.remote.method.disableSteps(disabledSteps());
  }

  /** The oldest call that is not answered yet. */
  get work(): Work | undefined {
    const [oldest] = this.calls;
    if (oldest === undefined) return undefined;
    const { step } = this;
    if (step !== undefined) return { ...oldest, what: `at step ${step.index + 1} of ${step.table}` };
    const { since, what, done } = oldest;
    return { since, what: done === undefined ? what : `${what}, ${Math.floor(done * 100)}% done` };
  }

  /**
   * Hands the bytes over; the caller's copy is gone afterwards.
   * @param about what is known of them: their SHA-256, and the first step that will read them
   */
  async setSource(
    id: string,
    name: string,
    bytes: Uint8Array<ArrayBuffer>,
    about: { known?: string | undefined; reading?: JobStep | undefined } = {},
  ): Promise<SourceView> {
    const view = await this.tracked(`reading ${name}`, (tell) =>
      this.remote.sources.put(id, name, transfer(bytes, [bytes.buffer]), proxy(tell), about),
    );
    this.held.set(id, view.sha256);
    return view;
  }

  /** Whether it is at nothing, and was handed nothing. */
  get isFree(): boolean {
    return this.held.size === 0 && this.calls.size === 0;
  }

  /** Whether it was handed a source with these bytes, and nothing else since. */
  holds(id: string, sha256: string): boolean {
    return this.held.get(id) === sha256;
  }

  /** Lets go all that it was handed. */
  async begin(): Promise<void> {
    this.held.clear();
    await this.engine.job.begin();
  }

  /** The reading that suits a source. */
  guess(id: string, name: string): ReturnType<Engine['sources']['guess']> {
    return this.tracked(`reading ${name}`, this.remote.sources.guess(id));
  }

  /** Sources of kept jobs whose next report a source is. */
  recognize(id: string, known: readonly KnownSource[]): ReturnType<Engine['sources']['recognize']> {
    return this.tracked('comparing with kept jobs', this.remote.sources.recognize(id, known));
  }

  /** What the next report of a table's source is known by. */
  layout(tableId: string): ReturnType<Engine['sources']['layout']> {
    return this.tracked('looking at the header', this.remote.sources.layout(tableId));
  }

  /** Runs the steps; any run still going on is stopped. */
  run(tables: readonly FullTable[], tableId: string, onProgress: (done: number) => void): Promise<MethodView> {
    const turn = this.nextTurn();
    return this.tracked('running the method', this.remote.method.run(tables, tableId, turn, proxy(onProgress)));
  }

  /** Tries a step behind another without keeping it. */
  preview(tables: readonly FullTable[], tableId: string, at: number, step: JobStep): Promise<StepView | StepStop> {
    return this.tracked('trying a step', this.remote.method.preview(tables, tableId, at, step, this.turn));
  }

  /** Works out a tally; the next run stops it, and whatever is asked meanwhile goes first. */
  async tally(asked: TallyAsked, onProgress: (done: number) => void): Promise<TallyView | undefined> {
    const { turn } = this;
    for (;;) {
      try {
        return await this.tracked('counting', this.remote.tally.work(asked, turn, proxy(onProgress)));
      } catch (error) {
        if (!(error instanceof EngineError) || error.trouble !== 'preempted') throw error;
      }
      await this.atRest(AT_REST_MS);
      if (this.turn !== turn) throw new EngineError('overtaken', 'A newer run is wanted');
    }
  }

  /** Waits until all that is in sight was asked and answered, so that what can wait does not go before it. */
  answered(): Promise<void> {
    return this.atRest(ANSWERED_MS);
  }

  /** Waits until nothing has been asked for a while. */
  private async atRest(forMs: number): Promise<void> {
    for (let quiet = 0; quiet < forMs; quiet = this.calls.size === 0 ? quiet + LOOK_EVERY_MS : 0)
      await new Promise((done) => setTimeout(done, LOOK_EVERY_MS));
  }

  /** The number of a run that all before give way to. */
  private nextTurn(): number {
    const turn = ++this.turn;
    if (this.shared !== undefined) Atomics.store(this.shared, Shared.wanted, turn);
    return turn;
  }

  /**
   * Methods for a source; a newer draft stops it.
   * @param onFirst told the likeliest steps before they are proven
   */
  draft(
    asked: DraftAsked,
    onProgress: (done: number) => void,
    onFirst: (steps: DraftView['steps']) => void,
  ): Promise<DraftView[]> {
    const turn = this.nextTurn();
    return this.tracked('drafting', this.remote.drafts.make(asked, turn, proxy(onProgress), proxy(onFirst)));
  }

  /** A draft for another report in place of a method's last one; a newer draft stops it. */
  draftForNext(sourceId: string, file: NamedFile, steps: readonly JobStep[]): Promise<NextDraftView | undefined> {
    const turn = this.nextTurn();
    return this.tracked('drafting', this.remote.drafts.forNext(sourceId, file, steps, turn));
  }

  /**
   * Makes the way to the next draft ready, little by little, for as long as the worker is wanted for nothing else. Nobody
   * waits for it, so it is not told as work.
   */
  async warm(isFree: () => boolean): Promise<void> {
    for (let k = 0; k < WARMINGS && isFree(); k++) {
      await this.remote.drafts.warm();
      await new Promise((done) => setTimeout(done, WARM_PAUSE_MS));
    }
  }

  /** Runs a table on many files, each on its own; the next run stops it. */
  runMany(asked: ManyAsked, onFile: (done: number, all: number, view: FileView) => void): Promise<void> {
    return this.tracked('running many files', this.remote.otherFiles.runMany(asked, this.turn, proxy(onFile)));
  }

  /** Stops the run that is going on, if the browser lets us reach it. */
  cancel(): void {
    this.nextTurn();
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
      disableStep(step.key, `You stopped this step after ${took}. It is disabled until you edit it.`);
    }
    this.cancel();
    const until = performance.now() + STOP_WITHIN_MS;
    while (this.calls.size > 0 && performance.now() < until) await new Promise((done) => setTimeout(done, 20));
    const text =
      step === undefined
        ? `Stopped: Rimefield was ${work.what}.`
        : `Stopped at step ${step.index + 1} of ${step.table}. It is disabled until you edit it.`;
    if (this.calls.size > 0) {
      this.end(text);
      return;
    }
    await this.remote.method.disableSteps(disabledSteps());
    this.onEnd({ restarted: false, text });
  }

  /** Lets a step that was stopped run once more. */
  async takeUpAgain(key: string): Promise<void> {
    enableStep(key);
    await this.engine.method.disableSteps(disabledSteps());
  }

  /** Ends a worker whose answers nobody wants any more. */
  close(): void {
    this.giveUp('Another file is still being processed.');
  }

  /** Ends the worker: what was asked of it is never answered. */
  private end(text: string): void {
    this.giveUp(text);
    this.onEnd({ restarted: true, text });
  }

  private giveUp(text: string): void {
    this.ended = text;
    this.host.terminate();
    for (const call of this.calls) call.reject(new EngineError('overtaken', text));
    this.calls.clear();
  }

  private serviceOf(service: keyof Engine) {
    const remote = this.remote[service] as Record<string, (...asked: unknown[]) => Promise<unknown>>;
    return new Proxy(
      {},
      {
        get:
          (_, name: string) =>
          (...asked: unknown[]) =>
            this.tracked('working', remote[name]!(...asked)),
      },
    );
  }

  private tellWaiting(): void {
    if (this.shared !== undefined) Atomics.store(this.shared, Shared.waiting, this.calls.size);
  }

  /**
   * Every call goes through here: what goes on can be seen and stopped, and what goes wrong is an EngineError.
   * @param asked an answer to come, or what asks and is given something to tell the share that is done
   */
  private tracked<T>(what: string, asked: Promise<T> | ((tell: (done: number) => void) => Promise<T>)): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      if (this.ended !== undefined) reject(new EngineError('overtaken', this.ended));
      const call: Call = { since: performance.now(), what, reject };
      this.calls.add(call);
      this.tellWaiting();
      const answer =
        typeof asked === 'function'
          ? asked((done) => {
              call.done = done;
            })
          : asked;
      answer
        .then(resolve, (error) => reject(EngineError.of(error)))
        .finally(() => {
          this.calls.delete(call);
          this.tellWaiting();
        });
    });
  }
}

function workerHost(): EngineHost {
  const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  return {
    endpoint: worker,
    terminate: () => worker.terminate(),
    onBroken: (act) => worker.addEventListener('error', (event) => act(event.message || 'out of memory')),
  };
}

let client: EngineClient | undefined;
let drafter: EngineClient | undefined;
let spare: EngineClient | undefined;
const clients = new Set<EngineClient>();
let ended: (end: EngineEnd) => void = () => undefined;

function started(): EngineClient {
  const made = new EngineClient(workerHost(), (end) => {
    if (end.restarted) {
      clients.delete(made);
      if (made === spare) spare = undefined;
    }
    if (made !== client) return;
    if (end.restarted) client = undefined;
    ended(end);
  });
  clients.add(made);
  return made;
}

/** The worker of the open job. */
export function engineClient(): EngineClient {
  client ??= started();
  return client;
}

/** The worker that drafts: the bench never waits for it, and its end takes nothing with it. */
export function draftClient(): EngineClient {
  if (drafter === undefined || drafter.ended !== undefined) drafter = takeSpare();
  return drafter;
}

/**
 * A worker for a file that comes in, so that it is looked at whatever the open job's worker is at. Once its job is
 * opened, it is that job's: the file is in it already.
 * @param isJobOpen the worker of the open job is not taken
 */
export function takeIntake(isJobOpen: boolean): EngineClient {
  const idle = client;
  if (isJobOpen || idle?.isFree !== true) return takeSpare();
  client = undefined;
  return idle;
}

/** The file of an intake is not wanted, or could not be read. */
export function giveBack(intake: EngineClient): void {
  if (client === undefined && intake.ended === undefined) {
    client = intake;
    void intake.begin().catch(() => undefined);
  } else {
    letGo(intake);
  }
}

/** Makes an intake the worker of the job that is opened. */
export function adopt(intake: EngineClient): void {
  const before = client;
  client = intake;
  if (before !== undefined) letGo(before);
}

/** Lets the worker that drafts go what it holds; it keeps nothing that the next draft could not be handed again. */
export function restDrafter(): void {
  if (drafter !== undefined && drafter.ended === undefined) void drafter.begin().catch(() => undefined);
}

/** Starts the workers that the next file will want, while nothing is asked of any. */
export function warmUp(): void {
  engineClient();
  if (spare !== undefined) return;
  spare = started();
  const own = spare;
  void own.warm(() => spare === own).catch(() => undefined);
}

/** A worker that is at nothing, the one that is kept for this if it is there. */
function takeSpare(): EngineClient {
  const taken = spare ?? started();
  spare = undefined;
  return taken;
}

/** One worker is kept for the next file, without this one's bytes. */
function letGo(worker: EngineClient): void {
  if (worker.ended !== undefined) return;
  if (spare === undefined && worker.work === undefined) {
    void worker.begin().catch(() => undefined);
    spare = worker;
  } else {
    clients.delete(worker);
    worker.close();
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

/** Says what is to be done when the open job's worker crashed or was stopped; the next call starts another. */
export function onEngineEnd(act: (end: EngineEnd) => void): void {
  ended = act;
}
