import { JOB_VERSION, Job, type JobSource } from '../document/job.ts';
import { layoutOf } from '../run/recognize.ts';
import type { Draft, OtherReport } from './draft.ts';

/** Another report of a job, with the file that it was read from. */
export interface OtherOfJob extends Pick<OtherReport, 'id' | 'sourceId' | 'name' | 'draft'> {
  file: NonNullable<JobSource['file']>;
}

/** What the next report of a source is known by. */
function knownBy({ run }: Draft, file: string): Pick<JobSource, 'layout'> {
  const layout = layoutOf(run, file);
  return layout === undefined ? {} : { layout };
}

/**
 * A job whose last table has a draft for its method, behind the tables of other reports that its steps ask for. Equal
 * files give equal jobs.
 *
 * @param file what the source was read from; its digest names the job
 */
export function jobOfDraft(
  draft: Draft,
  file: NonNullable<JobSource['file']>,
  sourceId = 'report',
  others: readonly OtherOfJob[] = [],
): Job {
  const baseName = (name: string) => name.replace(/\.[^.]+$/, '');
  const name = baseName(file.name);
  const asked = others.filter(({ id }) => draft.steps.some((step) => step.params['table'] === id));
  const stepsOf = (own: Draft) =>
    own.steps.map(({ kind, params, why }, k) => ({ id: `s${k + 1}`, kind, params, note: why }));
  // What the finished table leaves out is left out on purpose.
  const accepts = stepsOf(draft)
    .slice(draft.towardFrom ?? draft.steps.length)
    .map(({ id }) => id);
  return Job.parse({
    rimefield: 'job',
    version: JOB_VERSION,
    id: `draft-${file.sha256.slice(0, 16)}`,
    name,
    sources: [
      ...asked.map((one) => ({
        id: one.sourceId,
        name: baseName(one.name),
        file: one.file,
        ...knownBy(one.draft, one.file.name),
      })),
      { id: sourceId, name, file, ...knownBy(draft, file.name) },
    ],
    tables: [
      ...asked.map((one) => ({ id: one.id, name: baseName(one.name), steps: stepsOf(one.draft) })),
      { id: 'table', name: 'Table', steps: stepsOf(draft), ...(accepts.length === 0 ? {} : { accepts }) },
    ],
  });
}
