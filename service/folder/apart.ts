import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { Arrival, ArrivalResult } from './run-arrival.ts';

const CHILD = fileURLToPath(new URL('./child.ts', import.meta.url));

/** Runs jobs one after the other in a process apart, which is started again when it broke down. */
export class Apart {
  private child: ChildProcess | undefined;
  private ending: ((result: ArrivalResult) => void) | undefined;

  constructor(
    private readonly mostMs = 10 * 60_000,
    private readonly memoryMb = 4096,
  ) {}

  run(arrival: Arrival): Promise<ArrivalResult> {
    const child = this.started();
    return new Promise((resolve) => {
      const end = (result: ArrivalResult) => {
        clearTimeout(timer);
        this.ending = undefined;
        child.off('message', done).off('exit', broken);
        resolve(result);
      };
      const done = (result: unknown) => end(result as ArrivalResult);
      const broken = () => {
        this.child = undefined;
        end({ as: 'failed', why: 'The computation broke down, for want of memory as a rule.' });
      };
      const timer = setTimeout(() => {
        end({ as: 'failed', why: `It took longer than ${Math.round(this.mostMs / 1000)} seconds and was stopped.` });
        this.stop();
      }, this.mostMs);
      child.once('message', done).once('exit', broken);
      this.ending = end;
      child.send(arrival);
    });
  }

  /** Ends the process, and the run that it is at. */
  stop(): void {
    const { child } = this;
    this.child = undefined;
    child?.removeAllListeners();
    child?.kill('SIGKILL');
    this.ending?.({ as: 'failed', why: 'It was stopped.' });
  }

  private started(): ChildProcess {
    this.child ??= fork(CHILD, {
      serialization: 'advanced',
      execArgv: ['--import', 'tsx', `--max-old-space-size=${this.memoryMb}`],
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    return this.child;
  }
}
