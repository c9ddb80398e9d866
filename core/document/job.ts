/** The job document: what is kept in the browser and what a job file holds. */
import { z } from 'zod';
import { Check } from '../checks/checks.ts';
import { ExportSpec } from '../formats/export-spec.ts';
import { Coverage } from './coverage.ts';
import { SourceLayout } from './source-layout.ts';

export const JOB_VERSION = 1;

export const JobStep = z.object({
  id: z.string().min(1),
  kind: z.string().min(1),
  /** Checked by the kind's own schema. */
  params: z.record(z.string(), z.unknown()),
  /** What a person calls the step, and wrote beside it. */
  name: z.string().optional(),
  note: z.string().optional(),
  /** Passed over when the method runs. */
  muted: z.boolean().optional(),
});
export type JobStep = z.infer<typeof JobStep>;

export const JobSource = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  /** The file last read for this source, by which it is known again. */
  file: z
    .object({ name: z.string(), size: z.number().int().nonnegative(), sha256: z.string() })
    .nullable()
    .default(null),
  /** Which files are its next report, by their names: * for any characters, ? for one. */
  pattern: z.string().min(1).optional(),
  /** What its next report is known by. */
  layout: SourceLayout.optional(),
});
export type JobSource = z.infer<typeof JobSource>;

export const JobTable = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  /** The first is a reading. */
  steps: z.array(JobStep),
  /** Rules that the table must meet each time. */
  checks: z.array(Check).optional(),
  /** What a person said that totals of the report cover. */
  coverage: z.array(Coverage).optional(),
  /** Ids of steps whose left-out rows are accepted as the reason that totals of the report differ. */
  accepts: z.array(z.string()).optional(),
  /** Steps for things seen in the table that a person does not want to see again. */
  waved: z.array(z.object({ kind: z.string(), params: z.record(z.string(), z.unknown()) })).optional(),
  /** How the table was last exported. */
  export: ExportSpec.optional(),
});
export type JobTable = z.infer<typeof JobTable>;

/** Steps kept under a name, to be used in several tables. */
export const StepSet = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  /** Without a reading. */
  steps: z.array(JobStep),
});
export type StepSet = z.infer<typeof StepSet>;

export const Job = z.object({
  rimefield: z.literal('job'),
  version: z.literal(JOB_VERSION),
  id: z.string().min(1),
  name: z.string().min(1),
  sources: z.array(JobSource),
  tables: z.array(JobTable),
  sets: z.array(StepSet).optional(),
});
export type Job = z.infer<typeof Job>;

/** What the job's sources and tables are called, for sentences. */
export function jobNames(job: Job): { source(id: string): string; table(id: string): string; set(id: string): string } {
  return {
    source: (id) => job.sources.find((one) => one.id === id)?.name ?? id,
    table: (id) => job.tables.find((one) => one.id === id)?.name ?? id,
    set: (id) => job.sets?.find((one) => one.id === id)?.name ?? id,
  };
}
