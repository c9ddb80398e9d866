/** Jobs that run by themselves when a file arrives: kept in the folder with the files of their other sources. */

import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { fitsPattern, type Job, readJobFile, writeJobFile } from '../../core/index.ts';
import { sha256Of } from '../sha256.ts';
import { writeAside } from '../write-aside.ts';
import { BadName } from './drop-folder.ts';

export const Standing = z.object({
  /** The source that arriving files are for. */
  source: z.string().min(1),
  pattern: z.string().min(1).max(200),
});
export type Standing = z.infer<typeof Standing>;

export interface StandingJob extends Standing {
  job: Job;
  sha256: string;
}

/** So long may the files of a job's other sources take to come. */
const WAITS_MS = 60_000;

const ID = /^[A-Za-z0-9-]{1,64}$/;

export class StandingJobs {
  constructor(private readonly folder: string) {}

  /** Jobs in the order of their ids; what cannot be read is left out. */
  list(): StandingJob[] {
    if (!existsSync(this.folder)) return [];
    return readdirSync(this.folder)
      .filter((id) => ID.test(id))
      .sort()
      .flatMap((id) => this.get(id) ?? []);
  }

  get(id: string): StandingJob | undefined {
    if (!ID.test(id)) return undefined;
    try {
      const text = readFileSync(join(this.folder, id, 'job.json'), 'utf8');
      const standing = Standing.parse(JSON.parse(readFileSync(join(this.folder, id, 'standing.json'), 'utf8')));
      const job = readJobFile(text);
      const sha256 = createHash('sha256').update(text);
      for (const source of job.sources) sha256.update(source.file?.sha256 ?? '');
      return { ...standing, job, sha256: sha256.digest('hex') };
    } catch {
      return undefined;
    }
  }

  /** @throws BadName when the id is none, or the standing names a source that the job does not have */
  set(job: Job, standing: Standing): void {
    if (!ID.test(job.id)) throw new BadName('The job has an id that is no name of a folder.');
    if (!job.sources.some((one) => one.id === standing.source)) throw new BadName('The job has no such source.');
    const encode = (text: string) => new TextEncoder().encode(text);
    writeAside(join(this.folder, job.id, 'job.json'), encode(writeJobFile(job)));
    // Written last: without it the job does not run.
    writeAside(join(this.folder, job.id, 'standing.json'), encode(`${JSON.stringify(standing)}\n`));
  }

  /**
   * Whether the files of its other sources are all here, as the job names them. They come one after the other behind the
   * job itself; after a while without them the job runs all the same, and says what is missing.
   */
  isReady({ job, source }: StandingJob): boolean {
    const path = join(this.folder, job.id, 'standing.json');
    if (Date.now() - (statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? 0) > WAITS_MS) return true;
    return job.sources.every((one) => {
      if (one.id === source || one.file === null) return true;
      const own = this.sourcePath(job.id, one.id);
      return existsSync(own) && sha256Of(readFileSync(own)) === one.file.sha256;
    });
  }

  /** Takes a file that was written aside as that of a source. @throws BadName when there is no such job */
  takeSource(id: string, source: string, aside: string): void {
    const path = this.sourcePath(id, source);
    if (this.get(id)?.job.sources.some((one) => one.id === source) !== true)
      throw new BadName('There is no such job, or it has no such source.');
    renameSync(aside, path);
  }

  /** The files of the sources other than the one that arrives. */
  others({ job, source }: StandingJob): { id: string; name: string; bytes: Uint8Array }[] {
    return job.sources.flatMap((one) => {
      const path = this.sourcePath(job.id, one.id);
      return one.id === source || !existsSync(path)
        ? []
        : [{ id: one.id, name: one.file?.name ?? one.name, bytes: readFileSync(path) }];
    });
  }

  remove(id: string): void {
    if (ID.test(id)) rmSync(join(this.folder, id), { recursive: true, force: true });
  }

  /** Tells the jobs that a file is for, as they stand now. */
  fitter(): (name: string) => StandingJob[] {
    const jobs = this.list().map((job) => ({ job, fits: fitsPattern(job.pattern) }));
    return (name) => jobs.filter(({ fits }) => fits(name)).map(({ job }) => job);
  }

  private sourcePath(id: string, source: string): string {
    if (!ID.test(id) || !ID.test(source))
      throw new BadName('The job or its source has an id that is no name of a file.');
    return join(this.folder, id, `${source}.source`);
  }
}
