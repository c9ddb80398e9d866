import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { offerThread, offerThreadFor, type ThreadStart } from '../core/kernels/kernel-thread.ts';

/** The sources are run through tsx; what was built runs as it is. */
const IS_SOURCE = import.meta.url.endsWith('.ts');

/** Starts the thread that reads ahead, if the file is large enough and there is a processor. */
export function startSecondThread(bytes: number): void {
  if (availableParallelism() < 2) return;
  offerThreadFor(bytes, (what) => {
    const worker = kernelWorker(what);
    worker.unref();
    // All is done in one thread.
    worker.on('error', () => offerThread(undefined));
  });
}

export function kernelWorker(what: ThreadStart): Worker {
  return workerOf('kernel-child', what);
}

/** Starts a file of this folder in its own thread. */
export function workerOf(name: string, workerData: unknown): Worker {
  if (!IS_SOURCE) return new Worker(new URL(`./${name}.js`, import.meta.url), { workerData });
  const child = JSON.stringify(new URL(`./${name}.ts`, import.meta.url).href);
  const run = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${child}, ${child}))`;
  return new Worker(run, { eval: true, workerData });
}
