/** The drop folder as it is used, and under abuse. */
import { type ChildProcess, spawn } from 'node:child_process';
import {
  appendFileSync,
  existsSync,
  linkSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import type { Server } from 'node:http';
import { type AddressInfo, connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { ExportSpec, type Job, readJobFile } from '../../core/index.ts';
import { createApp } from '../app.ts';
import { folderApi } from './api.ts';
import { BadName, DropFolder, plainNames, safeName } from './drop-folder.ts';
import { type Arrival, type ArrivalResult, runArrival } from './run-arrival.ts';
import { RunLog } from './run-log.ts';
import { WatchedProcess } from './watched-process.ts';
import { type WatchChoices, Watcher } from './watcher.ts';

const FAST = { every: 20, steady: 60, stale: 5000 };
const REPORT = 'demo/files/fares.html';
const TRUTH = readFileSync('demo/truth/fares.csv', 'utf8');
const job: Job = readJobFile(readFileSync('demo/files/fares-page.job.json', 'utf8'));
const standing = { source: job.sources[0]!.id, pattern: 'fares*.html' };

let root: string;
let watchers: Watcher[];
let servers: Server[];
let children: ChildProcess[];

beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'rimefield-folder-'));
  [watchers, servers, children] = [[], [], []];
});
afterEach(async () => {
  for (const child of children) child.kill('SIGKILL');
  for (const server of servers) {
    server.closeAllConnections();
    server.close();
  }
  await Promise.all(watchers.map((one) => one.stop()));
});

function watch(choices = FAST): Watcher {
  const watcher = new Watcher(new DropFolder(root), choices);
  watchers.push(watcher);
  return watcher;
}

async function listen(app: express.Express): Promise<string> {
  return new Promise((resolve) => {
    const server = app.listen(0, '127.0.0.1', () =>
      resolve(`http://127.0.0.1:${(server.address() as AddressInfo).port}`),
    );
    servers.push(server);
  });
}

const served = (watcher: Watcher) => listen(createApp(root, { watcher }));
const eventually = (check: () => void | Promise<void>) => vi.waitFor(check, { timeout: 25_000, interval: 25 });
const put = (name: string, content: string | Uint8Array = readFileSync(REPORT)) =>
  writeFileSync(join(root, 'in', name), content);
const outs = (): string[] => {
  const folder = join(root, 'out', job.name);
  return existsSync(folder) ? readdirSync(folder).sort() : [];
};

describe('a job that runs on its own', () => {
  test('runs on a file that fits: exports and record are out, the file is done', async () => {
    const watcher = watch();
    watcher.jobs.set(job, standing);
    watcher.start();
    put('fares-q3.html');
    put('other.html', 'of no job');
    await eventually(() => expect(readdirSync(join(root, 'done'))).toEqual(['fares-q3.html']));
    const [run] = outs();
    expect(run).toMatch(/^fares-q3 [0-9a-f]{8}-[0-9a-f]{4}$/);
    const folder = join(root, 'out', job.name, run!);
    expect(readdirSync(folder).sort()).toEqual(['Fares.csv', 'record.json']);
    expect(readFileSync(join(folder, 'Fares.csv'), 'utf8')).toBe(TRUTH);
    expect(JSON.parse(readFileSync(join(folder, 'record.json'), 'utf8'))).toMatchObject([
      { rimefield: 'record', table: 'Fares', ok: true, files: [{ file: 'fares-q3.html' }] },
    ]);
    expect(watcher.latest(1)).toMatchObject([{ file: 'fares-q3.html', outcome: 'done', good: true, job: job.name }]);
    // What no job is for stays where it is.
    expect(watcher.arrivals().map((one) => one.name)).toEqual(['other.html']);
  });

  test('the same bytes are not run twice, under whatever name; another method runs them again', async () => {
    const watcher = watch();
    watcher.jobs.set(job, standing);
    watcher.start();
    put('fares-1.html');
    await eventually(() => expect(watcher.latest(9)).toHaveLength(1));
    put('fares-2.html');
    await eventually(() => expect(watcher.latest(9)).toHaveLength(2));
    expect(watcher.latest(1)).toMatchObject([{ outcome: 'again', text: 'run before, as fares-1.html' }]);
    expect(outs()).toHaveLength(1);
    const changed = structuredClone(job);
    changed.tables[0]!.steps.pop();
    watcher.jobs.set(changed, standing);
    put('fares-3.html');
    await eventually(() => expect(watcher.latest(1)).toMatchObject([{ file: 'fares-3.html', outcome: 'done' }]));
    expect(outs()).toHaveLength(2);
  });

  test('a bad file goes aside with its reason beside it; the next one is run', async () => {
    const watcher = watch();
    watcher.jobs.set(job, standing);
    watcher.start();
    put('fares-bad.html', '<html><table><tr><td>Nothing of it</td></tr></table></html>');
    put('fares-cut.html', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10));
    put('fares-good.html');
    await eventually(() => expect(readdirSync(join(root, 'done'))).toEqual(['fares-good.html']));
    await eventually(() => expect(watcher.latest(9)).toHaveLength(3));
    expect(readdirSync(join(root, 'aside')).sort()).toEqual([
      'fares-bad.html',
      'fares-bad.html.reason.txt',
      'fares-cut.html',
      'fares-cut.html.reason.txt',
    ]);
    expect(readFileSync(join(root, 'aside', 'fares-bad.html.reason.txt'), 'utf8')).toMatch(/Fares stopped at step \d/);
    expect(readFileSync(join(root, 'aside', 'fares-cut.html.reason.txt'), 'utf8')).toContain('is a picture');
  });

  test('a file that is still being written waits until it is whole', async () => {
    const watcher = watch({ ...FAST, steady: 400 });
    watcher.jobs.set(job, standing);
    watcher.start();
    const bytes = readFileSync(REPORT);
    for (let k = 1; k <= 5; k++) {
      put('fares-slow.html', bytes.subarray(0, Math.ceil((bytes.length * k) / 5)));
      await new Promise((resolve) => setTimeout(resolve, 120));
      expect(watcher.arrivals()).toMatchObject([{ name: 'fares-slow.html', state: 'waiting' }]);
    }
    put('fares-half.html.part', 'half of it');
    await eventually(() => expect(outs()).toHaveLength(1));
    expect(readFileSync(join(root, 'out', job.name, outs()[0]!, 'Fares.csv'), 'utf8')).toBe(TRUTH);
    expect(existsSync(join(root, 'in', 'fares-half.html.part'))).toBe(true);
  });

  test('500 files at once: each is run once, nothing is lost', { timeout: 60_000 }, async () => {
    const watcher = watch();
    watcher.jobs.set(job, standing);
    const page = readFileSync(REPORT, 'utf8');
    // Every tenth is a copy of the one before it.
    for (let k = 0; k < 500; k++) put(`fares-${k}.html`, `${page}<!-- ${k % 10 === 9 ? k - 1 : k} -->\n`);
    watcher.start();
    await vi.waitFor(() => expect(readdirSync(join(root, 'done'))).toHaveLength(500), {
      timeout: 50_000,
      interval: 200,
    });
    await eventually(() => expect(watcher.latest(1000)).toHaveLength(500));
    expect(outs()).toHaveLength(450);
    expect(watcher.latest(1000).filter((one) => one.outcome === 'again')).toHaveLength(50);
    expect(watcher.arrivals()).toEqual([]);
  });

  test('two servers on one folder: each file is run by one of them, and the other takes over', async () => {
    const [first, second] = [watch({ ...FAST, stale: 2000 }), watch({ ...FAST, stale: 2000 })];
    first.jobs.set(job, standing);
    first.start();
    await eventually(() => expect(first.holds).toBe(true));
    second.start();
    const page = readFileSync(REPORT, 'utf8');
    for (let k = 0; k < 20; k++) put(`fares-${k}.html`, `${page}<!-- ${k} -->`);
    await eventually(() => expect(readdirSync(join(root, 'done'))).toHaveLength(20));
    expect(second.holds).toBe(false);
    expect(outs()).toHaveLength(20);
    await first.stop();
    put('fares-late.html', `${page}<!-- late -->`);
    await eventually(() => expect(second.latest(1)).toMatchObject([{ file: 'fares-late.html', outcome: 'done' }]));
  });
});

test('a server that is killed in the middle leaves nothing half-written, and the next one finishes', {
  timeout: 90_000,
}, async () => {
  watch().jobs.set(job, standing);
  const page = readFileSync(REPORT, 'utf8');
  for (let k = 0; k < 60; k++) put(`fares-${k}.html`, `${page}<!-- ${k} -->`);
  const start = () => {
    const child = spawn(process.execPath, ['--import', 'tsx', 'service/cli.ts', 'serve'], {
      env: { ...process.env, PORT: '0', RIMEFIELD_FOLDER: root },
      stdio: 'ignore',
    });
    children.push(child);
    return child;
  };
  const wholeOuts = () => {
    for (const run of outs()) {
      expect(readdirSync(join(root, 'out', job.name, run)).sort()).toEqual(['Fares.csv', 'record.json']);
      expect(readFileSync(join(root, 'out', job.name, run, 'Fares.csv'), 'utf8')).toBe(TRUTH);
    }
  };
  const first = start();
  await vi.waitFor(() => expect(outs().length).toBeGreaterThan(3), { timeout: 30_000, interval: 5 });
  const dead = new Promise((resolve) => first.once('exit', resolve));
  first.kill('SIGKILL');
  await dead;
  expect(outs().length).toBeLessThan(60);
  wholeOuts();
  const taken = join(root, '.rimefield', 'taken');
  const underWay = existsSync(taken) ? readdirSync(taken).length : 0;
  expect(underWay + readdirSync(join(root, 'in')).length + readdirSync(join(root, 'done')).length).toBe(60);
  start();
  await vi.waitFor(() => expect(readdirSync(join(root, 'done'))).toHaveLength(60), { timeout: 50_000, interval: 50 });
  expect(outs()).toHaveLength(60);
  wholeOuts();
});

test('a line that a crash cut off is passed over, and the log goes on behind it', () => {
  const path = join(root, 'runs.ndjson');
  const entry = {
    at: 1,
    file: 'a.csv',
    sha256: 'f',
    outcome: 'done' as const,
    jobId: 'j',
    jobSha256: 's',
    text: 'well',
  };
  new RunLog(path).add(entry);
  writeFileSync(path, `${readFileSync(path, 'utf8')}{"at":2,"file":"b.cs`);
  const again = new RunLog(path);
  again.add({ ...entry, file: 'c.csv' });
  expect(new RunLog(path).latest(9).map((one) => one.file)).toEqual(['c.csv', 'a.csv']);
  expect(again.ran('f', 'j', 's')?.file).toBe('c.csv');
  expect(again.ran('f', 'j', 'another method')).toBeUndefined();
});

test('a job that takes too long is stopped, and the next one is run', async () => {
  const slow = new Watcher(new DropFolder(root), FAST, new WatchedProcess({ mostMs: 1 }));
  watchers.push(slow);
  slow.jobs.set(job, standing);
  slow.start();
  put('fares-1.html');
  await eventually(() => expect(slow.latest(1)).toMatchObject([{ outcome: 'aside' }]));
  expect(slow.latest(1)[0]!.text).toContain('It took longer than');
  await slow.stop();
  const patient = watch();
  patient.start();
  put('fares-1.html');
  await eventually(() => expect(patient.latest(1)).toMatchObject([{ outcome: 'done' }]));
});

describe('names and links', () => {
  test.each(['..', '.', '', '../x', '/etc/passwd', 'a/b', 'a\\b', 'c:x', 'a\0b', 'a\nb', 'x'.repeat(300)])(
    '%j is no name of a file',
    (name) => {
      expect(() => safeName(name)).toThrow(BadName);
    },
  );

  test('links are not followed, and do not arrive', async () => {
    const outside = join(mkdtempSync(join(tmpdir(), 'rimefield-outside-')), 'secret.html');
    writeFileSync(outside, readFileSync(REPORT));
    const watcher = watch();
    watcher.jobs.set(job, standing);
    symlinkSync(outside, join(root, 'in', 'fares-link.html'));
    mkdirSync(join(root, 'in', 'fares-folder.html'));
    watcher.start();
    put('fares-real.html');
    await eventually(() => expect(readdirSync(join(root, 'done'))).toEqual(['fares-real.html']));
    expect(lstatSync(join(root, 'in', 'fares-link.html')).isSymbolicLink()).toBe(true);
    const address = await served(watcher);
    expect((await fetch(`${address}/api/arrivals/fares-link.html`)).status).toBe(400);
    expect((await fetch(`${address}/api/arrivals/fares-folder.html`)).status).toBe(400);
  });

  test('a hard link to a file outside is its own file when it is moved', async () => {
    const outside = join(mkdtempSync(join(tmpdir(), 'rimefield-outside-')), 'kept.html');
    writeFileSync(outside, readFileSync(REPORT));
    const watcher = watch();
    watcher.jobs.set(job, standing);
    try {
      linkSync(outside, join(root, 'in', 'fares-hard.html'));
    } catch {
      return; // Another file system: nothing can be linked.
    }
    watcher.start();
    await eventually(() => expect(readdirSync(join(root, 'done'))).toEqual(['fares-hard.html']));
    expect(readFileSync(outside)).toEqual(readFileSync(REPORT));
  });
});

describe('over HTTP', () => {
  test('a file is sent, appears as an arrival, is fetched, and is taken', async () => {
    const watcher = watch();
    watcher.start();
    const address = await served(watcher);
    const sent = await fetch(`${address}/api/arrivals/fares%20new.html`, { method: 'PUT', body: readFileSync(REPORT) });
    expect(sent.status).toBe(201);
    const again = await fetch(`${address}/api/arrivals/fares%20new.html`, { method: 'PUT', body: 'another' });
    expect(await again.json()).toEqual({ name: 'fares new 2.html' });
    const { arrivals } = (await (await fetch(`${address}/api/folder`)).json()) as { arrivals: { name: string }[] };
    expect(arrivals.map((one) => one.name).sort()).toEqual(['fares new 2.html', 'fares new.html']);
    const got = await fetch(`${address}/api/arrivals/fares%20new.html`);
    expect(Buffer.from(await got.arrayBuffer()).equals(readFileSync(REPORT))).toBe(true);
    const taken = await fetch(`${address}/api/arrivals/fares%20new.html/taken`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ job: job.name }),
    });
    expect(taken.status).toBe(200);
    expect(readdirSync(join(root, 'done'))).toEqual(['fares new.html']);
  });

  test('a job is set to run on its own, and is stopped again', async () => {
    const watcher = watch();
    watcher.start();
    const address = await served(watcher);
    const send = (body: object) =>
      fetch(`${address}/api/jobs/${job.id}`, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      });
    expect((await send({ job, ...standing })).status).toBe(200);
    put('fares-x.html');
    await eventually(() => expect(outs()).toHaveLength(1));
    expect((await send({ job, source: 'nowhere', pattern: '*' })).status).toBe(400);
    expect((await send({ job: { ...job, id: '../../x' }, ...standing })).status).toBe(400);
    expect((await send({ nothing: true })).status).toBe(400);
    await fetch(`${address}/api/jobs/${job.id}`, { method: 'DELETE' });
    expect(watcher.jobs.list()).toEqual([]);
  });

  test('nothing is served from outside, and nothing is written there', async () => {
    const watcher = watch();
    const address = await served(watcher);
    writeFileSync(join(root, 'outside.txt'), 'secret');
    const names = [
      '..%2foutside.txt',
      '%2e%2e%2foutside.txt',
      '%2Fetc%2Fpasswd',
      '..%5coutside.txt',
      'a%00b',
      '%E0%A4%A',
    ];
    for (const name of names) {
      for (const method of ['GET', 'PUT']) {
        const answer = await fetch(`${address}/api/arrivals/${name}`, {
          method,
          ...(method === 'PUT' ? { body: 'x' } : {}),
        });
        expect(answer.status, `${method} ${name}`).toBe(400);
        expect(await answer.text()).not.toContain('secret');
      }
    }
    // As it stands on the wire, without a client that tidies the path.
    expect(await raw(address, 'GET /api/arrivals/../../outside.txt HTTP/1.1\r\nHost: 127.0.0.1\r\n')).not.toContain(
      'secret',
    );
    expect(await raw(address, 'GET /api/../../../outside.txt HTTP/1.1\r\nHost: 127.0.0.1\r\n')).not.toContain('secret');
    expect(readFileSync(join(root, 'outside.txt'), 'utf8')).toBe('secret');
    expect(readdirSync(join(root, 'in'))).toEqual([]);
    expect((await fetch(`${address}/api/jobs/..%2f..%2fx/sources/y`, { method: 'PUT', body: 'x' })).status).toBe(400);
  });

  test('a file that is too large is refused, at once or on the way; nothing of it stays', async () => {
    const watcher = watch();
    const address = await listen(express().use('/api', folderApi(watcher, 100_000)));
    const large = await fetch(`${address}/api/arrivals/large.csv`, { method: 'PUT', body: new Uint8Array(200_000) });
    expect(large.status).toBe(413);
    const endless = new ReadableStream({
      pull: (controller) => controller.enqueue(new Uint8Array(10_000)),
    });
    const answer = await fetch(`${address}/api/arrivals/endless.csv`, {
      method: 'PUT',
      body: endless,
      duplex: 'half',
    } as RequestInit).then(
      (response) => response.status,
      () => 'cut off',
    );
    expect([413, 'cut off']).toContain(answer);
    await eventually(() =>
      expect(readdirSync(join(root, '.rimefield')).filter((one) => one.startsWith('upload'))).toEqual([]),
    );
    expect(readdirSync(join(root, 'in'))).toEqual([]);
  });

  test('an upload that breaks off leaves nothing behind', async () => {
    const watcher = watch();
    const address = await served(watcher);
    const socket = connect(Number(new URL(address).port), '127.0.0.1');
    socket.write('PUT /api/arrivals/cut.csv HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 1000\r\n\r\nhalf of it');
    const uploads = () => readdirSync(join(root, '.rimefield')).filter((one) => one.startsWith('upload'));
    await eventually(() => expect(uploads()).toHaveLength(1));
    socket.destroy();
    await eventually(() => expect(uploads()).toHaveLength(0));
    expect(readdirSync(join(root, 'in'))).toEqual([]);
  });

  test('more uploads at once than the disk can take are postponed', async () => {
    const watcher = watch();
    const address = await served(watcher);
    const sockets = Array.from({ length: 16 }, (_, k) => {
      const socket = connect(Number(new URL(address).port), '127.0.0.1');
      socket.write(`PUT /api/arrivals/slow-${k}.csv HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 10\r\n\r\nx`);
      return socket;
    });
    await eventually(async () => {
      const answer = await fetch(`${address}/api/arrivals/more.csv`, { method: 'PUT', body: 'x' });
      expect(answer.status).toBe(503);
    });
    for (const socket of sockets) socket.destroy();
    await eventually(async () => {
      expect((await fetch(`${address}/api/arrivals/last.csv`, { method: 'PUT', body: 'x' })).status).toBe(201);
    });
  });
});

describe('what happens while a file is run', () => {
  /** Runs nothing: what is done instead gives the result. */
  class Instead extends WatchedProcess {
    runs = 0;
    constructor(private readonly act: (arrival: Arrival, runs: number) => void) {
      super();
    }
    override async run(arrival: Arrival): Promise<ArrivalResult> {
      this.act(arrival, ++this.runs);
      return { as: 'done', good: true, text: 'run', files: [{ name: 'got.html', bytes: arrival.file.bytes }] };
    }
  }
  const watchWith = (apart: WatchedProcess, choices: Partial<WatchChoices> = FAST) => {
    const watcher = new Watcher(new DropFolder(root), choices, apart);
    watchers.push(watcher);
    watcher.jobs.set(job, standing);
    watcher.start();
    return watcher;
  };
  const got = () => outs().map((one) => readFileSync(join(root, 'out', job.name, one, 'got.html'), 'utf8'));

  test('a file that goes on growing is not run half: it comes back and is run whole', async () => {
    const taken = join(root, '.rimefield', 'taken', 'fares.html');
    const watcher = watchWith(new Instead((_, runs) => runs === 1 && appendFileSync(taken, 'second half')));
    put('fares.html', 'first half, ');
    await eventually(() => expect(watcher.latest(9)).toHaveLength(1));
    expect(got()).toEqual(['first half, second half']);
    expect(readFileSync(join(root, 'done', 'fares.html'), 'utf8')).toBe('first half, second half');
  });

  test('a file of the same name that comes meanwhile is run too', async () => {
    const watcher = watchWith(new Instead((_, runs) => runs === 1 && put('fares.html', 'the second')));
    put('fares.html', 'the first');
    await eventually(() => expect(watcher.latest(9)).toHaveLength(2));
    expect(got().sort()).toEqual(['the first', 'the second']);
    expect(readdirSync(join(root, 'done')).sort()).toEqual(['fares 2.html', 'fares.html']);
  });

  test('a file that changed between the look and the run waits for the next look', () => {
    const folder = new DropFolder(root);
    put('fares.html', 'one');
    const [seen] = folder.list();
    put('fares.html', 'one and more');
    expect(folder.claim(seen!)).toBeUndefined();
    expect(folder.claim(folder.list()[0]!)?.read().toString()).toBe('one and more');
    expect(readdirSync(join(root, 'in'))).toEqual([]);
  });

  test('names that other systems do not take are run, and made plain when they are moved', async () => {
    const watcher = watchWith(new Instead(() => undefined));
    const long = `fares ${'ö'.repeat(110)}.html`;
    for (const [k, name] of ['fares: a.html', 'fares\nb.html', long].entries()) put(name, `file ${k}`);
    await eventually(() => expect(watcher.latest(9)).toHaveLength(3));
    const done = readdirSync(join(root, 'done'));
    expect(done).toEqual(expect.arrayContaining(['fares  a.html', 'fares b.html']));
    for (const name of done) expect(safeName(name)).toBe(name);
    expect(readdirSync(join(root, 'in'))).toEqual([]);
  });

  test('what could not be put out for want of room is tried again', async () => {
    const watcher = watchWith(new Instead(() => undefined), { ...FAST, again: 200 });
    const publish = vi.spyOn(watcher.folder, 'publish').mockImplementationOnce(() => {
      throw new Error('ENOSPC: no space left on device');
    });
    put('fares.html', 'x');
    await eventually(() => expect(watcher.arrivals()[0]?.trouble).toContain('ENOSPC'));
    await eventually(() => expect(watcher.latest(1)).toMatchObject([{ file: 'fares.html', outcome: 'done' }]));
    expect(publish).toHaveBeenCalledTimes(2);
    expect(watcher.arrivals()).toEqual([]);
  });

  test('a server that takes over knows what the other ran', async () => {
    const second = new Watcher(new DropFolder(root), FAST, new Instead(() => undefined));
    watchers.push(second);
    const first = watchWith(new Instead(() => undefined));
    put('fares-1.html', 'same');
    await eventually(() => expect(first.latest(1)).toHaveLength(1));
    await first.stop();
    second.start();
    put('fares-2.html', 'same');
    await eventually(() => expect(second.latest(1)).toMatchObject([{ file: 'fares-2.html', outcome: 'again' }]));
  });

  test('jobs are looked up once a turn, however many files no job is for', async () => {
    const watcher = watchWith(new Instead(() => undefined));
    for (let k = 0; k < 300; k++) put(`other-${k}.csv`, 'x');
    await eventually(() => expect(watcher.arrivals().filter((one) => one.state === 'whole')).toHaveLength(300));
    const looked = vi.spyOn(watcher.jobs, 'list');
    const turns = vi.spyOn(watcher.folder, 'list');
    await eventually(() => expect(looked.mock.calls.length).toBeGreaterThan(3));
    expect(looked.mock.calls.length).toBeLessThanOrEqual(turns.mock.calls.length);
  });
});

describe('the process apart', () => {
  const arrival = (): Arrival => ({
    job,
    source: standing.source,
    file: { name: 'fares.html', bytes: readFileSync(REPORT) },
    others: [],
  });
  const childOf = (apart: WatchedProcess) => (apart as unknown as { child: ChildProcess | undefined }).child;

  test('may end between two runs', async () => {
    const apart = new WatchedProcess();
    expect(await apart.run(arrival())).toMatchObject({ as: 'done' });
    const ended = new Promise((resolve) => childOf(apart)!.once('exit', resolve));
    childOf(apart)!.kill('SIGKILL');
    await ended;
    expect(await apart.run(arrival())).toMatchObject({ as: 'done' });
    apart.stop();
  });

  test('is stopped when it holds more memory than it may, and the next run is done', async () => {
    const apart = new WatchedProcess({ memoryMb: 60 });
    expect(await apart.run(arrival())).toMatchObject({
      as: 'failed',
      why: expect.stringMatching(/needed more than 60 MiB of memory|crashed/),
    });
    expect(childOf(apart)).toBeUndefined();
  });

  test('tables of like names are written beside each other, and that is reported', async () => {
    const table = job.tables.at(-1)!;
    const long = 'y'.repeat(150);
    const names = ['Same', 'same', 'record', 'Q1/Q2', 'Q1:Q2', `${long}a`, `${long}b`];
    const tables = names.map((name, k) => ({
      ...table,
      id: `t${k}`,
      name,
      export: ExportSpec.parse({ as: name === 'record' ? 'json' : 'csv' }),
    }));
    const result = await runArrival({ ...arrival(), job: { ...job, tables } });
    expect(result.as).toBe('done');
    if (result.as !== 'done') return;
    const files = result.files.map((one) => one.name);
    expect(new Set(files.map((name) => name.toLowerCase())).size).toBe(names.length + 1);
    expect(files.slice(0, 5)).toEqual(['Same.csv', 'same 2.csv', 'record 2.json', 'Q1 Q2.csv', 'Q1 Q2 2.csv']);
    for (const name of files) expect(name).toMatch(/\.(?:csv|json)$/);
    expect(result.text).toContain('same.csv is written as same 2.csv');
    expect(plainNames(['a.csv', 'A.csv'])).toEqual(['a.csv', 'A 2.csv']);
  });
});

describe('slow and broken connections', () => {
  test('the slowest upload makes room for one that waits', async () => {
    const watcher = watch();
    const app = express();
    app.use('/api', folderApi(watcher, undefined, 50));
    const address = await listen(app);
    const sockets = Array.from({ length: 16 }, (_, k) => {
      const socket = connect(Number(new URL(address).port), '127.0.0.1');
      socket.on('error', () => undefined);
      socket.write(`PUT /api/arrivals/slow-${k}.csv HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 10\r\n\r\nx`);
      return socket;
    });
    const uploads = () => readdirSync(join(root, '.rimefield')).filter((one) => one.startsWith('upload'));
    await eventually(() => expect(uploads()).toHaveLength(16));
    await new Promise((done) => setTimeout(done, 80));
    const answer = await fetch(`${address}/api/arrivals/quick.csv`, { method: 'PUT', body: 'x' });
    expect(answer.status).toBe(201);
    await eventually(() => expect(uploads()).toHaveLength(15));
    for (const socket of sockets) socket.destroy();
    await eventually(() => expect(uploads()).toHaveLength(0));
    expect(readdirSync(join(root, 'in'))).toEqual(['quick.csv']);
  });

  test('downloads that break off leave no file open', async () => {
    const watcher = watch();
    const address = await served(watcher);
    put('large.bin', new Uint8Array(8_000_000));
    const open = () => readdirSync('/proc/self/fd').length;
    const before = open();
    for (let k = 0; k < 20; k++) {
      const abort = new AbortController();
      const answer = await fetch(`${address}/api/arrivals/large.bin`, { signal: abort.signal });
      expect(answer.status).toBe(200);
      abort.abort();
    }
    await eventually(() => expect(open()).toBeLessThan(before + 5));
  });
});

describe('who may come in', () => {
  test('pages of other hosts change nothing, and other names of this host are not answered', async () => {
    const address = await served(watch());
    const from = (headers: Record<string, string>) =>
      fetch(`${address}/api/arrivals/x.csv`, { method: 'PUT', body: 'x', headers });
    expect((await from({ Origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await from({ 'Sec-Fetch-Site': 'cross-site' })).status).toBe(403);
    expect((await from({ Origin: address })).status).toBe(201);
    expect(await raw(address, 'GET /api/folder HTTP/1.1\r\nHost: elsewhere.example\r\n')).toMatch(/^HTTP\/1\.1 403/);
  });

  test('where a token is asked for, nothing is given without it', async () => {
    writeFileSync(join(root, 'index.html'), '<title>Rimefield</title>');
    const address = await listen(createApp(root, { token: 'kestrel', watcher: watch() }));
    for (const path of ['/', '/api/folder', '/index.html', '/?token=wrong'])
      expect((await fetch(address + path)).status, path).toBe(401);
    expect((await fetch(`${address}/api/folder`, { headers: { Authorization: 'Bearer kestrel' } })).status).toBe(200);
    const first = await fetch(`${address}/?token=kestrel`, { redirect: 'manual' });
    expect(first.status).toBe(303);
    const cookie = first.headers.get('set-cookie')!;
    expect(cookie).toMatch(/HttpOnly.*SameSite=Strict/);
    expect((await fetch(address, { headers: { Cookie: cookie.split(';')[0]! } })).status).toBe(200);
    // RFC 9110, 10.2.2: what begins with two slashes would be another host.
    const astray = await raw(address, 'GET //elsewhere.example/?token=kestrel HTTP/1.1\r\nHost: localhost\r\n');
    expect(astray).toMatch(/\r\nLocation: \/elsewhere\.example\/\r\n/i);
    expect((await fetch(address, { headers: { Cookie: 'rimefield-token=%E0%A4%A' } })).status).toBe(401);
  });
});

/** What comes back for a request as it stands. */
function raw(address: string, request: string): Promise<string> {
  return new Promise((resolve) => {
    const socket = connect(Number(new URL(address).port), '127.0.0.1', () =>
      socket.write(`${request}Connection: close\r\n\r\n`),
    );
    let text = '';
    socket.on('data', (piece) => {
      text += piece.toString();
    });
    socket.on('close', () => resolve(text));
  });
}
