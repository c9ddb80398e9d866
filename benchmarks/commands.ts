/** Whole commands from file to file beside DuckDB in its own process: `npm run benchmark:commands`. */
import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { createWriteStream, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import { grouped } from '../core/index.ts';

const FOLDER = join(tmpdir(), 'rimefield-commands');
const RUNS = 3;
const MB = 1e6;

type Row = (k: number) => string;

/** Numbers that are the same in each run (a linear congruential generator). */
function numbers(): () => number {
  let state = 12_345;
  return () => {
    state = (state * 1_103_515_245 + 12_345) & 0x7fffffff;
    return state / 0x7fffffff;
  };
}

async function makeFile(name: string, header: string, bytes: number, row: Row): Promise<void> {
  const out = createWriteStream(join(FOLDER, name));
  let [text, size] = [header, 0];
  for (let k = 0; size < bytes; k++) {
    text += row(k);
    if (text.length < 1 << 20) continue;
    size += text.length;
    if (!out.write(text)) await once(out, 'drain');
    text = '';
  }
  out.end(text);
  await once(out, 'finish');
}

const QUAYS = ['Hask', 'Ullin', 'Tarve', 'Brannoch', 'Rona', 'Ness', 'Skerrow', 'Ormsay'];

function bookings(): Row {
  const random = numbers();
  const below = (most: number) => Math.floor(random() * most);
  return (k) => {
    const day = new Date(Date.UTC(2031, 0, 1) + below(365) * 86_400_000).toISOString().slice(0, 10);
    const note = random() < 0.05 ? `"late, ${k}"` : random() < 0.5 ? '' : 'on time';
    return `R${100_000_000 + k},${day},${QUAYS[below(8)]},Ship ${below(40)},${below(200)},${random() < 0.05 ? '' : below(500)},${below(90)},${below(20)},${(random() * 900).toFixed(2)},${note}\n`;
  };
}

interface Step {
  kind: string;
  params: Record<string, unknown>;
}

const names = (...list: string[]) => ({ by: 'names', names: list });
const read = (source: string): Step[] => [
  { kind: 'read-delimited', params: { source } },
  { kind: 'header-from-rows', params: { rows: 1, at: null } },
];
const typed = (columns: readonly string[], type: string) => ({ columns: names(...columns), type });
const ON_TIME: Step = { kind: 'keep-rows', params: { rules: [{ test: 'equals', column: 'note', text: 'on time' }] } };

interface Command {
  what: string;
  /** The first is the source of the last table. */
  files: readonly string[];
  tables: readonly { id: string; steps: readonly Step[] }[];
  more?: readonly string[];
  as: 'csv' | 'parquet';
  /** DuckDB's query, its best form: declared columns, no order that is not asked for. */
  query(files: readonly string[]): string;
}

const MEASURES = Array.from({ length: 12 }, (_, k) => `m${k + 1}`);
const columnsOf = (all: Record<string, string>) =>
  `columns = {${Object.entries(all)
    .map(([name, type]) => `'${name}': '${type}'`)
    .join(', ')}}`;
const BOOKED = columnsOf(
  Object.fromEntries(
    ['id', 'date', 'quay', 'ship', 'route', 'foot', 'cars', 'freight', 'fare', 'note'].map((name) => [name, 'varchar']),
  ),
);

const COMMANDS: readonly Command[] = [
  {
    what: '101 MB of CSV, filter, group with sums, to CSV',
    files: ['bookings.csv'],
    tables: [
      {
        id: 't',
        steps: [
          ...read('bookings.csv'),
          ON_TIME,
          { kind: 'set-types', params: { types: [typed(['foot', 'cars', 'fare'], 'number')] } },
          {
            kind: 'group',
            params: {
              by: names('quay', 'ship'),
              measures: [
                { by: 'rows', name: 'n' },
                ...['foot', 'cars', 'fare'].map((column) => ({ by: 'sum', column, name: column })),
              ],
            },
          },
        ],
      },
    ],
    as: 'csv',
    query: ([file]) =>
      `select quay, ship, count(*) as n, sum(foot::bigint) as foot, sum(cars::bigint) as cars, round(sum(fare::double), 2) as fare from read_csv('${file}', header = true, ${BOOKED}) where note = 'on time' group by all`,
  },
  {
    what: '101 MB, fill, unpivot to 18 M rows, to Parquet',
    files: ['depots.csv'],
    tables: [
      {
        id: 't',
        steps: [
          ...read('depots.csv'),
          { kind: 'fill', params: { columns: names('depot') } },
          {
            kind: 'unpivot',
            params: {
              columns: { by: 'all-but', names: ['depot', 'line'] },
              parts: [{ as: 'column', name: 'month' }],
              value: 'value',
              blanks: 'keep',
            },
          },
          { kind: 'set-types', params: { types: [typed(['value'], 'number')] } },
        ],
      },
    ],
    as: 'parquet',
    query: ([file]) =>
      `unpivot (select last_value(depot ignore nulls) over (order by k rows unbounded preceding) as depot, line, columns('m.*') from (select *, row_number() over () as k from read_csv('${file}', header = true, ${columnsOf({ depot: 'varchar', line: 'varchar', ...Object.fromEntries(MEASURES.map((name) => [name, 'bigint'])) })}))) on columns('m.*') into name month value value`,
  },
  {
    what: '100 MB, pivot, to CSV',
    files: ['months.csv'],
    tables: [
      {
        id: 't',
        steps: [
          ...read('months.csv'),
          {
            kind: 'pivot',
            params: { rows: names('id', 'name'), names: ['month'], values: [{ column: 'value', by: 'only' }] },
          },
        ],
      },
    ],
    as: 'csv',
    query: ([file]) =>
      `pivot (select * from read_csv('${file}', header = true, ${columnsOf({ id: 'varchar', name: 'varchar', month: 'varchar', value: 'varchar' })})) on month in (1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12) using first(value) group by id, name`,
  },
  {
    what: 'join of 1 M rows to 40,000, to CSV',
    files: ['sales.csv', 'keys.csv'],
    tables: [
      { id: 'k', steps: read('keys.csv') },
      {
        id: 't',
        steps: [
          ...read('sales.csv'),
          { kind: 'join', params: { table: 'k', how: 'left', keys: [{ left: 'key', right: 'key' }] } },
        ],
      },
    ],
    as: 'csv',
    query: ([sales, keys]) =>
      `select s.*, k.region, k.class from read_csv('${sales}', header = true, all_varchar = true) as s left join read_csv('${keys}', header = true, all_varchar = true) as k using (key)`,
  },
  {
    what: '500 MB with --pieces, filter and types, to CSV',
    files: ['long.csv'],
    tables: [
      {
        id: 't',
        steps: [
          ...read('long.csv'),
          ON_TIME,
          {
            kind: 'set-types',
            params: { types: [typed(['foot', 'cars', 'freight', 'fare'], 'number'), typed(['date'], 'date')] },
          },
        ],
      },
    ],
    more: ['--pieces'],
    as: 'csv',
    query: ([file]) =>
      `select id, date::date as date, quay, ship, route, foot::bigint as foot, cars::bigint as cars, freight::bigint as freight, fare::double as fare, note from read_csv('${file}', header = true, ${BOOKED}) where note = 'on time'`,
  },
  {
    what: '20 lines',
    files: ['few.csv'],
    tables: [{ id: 't', steps: read('few.csv') }],
    as: 'csv',
    query: ([file]) => `select * from read_csv('${file}', header = true, all_varchar = true)`,
  },
];

async function makeFiles(): Promise<void> {
  mkdirSync(FOLDER, { recursive: true });
  const random = numbers();
  const below = (most: number) => Math.floor(random() * most);
  const head = 'id,date,quay,ship,route,foot,cars,freight,fare,note\n';
  await makeFile('bookings.csv', head, 101 * MB, bookings());
  await makeFile('long.csv', head, 500 * MB, bookings());
  await makeFile(
    'depots.csv',
    `depot,line,${MEASURES.join()}\n`,
    101 * MB,
    (k) => `${k % 20 === 0 ? `Depot ${k}` : ''},L${k},${MEASURES.map(() => below(10_000)).join()}\n`,
  );
  await makeFile('months.csv', 'id,name,month,value\n', 100 * MB, (k) =>
    MEASURES.map((_, m) => `${k},Name ${k % 1000},${m + 1},${(random() * 1000).toFixed(1)}\n`).join(''),
  );
  const keys = Array.from({ length: 40_000 }, (_, k) => `K${k},Region ${k % 13},Class ${k % 5}\n`);
  writeFileSync(join(FOLDER, 'keys.csv'), `key,region,class\n${keys.join('')}`);
  const sales = Array.from({ length: 1_000_000 }, (_, k) => `${k},K${below(40_000)},${(random() * 1000).toFixed(2)}\n`);
  writeFileSync(join(FOLDER, 'sales.csv'), `no,key,amount\n${sales.join('')}`);
  writeFileSync(join(FOLDER, 'few.csv'), `quay,foot\n${Array.from({ length: 20 }, (_, k) => `Hask,${k}\n`).join('')}`);
}

interface Timed {
  seconds: number;
  peakMb: number;
}

/** A whole process from its start to its end. @throws when it fails */
function timed(args: readonly string[]): Timed {
  const peak = join(FOLDER, 'peak');
  const started = performance.now();
  const { status, stderr } = spawnSync(process.execPath, ['--import', hookUrl(peak), ...args], { encoding: 'utf8' });
  const seconds = (performance.now() - started) / 1000;
  if (status !== 0) throw new Error(`${args.join(' ')} ended with ${status}: ${stderr}`);
  return { seconds, peakMb: Number(readFileSync(peak, 'utf8')) / 1024 };
}

/** A module that writes the peak memory of its process at its end, in kilobytes: what the system counted, and not that of who started it. */
function hookUrl(path: string): string {
  const code = `import { readFileSync, writeFileSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';
const peak = () => {
  try {
    return Number(/^VmHWM:\\s+(\\d+) kB$/m.exec(readFileSync('/proc/self/status', 'utf8'))[1]);
  } catch {
    return process.resourceUsage().maxRSS;
  }
};
if (isMainThread) process.on('exit', () => writeFileSync(${JSON.stringify(path)}, String(peak())));`;
  return `data:text/javascript,${encodeURIComponent(code)}`;
}

function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
}

/** Both sides in turn, each in its own process, and their files compared. */
async function compared(command: Command, n: number, cli: string) {
  const files = command.files.map((name) => join(FOLDER, name));
  const [job, peer] = [join(FOLDER, `${n}.json`), join(FOLDER, `${n}.mjs`)];
  const [own, other] = ['own', 'peer'].map((side) => join(FOLDER, `${n}-${side}.${command.as}`)) as [string, string];
  writeFileSync(
    job,
    JSON.stringify({
      rimefield: 'job',
      version: 1,
      id: 'benchmark',
      name: 'Benchmark',
      sources: command.files.map((id) => ({ id, name: id, file: null })),
      tables: command.tables.map(({ id, steps }) => ({
        id,
        name: id,
        steps: steps.map((step, k) => ({ id: `${id}${k}`, ...step })),
      })),
    }),
  );
  const how = command.as === 'csv' ? '(header)' : '(format parquet)';
  writeFileSync(
    peer,
    `import { DuckDBInstance } from ${JSON.stringify(import.meta.resolve('@duckdb/node-api'))};
const connection = await (await DuckDBInstance.create(':memory:', { threads: '2' })).connect();
await connection.run(${JSON.stringify(`copy (${command.query(files)}) to '${other}' ${how}`)});`,
  );
  const sources = command.files.flatMap((name, k) => ['--source', `${name}=${files[k]}`]);
  const args = [cli, 'run', job, ...sources, ...(command.more ?? []), '--out', own];
  const times: { own: Timed[]; peer: Timed[] } = { own: [], peer: [] };
  // The first of each is not counted: files come into memory with it.
  for (let k = 0; k <= RUNS; k++) {
    const [mine, theirs] = [timed(args), timed([peer])];
    if (k > 0) {
      times.own.push(mine);
      times.peer.push(theirs);
    }
  }
  await refuseDifferent(command.as, own, other);
  for (const path of [own, other]) rmSync(path);
  return times;
}

/** @throws where the two files hold different rows */
async function refuseDifferent(as: Command['as'], own: string, other: string): Promise<void> {
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  const rows = (path: string) =>
    as === 'csv' ? `read_csv('${path}', header = true, all_varchar = true)` : `'${path}'`;
  // As they read: a number with and without a trailing zero is the same one.
  const plain = (path: string) => `select regexp_replace(columns(*)::varchar, '\\.0+$', '') from ${rows(path)}`;
  const found = await connection.runAndReadAll(
    `select (select count(*) from (${plain(own)} except ${plain(other)})) + (select count(*) from (${plain(other)} except ${plain(own)})), (select count(*) from ${rows(own)}) - (select count(*) from ${rows(other)})`,
  );
  const [differing, more] = found.getRows()[0]!.map(Number);
  if (differing !== 0 || more !== 0)
    throw new Error(`${own} and ${other} differ in ${differing} rows, and by ${more} in their number`);
}

/** The section of docs/benchmarks.md. @param cli the built command */
export async function commandsSection(cli: string): Promise<string> {
  await makeFiles();
  const lines: string[] = [];
  for (const [n, command] of COMMANDS.entries()) {
    const { own, peer } = await compared(command, n, cli);
    const [mine, theirs] = [own, peer].map((all) => median(all.map(({ seconds }) => seconds))) as [number, number];
    const [peak, theirPeak] = [own, peer].map((all) => grouped(Math.round(median(all.map(({ peakMb }) => peakMb)))));
    const line = `| ${command.what} | ${mine.toFixed(2)} | ${theirs.toFixed(2)} | ${(mine / theirs).toFixed(2)} | ${peak} | ${theirPeak} |`;
    process.stderr.write(`${line}\n`);
    lines.push(line);
  }
  rmSync(FOLDER, { recursive: true, force: true });
  return `## From file to file
Whole processes from their start to their end: the delivered command (\`rimefield run JOB --source FILE --out FILE\`) and Node with DuckDB's own package on two threads, in turn, medians of ${RUNS} pairs after one that is not counted. Nothing is lazy: both write whole files with the same rows, which is checked. DuckDB's queries have declared columns and no order that is not asked for. The ratio is Rimefield's time over DuckDB's: below 1 is faster.

| command | Rimefield, s | DuckDB, s | ratio | Rimefield, MB | DuckDB, MB |
| --- | ---: | ---: | ---: | ---: | ---: |
${lines.join('\n')}

What is slower, and why: both engines use two threads, but Rimefield reads and writes what is not run piece by piece on one, keeps for each cell of each step where it came from, and does most of its work in JavaScript. DuckDB keeps no origin.
`;
}

if (process.argv[1]?.endsWith('commands.ts')) {
  const root = join(import.meta.dirname, '..');
  const page = join(root, 'docs', 'benchmarks.md');
  const section = await commandsSection(join(root, 'dist', 'node', 'cli.js'));
  const text = readFileSync(page, 'utf8');
  const from = text.indexOf('## From file to file');
  const to = text.indexOf('\n## ', Math.max(0, from) + 1) + 1;
  writeFileSync(page, `${text.slice(0, from < 0 ? to : from)}${section}\n${text.slice(to)}`);
}
