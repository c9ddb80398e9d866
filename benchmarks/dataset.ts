/** A method on many small workbooks: files a second, memory, and what a kill in the middle costs. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import { writeJobFile } from '../core/index.ts';
import { quayReturns } from '../demo/quay-returns.ts';
import { residentBytes } from '../service/resident.ts';

const VARIANTS = 50;
/** One workbook in so many is cut off. */
const BROKEN = 500;

export interface DatasetMeasured {
  files: number;
  failed: number;
  rows: number;
  runs: { workers: number; seconds: number; peakMb: number }[];
  /** Parts that were there when all processes were killed, and seconds until the rest was. */
  killed: { parts: number; seconds: number };
  /** Rows that the data set holds more or less than its files, after that. */
  off: number;
}

/** @param cli the command line as it is delivered */
export async function measureDataset(count: number, cli: string): Promise<DatasetMeasured> {
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-dataset-'));
  const files = join(folder, 'files');
  mkdirSync(files);
  const made = Array.from({ length: VARIANTS }, (_, seed) => quayReturns({ seed: seed + 1 }).bytes);
  for (let k = 0; k < count; k++) {
    const bytes = made[k % VARIANTS]!;
    writeFileSync(
      join(files, `quay-returns-${String(k).padStart(5, '0')}.xlsx`),
      k % BROKEN === BROKEN - 1 ? bytes.subarray(0, bytes.length / 2) : bytes,
    );
  }
  const job = join(folder, 'job.json');
  writeFileSync(job, writeJobFile(quayReturns().job));
  const run = (out: string, workers: number) => {
    const args = [
      'run',
      job,
      '--each',
      `quay returns=${files}`,
      '--dataset',
      '--out',
      out,
      '--workers',
      String(workers),
    ];
    return spawn(process.execPath, [cli, ...args], { stdio: ['ignore', 'ignore', 'ignore'], detached: true });
  };
  const runs: DatasetMeasured['runs'] = [];
  for (const workers of [1, cpus().length]) {
    const out = join(folder, `out-${workers}`);
    const began = performance.now();
    runs.push({ workers, peakMb: await peakOf(run(out, workers)), seconds: (performance.now() - began) / 1000 });
  }
  const out = join(folder, 'killed');
  const child = run(out, cpus().length);
  const ended = new Promise((done) => child.once('exit', done));
  while (!existsSync(out) || partsIn(out) < count / 2) {
    if (child.exitCode !== null) throw new Error(`The run on many reports ended with ${child.exitCode}`);
    await new Promise((done) => setTimeout(done, 20));
  }
  process.kill(-child.pid!, 'SIGKILL');
  await ended;
  const parts = partsIn(out);
  const began = performance.now();
  await peakOf(run(out, cpus().length));
  const seconds = (performance.now() - began) / 1000;
  const connection = await (await DuckDBInstance.create(':memory:', { threads: '2' })).connect();
  const counted = async (sql: string) => Number((await connection.runAndReadAll(sql)).getRows()[0]![0]);
  const rows = await counted(`select count(*) from '${join(folder, 'out-1')}/*.parquet'`);
  const off = await counted(
    `select count(*) from (from '${out}/*.parquet' except all from '${join(folder, 'out-1')}/*.parquet')`,
  );
  const less = rows - (await counted(`select count(*) from '${out}/*.parquet'`));
  rmSync(folder, { recursive: true, force: true });
  return {
    files: count,
    failed: Math.floor(count / BROKEN),
    rows,
    runs,
    killed: { parts, seconds },
    off: off + Math.abs(less),
  };
}

const partsIn = (out: string) => readdirSync(out).filter((name) => name.endsWith('.parquet')).length;

/** Most memory that a process and its children held together, in MB, once it has ended. */
async function peakOf(child: ReturnType<typeof spawn>): Promise<number> {
  let peak = 0;
  const look = () => {
    const all = [child.pid!, ...childrenOf(child.pid!)];
    peak = Math.max(peak, all.reduce((sum, pid) => sum + residentBytes(pid), 0) / 1e6);
  };
  const timer = setInterval(look, 100);
  await new Promise((done) => child.once('exit', done));
  clearInterval(timer);
  return peak;
}

function childrenOf(pid: number): number[] {
  try {
    return readdirSync('/proc').flatMap((name) => {
      if (!/^\d+$/.test(name)) return [];
      const parent = /\) \S (\d+)/.exec(readFileIfThere(`/proc/${name}/stat`))?.[1];
      return Number(parent) === pid ? [Number(name)] : [];
    });
  } catch {
    return [];
  }
}

/** A process may end while it is looked at. */
function readFileIfThere(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
}
