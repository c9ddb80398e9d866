/** Reading 100 MB of delimited text, in one engine: the file is made once, and each engine makes a whole table of it. */
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import Papa from 'papaparse';
import { readDelimited, setTypes } from '../core/index.ts';
import { Random } from '../demo/random.ts';
import type { Operations } from './operations.ts';

const COLUMNS = 16;
const CONTEXT = {
  progress: () => undefined,
  name: 'table',
  other: () => ({ name: '', table: { rows: 0, fields: [] } }),
};

/** @returns its path; lines of codes, ports and figures */
export function makeFile(megabytes: number): string {
  const file = join(tmpdir(), `rimefield-reading-${megabytes}.csv`);
  if (existsSync(file)) return file;
  const random = new Random(11);
  const lines = [Array.from({ length: COLUMNS }, (_, c) => `c${c}`).join(',')];
  for (let size = 0, r = 0; size < megabytes * 1e6; r++) {
    const figures = Array.from({ length: COLUMNS - 4 }, () => random.whole(0, 99_999) / 100);
    const line = [
      `B${String(r).padStart(7, '0')}`,
      random.pick(['Hask', 'Ullin', 'Brannoch', 'Tarve']),
      `Route ${random.whole(1, 97)}`,
      `"${random.whole(6, 22)}:10, daily"`,
      ...figures,
    ].join(',');
    lines.push(line);
    size += line.length + 1;
  }
  writeFileSync(`${file}.part`, `${lines.join('\n')}\n`);
  renameSync(`${file}.part`, file);
  return file;
}

export async function readingOperations(engine: string, file: string): Promise<Operations> {
  if (engine === 'rimefield') {
    const source = () => ({ name: 'a.csv', bytes: readFileSync(file) });
    const params = readDelimited.params.parse({ source: 's' });
    const figures = Array.from({ length: COLUMNS - 4 }, (_, c) => String.fromCharCode(69 + c));
    return {
      'delimited, all text': () => readDelimited.read(source(), params, CONTEXT).table.rows,
      'delimited, then typed': () => {
        const { table } = readDelimited.read(source(), params, CONTEXT);
        return setTypes.run(table, { types: [{ columns: { by: 'names', names: figures }, type: 'number' }] }, CONTEXT)
          .table.rows;
      },
    };
  }
  if (engine === 'papaparse') {
    return {
      'delimited, all text': () => Papa.parse(readFileSync(file, 'utf8'), { skipEmptyLines: true }).data.length,
    };
  }
  const connection = await (await DuckDBInstance.create(':memory:', { threads: '2' })).connect();
  const make = (sql: string) => async () => {
    await connection.run(`create or replace temp table r as ${sql}`);
    return Number((await connection.runAndReadAll('select count(*) from r')).getRows()[0]![0]);
  };
  const typed = Array.from(
    { length: COLUMNS - 4 },
    (_, c) => `try_cast(column${String(c + 4).padStart(2, '0')} as double)`,
  ).join(', ');
  return {
    'delimited, all text': make(`select * from read_csv('${file}', header = false, all_varchar = true)`),
    'delimited, then typed': make(
      `select column00, column01, column02, column03, ${typed} from read_csv('${file}', header = false, all_varchar = true)`,
    ),
  };
}
