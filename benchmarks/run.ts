/** Measures everything in one run and writes docs/benchmarks.md. */

import { spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { cpus, loadavg } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';
import { grouped } from '../core/index.ts';
import { scoreLater } from '../demo/later-run.ts';
import { measureBrowser } from './browser.ts';
import { commandsSection } from './commands.ts';
import { measureDataset } from './dataset.ts';
import { draftsSection } from './drafts/section.ts';
import { measureFirstPaint } from './first-paint.ts';
import { scoreGuesses } from './guessing.ts';
import type { Measured } from './operations.ts';
import { makeLongFile } from './pieces.ts';
import { makeFiles, SHEET_ROWS, SHEETS } from './reading.ts';

const here = dirname(fileURLToPath(import.meta.url));
const ROWS = Number(process.env.ROWS ?? 1_000_000);
const ENGINES = ['rimefield', 'duckdb', 'arquero'] as const;
const BUILT = join(here, '..', 'dist', 'benchmark');

// The application as it is delivered, for what runs it as a whole.
if (spawnSync(process.execPath, [join(here, '..', 'scripts', 'build.mjs')], { stdio: 'inherit' }).status !== 0)
  throw new Error('The application was not built');
// What is measured is built as what is delivered, and not translated while it runs.
await build({
  configFile: false,
  logLevel: 'warn',
  publicDir: false,
  build: {
    ssr: true,
    outDir: BUILT,
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: {
      input: {
        measure: join(here, 'measure.ts'),
        'pieces-child': join(here, '..', 'service', 'pieces-child.ts'),
      },
      // Threads are searched for beside the code that starts them.
      output: { chunkFileNames: '[name]-[hash].js' },
    },
  },
});
const loads: number[] = [];
const noteLoad = () => loads.push(loadavg()[0]!);
noteLoad();

function measure(engine: string, file?: string, rows = ROWS): Measured {
  const args = [
    '--expose-gc',
    '--max-old-space-size=16000',
    join(BUILT, 'measure.js'),
    engine,
    String(rows),
    ...(file === undefined ? [] : [file]),
  ];
  const { status, stdout } = spawnSync(process.execPath, args, {
    stdio: ['ignore', 'pipe', 'inherit'],
    maxBuffer: 1 << 26,
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`${engine} ended with ${status}`);
  return JSON.parse(stdout) as Measured;
}

const measured = Object.fromEntries(ENGINES.map((engine) => [engine, measure(engine)])) as Record<
  (typeof ENGINES)[number],
  Measured
>;
const ms = (engine: (typeof ENGINES)[number], name: string) => measured[engine].times[name]?.ms;
const shown = (value: number | undefined) =>
  value === undefined ? '–' : value < 10 ? value.toFixed(1) : grouped(Math.round(value));

const ratioOf = (duck: number | undefined, own: number) =>
  duck === undefined ? '–' : `${(duck / own).toFixed(1)}×${duck < own ? ' (slower)' : ''}`;

const lines = Object.entries(measured.rimefield.times).map(([name, { ms: own, rows }]) => {
  const [duck, arquero] = [ms('duckdb', name), ms('arquero', name)];
  const ratio = ratioOf(duck, own);
  return `| ${name} | ${grouped(rows)} | ${shown(own)} | ${shown(duck)} | ${shown(arquero)} | ${ratio} |`;
});

const MEGABYTES = Number(process.env.MEGABYTES ?? 100);
const READERS = ['rimefield', 'duckdb', 'papaparse'] as const;
const file = JSON.stringify(makeFiles(MEGABYTES));
const readings = Object.fromEntries(READERS.map((engine) => [engine, measure(engine, file)])) as Record<
  (typeof READERS)[number],
  Measured
>;
const readingLines = Object.entries(readings.rimefield.times).map(([name, { ms: own, rows }]) => {
  const [duck, papa] = [readings.duckdb.times[name]?.ms, readings.papaparse.times[name]?.ms];
  return `| ${name} | ${grouped(rows)} | ${shown(own)} | ${shown(duck)} | ${shown(papa)} | ${ratioOf(duck, own)} |`;
});

const WRITTEN_ROWS = Math.min(ROWS, 100_000);
const writing = measure('writing-rimefield', undefined, WRITTEN_ROWS);
const duckWriting = measure('writing-duckdb', undefined, WRITTEN_ROWS);
const writingLines = Object.entries(writing.times).map(([name, { ms: own, rows }]) => {
  const duck = duckWriting.times[name]?.ms;
  const ratio = ratioOf(duck, own);
  return `| ${name} | ${(rows / 1e6).toFixed(1)} | ${shown(own)} | ${shown(duck)} | ${ratio} |`;
});

noteLoad();
const SIZES = (process.env.SIZES ?? '10000,100000,1000000,5000000').split(',').map(Number);
const growth = SIZES.map((rows) => ({ rows, ...measure('growth', undefined, rows) }));
const growthLines = Object.keys(growth[0]!.times).map((name) => {
  const times = growth.map(({ times: own }) => own[name]!.ms);
  const steps = times.slice(1).map((ms, k) => {
    const more = SIZES[k + 1]! / SIZES[k]!;
    // n log n, with a quarter for noise: more than that is reported.
    const most = more * (Math.log2(SIZES[k + 1]!) / Math.log2(SIZES[k]!)) * 1.25;
    return `${shown(ms)}${ms / times[k]! > most ? ' (grows faster)' : ''}`;
  });
  return `| ${name} | ${[shown(times[0]), ...steps].join(' | ')} |`;
});
const alone = measure('rimefield-delimited', file);
const book = measure('rimefield-workbook', file);
const sheetjs = measure('sheetjs', file);
const method = measure('method', undefined, ROWS);
const LONG_BYTES = Number(process.env.LONG_MB ?? 2000) * 1e6;
const long = makeLongFile(LONG_BYTES);
const [pieces, duckPieces] = [measure('pieces-rimefield', long), measure('pieces-duckdb', long)];
const piecesLines = Object.entries(pieces.times).map(([name, { ms: own, rows }]) => {
  const duck = duckPieces.times[name]!.ms;
  return `| ${name} | ${grouped(rows)} | ${shown(own / 1000)} | ${shown(duck / 1000)} | ${ratioOf(duck, own)} |`;
});
const fileMb = MEGABYTES;
const dataset = await measureDataset(
  Number(process.env.WORKBOOKS ?? 10_000),
  join(here, '..', 'dist', 'node', 'cli.js'),
);
noteLoad();
const commands = await commandsSection(join(here, '..', 'dist', 'node', 'cli.js'));
const bench = await measureBrowser(ROWS, makeFiles(MEGABYTES));
const first = await measureFirstPaint(join(import.meta.dirname, '..', 'dist', 'web'));
const guesses = scoreGuesses();
const later = await scoreLater();
const laterCount = (test: (one: (typeof later)[number]) => boolean) => later.filter(test).length;

noteLoad();
const text = `# Benchmarks

Made by \`npm run benchmark\`: medians of up to five runs in milliseconds, each engine in its own process, in one run on ${cpus().length} cores (${cpus()[0]?.model.trim() ?? 'unknown'}), Node ${process.versions.node}, with the code built as it is delivered. The machine's load on the way was ${loads.map((load) => load.toFixed(1)).join(', ')}; what else runs on it shows in single figures. Figures from other machines differ; the ratios are what counts.

${commands}
## Steps
${grouped(ROWS)} rows by 16 columns (4 text, one of them different in every row; 12 numbers with 5% blanks), invented by \`benchmarks/data.ts\`. Rimefield keeps the Origin of every cell; DuckDB runs on two threads and makes each result whole in a temporary table; arquero has no carry. Texts that become numbers are bytes, as the reading of a delimited file leaves them. The last column is DuckDB's time over Rimefield's.

| step | rows out | Rimefield | DuckDB | arquero | ratio |
| --- | ---: | ---: | ---: | ---: | ---: |
${lines.join('\n')}

Peak memory of the whole process, data included: ${ENGINES.map((engine) => `${engine} ${grouped(Math.round(measured[engine].peakMb))} MB`).join(', ')}.

## Reading
${MEGABYTES} MB of text each: delimited (16 columns, one of them different in every row, one of them quoted), fixed columns (10) and newline-delimited JSON; and a compressed workbook of 62,500 rows by 16. Rimefield reads plain rows by kernels of WebAssembly (core/kernels); DuckDB runs on two. Rimefield keeps cells of delimited text as runs of the source's bytes until they are looked at; numbers are read from them without a text for each.

| reading | rows | Rimefield | DuckDB | papaparse | ratio |
| --- | ---: | ---: | ---: | ---: | ---: |
${readingLines.join('\n')}

The workbook is unpacked by the platform and read by our own scanner; the library that reads older forms takes ${shown(sheetjs.times['workbook of a million cells']?.ms)} ms for its cells alone.

Peak memory, the file itself and all readings above included: ${READERS.map((engine) => `${engine} ${grouped(Math.round(readings[engine].peakMb))} MB`).join(', ')}.

## Growth
${grouped(SIZES[0]!)} rows and more, of 8 columns (4 text, one of them different in every row; 4 numbers). In brackets where a step took longer than n log n would have it, with a quarter for noise.

| work | ${SIZES.map((rows) => `${grouped(rows)} rows`).join(' | ')} |
| --- | ${SIZES.map(() => '---:').join(' | ')} |
${growthLines.join('\n')}

## Memory
Peaks of processes that do one thing once, with all that they read, Node itself and the libraries of the benchmark:

| work | peak MB |
| --- | ---: |
| nothing | ${grouped(Math.round(measure('nothing').peakMb))} |
| ${fileMb} MB of delimited text, read | ${grouped(Math.round(alone.peakMb))} |
| the workbook of a million cells, read | ${grouped(Math.round(book.peakMb))} |
| the method of ten steps on ${grouped(ROWS)} rows, each result kept | ${grouped(Math.round(method.peakMb))} |

## Any size
A text of ${grouped(LONG_BYTES / 1e6)} MB, read, filtered and typed piece by piece (\`rimefield run --pieces\`), in seconds; it is never held as a whole. DuckDB on two threads.

| to a file | rows out | Rimefield | DuckDB | ratio |
| --- | ---: | ---: | ---: | ---: |
${piecesLines.join('\n')}

Peak memory of the whole process: rimefield ${grouped(Math.round(pieces.peakMb))} MB, duckdb ${grouped(Math.round(duckPieces.peakMb))} MB.

## Many reports
The demo's method of ten steps on ${grouped(dataset.files)} small workbooks of four sheets (\`rimefield run --each --dataset\`), a Parquet part for each, ${grouped(dataset.rows)} rows in all; ${grouped(dataset.failed)} of the files are cut off and fail.

| processes | seconds | files a second | peak MB, together |
| ---: | ---: | ---: | ---: |
${dataset.runs.map(({ workers, seconds, peakMb }) => `| ${workers} | ${grouped(Math.round(seconds))} | ${grouped(Math.round(dataset.files / seconds))} | ${grouped(Math.round(peakMb))} |`).join('\n')}

Killed with SIGKILL when ${grouped(dataset.killed.parts)} parts were there, and started again: whole after ${grouped(Math.round(dataset.killed.seconds))} s more, ${grouped(dataset.off)} rows lost or doubled.

## Writing
${grouped(WRITTEN_ROWS)} of the rows above by 16 columns, to bytes in memory (DuckDB: to a file). Rows of delimited text, JSON, HTML and of sheets are put together here by a kernel of WebAssembly, and so are the pages of Parquet; the rest is done by libraries. DuckDB runs on two threads.

| form | MB | Rimefield | DuckDB | ratio |
| --- | ---: | ---: | ---: | ---: |
${writingLines.join('\n')}

Peak memory of the whole process, data included: ${grouped(Math.round(writing.peakMb))} MB.

## The bench
In Debian's Chromium without a graphics card, ${grouped(bench.rows)} rows by 6 columns made in the page: ${(bench.openMs / 1000).toFixed(1)} s from the drop to the first rows (making the file included); the workbook of a million cells ${(bench.bookMs / 1000).toFixed(1)} s from its choice to its first rows; a workbook of ${SHEETS} sheets of ${grouped(SHEET_ROWS)} rows ${(bench.sheetsMs.chosen / 1000).toFixed(1)} s from its choice, ${(bench.sheetsMs.again / 1000).toFixed(1)} s when the page is loaded again, ${(bench.sheetsMs.tables / 1000).toFixed(1)} s where each sheet is its own table; ${bench.frames.median.toFixed(1)} ms from frame to frame while scrolling (95th of a hundred ${bench.frames.p95.toFixed(1)}, worst ${bench.frames.worst.toFixed(1)}); ${Math.round(bench.editMs)} ms from the key that changes a sentence to the new table in sight (median of five), ${Math.round(bench.addedMs)} where the key adds the step; typing waited at most ${Math.round(bench.blockedMs)} ms meanwhile.

The shelf, before anything is kept: its first bundle is ${Math.round(first.firstBundleBytes / 1000)} kB packed, ${(first.scriptBytes / 1e6).toFixed(2)} MB of scripts are there in the end, ${Math.round(first.paintMs)} ms to the first contentful paint, which is its top line, ${Math.round(first.readyMs)} ms until the demo's jobs can be opened. What reads, runs and writes comes when a job is opened; while it was all in the first bundle, on the same machine in the same hour, 2.18 MB and about a fifth longer.

## The next report
The demo's methods, as they are, on ${later.length} reports of later quarters with changes that happen (\`demo/later.ts\`): ${laterCount((one) => one.found === 'right')} give the true table (${Math.round((laterCount((one) => one.found === 'right') / later.length) * 100)}%); ${laterCount((one) => one.found === 'stops')} stop and say why, of which ${laterCount((one) => one.fixed)} are made right by the fixes that are offered; ${laterCount((one) => one.found === 'told')} come to their end with what is otherwise told first; ${laterCount((one) => one.found === 'silent')} are wrong without a word.

| job | change | outcome |
| --- | --- | --- |
${later.map(({ demo, change, found, fixed }) => `| ${demo} | ${change} | ${found}${fixed ? ', fixed' : ''} |`).join('\n')}

${await draftsSection()}
## Guessing
How often a dropped file is taken for what it is, over ${guesses[0]?.of ?? 0} small files made by \`benchmarks/corpus.ts\` or out of csv-spectrum and vega-datasets.

| guess | right | of |
| --- | ---: | ---: |
${guesses.map(({ what, right, of }) => `| ${what} | ${right} | ${of} |`).join('\n')}
`;
mkdirSync(join(here, '..', 'docs'), { recursive: true });
writeFileSync(join(here, '..', 'docs', 'benchmarks.md'), text);
process.stdout.write(text);
