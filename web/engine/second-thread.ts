import { KernelThread, offerThread } from '../../core/kernels/kernel-thread.ts';

let isAsked = false;

/** Starts the thread that reads ahead, where the page may share memory and there is a processor for it. */
export function startSecondThread(): void {
  const canShare = globalThis.crossOriginIsolated && typeof Worker !== 'undefined' && navigator.hardwareConcurrency > 1;
  if (isAsked || !canShare) return;
  isAsked = true;
  try {
    const start = () => new Worker(new URL('./kernel-worker.ts', import.meta.url), { type: 'module' });
    offerThread(new KernelThread((what) => start().postMessage(what)));
  } catch {
    // All is done in one thread.
  }
}
