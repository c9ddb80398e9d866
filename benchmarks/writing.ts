/** A table written in every form, beside DuckDB where that writes it too. */
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type ExportFormat, ExportSpec } from '../core/index.ts';
import { exportTable } from '../core/write/export.ts';
import type { Data } from './data.ts';
import type { Operations } from './operations.ts';
import { duckWith } from './steps-duckdb.ts';
import { ourTable } from './steps-ours.ts';

const FORMATS: readonly ExportFormat[] = ['csv', 'json', 'ndjson', 'parquet', 'arrow', 'sqlite', 'xlsx', 'html'];

/** Each gives back the bytes of the file. */
export async function writingOperations(engine: 'rimefield' | 'duckdb', data: Data): Promise<Operations> {
  return engine === 'rimefield' ? ourWriting(data) : duckWriting(data);
}

function ourWriting(data: Data): Operations {
  const table = ourTable(data);
  return Object.fromEntries(
    FORMATS.map((as) => [
      as,
      async () => (await exportTable({ name: 'Bookings', table }, ExportSpec.parse({ as }))).length,
    ]),
  );
}

async function duckWriting(data: Data): Promise<Operations> {
  const connection = await duckWith(data);
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-writing-'));
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  const copies: Record<string, string> = {
    csv: 'format csv, header',
    json: 'format json, array true',
    ndjson: 'format json',
    parquet: 'format parquet',
  };
  return Object.fromEntries(
    Object.entries(copies).map(([as, how]) => [
      as,
      async () => {
        const file = join(folder, `out.${as}`);
        await connection.run(`copy t to '${file}' (${how})`);
        return statSync(file).size;
      },
    ]),
  );
}
