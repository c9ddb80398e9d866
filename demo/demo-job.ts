import { type Job, openSource } from '../core/index.ts';

/** A report, the truth it was made from, and a job whose method gives the truth. */
export interface DemoFiles {
  file: string;
  bytes: Uint8Array;
  /** Files of the job's sources after the first. */
  more?: readonly { source: string; file: string; bytes: Uint8Array }[];
  /** What the last table of the job gives. */
  truth: string;
  job: Job;
}

/** What differs between the report of one time and the next: other figures, and quays that came or went. */
export interface Edition {
  seed?: number;
  quays?: readonly string[];
}

type Steps = readonly (readonly [string, Record<string, unknown>])[];

/** A job with several tables, whose ids are t1, t2 and so on. */
export function demoTables(
  id: string,
  name: string,
  sources: readonly string[],
  tables: readonly (readonly [string, Steps])[],
): Job {
  return {
    rimefield: 'job',
    version: 1,
    id: `demo-${id}`,
    name,
    sources: sources.map((source) => ({ id: source, name: source.replaceAll('-', ' '), file: null })),
    tables: tables.map(([called, steps], t) => ({
      id: `t${t + 1}`,
      name: called,
      steps: steps.map(([kind, params], k) => ({ id: `t${t + 1}s${k + 1}`, kind, params })),
    })),
  };
}

/** Every file of a demo, with the source it belongs to. */
export function demoFiles(made: DemoFiles): { source: string; file: string; bytes: Uint8Array }[] {
  return [{ source: made.job.sources[0]!.id, file: made.file, bytes: made.bytes }, ...(made.more ?? [])];
}

/** Opens every file of demos, so that they can be read at once. */
export async function openDemos(all: readonly DemoFiles[]): Promise<void> {
  for (const made of all) for (const { file, bytes } of demoFiles(made)) await openSource(bytes, file);
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
