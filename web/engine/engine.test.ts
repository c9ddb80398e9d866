import { readFileSync } from 'node:fs';
import { expose, proxy } from 'comlink';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { fullTables, NAME, readJobFile, type StepAtWork, type StepStop } from '../../core/index.ts';
import { EngineClient, type EngineEnd } from './client.ts';
import { sha256Of } from './digest.ts';
import { createEngine } from './engine.ts';
import { EngineError, isOvertaken, type StepView } from './protocol.ts';

const REPORT = 'demo/files/quay-returns-q2.xlsx';
const job = readJobFile(readFileSync('demo/files/quay-returns.job.json', 'utf8'));
const [source] = job.sources;
const tables = fullTables(job);
const table = tables.at(-1)!;
const LAST = table.steps.length - 1;
const bytes = () => new Uint8Array(readFileSync(REPORT)) as Uint8Array<ArrayBuffer>;
const none = () => undefined;

const open: (() => void)[] = [];
afterEach(() => {
  for (const close of open.splice(0)) close();
});

/** The page's side and the worker's side of an engine, joined by a port as in the browser. */
function engineOverPort() {
  const { port1, port2 } = new MessageChannel();
  expose(createEngine(), port1 as never);
  const ends: EngineEnd[] = [];
  let broken: (why: string) => void = none;
  const host = {
    endpoint: port2 as never,
    terminate: () => port1.close(),
    onBroken: (act: (why: string) => void) => {
      broken = act;
    },
  };
  const client = new EngineClient(host, (end) => ends.push(end));
  open.push(() => {
    port1.close();
    port2.close();
  });
  return { client, ends, breakDown: (why: string) => broken(why) };
}

async function ran() {
  const over = engineOverPort();
  const { sha256 } = await over.client.setSource(source!.id, 'q2.xlsx', bytes());
  const view = await over.client.run(tables, table.id, none);
  return { ...over, sha256, view };
}

describe('over a port', () => {
  test('a source is read, the method runs, and the table has the rows of the truth', async () => {
    const { client, sha256, view } = await ran();
    expect(sha256).toMatch(/^[0-9a-f]{64}$/);
    const truth = readFileSync('demo/truth/quay-returns-q2.csv', 'utf8').trimEnd().split('\r\n');
    expect(view.stop).toBeUndefined();
    expect(view.steps.at(-1)!.rows).toBe(truth.length - 1);
    const [columns, rows] = [
      await client.engine.tables.columns(table.id, LAST),
      await client.engine.tables.rows(table.id, LAST, 0, 2),
    ];
    expect(columns.map((one) => one.name)).toEqual(truth[0]!.split(','));
    expect(rows.map((row) => row.cells.map((cell) => cell.text).join())).toEqual(truth.slice(1, 3));
  });

  test('a large file is read while its digest is worked out: what is asked next finds it read', async () => {
    const text = new TextEncoder().encode(`quay,foot\n${'Hask,12\n'.repeat(600_000)}`);
    const digest = await sha256Of(text.slice());
    const { client } = engineOverPort();
    const ran: (string | undefined)[] = [];
    await client.engine.job.connect(
      undefined,
      proxy((step: StepAtWork | undefined) => void ran.push(step?.table)),
    );
    const view = await client.setSource('s', 'arrivals.csv', text);
    expect(view).toEqual({ format: 'text', sha256: digest });
    const { step } = await client.guess('s', 'arrivals.csv');
    const steps = [{ ...step, id: 'a' }];
    const { steps: views } = await client.run([{ id: 't', name: 'Arrivals', steps }], 't', none);
    expect(views[0]!.rows).toBe(600_001);
    // No step was worked out for it.
    expect(ran.filter((name) => name !== undefined)).toEqual([]);
  });

  test('a digest that is known is not worked out again', async () => {
    const { client } = engineOverPort();
    const { sha256 } = await client.setSource('s', 'arrivals.csv', new TextEncoder().encode('quay\nHask\n'), {
      known: 'abc',
    });
    expect(sha256).toBe('abc');
    expect(client.holds('s', 'abc')).toBe(true);
  });

  test('what can wait comes behind all that is asked meanwhile', async () => {
    const { client } = await ran();
    const order: string[] = [];
    const later = client.answered().then(async () => {
      await client.engine.drafts.seen(table.id, LAST, []);
      order.push('seen');
    });
    for (const name of ['first', 'second']) {
      // Asked while it waits, one after the other, as a page does when an answer is there.
      await client.engine.tables.rows(table.id, LAST, 0, 128);
      order.push(name);
    }
    await later;
    expect(order).toEqual(['first', 'second', 'seen']);
  });

  test('a cell leads to the report, and the report back to the cell', async () => {
    const { client } = await ran();
    const { traces } = client.engine;
    const column = (await client.engine.tables.columns(table.id, LAST)).length - 1;
    const { cells } = await traces.toReport(table.id, LAST, { row: 5, column });
    const place = cells.find((one) => one.row !== NAME && one.role === 'value')!;
    const back = await traces.toTable(table.id, LAST, place);
    expect(back.cells).toContainEqual({ row: 5, column, role: 'value' });
    expect(place.place).toMatch(/^\w+![A-Z]+\d+$/);
  });

  test('what cannot be read is reported by its kind, in words that say what to do', async () => {
    const { client } = engineOverPort();
    const refused = await client.setSource('s', 'cut.xlsx', bytes().slice(0, 3000)).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(EngineError);
    expect(refused).toMatchObject({ trouble: 'unreadable', message: expect.stringContaining('cut.xlsx') });
  });

  test('a step is tried without being kept, and one that would stop says why', async () => {
    const { client } = await ran();
    const [name] = (await client.engine.tables.columns(table.id, LAST)).map((one) => one.name);
    const step = (column: string) => ({ id: 'try', kind: 'split-to-rows', params: { columns: [column] } });
    const well = (await client.preview(tables, table.id, LAST, step(name!))) as StepView;
    expect(well.rows).toBeGreaterThan(0);
    const stop = (await client.preview(tables, table.id, LAST, step('Nowhere'))) as StepStop;
    expect(stop.message).toContain('no column Nowhere');
    expect((await client.engine.tables.columns(table.id, LAST + 1)).length).toBe(0);
  });

  test('another job finds nothing of the one before', async () => {
    const { client } = await ran();
    await client.engine.job.begin();
    expect(await client.engine.tables.columns(table.id, LAST)).toEqual([]);
    expect(await client.engine.report.view(table.id)).toBeUndefined();
    const view = await client.run(tables, table.id, none);
    expect(view.stop).toBeDefined();
  });

  test('the map knows rows, checks and what the first step took in', async () => {
    const { client, view } = await ran();
    const checked = tables.map((one) => ({
      ...one,
      checks: [
        { kind: 'rows' as const, id: 'a', level: 'warn' as const, least: 1, most: null },
        { kind: 'rows' as const, id: 'b', level: 'warn' as const, least: 1e9, most: null },
        { kind: 'totals' as const, id: 'c', level: 'warn' as const },
        { kind: 'last-run' as const, id: 'd', level: 'warn' as const, share: 0.2 },
      ],
    }));
    const state = (await client.engine.combining.states(checked, { [table.id]: 1 })).find(
      (one) => one.id === table.id,
    )!;
    expect(state).toMatchObject({ rows: view.steps.at(-1)!.rows, checks: { all: 4, failed: 2 } });
    expect(state.read).toBe(view.steps[0]!.rows);
  });

  test('many files run one by one, what fails is reported, and the others are exported together', async () => {
    const { client } = await ran();
    const { bundleFiles, ExportSpec } = await import('../../core/index.ts');
    const archive = bundleFiles([
      { name: 'a.xlsx', bytes: bytes() },
      { name: 'b.xlsx', bytes: bytes().slice(0, 2000) },
    ]) as Uint8Array<ArrayBuffer>;
    const seen: string[] = [];
    await client.runMany(
      { job, tableId: table.id, source: source!.id, file: { name: 'both.zip', bytes: archive } },
      (done, all, view) => seen.push(`${done}/${all} ${view.file} ${view.rows === undefined ? 'failed' : 'well'}`),
    );
    await vi.waitFor(() => expect(seen).toEqual(['1/2 a.xlsx well', '2/2 b.xlsx failed']));
    const out = await client.engine.otherFiles.exportMany('All', ExportSpec.parse({ as: 'csv' }), true);
    expect(new TextDecoder().decode(out).split('\r\n')[1]).toMatch(/^a\.xlsx,/);
  });
});

describe('a tally, which nobody waits for', () => {
  const asked = { tables, tableId: table.id, lastRows: undefined, offers: false };
  const share = (isolated: boolean | undefined) => {
    (globalThis as { crossOriginIsolated?: boolean | undefined }).crossOriginIsolated = isolated;
  };
  afterEach(() => share(undefined));

  test('lets everything else go first, and is worked out all the same', async () => {
    share(true);
    const { client } = await ran();
    const order: string[] = [];
    const tally = client.tally(asked, none).then((view) => {
      order.push('tally');
      return view;
    });
    const rows = client.engine.tables.rows(table.id, LAST, 0, 2).then(() => order.push('rows'));
    expect(await tally).toMatchObject({ totals: { disagrees: 0 } });
    await rows;
    expect(order).toEqual(['rows', 'tally']);
  });

  test('is given up where another run is wanted meanwhile', async () => {
    share(true);
    const { client } = await ran();
    const tally = client.tally(asked, none).catch((error: unknown) => error);
    await client.run(tables, table.id, none);
    expect(isOvertaken(await tally)).toBe(true);
  });

  test('goes before what comes behind it where the browser shares no memory', async () => {
    const { client } = await ran();
    const order: string[] = [];
    const tally = client.tally(asked, none).then(() => order.push('tally'));
    await client.engine.tables.rows(table.id, LAST, 0, 2).then(() => order.push('rows'));
    await tally;
    expect(order).toEqual(['tally', 'rows']);
  });
});

describe('the end of a worker', () => {
  test('what is asked when it breaks down is answered as overtaken, and what happened is reported', async () => {
    const { client, ends, breakDown } = engineOverPort();
    const asked = client.engine.tables.columns('t', 0).catch((error: unknown) => error);
    expect(client.work?.what).toBe('working');
    breakDown('out of memory');
    expect(isOvertaken(await asked)).toBe(true);
    expect(ends).toEqual([{ restarted: true, text: expect.stringContaining('out of memory') }]);
    expect(client.ended).toContain('Your job is safe');
    expect(client.work).toBeUndefined();
  });

  test('an error of an unknown name is unexpected', () => {
    expect(EngineError.of(new TypeError('x is not a function'))).toMatchObject({ trouble: 'unexpected' });
    expect(EngineError.of('text')).toMatchObject({ trouble: 'unexpected', message: 'text' });
  });
});
