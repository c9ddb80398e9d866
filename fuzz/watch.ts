/** Inputs of a reader, read in a process apart whose time and memory are watched. */
import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { residentBytes } from '../service/resident.ts';
import type { Asked, Told } from './child.ts';
import type { Outcome } from './one.ts';

export const MAX_MS = 10_000;
export const MAX_BYTES = 2 * 1024 ** 3;
const LOOK_EVERY_MS = 50;
/** The first input of a process loads and translates the modules that read it, on a busy machine for long. */
const FIRST_INPUT_FACTOR = 4;

export interface Found {
  number: number;
  as: Outcome['as'] | 'slow' | 'large' | 'crash';
  text: string;
}

export interface ReaderResult {
  reader: string;
  inputs: number;
  tables: number;
  refused: number;
  /** All that is neither a table nor refused. */
  wrong: Found[];
  slowestMs: number;
  /** Of the process, at its highest. */
  mostBytes: number;
}

/** A process that reads inputs, started again when one of them ended it or had to be ended with it. */
export class Watch {
  private child: ChildProcess | undefined;

  /** Reads the inputs of a reader from one number up to another. */
  run(reader: string, from: number, to: number): Promise<ReaderResult> {
    const result: ReaderResult = {
      reader,
      inputs: to - from,
      tables: 0,
      refused: 0,
      wrong: [],
      slowestMs: 0,
      mostBytes: 0,
    };
    return new Promise((resolve) => {
      let next = from;
      let began = Date.now();
      let isFirst = true;
      const over = (as: Found['as'], text: string) => {
        this.close();
        result.wrong.push({ number: next, as, text });
        next++;
        start();
      };
      const start = () => {
        if (next >= to) {
          clearInterval(timer);
          this.child?.removeAllListeners();
          resolve(result);
          return;
        }
        isFirst = this.child === undefined;
        this.child ??= started();
        began = Date.now();
        this.child.on('exit', (code, signal) => over('crash', `the process ended (${signal ?? code})`));
        this.child.on('message', take);
        this.child.send({ reader, from: next, to } satisfies Asked);
      };
      const take = (told: Told) => {
        if ('begun' in told) {
          next = told.begun;
          began = Date.now();
          return;
        }
        next = told.done + 1;
        isFirst = false;
        result.slowestMs = Math.max(result.slowestMs, told.ms);
        if (told.outcome.as === 'table') result.tables++;
        else if (told.outcome.as === 'refused') result.refused++;
        else result.wrong.push({ number: told.done, ...told.outcome });
        if (next >= to) start();
      };
      const timer = setInterval(() => {
        const bytes = residentBytes(this.child?.pid ?? 0);
        result.mostBytes = Math.max(result.mostBytes, bytes);
        if (bytes > MAX_BYTES) over('large', `${Math.round(bytes / 1024 ** 2)} MiB`);
        else {
          const most = isFirst ? MAX_MS * FIRST_INPUT_FACTOR : MAX_MS;
          if (Date.now() - began > most) over('slow', `more than ${most / 1000} s`);
        }
      }, LOOK_EVERY_MS);
      start();
    });
  }

  close(): void {
    this.child?.removeAllListeners();
    this.child?.kill('SIGKILL');
    this.child = undefined;
  }
}

function started(): ChildProcess {
  return fork(fileURLToPath(new URL('./child.ts', import.meta.url)), {
    execArgv: ['--import', 'tsx', '--max-old-space-size=4096'],
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
}
