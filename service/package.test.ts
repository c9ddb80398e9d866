import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import type { Job } from '../core/index.ts';

const ROOT = join(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'rimefield-packed-'));
const bin = join(folder, 'node_modules', '.bin', 'rimefield');

// As someone would who has only the packed file, in an empty folder and without a registry.
beforeAll(() => {
  execFileSync(process.execPath, ['scripts/build.mjs'], { cwd: ROOT, stdio: 'ignore' });
  const [packed] = JSON.parse(
    execFileSync('npm', ['pack', '--json', '--silent', '--ignore-scripts', '--pack-destination', folder], {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'ignore'],
    }).toString(),
  ) as { filename: string }[];
  execFileSync('npm', ['install', '--offline', '--no-audit', '--no-fund', '--silent', `./${packed!.filename}`], {
    cwd: folder,
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  copyFileSync(join(ROOT, 'demo/files/quay-returns.job.json'), join(folder, 'quay.job.json'));
  copyFileSync(join(ROOT, 'demo/files/quay-returns-q2.xlsx'), join(folder, 'q2.xlsx'));
}, 180_000);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const TRUTH = readFileSync(join(ROOT, 'demo/truth/quay-returns-q2.csv'), 'utf8');
const RUN = ['run', 'quay.job.json', '--source', 'quay returns=q2.xlsx', '--out'];

test('the packed package brings no library along', () => {
  expect(readdirSync(join(folder, 'node_modules')).filter((name) => !name.startsWith('.'))).toEqual(['rimefield']);
});

test('it runs a job from an empty folder, to the same table', () => {
  const { status, stderr } = spawnSync(bin, [...RUN, 'tidy.csv'], { cwd: folder });
  expect({ status, error: stderr.toString() }).toEqual({ status: 0, error: '' });
  expect(readFileSync(join(folder, 'tidy.csv'), 'utf8')).toBe(TRUTH);
});

test.each(['tidy.sqlite', 'tidy.arrow', 'tidy.parquet', 'tidy.xlsx'])(
  '%s: the libraries of every format are inside',
  (out) => {
    const { status, stderr } = spawnSync(bin, [...RUN, out], { cwd: folder });
    expect({ status, error: stderr.toString() }).toEqual({ status: 0, error: '' });
    expect(readFileSync(join(folder, out)).length).toBeGreaterThan(500);
  },
);

test('it reads printed pages, and says nothing of what it would draw them with', () => {
  for (const name of ['crossings.job.json', 'crossings.pdf'])
    copyFileSync(join(ROOT, 'demo/files', name), join(folder, name));
  const given = ['run', 'crossings.job.json', '--source', 'crossings=crossings.pdf', '--out', 'crossings.csv'];
  const { status, stderr } = spawnSync(bin, given, { cwd: folder });
  expect({ status, error: stderr.toString() }).toEqual({ status: 0, error: '' });
  expect(readFileSync(join(folder, 'crossings.csv'), 'utf8')).toBe(
    readFileSync(join(ROOT, 'demo/truth/crossings.csv'), 'utf8'),
  );
});

test('it serves the pages, and runs what comes into its drop folder in its own process', {
  timeout: 60_000,
}, async () => {
  const server = spawn(bin, ['serve', '--port', '0', '--folder', 'arrivals'], { cwd: folder });
  try {
    let said = '';
    server.stdout.on('data', (text: Buffer) => {
      said += text;
    });
    while (!said.includes('arrive there')) await once(server.stdout, 'data');
    const address = /http:\S+/.exec(said)![0];
    expect(await (await fetch(address)).text()).toContain('<div id="root">');
    const job = JSON.parse(readFileSync(join(folder, 'quay.job.json'), 'utf8')) as Job;
    const standing = { job, source: job.sources[0]!.id, pattern: 'q*.xlsx' };
    const kept = await fetch(`${address}api/jobs/${job.id}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(standing),
    });
    expect({ status: kept.status, error: await kept.text() }).toEqual({ status: 200, error: '{}' });
    copyFileSync(join(folder, 'q2.xlsx'), join(folder, 'arrivals', 'in', 'q2.xlsx'));
    await vi.waitFor(() => expect(readdirSync(join(folder, 'arrivals', 'done'))).toEqual(['q2.xlsx']), {
      timeout: 30_000,
      interval: 200,
    });
    const out = join(folder, 'arrivals', 'out', 'Quay returns  quarterly');
    expect(readFileSync(join(out, readdirSync(out)[0]!, `${job.tables.at(-1)!.name}.csv`), 'utf8')).toBe(TRUTH);
  } finally {
    server.kill('SIGTERM');
    await once(server, 'exit');
  }
});
