import type { Job } from './job.ts';
import type { KnownSource } from './source-layout.ts';

/**
 * Sources of a job that are known by their last report, with the steps that read them.
 * @param name what the job is called in a match
 */
export function knownSources(job: Job, name = job.id): KnownSource[] {
  return job.sources.flatMap(({ id, layout }): KnownSource[] => {
    const reading = job.tables.find(({ steps }) => steps[0]?.params['source'] === id)?.steps[0];
    return layout === undefined || reading === undefined
      ? []
      : [{ job: name, source: id, layout, reading: { kind: reading.kind, params: reading.params } }];
  });
}
