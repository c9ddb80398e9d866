/** A job run on a file that arrived: its exports and its record, or why there are none. */

import {
  counted,
  EXPORT_FORMATS,
  ExportSpec,
  ExportStopped,
  exportChanges,
  type FileRecord,
  fullTables,
  type Job,
  judge,
  openSource,
  ReadFailure,
  Runner,
  type RunRecord,
  releaseTable,
  runRecord,
  sniff,
  stopText,
  verdictText,
} from '../../core/index.ts';
import { sha256Of } from '../sha256.ts';
import { plainNames } from './drop-folder.ts';

export interface Arrival {
  job: Job;
  source: string;
  file: { name: string; bytes: Uint8Array };
  others: readonly { id: string; name: string; bytes: Uint8Array }[];
}

export type ArrivalResult =
  | { as: 'done'; good: boolean; text: string; files: { name: string; bytes: Uint8Array }[] }
  | { as: 'failed'; why: string };

/** Tables that have an export go out as they were last exported; where none has one, the last goes out as CSV. */
export async function runArrival({ job, source, file, others }: Arrival): Promise<ArrivalResult> {
  const runner = new Runner();
  const files: FileRecord[] = [];
  try {
    sniff(file.bytes, file.name);
    for (const { id, name, bytes } of [...others, { id: source, ...file }]) {
      await openSource(bytes, name);
      runner.setSource(id, { name, bytes });
      files.push({
        source: job.sources.find((one) => one.id === id)?.name ?? id,
        file: name,
        size: bytes.length,
        sha256: sha256Of(bytes),
      });
    }
    const chosen = job.tables.filter((table) => table.export !== undefined);
    const outputs: { name: string; bytes: Uint8Array }[] = [];
    const records: RunRecord[] = [];
    const texts: string[] = [];
    let good = true;
    for (const table of chosen.length > 0 ? chosen : job.tables.slice(-1)) {
      const run = runner.runTable(fullTables(job), table.id, { progress: () => undefined });
      if (run.stop !== undefined) return { as: 'failed', why: stopText(job, table, run.stop) };
      if (run.steps.length === 0) return { as: 'failed', why: `${table.name} has no steps.` };
      const verdict = judge(job, table, run);
      const spec = table.export ?? ExportSpec.parse({ as: 'csv' });
      const bytes = await releaseTable(job, { table, run, verdict }, spec);
      outputs.push({ name: `${table.name}.${EXPORT_FORMATS[spec.as].ending}`, bytes });
      records.push(runRecord({ job, table, run, files }, verdict));
      good &&= verdict.good;
      const made = run.steps.at(-1)!.table;
      texts.push(
        `${table.name}: ${counted(made.rows, 'row')}, ${verdictText(verdict)}`,
        ...exportChanges(made, spec).map((change) => `${table.name}: ${change}`),
      );
    }
    // The record keeps its name, whatever tables are called.
    const names = plainNames(['record.json', ...outputs.map((one) => one.name)]).slice(1);
    outputs.forEach((one, k) => {
      if (names[k] !== one.name) texts.push(`${one.name} is written as ${names[k]}`);
      one.name = names[k]!;
    });
    const record = new TextEncoder().encode(`${JSON.stringify(records, null, 2)}\n`);
    return { as: 'done', good, text: texts.join('; '), files: [...outputs, { name: 'record.json', bytes: record }] };
  } catch (error) {
    if (error instanceof ReadFailure || error instanceof ExportStopped) return { as: 'failed', why: error.message };
    throw error;
  }
}
