import { join } from 'node:path';
import { lock } from 'proper-lockfile';
import { sha256Of } from '../sha256.ts';
import { type DropFolder, type FoundFile, TooLarge } from './drop-folder.ts';
import type { ArrivalResult } from './run-arrival.ts';
import { type LogEntry, RunLog } from './run-log.ts';
import { type StandingJob, StandingJobs } from './standing-jobs.ts';
import { WatchedProcess } from './watched-process.ts';

export interface WatchChoices {
  /** How often the folder is looked at, in milliseconds. */
  every: number;
  /** A file is whole when it has not changed for so long. */
  steady: number;
  /** A lock whose server has not said for so long that it lives is taken over. */
  stale: number;
  /** A file that could not be taken is tried again after so long. */
  again: number;
}

const USUAL: WatchChoices = { every: 1000, steady: 2000, stale: 10_000, again: 30_000 };
/** An empty file may be the beginning of one: it gets several times longer to become complete. */
const EMPTY_TIMES = 10;

type Outcome = Omit<LogEntry, 'at' | 'file' | 'sha256'>;

export interface ArrivedFile extends FoundFile {
  /** Still written to. */
  state: 'waiting' | 'whole' | 'running' | 'stuck';
  /** Why it could not even be set aside. */
  trouble?: string;
}

/**
 * Looks after a drop folder: tells which files have arrived, and runs the jobs that are to run by themselves. Of several
 * servers on one folder the one that holds its lock runs jobs; the others show what is there.
 */
export class Watcher {
  readonly jobs: StandingJobs;
  private readonly log: RunLog;
  private readonly choices: WatchChoices;
  private readonly seen = new Map<string, { size: number; modified: number; since: number }>();
  private readonly stuck = new Map<string, { why: string; until: number }>();
  private release: (() => Promise<void>) | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: FoundFile | undefined;
  private turning: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    readonly folder: DropFolder,
    choices: Partial<WatchChoices> = {},
    private readonly apart = new WatchedProcess(),
  ) {
    this.choices = { ...USUAL, ...choices };
    this.jobs = new StandingJobs(join(folder.own, 'jobs'));
    this.log = new RunLog(join(folder.own, 'runs.ndjson'));
  }

  start(): void {
    const turn = () => {
      this.turning = this.turn()
        .catch((error: Error) => {
          process.stderr.write(`Rimefield: the drop folder could not be looked at: ${error.message}\n`);
        })
        .then(() => {
          if (!this.stopped) this.timer = setTimeout(turn, this.choices.every);
        });
    };
    turn();
  }

  /** Ends after the file in hand. */
  async stop(): Promise<void> {
    this.stopped = true;
    clearTimeout(this.timer);
    this.apart.stop();
    await this.turning;
    await this.release?.().catch(() => undefined);
  }

  /** Whether this server runs jobs. */
  get holds(): boolean {
    return this.release !== undefined;
  }

  arrivals(): ArrivedFile[] {
    const { running } = this;
    const arrived = this.folder.list().map((file): ArrivedFile => {
      const stuck = this.stuck.get(file.name);
      if (stuck !== undefined) return { ...file, state: 'stuck', trouble: stuck.why };
      return { ...file, state: this.isWhole(file) ? 'whole' : 'waiting' };
    });
    return running === undefined ? arrived : [{ ...running, state: 'running' }, ...arrived];
  }

  latest(most: number): LogEntry[] {
    return this.log.latest(most);
  }

  /** A file that an analyst took into a job: it goes to those that are done. @throws BadName, Error */
  taken(name: string, job: string): void {
    if (this.running?.name === name) throw new Error(`${name} is being run.`);
    const sha256 = sha256Of(this.folder.read(name));
    this.folder.moveTo('done', name);
    this.log.add({ at: Date.now(), file: name, sha256, outcome: 'taken', job, text: 'taken into the job' });
  }

  private async turn(): Promise<void> {
    const files = this.folder.list();
    const names = new Set(files.map((file) => file.name));
    for (const name of this.seen.keys()) {
      if (names.has(name)) continue;
      this.seen.delete(name);
      this.stuck.delete(name);
    }
    for (const file of files) {
      const known = this.seen.get(file.name);
      if (known?.size === file.size && known.modified === file.modified) continue;
      this.seen.set(file.name, { size: file.size, modified: file.modified, since: Date.now() });
      this.stuck.delete(file.name);
    }
    await this.hold();
    if (!this.holds) return;
    // Looked up once a turn: thousands of files may lie here that no job is for.
    const fitting = this.jobs.fitter();
    for (const file of files) {
      if (this.stopped || !this.holds) return;
      if (!this.isWhole(file) || (this.stuck.get(file.name)?.until ?? 0) > Date.now()) continue;
      const jobs = fitting(file.name);
      if (jobs.length === 0 || !jobs.every((job) => this.jobs.isReady(job))) continue;
      try {
        await this.runAll(file, jobs);
        this.stuck.delete(file.name);
      } catch (error) {
        // The others go on; this one is tried again when it changes, or after a while: the disk may have room again.
        this.stuck.set(file.name, { why: (error as Error).message, until: Date.now() + this.choices.again });
      }
    }
  }

  private isWhole(file: FoundFile): boolean {
    const seen = this.seen.get(file.name);
    if (seen === undefined || seen.size !== file.size || seen.modified !== file.modified) return false;
    return Date.now() - seen.since >= this.choices.steady * (file.size === 0 ? EMPTY_TIMES : 1);
  }

  private async hold(): Promise<void> {
    if (this.release !== undefined) return;
    try {
      this.release = await lock(this.folder.own, {
        lockfilePath: join(this.folder.own, 'lock'),
        stale: this.choices.stale,
        update: this.choices.stale / 3,
        onCompromised: () => {
          this.release = undefined;
        },
      });
      // Another server may have run jobs until now, and broken down in the middle of one.
      this.log.readAnew();
      this.folder.putBack();
      this.folder.sweep();
    } catch (error) {
      if ((error as { code?: string }).code !== 'ELOCKED') throw error;
    }
  }

  /**
   * Runs every job that a file is for; it goes aside when one of them cannot, with all reasons. It is taken out of the
   * folder first, so that another of its name can come meanwhile.
   */
  private async runAll(seen: FoundFile, jobs: readonly StandingJob[]): Promise<void> {
    const { name } = seen;
    const file = this.folder.claim(seen);
    if (file === undefined) return;
    this.running = seen;
    try {
      const bytes = file.read();
      const sha256 = sha256Of(bytes);
      const entries: Outcome[] = [];
      for (const job of jobs) {
        const made = await this.runOne({ name, bytes, sha256 }, job);
        if (this.stopped || !file.isSame()) return file.putBack();
        entries.push(made());
      }
      // Logged before the file is moved: a crash in between has it moved the next time, and not run again.
      for (const entry of entries) this.log.add({ at: Date.now(), file: name, sha256, ...entry });
      const failed = entries.filter((entry) => entry.outcome === 'aside');
      if (failed.length > 0) file.setAside(failed.map((entry) => `${entry.job}: ${entry.text}`).join('\n'));
      else file.done();
    } catch (error) {
      if (error instanceof TooLarge) return file.setAside(error.message);
      file.putBack();
      throw error;
    } finally {
      this.running = undefined;
    }
  }

  /** @returns what puts the results out, once it is known that the file is still the same */
  private async runOne(
    { name, bytes, sha256 }: { name: string; bytes: Buffer; sha256: string },
    standing: StandingJob,
  ): Promise<() => Outcome> {
    const { job } = standing;
    const of = { jobId: job.id, job: job.name, jobSha256: standing.sha256 };
    const before = this.log.ran(sha256, job.id, standing.sha256);
    if (before !== undefined)
      return () => ({
        ...of,
        outcome: 'again',
        out: before.out,
        good: before.good,
        text: `run before, as ${before.file}`,
      });
    const result: ArrivalResult = await this.apart.run({
      job,
      source: standing.source,
      file: { name, bytes },
      others: this.jobs.others(standing),
    });
    if (result.as === 'failed') return () => ({ ...of, outcome: 'aside', text: result.why });
    // Named by what went in, so that a run that a crash cut short before it was logged is found again.
    const run = `${name.replace(/\.[^.]+$/, '')} ${sha256.slice(0, 8)}-${standing.sha256.slice(0, 4)}`;
    return () => {
      const out = this.folder.publish(job.name, run, result.files);
      return { ...of, outcome: 'done', out, good: result.good, text: result.text };
    };
  }
}
