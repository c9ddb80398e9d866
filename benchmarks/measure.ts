/** Runs one engine's operations in its own process and prints medians and peak memory as JSON. */
import { readFileSync } from 'node:fs';
import { makeData } from './data.ts';
import { growthOperations } from './growth.ts';
import type { Measured, Operations } from './operations.ts';
import { type Files, readingOperations } from './reading.ts';

const RUNS = 5;
/** Of these only the memory counts: what a run before has left is none of theirs. */
const ONCE: ReadonlySet<string> = new Set(['rimefield-delimited', 'rimefield-workbook', 'method']);
/** An engine that is slower than this is not asked five times. */
const PATIENCE_MS = 8000;

async function main(engine: string, rows: number, file: string | undefined): Promise<void> {
  const operations = await operationsOf(engine, rows, file);
  const runs = ONCE.has(engine) ? 1 : RUNS;
  const times: Measured['times'] = {};
  for (const [name, operation] of Object.entries(operations)) {
    const taken: number[] = [];
    let out = 0;
    for (let k = 0; k < runs && taken.reduce((sum, ms) => sum + ms, 0) < PATIENCE_MS; k++) {
      const run = typeof operation === 'function' ? operation : operation.run;
      if (typeof operation !== 'function') operation.prepare();
      globalThis.gc?.();
      const started = performance.now();
      out = await run();
      taken.push(performance.now() - started);
    }
    taken.sort((a, b) => a - b);
    // Of two the quicker one: the first is that of code which is not yet warm.
    times[name] = { ms: taken[Math.floor((taken.length - 1) / 2)]!, rows: out };
    process.stderr.write(`${engine} ${name}: ${Math.round(times[name].ms)} ms\n`);
  }
  process.stdout.write(JSON.stringify({ times, peakMb: peakMegabytes() } satisfies Measured));
}

/** Of this process alone: what the system says of its resources starts from what the process had that started it. */
function peakMegabytes(): number {
  try {
    const [, kilobytes] = /^VmHWM:\s+(\d+) kB$/m.exec(readFileSync('/proc/self/status', 'utf8')) ?? [];
    if (kilobytes !== undefined) return Number(kilobytes) / 1024;
  } catch {
    // Another system than Linux.
  }
  return process.resourceUsage().maxRSS / 1024;
}

/** The made-up cells are released once an engine has them, so that no collector walks them between runs. */
async function operationsOf(engine: string, rows: number, file: string | undefined): Promise<Operations> {
  if (engine === 'nothing') return {};
  if (engine === 'growth') return growthOperations(rows);
  if (engine === 'method') return { 'ten steps': growthOperations(rows)['ten steps']! };
  if (file === undefined) return loadOperations(engine, makeData(rows));
  if (engine !== 'pieces-rimefield' && engine !== 'pieces-duckdb')
    return readingOperations(engine, JSON.parse(file) as Files);
  const { piecesOperations } = await import('./pieces.ts');
  return piecesOperations(engine === 'pieces-duckdb' ? 'duckdb' : 'rimefield', file);
}

async function loadOperations(engine: string, data: ReturnType<typeof makeData>): Promise<Operations> {
  if (engine === 'writing-rimefield' || engine === 'writing-duckdb')
    return (await import('./writing.ts')).writingOperations(engine === 'writing-duckdb' ? 'duckdb' : 'rimefield', data);
  if (engine === 'rimefield') return (await import('./steps-ours.ts')).ourOperations(data);
  if (engine === 'duckdb') return (await import('./steps-duckdb.ts')).duckOperations(data);
  return (await import('./steps-arquero.ts')).arqueroOperations(data);
}

const [engine, rows, file] = process.argv.slice(2);
if (engine !== undefined && rows !== undefined) await main(engine, Number(rows), file);
