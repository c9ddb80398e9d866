import type { Job, JobTable } from '../../../core/index.ts';

export function tableOfJob(job: Job, tableId: string): JobTable {
  return job.tables.find((one) => one.id === tableId)!;
}
