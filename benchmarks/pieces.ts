/** A text that is too large to hold: filtered, typed and written again, in bounded memory. */
import { closeSync, existsSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import { ExportSpec, type Job } from '../core/index.ts';
import { Random } from '../demo/random.ts';
import { runInPieces } from '../service/in-pieces.ts';
import type { Operations } from './operations.ts';

const QUAYS = ['Hask', 'Ullin', 'Brannoch', 'Tarve'];
/** Lines that are made once and written again and again, with their own number before them. */
const LINES = 100_000;

/** @returns the path of a file of about so many bytes, made once */
export function makeLongFile(bytes: number): string {
  const path = join(tmpdir(), `rimefield-pieces-${bytes}.csv`);
  if (existsSync(path)) return path;
  const random = new Random(17);
  const lines = Array.from(
    { length: LINES },
    (_, r) =>
      `,${2030 + (r % 3)}-0${1 + (r % 9)}-1${r % 10},${random.pick(QUAYS)},${random.whole(0, 400)},${random.whole(0, 90_000) / 100}\n`,
  );
  const file = openSync(`${path}.part`, 'w');
  let at = writeSync(file, 'Ref,Day,Quay,Foot,Fare\n');
  for (let r = 0; at < bytes; r += LINES) at += writeSync(file, lines.map((line, k) => `B${r + k}${line}`).join(''));
  closeSync(file);
  renameSync(`${path}.part`, path);
  return path;
}

const JOB: Job = {
  rimefield: 'job',
  version: 1,
  id: 'bookings',
  name: 'Bookings',
  sources: [{ id: 's', name: 'bookings', file: null }],
  tables: [
    {
      id: 't',
      name: 'Bookings',
      steps: [
        { kind: 'read-delimited', params: { source: 's' } },
        { kind: 'header-from-rows', params: { rows: 1 } },
        { kind: 'keep-rows', params: { rules: [{ test: 'one-of', column: 'Quay', texts: ['Hask', 'Tarve'] }] } },
        {
          kind: 'set-types',
          params: { types: [{ columns: { by: 'names', names: ['Foot', 'Fare'] }, type: 'number' }] },
        },
      ].map((step, k) => ({ id: `s${k}`, ...step })),
    },
  ],
};

/** To each form once. */
export async function piecesOperations(engine: 'rimefield' | 'duckdb', path: string): Promise<Operations> {
  const out = (as: string) => join(tmpdir(), `rimefield-pieces-${engine}.${as}`);
  const remove = (as: string) => rmSync(out(as), { force: true });
  if (engine === 'rimefield') {
    const io = { input: () => new Uint8Array(), output: () => undefined, error: () => undefined, terminal: false };
    const to = (as: 'csv' | 'parquet') => async () => {
      const run = { job: JOB, table: JOB.tables[0]!, source: 's' };
      const { rows } = await runInPieces(run, path, out(as), ExportSpec.parse({ as }), io, () => undefined);
      remove(as);
      return rows;
    };
    return { 'to delimited text': to('csv'), 'to Parquet': to('parquet') };
  }
  const connection = await (await DuckDBInstance.create(':memory:', { threads: '2' })).connect();
  const to = (as: string, how: string) => async () => {
    const made = await connection.runAndReadAll(
      `copy (select "Ref", "Day", "Quay", try_cast("Foot" as double) as "Foot", try_cast("Fare" as double) as "Fare" from read_csv('${path}', header = true, all_varchar = true) where "Quay" in ('Hask', 'Tarve')) to '${out(as)}' (${how})`,
    );
    remove(as);
    return Number(made.getRows()[0]![0]);
  };
  return { 'to delimited text': to('csv', 'format csv, header'), 'to Parquet': to('parquet', 'format parquet') };
}
