/** What is kept of each file of a data set, beside its part. */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';

/** Records lie in a folder that readers of data sets pass over (by the usage of Hive and Spark, common practice). */
export const RECORDS = '_records';

export const PartRecord = z.object({
  rimefield: z.literal('part'),
  version: z.literal(1),
  /** Name of the file that the method ran on. */
  file: z.string(),
  size: z.number(),
  sha256: z.string(),
  /** SHA-256 of the method, and of the other files that it reads. */
  method: z.string(),
  /** The part's file; none where the file failed. */
  part: z.object({ name: z.string(), size: z.number(), sha256: z.string() }).optional(),
  /** Why there is no part. */
  failed: z.string().optional(),
  rows: z.number(),
  unreadable: z.number(),
  columns: z.array(z.object({ name: z.string(), type: z.string() })),
  /** Tally and checks are well. */
  good: z.boolean(),
  verdict: z.string(),
  checks: z.array(z.object({ text: z.string(), ok: z.boolean(), found: z.string(), level: z.string() })),
  /** What the steps tell to be looked at. */
  looks: z.array(z.string()),
});
export type PartRecord = z.infer<typeof PartRecord>;

/** Names of a part and of its record, from that of the file. */
export function partName(file: string): string {
  return `${file}.parquet`;
}

export function recordPath(out: string, file: string): string {
  return join(out, RECORDS, `${file}.json`);
}

/** The record of a file, or undefined where there is none that holds. */
export function readRecord(out: string, file: string): PartRecord | undefined {
  try {
    const record = PartRecord.parse(JSON.parse(readFileSync(recordPath(out, file), 'utf8')));
    if (record.part === undefined) return record;
    const part = statSync(join(out, record.part.name), { throwIfNoEntry: false });
    return part?.size === record.part.size ? record : undefined;
  } catch {
    // None, or one that was not written by us: the file is run again.
    return undefined;
  }
}

/** Names of the files that records are there for. */
export function recordedFiles(out: string): string[] {
  const folder = join(out, RECORDS);
  if (!existsSync(folder)) return [];
  return readdirSync(folder).flatMap((name) => (name.endsWith('.json') ? [name.slice(0, -'.json'.length)] : []));
}
