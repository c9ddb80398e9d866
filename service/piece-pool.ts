/** Pieces of a file that threads run beside each other, taken in the order in which they were given. */
import type { Worker } from 'node:worker_threads';
import { type ExportSpec, ExportStopped, type Job, PiecesFailure } from '../core/index.ts';
import type { PiecesBegun } from '../core/release/in-pieces.ts';
import { workerOf } from './worker-of.ts';

/** What every thread needs to know. */
export interface PiecesSetup {
  job: Job;
  /** Id of the table. */
  table: string;
  source: string;
  path: string;
  spec: ExportSpec & { as: 'csv' };
  begun: PiecesBegun;
}

/** Whole rows: bytes up to a length, which begin at a byte of the file. */
export interface GivenPiece {
  bytes: Uint8Array<ArrayBuffer>;
  length: number;
  at: number;
}

/** Rows of a piece: received, in the table, on piles; and cells that could not be read. */
export interface PieceCounts {
  received: number;
  rows: number;
  aside: ReadonlyMap<string, number>;
  unreadable: number;
}

/** What a thread answers. */
export type PieceAnswer =
  | { text: Uint8Array<ArrayBuffer>; made: PieceCounts; end: number }
  | { failed: string; message: string };

const FAILURES = { PiecesFailure, ExportStopped };

export class PiecePool {
  private readonly idle: Worker[];
  private readonly all: readonly Worker[];
  private readonly given: Promise<PieceAnswer>[] = [];

  constructor(setup: PiecesSetup, threads: number) {
    this.all = Array.from({ length: threads }, () => workerOf('pieces-child', setup));
    this.idle = [...this.all];
    // A run that fails elsewhere leaves pieces behind that nobody takes.
    for (const worker of this.all) worker.unref();
  }

  /** Every thread has a piece. */
  get isFull(): boolean {
    return this.idle.length === 0;
  }

  get isWorking(): boolean {
    return this.given.length > 0;
  }

  /** Hands a piece, and its memory, to a thread that is idle. */
  give({ bytes, length, at }: GivenPiece): void {
    const worker = this.idle.pop()!;
    const answer = new Promise<PieceAnswer>((resolve, reject) => {
      const done = (one: PieceAnswer) => {
        worker.off('error', reject);
        this.idle.push(worker);
        resolve(one);
      };
      worker.once('message', done);
      worker.once('error', reject);
    });
    // take() reports a failure; until then nobody has to handle it.
    answer.catch(() => undefined);
    this.given.push(answer);
    worker.ref();
    worker.postMessage({ bytes, length, at }, [bytes.buffer]);
  }

  /** The piece that was given first. @throws PiecesFailure, ExportStopped */
  async take(): Promise<Exclude<PieceAnswer, { failed: string }>> {
    const answer = await this.given.shift()!;
    if (!('failed' in answer)) return answer;
    const Failure = FAILURES[answer.failed as keyof typeof FAILURES] ?? Error;
    throw new Failure(answer.message);
  }

  end(): void {
    for (const worker of this.all) void worker.terminate();
  }
}
