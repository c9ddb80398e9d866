/** The method on one file, and its part of the data set. */
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  ExportSpec,
  type Job,
  openSource,
  partTable,
  ReadFailure,
  Runner,
  runFile,
  runRecord,
  verdictText,
} from '../../core/index.ts';
import { exportTable } from '../../core/write/export.ts';
import { sha256Of } from '../sha256.ts';
import { writeAside } from '../write-aside.ts';
import { type PartRecord, partName, readRecord, recordPath } from './part-record.ts';

/** What all parts of a data set have in common. */
export interface DatasetSetup {
  job: Job;
  /** Id of the table that goes out, and of the source that takes the files. */
  table: string;
  source: string;
  /** The files of the other sources. */
  others: readonly { id: string; name: string; bytes: Uint8Array }[];
  out: string;
  /** SHA-256 of the method and the other files. */
  method: string;
}

export interface PartDone {
  record: PartRecord;
  /** It was there from before. */
  kept: boolean;
}

const PARQUET = ExportSpec.parse({ as: 'parquet' });

/** Runs a method on one file after the other. */
export class PartRunner {
  // Only the last run is kept: other tables of the job are in it, and are not made again for each file.
  private readonly runner = new Runner(0);
  private opened: Promise<void> | undefined;

  constructor(private readonly setup: DatasetSetup) {}

  /**
   * Writes the part first and its record last, so that a record always tells of a whole part.
   * @throws Error of the file system
   */
  async run(file: { name: string; path: string }): Promise<PartDone> {
    const { out, method } = this.setup;
    const bytes = new Uint8Array(readFileSync(file.path));
    const sha256 = sha256Of(bytes);
    const before = readRecord(out, file.name);
    if (before?.sha256 === sha256 && before.method === method) return { record: before, kept: true };
    const known = { file: file.name, size: bytes.length, sha256, method };
    const { record, part } = await this.made(file.name, bytes, known);
    const path = join(out, partName(file.name));
    if (part === undefined) rmSync(path, { force: true });
    else writeAside(path, part);
    writeAside(recordPath(out, file.name), new TextEncoder().encode(`${JSON.stringify(record)}\n`));
    return { record, kept: false };
  }

  private async made(
    name: string,
    bytes: Uint8Array,
    known: Pick<PartRecord, 'file' | 'size' | 'sha256' | 'method'>,
  ): Promise<{ record: PartRecord; part?: Uint8Array }> {
    const { job, source } = this.setup;
    const table = job.tables.find((one) => one.id === this.setup.table)!;
    const none: Omit<PartRecord, 'verdict' | 'checks' | 'looks'> = {
      rimefield: 'part',
      version: 1,
      ...known,
      rows: 0,
      unreadable: 0,
      columns: [],
      good: false,
    };
    const failed = (why: string, more: Partial<PartRecord> = {}) => ({
      record: { ...none, failed: why, verdict: '', checks: [], looks: [], ...more },
    });
    this.opened ??= this.open();
    await this.opened;
    try {
      await openSource(bytes, name);
      const outcome = runFile(this.runner, { job, table, source }, { name, bytes }, { progress: () => undefined });
      if (outcome.as === 'failed') return failed(outcome.why);
      const { run, verdict } = outcome;
      const told = runRecord({ job, table, run, files: [] }, verdict);
      const looks = told.steps.flatMap((step) => step.looks.map((look) => `step ${step.step}: ${look}`));
      const more = { verdict: verdictText(verdict), checks: [...(told.checks ?? [])], looks };
      const [stopping] = verdict.stopping;
      if (stopping !== undefined)
        return failed(`A check fails that stops exports: ${stopping.text} (${stopping.found}).`, more);
      const made = partTable(name, run.steps.at(-1)!.table);
      const part = await exportTable({ name: table.name, table: made.table }, PARQUET);
      const record: PartRecord = {
        ...none,
        ...more,
        part: { name: partName(name), size: part.length, sha256: sha256Of(part) },
        rows: made.table.rows,
        unreadable: made.unreadable,
        columns: made.table.fields.map((field) => ({ name: field.name, type: field.column.type })),
        good: verdict.good,
      };
      return { record, part };
    } catch (error) {
      if (error instanceof ReadFailure) return failed(error.message);
      throw error;
    }
  }

  private async open(): Promise<void> {
    for (const { id, name, bytes } of this.setup.others) {
      await openSource(bytes, name);
      this.runner.setSource(id, { name, bytes });
    }
  }
}
