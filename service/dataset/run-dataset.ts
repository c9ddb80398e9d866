/** A method on many thousand files: a part of a data set for each, on several processes, taken up where it was stopped. */
import { type ChildProcess, fork } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { writeJobFile } from '../../core/index.ts';
import { sha256Of } from '../sha256.ts';
import { recordedFiles } from './part-record.ts';
import { type DatasetSetup, type PartDone, PartRunner } from './run-part.ts';

/** The sources are run through tsx; what was built runs as it is. */
const IS_SOURCE = import.meta.url.endsWith('.ts');
const CHILD = fileURLToPath(new URL(IS_SOURCE ? './part-child.ts' : './part-child.js', import.meta.url));

export interface PartFile {
  name: string;
  path: string;
}

/** How one file went: its part, or why there is not even a record of it. */
export type PartOutcome = { file: string } & (PartDone | { why: string });

/** Which part of the files is to be done: 3 of 16. */
export interface Shard {
  index: number;
  of: number;
}

/** A fixed part of the files, told by their names alone, whatever else is in the folder. */
export function inShard(name: string, { index, of }: Shard): boolean {
  return createHash('sha256').update(name).digest().readUInt32BE(0) % of === index - 1;
}

/** What tells a method with the other files that it reads from every other. */
export function methodDigest({ job, table, source, others }: Omit<DatasetSetup, 'out' | 'method'>): string {
  // Where its own files come from says nothing of a method.
  const plain = { ...job, sources: job.sources.map((one) => ({ ...one, file: null })) };
  const parts = [writeJobFile(plain), table, source, ...others.map((one) => `${one.id} ${sha256Of(one.bytes)}`)];
  return sha256Of(new TextEncoder().encode(parts.join('\n')));
}

/**
 * @param workers processes; with one, the files are run in this one
 * @param told is given each file as it is done, in no order
 */
export async function runDataset(
  setup: DatasetSetup,
  files: readonly PartFile[],
  workers: number,
  told: (outcome: PartOutcome) => void,
): Promise<void> {
  mkdirSync(setup.out, { recursive: true });
  const waiting = files[Symbol.iterator]();
  const lane = async (runner: { run(file: PartFile): Promise<PartDone>; end(): void }) => {
    // Each takes the next file when it is done with its own.
    for (const file of waiting) {
      try {
        told({ file: file.name, ...(await runner.run(file)) });
      } catch (error) {
        told({ file: file.name, why: (error as Error).message });
      }
    }
    runner.end();
  };
  if (workers === 1) {
    const own = new PartRunner(setup);
    return lane({ run: (file) => own.run(file), end: () => undefined });
  }
  await Promise.all(Array.from({ length: Math.min(workers, files.length) }, () => lane(new PartProcess(setup))));
}

/** Files that records are there for, and that the reports no longer hold: their parts are still in the data set. */
export function goneFiles(out: string, files: readonly PartFile[]): string[] {
  const known = new Set(files.map((file) => file.name));
  return recordedFiles(out).filter((name) => !known.has(name));
}

/** A process that makes parts, started again when it crashed. */
class PartProcess {
  private child: ChildProcess | undefined;

  constructor(private readonly setup: DatasetSetup) {}

  /** @throws Error when the process crashed, or could not write */
  run(file: PartFile): Promise<PartDone> {
    const child = this.started();
    return new Promise((resolve, reject) => {
      const broken = () => {
        this.child = undefined;
        finish();
        reject(new Error('The calculation crashed, usually because memory ran out.'));
      };
      const answered = (answer: { done: PartDone } | { why: string }) => {
        finish();
        if ('done' in answer) resolve(answer.done);
        else reject(new Error(answer.why));
      };
      const finish = () => child.off('exit', broken).off('error', broken).off('message', answered);
      child.on('exit', broken).on('error', broken).on('message', answered);
      child.send({ file });
    });
  }

  end(): void {
    this.child?.disconnect();
  }

  private started(): ChildProcess {
    if (this.child?.connected) return this.child;
    const child = fork(CHILD, {
      serialization: 'advanced',
      execArgv: IS_SOURCE ? ['--import', 'tsx'] : [],
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    child.send({ setup: this.setup });
    this.child = child;
    return child;
  }
}
