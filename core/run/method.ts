/** Steps as things to work on: what leans on what, and steps as text. */
import { z } from 'zod';
import { type JobStep, JobStep as JobStepSchema } from '../document/job.ts';
import { JobFileError, parseParams, schemaOf } from '../document/job-file.ts';
import { namesColumns } from '../kinds/param-marks.ts';
import type { MethodRun } from './run.ts';

const NOTHING = z.unknown();

const Copied = z.object({
  rimefield: z.literal('steps'),
  version: z.literal(1),
  steps: z.array(JobStepSchema.omit({ id: true })).min(1),
});

/** Steps as text that can be pasted into another table, job or message. */
export function copySteps(steps: readonly JobStep[]): string {
  const bare = steps.map(({ id: _, ...step }) => step);
  return `${JSON.stringify({ rimefield: 'steps', version: 1, steps: bare }, null, 2)}\n`;
}

/** @throws JobFileError when the text holds no steps, or steps that this version does not know */
export function pasteSteps(text: string): Omit<JobStep, 'id'>[] {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new JobFileError('What was copied holds no steps. Copy steps of a method first.');
  }
  const parsed = Copied.safeParse(raw);
  if (!parsed.success) throw new JobFileError('What was copied holds no steps. Copy steps of a method first.');
  return parsed.data.steps.map((step) => ({
    ...step,
    params: parseParams(step.kind, step.params) as Record<string, unknown>,
  }));
}

/**
 * Indexes of later steps that name a column which the step at this index brought into the table, or gave its name: they
 * would miss it if the step went.
 */
export function leaningOn(run: MethodRun, index: number): number[] {
  const step = run.steps[index];
  if (step === undefined || index === 0) return [];
  const before = new Set(run.steps[index - 1]!.table.fields.map((field) => field.name));
  const brought = new Set(step.table.fields.map((field) => field.name).filter((name) => !before.has(name)));
  const leaning: number[] = [];
  for (let k = index + 1; k < run.steps.length && brought.size > 0; k++) {
    const later = run.steps[k]!;
    if (later.step.muted) continue;
    const steps = later.inner === undefined ? [later.step] : later.inner.map((one) => one.step);
    if (steps.some(({ kind, params }) => namesColumns(schemaOf(kind) ?? NOTHING, params, brought))) leaning.push(k);
    // What a later step makes again under the same name is its own.
    const names = new Set(later.table.fields.map((field) => field.name));
    for (const name of brought) if (!names.has(name)) brought.delete(name);
  }
  return leaning;
}
