/** A demo's method on a later report, as a user meets it: what is reported first, then the run. */
import { readFileSync } from 'node:fs';
import {
  fixedJob,
  fullTables,
  type Job,
  Runner,
  readJobFile,
  type TableNext,
  tryReport,
  writeDelimited,
} from '../core/index.ts';
import { DEMOS } from './all.ts';
import { type DemoFiles, demoFiles, openDemos } from './demo-job.ts';
import { type LaterReport, laterReports, type Outcome } from './later.ts';

const quiet = { progress: () => undefined };

function give(runner: Runner, made: DemoFiles): void {
  for (const { source, file, bytes } of demoFiles(made)) runner.setSource(source, { name: file, bytes });
}

/** The last table of a job as delimited text; undefined when its method stops. */
export function resultOf(runner: Runner, job: Job): string | undefined {
  const run = runner.runTable(fullTables(job), job.tables.at(-1)!.id, quiet);
  return run.stop === undefined ? new TextDecoder().decode(writeDelimited(run.steps.at(-1)!.table)) : undefined;
}

/** What is said of the later report before it is taken, and what the method gives when it is. */
export function laterRun({ demo, made }: LaterReport) {
  const job = readJobFile(readFileSync(`demo/files/${demo}.job.json`, 'utf8'));
  const runner = new Runner();
  give(runner, DEMOS[demo]!());
  // The files of further sources go with the first; what is reported is of the first.
  for (const { source, file, bytes } of made.more ?? []) runner.setSource(source, { name: file, bytes });
  const next: TableNext[] = tryReport(runner, job, job.sources[0]!.id, { name: made.file, bytes: made.bytes });
  give(runner, made);
  return { job, runner, next, said: next.flatMap((one) => one.differences), result: resultOf(runner, job) };
}

/** What was made of the demos' bytes goes with them: they stay. */
const opened: DemoFiles[] = [];

/** Opens every demo and every later report, so that they can be read at once from then on. */
export async function openAllDemos(): Promise<void> {
  if (opened.length > 0) return;
  opened.push(...Object.values(DEMOS).map((make) => make()), ...laterReports().map((one) => one.made));
  await openDemos(opened);
}

export interface LaterScore {
  demo: string;
  change: string;
  /** What happened: as in Outcome, or wrong without a word. */
  found: Outcome | 'silent';
  /** What is offered to fix it gives the true table. */
  fixed: boolean;
}

/** What happens with every later report. */
export async function scoreLater(): Promise<LaterScore[]> {
  await openAllDemos();
  return laterReports().map((later) => {
    const { job, runner, next, said, result } = laterRun(later);
    const { truth } = later.made;
    const looks = said.some((one) => one.severity === 'warning');
    const found =
      result === undefined ? 'stops' : result === truth ? 'right' : looks ? ('told' as const) : ('silent' as const);
    const fixed = result === undefined && resultOf(runner, fixedJob(job, next)) === truth;
    return { demo: later.demo, change: later.change, found, fixed };
  });
}
