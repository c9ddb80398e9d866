import { appendFileSync, closeSync, existsSync, fsyncSync, openSync, readFileSync } from 'node:fs';
import { z } from 'zod';

/** What became of a file that came in. */
export const LogEntry = z.object({
  at: z.number(),
  file: z.string(),
  sha256: z.string(),
  /** done: run, and its results are out. aside: could not be run. again: was run before. taken: an analyst took it. */
  outcome: z.enum(['done', 'aside', 'again', 'taken']),
  jobId: z.string().optional(),
  job: z.string().optional(),
  /** Of the job's text, by which a changed job is distinguished from one that ran. */
  jobSha256: z.string().optional(),
  /** Where its results are, under out. */
  out: z.string().optional(),
  good: z.boolean().optional(),
  text: z.string(),
});
export type LogEntry = z.infer<typeof LogEntry>;

/** A line of JSON for each file, only ever added to. A last line that a crash cut off is passed over. */
export class RunLog {
  private entries: LogEntry[] = [];

  constructor(private readonly path: string) {
    this.readAnew();
  }

  /** What other servers wrote since is taken in. */
  readAnew(): void {
    const { path } = this;
    this.entries = [];
    if (!existsSync(path)) return;
    const text = readFileSync(path, 'utf8');
    for (const line of text.split('\n')) {
      const entry = LogEntry.safeParse(parsed(line));
      if (entry.success) this.entries.push(entry.data);
    }
    if (text !== '' && !text.endsWith('\n')) appendFileSync(path, '\n');
  }

  add(entry: LogEntry): void {
    const file = openSync(this.path, 'a');
    try {
      appendFileSync(file, `${JSON.stringify(entry)}\n`);
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    this.entries.push(entry);
  }

  /** The run of these bytes by this very job, if there was one. */
  ran(sha256: string, jobId: string, jobSha256: string): LogEntry | undefined {
    return this.entries.findLast(
      (one) => one.outcome === 'done' && one.sha256 === sha256 && one.jobId === jobId && one.jobSha256 === jobSha256,
    );
  }

  /** The newest first. */
  latest(most: number): LogEntry[] {
    return this.entries.slice(-most).reverse();
  }
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return undefined;
  }
}
