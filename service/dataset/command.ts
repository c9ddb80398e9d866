/** What the command line asks of a data set, and says of it. */
import { cpus } from 'node:os';
import { counted, few, grouped } from '../../core/index.ts';
import { type Io, Trouble } from '../command-files.ts';
import { RECORDS } from './part-record.ts';
import { goneFiles, inShard, type PartFile, runDataset, type Shard } from './run-dataset.ts';
import type { DatasetSetup } from './run-part.ts';

/** Lines about single files; the records tell of all. */
const MAX_LINES = 20;

/** @throws Trouble */
export function workersOf(given: string | undefined): number {
  const workers = given === undefined ? cpus().length : Number(given);
  if (!Number.isInteger(workers) || workers < 1 || workers > 256)
    throw new Trouble(`--workers takes a number of processes from 1 to 256, not ${given}.`);
  return workers;
}

/** @throws Trouble */
export function shardOf(given: string | undefined): Shard | undefined {
  if (given === undefined) return undefined;
  const [, index, of] = /^(\d+)\/(\d+)$/.exec(given)?.map(Number) ?? [];
  if (index === undefined || of === undefined || index < 1 || index > of)
    throw new Trouble(`--shard takes which part of how many, as 3/16, and not ${given}.`);
  return { index, of };
}

interface Telling {
  io: Io;
  progress(text: string): void;
  strict: boolean;
}

/** @returns 0, or 1 when a file failed, a total or check is not well, or a warning with strict */
export async function makeDataset(
  setup: DatasetSetup,
  all: readonly PartFile[],
  { workers, shard }: { workers: number; shard: Shard | undefined },
  { io, progress, strict }: Telling,
): Promise<0 | 1> {
  const files = shard === undefined ? all : all.filter((file) => inShard(file.name, shard));
  const began = performance.now();
  const counts = { done: 0, kept: 0, rows: 0, failed: 0, unwell: 0, looks: 0 };
  const shapes = new Map<string, { file: string; count: number }>();
  let lines = 0;
  const say = (text: string) => {
    if (lines++ < MAX_LINES) {
      progress('');
      io.error(`rimefield: ${text}\n`);
    }
  };
  await runDataset(setup, files, workers, (outcome) => {
    counts.done++;
    const seconds = (performance.now() - began) / 1000;
    progress(`${grouped(counts.done)} of ${grouped(files.length)}: ${Math.round(counts.done / seconds)} a second`);
    if ('why' in outcome) {
      counts.failed++;
      say(`${outcome.file}: ${outcome.why}`);
      return;
    }
    const { record, kept } = outcome;
    if (kept) counts.kept++;
    counts.rows += record.rows;
    if (record.failed !== undefined) {
      counts.failed++;
      say(`${outcome.file}: ${record.failed}`);
      return;
    }
    if (!record.good) {
      counts.unwell++;
      say(`${outcome.file}: ${record.verdict}`);
    }
    if (record.unreadable > 0 || record.looks.length > 0) counts.looks++;
    const shape = record.columns.map((column) => `${column.name} ${column.type}`).join(', ');
    const known = shapes.get(shape);
    if (known === undefined) shapes.set(shape, { file: outcome.file, count: 1 });
    else known.count++;
  });
  progress('');
  if (lines > MAX_LINES)
    io.error(`rimefield: and ${grouped(lines - MAX_LINES)} more: the records in ${RECORDS} tell\n`);
  const [usual, ...odd] = [...shapes].sort((a, b) => b[1].count - a[1].count);
  for (const [shape, { file, count }] of odd.slice(0, 3))
    io.error(
      `rimefield: ${counted(count, 'part')}, as that of ${file}, ${count === 1 ? 'has' : 'have'} other columns than most (${shape}; most have ${usual![0]}): read them by name\n`,
    );
  const gone = goneFiles(setup.out, all);
  if (gone.length > 0)
    io.error(
      `rimefield: ${counted(gone.length, 'file')} of earlier runs ${gone.length === 1 ? 'is' : 'are'} no longer there, and what was made of them still is: ${few(gone)}\n`,
    );
  const seconds = (performance.now() - began) / 1000;
  const parts = counts.done - counts.failed;
  io.error(
    `rimefield: ${counted(files.length, 'file')}${shard === undefined ? '' : ` of ${grouped(all.length)}`}: ${counted(parts, 'part')} with ${counted(counts.rows, 'row')}${counts.kept > 0 ? `, ${grouped(counts.kept)} of the files as they were` : ''}${counts.failed > 0 ? `, ${grouped(counts.failed)} failed` : ''}${counts.unwell > 0 ? `, ${grouped(counts.unwell)} with totals or checks to look at` : ''}${counts.looks > 0 ? `, ${grouped(counts.looks)} with something told` : ''}; ${grouped(Math.round(files.length / Math.max(seconds, 0.001)))} files a second\n`,
  );
  return counts.failed > 0 || counts.unwell > 0 || (strict && counts.looks > 0) ? 1 : 0;
}
