import { JOB_VERSION, Job, type JobSource } from '../document/job.ts';
import type { Draft } from './draft.ts';

/**
 * A job whose one table has a draft for its method. Equal files give equal jobs.
 *
 * @param file what the source was read from; its digest names the job
 */
export function jobOfDraft(draft: Draft, file: NonNullable<JobSource['file']>, sourceId = 'report'): Job {
  const name = file.name.replace(/\.[^.]+$/, '');
  return Job.parse({
    rimefield: 'job',
    version: JOB_VERSION,
    id: `draft-${file.sha256.slice(0, 16)}`,
    name,
    sources: [{ id: sourceId, name, file }],
    tables: [
      {
        id: 'table',
        name: 'Table',
        steps: draft.steps.map(({ kind, params, why }, k) => ({ id: `s${k + 1}`, kind, params, note: why })),
      },
    ],
  });
}
