import { offerThreadFor } from '../../core/kernels/kernel-thread.ts';

/** Starts the thread that reads ahead, where a file is large enough, memory may be shared and there is a processor. */
export function startSecondThread(bytes: number): void {
  if (!globalThis.crossOriginIsolated || typeof Worker === 'undefined' || navigator.hardwareConcurrency < 2) return;
  const start = () => new Worker(new URL('./kernel-worker.ts', import.meta.url), { type: 'module' });
  offerThreadFor(bytes, (what) => start().postMessage(what));
}
