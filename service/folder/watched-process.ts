import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { grouped } from '../../core/index.ts';
import { residentBytes } from '../resident.ts';
import type { Arrival, ArrivalResult } from './run-arrival.ts';

/** The sources are run through tsx; what was built runs as it is. */
const IS_SOURCE = import.meta.url.endsWith('.ts');
const CHILD = fileURLToPath(new URL(IS_SOURCE ? './child.ts' : './child.js', import.meta.url));
const LOOK_EVERY_MS = 250;
const MEBIBYTE = 1024 * 1024;

export interface ProcessLimits {
  /** Milliseconds that one run may take. */
  mostMs: number;
  /** Memory that the process may hold, in MiB: its heap and, where the system tells (Linux), everything else too. */
  memoryMb: number;
}

const USUAL: ProcessLimits = { mostMs: 10 * 60_000, memoryMb: 4096 };

/** Runs jobs one after the other in a process apart, which is started again when it crashed. */
export class WatchedProcess {
  private child: ChildProcess | undefined;
  private ending: ((result: ArrivalResult) => void) | undefined;
  private readonly limits: ProcessLimits;

  constructor(limits: Partial<ProcessLimits> = {}) {
    this.limits = { ...USUAL, ...limits };
  }

  run(arrival: Arrival): Promise<ArrivalResult> {
    const { mostMs, memoryMb } = this.limits;
    const child = this.started();
    return new Promise((resolve) => {
      const failed = (why: string) => {
        this.ending?.({ as: 'failed', why });
        this.stop();
      };
      const timer = setTimeout(
        () => failed(`It took longer than ${Math.round(mostMs / 1000)} seconds and was stopped.`),
        mostMs,
      );
      // Tables stand outside of the heap, which is all that the process itself limits.
      const watch = setInterval(() => {
        if (residentBytes(child.pid) > memoryMb * MEBIBYTE)
          failed(`It needed more than ${grouped(memoryMb)} MiB of memory and was stopped.`);
      }, LOOK_EVERY_MS);
      this.ending = (result) => {
        clearTimeout(timer);
        clearInterval(watch);
        this.ending = undefined;
        resolve(result);
      };
      child.send(arrival, (error) => {
        if (error !== null) this.broken(child);
      });
    });
  }

  /** Ends the process, and the run that it is at. */
  stop(): void {
    const { child } = this;
    this.child = undefined;
    child?.removeAllListeners();
    // A message on its way to it may still fail.
    child?.on('error', () => undefined);
    child?.kill('SIGKILL');
    this.ending?.({ as: 'failed', why: 'It was stopped.' });
  }

  private started(): ChildProcess {
    if (this.child?.connected) return this.child;
    const child = fork(CHILD, {
      serialization: 'advanced',
      execArgv: [...(IS_SOURCE ? ['--import', 'tsx'] : []), `--max-old-space-size=${this.limits.memoryMb}`],
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    // It may also end between two runs, which is no trouble of the server's.
    child.on('exit', () => this.broken(child)).on('error', () => this.broken(child));
    child.on('message', (result) => this.ending?.(result as ArrivalResult));
    this.child = child;
    return child;
  }

  private broken(child: ChildProcess): void {
    if (this.child !== child) return;
    this.child = undefined;
    this.ending?.({ as: 'failed', why: 'The calculation crashed, usually because memory ran out.' });
  }
}
