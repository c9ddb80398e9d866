import { Worker } from 'node:worker_threads';

/** The sources are run through tsx; what was built runs as it is. */
const IS_SOURCE = import.meta.url.endsWith('.ts');

/** Starts a file of this folder in its own thread. */
export function workerOf(name: string, workerData: unknown): Worker {
  if (!IS_SOURCE) return new Worker(new URL(`./${name}.js`, import.meta.url), { workerData });
  const child = JSON.stringify(new URL(`./${name}.ts`, import.meta.url).href);
  const run = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${child}, ${child}))`;
  return new Worker(run, { eval: true, workerData });
}
