/** Reading large files, in one engine: each file is made once, and each engine makes a whole table of it. */
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import { read, utils, write } from '@e965/xlsx';
import Papa from 'papaparse';
import { CATALOGUE, READINGS, readDelimited, setTypes, unpackAhead } from '../core/index.ts';
import { Random } from '../demo/random.ts';
import type { Operations } from './operations.ts';

const COLUMNS = 16;
const FIXED_CUTS = [10, ...Array.from({ length: 8 }, (_, k) => 20 + 9 * k)];
const CONTEXT = {
  progress: () => undefined,
  name: 'table',
  other: () => ({ name: '', table: { rows: 0, fields: [] } }),
};

export interface Files {
  delimited: string;
  fixed: string;
  nested: string;
  workbook: string;
  /** A workbook with a sheet for each quay. */
  sheets: string;
}

/** Cells of the workbook. */
const WORKBOOK_ROWS = 62_500;
export const SHEETS = 40;
export const SHEET_ROWS = 5000;

/** @returns the paths, each made once */
export function makeFiles(megabytes: number): Files {
  return {
    delimited: makeDelimited(megabytes),
    fixed: keep(`rimefield-reading-${megabytes}.prn`, () =>
      lines(megabytes, (random, r) =>
        [
          `B${String(r).padStart(7, '0')}`.padEnd(10),
          random.pick(['Hask', 'Ullin', 'Brannoch', 'Tarve']).padEnd(10),
          ...Array.from({ length: 8 }, () => String(random.whole(0, 99_999) / 100).padStart(9)),
        ].join(''),
      ),
    ),
    nested: keep(`rimefield-reading-${megabytes}.ndjson`, () =>
      lines(megabytes, (random, r) =>
        JSON.stringify({
          ref: `B${r}`,
          port: random.pick(['Hask', 'Ullin', 'Brannoch', 'Tarve']),
          party: { adults: random.whole(1, 6), children: random.whole(0, 3) },
          fare: random.whole(0, 99_999) / 100,
        }),
      ),
    ),
    workbook: keep('rimefield-reading.xlsx', () => {
      const random = new Random(14);
      const rows = Array.from({ length: WORKBOOK_ROWS }, (_, r) => [
        `B${r}`,
        ...Array.from({ length: COLUMNS - 1 }, () => random.whole(0, 99_999) / 100),
      ]);
      const sheet = utils.aoa_to_sheet(rows);
      return write(
        { SheetNames: ['A'], Sheets: { A: sheet } },
        { type: 'buffer', bookType: 'xlsx', compression: true },
      );
    }),
    sheets: keep('rimefield-sheets.xlsx', () => {
      const random = new Random(15);
      const names = Array.from({ length: SHEETS }, (_, s) => `Quay ${s + 1}`);
      const sheets = names.map((_, s) =>
        utils.aoa_to_sheet([
          ['Sailing', 'Route', 'Foot', 'Cars', 'Vans', 'Fare'],
          ...Array.from({ length: SHEET_ROWS - 1 }, (_, r) => [
            `S${s + 1}-${r + 1}`,
            random.pick(['Hask', 'Ullin', 'Tarve']),
            ...Array.from({ length: 3 }, () => random.whole(0, 99)),
            random.whole(0, 9999) / 100,
          ]),
        ]),
      );
      const book = { SheetNames: names, Sheets: Object.fromEntries(names.map((name, s) => [name, sheets[s]!])) };
      return write(book, { type: 'buffer', bookType: 'xlsx', compression: true, bookSST: true });
    }),
  };
}

function lines(megabytes: number, line: (random: Random, row: number) => string): string {
  const random = new Random(13);
  const out: string[] = [];
  for (let size = 0, r = 0; size < megabytes * 1e6; r++) {
    const one = line(random, r);
    out.push(one);
    size += one.length + 1;
  }
  return `${out.join('\n')}\n`;
}

function keep(name: string, make: () => string | Uint8Array): string {
  const file = join(tmpdir(), name);
  if (existsSync(file)) return file;
  writeFileSync(`${file}.part`, make());
  renameSync(`${file}.part`, file);
  return file;
}

/** Lines of codes, ports and figures. */
function makeDelimited(megabytes: number): string {
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

export async function readingOperations(engine: string, files: Files): Promise<Operations> {
  const file = files.delimited;
  const header = CATALOGUE.get('header-from-rows')!;
  const workbook = async () => {
    const found = READINGS.get('read-sheets')!;
    const of = { name: 'a.xlsx', bytes: new Uint8Array(readFileSync(files.workbook)) };
    await unpackAhead(of.bytes, of.name);
    return found.read(of, found.params.parse({ source: 's' }), CONTEXT).table.rows;
  };
  if (engine === 'rimefield-workbook') return { 'workbook of a million cells': workbook };
  if (engine === 'sheetjs')
    return {
      'workbook of a million cells': () => {
        const book = read(readFileSync(files.workbook), { dense: true });
        return (book.Sheets[book.SheetNames[0]!]!['!data'] as unknown[]).length;
      },
    };
  if (engine === 'rimefield-delimited') {
    const params = readDelimited.params.parse({ source: 's' });
    return {
      'delimited, all text': () =>
        readDelimited.read({ name: 'a.csv', bytes: readFileSync(file) }, params, CONTEXT).table.rows,
    };
  }
  if (engine === 'rimefield') {
    const source = () => ({ name: 'a.csv', bytes: readFileSync(file) });
    const reading = (kind: string, path: string, given: object) => () => {
      const found = READINGS.get(kind)!;
      const of = { name: path, bytes: readFileSync(path) };
      return found.read(of, found.params.parse({ source: 's', ...given }), CONTEXT).table.rows;
    };
    const params = readDelimited.params.parse({ source: 's' });
    const figures = Array.from({ length: COLUMNS - 4 }, (_, c) => String.fromCharCode(69 + c));
    return {
      'delimited, all text': () => readDelimited.read(source(), params, CONTEXT).table.rows,
      'delimited, then typed': () => {
        const { table } = readDelimited.read(source(), params, CONTEXT);
        return setTypes.run(table, { types: [{ columns: { by: 'names', names: figures }, type: 'number' }] }, CONTEXT)
          .table.rows;
      },
      'delimited, header, then typed': () => {
        const { table } = readDelimited.read(source(), params, CONTEXT);
        const named = header.run(table, header.params.parse({ rows: 1 }), CONTEXT).table;
        const columns = { by: 'names' as const, names: named.fields.slice(4).map((field) => field.name) };
        return setTypes.run(named, { types: [{ columns, type: 'number' }] }, CONTEXT).table.rows;
      },
      'fixed columns': reading('read-fixed-width', files.fixed, { cuts: FIXED_CUTS }),
      'newline-delimited JSON': reading('read-nested', files.nested, { rows: '$[*]' }),
      'workbook of a million cells': workbook,
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
    'delimited, header, then typed': make(
      `select c0, c1, c2, c3, ${Array.from({ length: COLUMNS - 4 }, (_, c) => `try_cast(c${c + 4} as double)`).join(', ')} from read_csv('${file}', header = true, all_varchar = true)`,
    ),
    'fixed columns': make(
      `select ${[0, ...FIXED_CUTS].map((from, k) => `trim(substring(line, ${from + 1}, ${(FIXED_CUTS[k] ?? 1000) - from})) as c${k}`).join(', ')} from read_csv('${files.fixed}', header = false, all_varchar = true, delim = '\x01', quote = '', columns = {'line': 'varchar'})`,
    ),
    'newline-delimited JSON': make(
      `select ref, port, party.adults, party.children, fare from read_json('${files.nested}', format = 'newline_delimited')`,
    ),
  };
}
