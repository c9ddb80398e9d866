import type { Job } from '../core/index.ts';

/** A report, the truth it was made from, and a job whose method gives the truth. */
export interface DemoFiles {
  file: string;
  bytes: Uint8Array;
  truth: string;
  job: Job;
}

export function demoJob(
  id: string,
  name: string,
  source: string,
  table: string,
  steps: readonly (readonly [string, Record<string, unknown>])[],
): Job {
  return {
    rimefield: 'job',
    version: 1,
    id: `demo-${id}`,
    name,
    sources: [{ id: source, name: source.replaceAll('-', ' '), file: null }],
    tables: [
      { id: 'table', name: table, steps: steps.map(([kind, params], k) => ({ id: `s${k + 1}`, kind, params })) },
    ],
  };
}
