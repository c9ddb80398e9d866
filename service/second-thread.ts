import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { KernelThread, offerThread, type ThreadStart } from '../core/kernels/kernel-thread.ts';

/** The sources are run through tsx; what was built runs as it is. */
const IS_SOURCE = import.meta.url.endsWith('.ts');
/** Smaller files are read sooner than a thread starts. */
const LARGE_BYTES = 16_777_216;

let isAsked = false;

/** Starts the thread that reads ahead, where a file is large enough for it and there is a processor. */
export function startSecondThread(bytes: number): void {
  if (isAsked || bytes < LARGE_BYTES || availableParallelism() < 2) return;
  isAsked = true;
  try {
    const thread = new KernelThread((what) => {
      const worker = kernelWorker(what);
      worker.unref();
      // All is done in one thread.
      worker.on('error', () => offerThread(undefined));
    });
    offerThread(thread);
  } catch {
    // The same.
  }
}

export function kernelWorker(what: ThreadStart): Worker {
  if (!IS_SOURCE) return new Worker(new URL('./kernel-child.js', import.meta.url), { workerData: what });
  const child = JSON.stringify(new URL('./kernel-child.ts', import.meta.url).href);
  const run = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${child}, ${child}))`;
  return new Worker(run, { eval: true, workerData: what });
}
