import { z } from 'zod';
import { FROM_TABLE, FromTable } from '../read/from-table.ts';
import { READING_WORDS } from '../read/words.ts';
import { STEP_WORDS } from '../steps/words.ts';
import { brief } from '../values/text.ts';
import { JOB_VERSION, Job } from './job.ts';
import { USE_SET, UseSet } from './step-set.ts';
import { unknownKey, unknownKeyText } from './unknown-keys.ts';

/** The text is not a job file that this version can open. Nothing has been changed. */
export class JobFileError extends Error {
  override name = 'JobFileError';

  constructor(message: string) {
    super(brief(message, 700));
  }
}

/** A job as the text of a job file. The same job always gives the same bytes. */
export function writeJobFile(job: Job): string {
  return `${JSON.stringify(normalJob(job), null, 2)}\n`;
}

/** The job with every object's keys in the schema's order and every default filled in. */
function normalJob(job: Job): Job {
  const { sets, ...parsed } = Job.parse(job);
  return {
    ...parsed,
    tables: parsed.tables.map((table, t) => ({
      id: table.id,
      name: table.name,
      steps: job.tables[t]!.steps.map(normalStep),
      ...(table.checks === undefined || table.checks.length === 0 ? {} : { checks: table.checks }),
      ...(table.export === undefined ? {} : { export: table.export }),
      ...(table.accepts === undefined || table.accepts.length === 0 ? {} : { accepts: table.accepts }),
      ...(table.coverage === undefined || table.coverage.length === 0 ? {} : { coverage: table.coverage }),
      ...(table.waved === undefined || table.waved.length === 0 ? {} : { waved: table.waved }),
    })),
    ...(sets === undefined || sets.length === 0
      ? {}
      : { sets: sets.map((set) => ({ ...set, steps: set.steps.map(normalStep) })) }),
  };
}

function normalStep(step: Job['tables'][number]['steps'][number]): typeof step {
  return {
    id: step.id,
    kind: step.kind,
    params: parseParams(step.kind, step.params) as Record<string, unknown>,
    ...(step.name === undefined || step.name === '' ? {} : { name: step.name }),
    ...(step.note === undefined || step.note === '' ? {} : { note: step.note }),
    ...(step.muted ? { muted: true } : {}),
  };
}

/**
 * Params by the kind's own schema.
 * @throws JobFileError for an unknown kind, ZodError for params that do not fit
 */
export function parseParams(kind: string, params: unknown): unknown {
  const schema = schemaOf(kind);
  if (schema === undefined)
    throw new JobFileError(`There is no step kind called ${kind} in this version of Rimefield.`);
  return schema.parse(params);
}

/** The params that a kind of step, reading or set takes; undefined for a kind that this version does not know. */
export function schemaOf(kind: string): z.ZodType | undefined {
  if (kind === FROM_TABLE) return FromTable;
  if (kind === USE_SET) return UseSet;
  return READING_WORDS.get(kind)?.params ?? STEP_WORDS.get(kind)?.params;
}

/** @throws JobFileError that says what is wrong and where */
export function readJobFile(text: string): Job {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new JobFileError(`This is not a job file, or it is cut off: ${(error as Error).message}.`);
  }
  if (typeof raw !== 'object' || raw === null || (raw as { rimefield?: unknown }).rimefield !== 'job') {
    throw new JobFileError('This is JSON, but not a Rimefield job: it does not begin with "rimefield": "job".');
  }
  const { version } = raw as { version?: unknown };
  if (version !== JOB_VERSION) {
    throw new JobFileError(
      `This job was saved as version ${String(version)}; this Rimefield reads version ${JOB_VERSION}. Open it with the Rimefield that saved it.`,
    );
  }
  const parsed = Job.safeParse(raw);
  if (!parsed.success) throw new JobFileError(`The job file is broken at ${issueText(parsed.error)}.`);
  const unknown = unknownKey(raw, parsed.data);
  if (unknown !== undefined) throw new JobFileError(`The job file cannot be used: ${unknownKeyText(unknown, Job)}.`);
  return checkSteps(parsed.data);
}

/**
 * Params by the kind's own schema, which must know every key of them.
 * @throws JobFileError, ZodError
 */
function strictParams(kind: string, params: Record<string, unknown>): Record<string, unknown> {
  const parsed = parseParams(kind, params) as Record<string, unknown>;
  const unknown = unknownKey(params, parsed);
  if (unknown !== undefined)
    throw new JobFileError(`${unknownKeyText(unknown, schemaOf(kind)!)}. Correct the name, or take it out.`);
  // The reading of each of several files is a step within the step.
  const each = parsed['each'] as { kind: string; params: Record<string, unknown> } | undefined;
  if (kind !== 'read-files' || each === undefined) return parsed;
  const own = strictParams(each.kind, { source: '', ...each.params });
  if (!('source' in each.params)) delete own['source'];
  return { ...parsed, each: { ...each, params: own } };
}

function checkSteps(job: Job): Job {
  for (const table of [...job.tables, ...(job.sets ?? [])]) {
    table.steps.forEach((step, k) => {
      const where = `step ${k + 1} of ${table.name}`;
      try {
        step.params = strictParams(step.kind, step.params);
      } catch (error) {
        if (error instanceof z.ZodError)
          throw new JobFileError(`The job file is broken in ${where} (${step.kind}), at ${issueText(error)}.`);
        throw new JobFileError(`The job file cannot be used in ${where}: ${(error as Error).message}`);
      }
    });
  }
  return job;
}

function issueText(error: z.ZodError): string {
  const issue = error.issues[0]!;
  const path = issue.path.join('.');
  return `${path === '' ? 'the top' : path}: ${issue.message}`;
}
