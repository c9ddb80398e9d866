import { rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type DuckDBConnection, DuckDBInstance } from '@duckdb/node-api';
import { type Data, MONTHS } from './data.ts';
import type { Operations } from './operations.ts';

/** A database on two threads that holds the data as table t, numbered by "#". */
export async function duckWith(data: Data): Promise<DuckDBConnection> {
  const connection = await (await DuckDBInstance.create(':memory:', { threads: '2' })).connect();
  const names = [...Object.keys(data.text), ...MONTHS, 'written'];
  const columns = [
    ...Object.values(data.text),
    ...MONTHS.map((month) => data.numbers[month]),
    data.written.map((text) => `"${text}"`),
  ];
  const lines = [names.join(',')];
  for (let r = 0; r < data.rows; r++) lines.push(columns.map((column) => column[r] ?? '').join(','));
  const file = join(tmpdir(), `rimefield-benchmark-${process.pid}.csv`);
  writeFileSync(file, `${lines.join('\n')}\n`);
  const types = names
    .map((name) => `'${name}': '${(MONTHS as readonly string[]).includes(name) ? 'DOUBLE' : 'VARCHAR'}'`)
    .join(', ');
  await connection.run(
    `create table t as select row_number() over () as "#", * from read_csv('${file}', header = true, columns = {${types}})`,
  );
  rmSync(file);
  return connection;
}

/** The same in DuckDB; each result is made whole in a temporary table, in the order of the rows. */
export async function duckOperations(data: Data): Promise<Operations> {
  const connection = await duckWith(data);
  const keys = data.keys.packed.map((packed, k) => `('${packed}', ${data.keys.fare[k]})`);
  await connection.run('create table keys (packed VARCHAR, fare DOUBLE)');
  for (let at = 0; at < keys.length; at += 2000)
    await connection.run(`insert into keys values ${keys.slice(at, at + 2000).join(',')}`);
  const text = Object.keys(data.text).join(', ');
  const make = (name: string, sql: string) => async () => {
    await connection.run(`create or replace temp table ${name} as ${sql}`);
    return Number((await connection.runAndReadAll(`select count(*) from ${name}`)).getRows()[0]![0]);
  };
  const months = MONTHS.join(', ');
  return {
    unpivot: make(
      'long',
      `select * exclude ("#", written) from t unpivot include nulls (foot for month in (${months}))`,
    ),
    pivot: make(
      'r',
      `pivot long on month in (${MONTHS.map((month) => `'${month}'`).join(', ')}) using first(foot) group by ${text}`,
    ),
    'fill down': make(
      'r',
      'select * replace (last_value(port ignore nulls) over (order by "#" rows unbounded preceding) as port) from t',
    ),
    carry: make(
      'r',
      'select * from (select *, last_value(port ignore nulls) over (order by "#" rows unbounded preceding) as label from t) where port is null',
    ),
    'split in three': make(
      'r',
      `select * exclude packed, split_part(packed, '-', 1) as a, split_part(packed, '-', 2) as b, split_part(packed, '-', 3) as c from t`,
    ),
    replace: make('r', `select * replace (replace(packed, '-', '/') as packed) from t`),
    'set types from text': make('r', `select try_cast(replace(written, ',', '') as double) as written from t`),
    'group by three': make('r', 'select route, port, packed, sum(Jan), avg(Feb) from t group by route, port, packed'),
    'join to 40,000 keys': make('r', 'select t.*, keys.fare from t left join keys on t.packed = keys.packed'),
    'sort by two': make('r', 'select * from t order by route, Jan desc nulls last'),
  };
}
