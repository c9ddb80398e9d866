/**
 * The server and the drop folder under load: files that grow, are replaced and have odd names, two servers of which one
 * is killed again and again, and clients of which some are slow. At the end nothing may be lost, run twice or outside.
 *
 *   npm run soak
 */
import { type ChildProcess, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { appendFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readJobFile } from '../core/index.ts';
import { Random } from './random.ts';

const FILES = { plain: 400, growing: 40, replaced: 30, odd: 30 };
const CLIENTS = { quick: 150, slow: 50 };
const KILLS = 3;
const PORTS = [4931, 4932] as const;
const MAX_WAIT_MS = 8 * 60_000;

const random = new Random(2031);
const outer = mkdtempSync(join(tmpdir(), 'rimefield-soak-'));
const root = join(outer, 'drop');
const report = readFileSync('demo/files/fares.html', 'utf8');
const job = readJobFile(readFileSync('demo/files/fares-page.job.json', 'utf8'));
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
const shaOf = (bytes: Uint8Array | string) => createHash('sha256').update(bytes).digest('hex');

let made = 0;
/** A report like no other: the comment at its end is no part of its table. */
const content = () => `${report}<!-- ${++made} -->\n`;
const wanted = new Map<string, string>();
const want = (text: string, as: string) => {
  wanted.set(shaOf(text), as);
  return text;
};

const servers: (ChildProcess | undefined)[] = [undefined, undefined];

async function start(k: 0 | 1): Promise<void> {
  const server = spawn(process.execPath, ['--import', 'tsx', 'service/cli.ts', 'serve'], {
    env: { ...process.env, PORT: String(PORTS[k]), RIMEFIELD_FOLDER: root, HOST: '127.0.0.1', RIMEFIELD_TOKEN: '' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  servers[k] = server;
  await new Promise<void>((done) => server.stdout!.on('data', (text) => String(text).includes('is at') && done()));
}

function kill(k: 0 | 1): Promise<void> {
  const server = servers[k]!;
  const ended = new Promise<void>((done) => server.once('exit', () => done()));
  server.kill('SIGKILL');
  return ended;
}

const inFolder = (name: string) => join(root, 'in', name);

/** Written in pieces, with pauses shorter than those by which a file is taken to be whole. */
async function growing(k: number): Promise<void> {
  const text = want(content(), 'growing');
  const pieces = 6;
  for (let piece = 0; piece < pieces; piece++) {
    const [from, to] = [piece, piece + 1].map((one) => Math.round((one * text.length) / pieces));
    appendFileSync(inFolder(`fares-growing-${k}.html`), text.slice(from, to));
    await wait(300 + random.below(900));
  }
}

/** Another file takes its place, before it is run, while or behind it: the one or both may run, the last one must. */
async function replaced(k: number, may: Set<string>): Promise<void> {
  const name = inFolder(`fares-replaced-${k}.html`);
  const first = content();
  may.add(shaOf(first));
  writeFileSync(name, first);
  await wait(1500 + random.below(3000));
  const aside = `${name}.part`;
  writeFileSync(aside, want(content(), 'replaced'));
  renameSync(aside, name);
}

async function client(k: number, answers: Map<number, number>): Promise<void> {
  await wait(random.below(20_000));
  for (let tries = 0; tries < 60; tries++) {
    const port = PORTS[(k + tries) % 2]!;
    try {
      const text = content();
      const seen = await fetch(`http://127.0.0.1:${port}/api/folder`, { signal: AbortSignal.timeout(20_000) });
      await seen.text();
      const answer = await fetch(`http://127.0.0.1:${port}/api/arrivals/fares-sent-${k}.html`, {
        method: 'PUT',
        body: text,
        signal: AbortSignal.timeout(20_000),
      });
      answers.set(answer.status, (answers.get(answer.status) ?? 0) + 1);
      if (answer.status === 201) {
        want(text, 'sent');
        return;
      }
    } catch {
      // The server is being killed, or the answer to a file that arrived was: it is then run, and sent no second time.
      answers.set(0, (answers.get(0) ?? 0) + 1);
    }
    await wait(500);
  }
  throw new Error(`client ${k} was never answered`);
}

/** Sends a byte now and then, and hangs up in the middle. */
async function slowClient(k: number): Promise<void> {
  await wait(random.below(10_000));
  const socket = connect(PORTS[k % 2]!, '127.0.0.1');
  socket.on('error', () => undefined);
  socket.write(`PUT /api/arrivals/fares-slow-${k}.html HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 100000\r\n\r\n`);
  for (let byte = 0; byte < 20; byte++) {
    await wait(1000);
    if (!socket.destroyed) socket.write('x');
  }
  socket.destroy();
}

interface Entry {
  file: string;
  sha256: string;
  outcome: string;
}

function entries(): Entry[] {
  const log = join(root, '.rimefield', 'runs.ndjson');
  if (!existsSync(log)) return [];
  return readFileSync(log, 'utf8')
    .split('\n')
    .flatMap((line) => {
      try {
        return [JSON.parse(line) as Entry];
      } catch {
        return [];
      }
    });
}

async function main(): Promise<void> {
  await start(0);
  const standing = { job, source: job.sources[0]!.id, pattern: 'fares*' };
  const set = await fetch(`http://127.0.0.1:${PORTS[0]}/api/jobs/${job.id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(standing),
  });
  if (!set.ok) throw new Error(`the job could not be set: ${await set.text()}`);
  await start(1);
  const began = Date.now();
  const may = new Set<string>();
  const answers = new Map<number, number>();
  const odd = ['fares: a.html', 'fares\nb.html', `fares ${'ö'.repeat(110)}.html`, "fares '$(x)'.html", 'fares ..html'];
  for (let k = 0; k < FILES.odd; k++)
    writeFileSync(inFolder(k < odd.length ? odd[k]! : `fares\t${k}.html`), want(content(), 'odd'));
  const work = [
    ...Array.from({ length: FILES.growing }, (_, k) => growing(k)),
    ...Array.from({ length: FILES.replaced }, (_, k) => replaced(k, may)),
    ...Array.from({ length: CLIENTS.quick }, (_, k) => client(k, answers)),
    ...Array.from({ length: CLIENTS.slow }, (_, k) => slowClient(k)),
    (async () => {
      for (let k = 0; k < FILES.plain; k++) {
        const aside = join(outer, `plain-${k}`);
        writeFileSync(aside, want(content(), 'plain'));
        renameSync(aside, inFolder(`fares-${k}.html`));
        await wait(20);
      }
    })(),
    (async () => {
      for (let k = 0; k < KILLS; k++) {
        await wait(7000);
        const one = (k % 2) as 0 | 1;
        await kill(one);
        await wait(1000);
        await start(one);
      }
    })(),
  ];
  await Promise.all(work);
  const ran = () =>
    new Set(
      entries()
        .filter((one) => one.outcome === 'done')
        .map((one) => one.sha256),
    );
  while (Date.now() - began < MAX_WAIT_MS) {
    const done = ran();
    if ([...wanted.keys()].every((sha) => done.has(sha)) && readdirSync(join(root, 'in')).length === 0) break;
    await wait(1000);
  }
  const seconds = Math.round((Date.now() - began) / 1000);
  for (const k of [0, 1] as const) await kill(k);

  const done = entries().filter((one) => one.outcome === 'done');
  const twice = done.length - new Set(done.map((one) => one.sha256)).size;
  const lost = [...wanted].filter(([sha]) => !done.some((one) => one.sha256 === sha));
  const kept = ['in', 'done', 'aside'].flatMap((folder) =>
    readdirSync(join(root, folder)).map((name) => shaOf(readFileSync(join(root, folder, name)))),
  );
  const gone = [...wanted.keys()].filter((sha) => !kept.includes(sha));
  const outs = readdirSync(join(root, 'out', job.name));
  const half = outs.filter((name) => !existsSync(join(root, 'out', job.name, name, 'record.json')));
  const unknown = done.filter((one) => !wanted.has(one.sha256) && !may.has(one.sha256));
  const sentTwice = unknown.filter((one) => one.file.startsWith('fares-sent'));
  const outside = readdirSync(outer).filter((name) => name !== 'drop');
  const figures = {
    seconds,
    files: wanted.size,
    runs: done.length,
    lost: lost.length,
    'run twice': twice,
    'gone from the folders': gone.length,
    'results half written': half.length,
    'runs of half a file': unknown.length - sentTwice.length,
    'left in the folder': readdirSync(join(root, 'in')).length,
    outside: outside.length,
    'answers by status': Object.fromEntries(answers),
  };
  process.stdout.write(`${JSON.stringify(figures, null, 2)}\n`);
  const bad = lost.length + twice + gone.length + half.length + outside.length + figures['runs of half a file'];
  for (const [, as] of lost.slice(0, 5)) process.stdout.write(`lost: ${as}\n`);
  for (const one of unknown.slice(0, 5)) process.stdout.write(`unknown: ${one.file}\n`);
  process.exitCode = bad === 0 ? 0 : 1;
}

await main().finally(() => {
  for (const server of servers) server?.kill('SIGKILL');
});
