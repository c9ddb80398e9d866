/** A method piece by piece gives what it gives on the whole, and says where it cannot. */
import { existsSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import fc from 'fast-check';
import { afterAll, describe, expect, test } from 'vitest';
import { ExportSpec, type Job, Runner, writeDelimited } from '../core/index.ts';
import { rimefield } from './commands.ts';
import { runInPieces } from './in-pieces.ts';

const folder = mkdtempSync(join(tmpdir(), 'rimefield-pieces-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const quiet = { progress: () => undefined };
const said: string[] = [];
const io = {
  input: () => new Uint8Array(),
  output: () => undefined,
  error: (text: string) => void said.push(text),
  terminal: false,
};

const STEPS = [
  { kind: 'read-delimited', params: { source: 's', comment: '#' } },
  { kind: 'header-from-rows', params: { at: { test: 'equals', column: 'A', text: 'Ref' } } },
  { kind: 'set-aside', params: { pile: 'totals', rules: [{ test: 'starts', column: 'Ref', text: 'Total' }] } },
  { kind: 'keep-rows', params: { rules: [{ test: 'filled', columns: { by: 'names', names: ['Port'] } }] } },
  {
    kind: 'set-types',
    params: { types: [{ columns: { by: 'names', names: ['Foot', 'Fare'] }, type: 'number' }] },
  },
  { kind: 'expression', params: { into: 'Each', text: 'round("Fare" / nullif("Foot", 0), 2)' } },
];

function jobOf(steps: readonly { kind: string; params: Record<string, unknown> }[]): Job {
  return {
    rimefield: 'job',
    version: 1,
    id: 'bookings',
    name: 'Bookings',
    sources: [{ id: 's', name: 'bookings', file: null }],
    tables: [{ id: 't', name: 'Bookings', steps: steps.map((step, k) => ({ id: `s${k}`, ...step })) }],
  };
}

/** Titles, a header, comments, quoted cells over several lines, totals, the header again, cells that are no numbers. */
const TEXT = [
  '"Skerrow Ferries, bookings",,,',
  'Issued 2031-06-02,,,',
  'Ref,Port,Foot,Fare',
  ...Array.from({ length: 6000 }, (_, r) =>
    r % 97 === 5
      ? 'Total,,12,3.50'
      : r % 211 === 3
        ? '# checked'
        : r % 500 === 7
          ? 'Ref,Port,Foot,Fare'
          : r % 13 === 2
            ? `B${r},"Hask,\n""north""",${r % 9},${(r * 7) / 100}`
            : `B${r},${r % 17 === 0 ? '' : 'Ullin'},${r % 101 === 1 ? 'fog' : r % 9},${(r * 7) / 100}`,
  ),
].join('\r\n');

function whole(job: Job, text: string) {
  const runner = new Runner();
  runner.setSource('s', { name: 'bookings.csv', bytes: new TextEncoder().encode(text) });
  return runner.runTable(job.tables, 't', quiet);
}

async function inPieces(job: Job, text: string, as: 'csv' | 'parquet', piece: number, threads = 0) {
  const [path, out] = [join(folder, 'bookings.csv'), join(folder, `out.${as}`)];
  writeFileSync(path, text);
  const told: string[] = [];
  const run = { job, table: job.tables[0]!, source: 's' };
  return {
    out,
    counts: await runInPieces(run, path, out, ExportSpec.parse({ as }), io, (text) => told.push(text), {
      piece,
      threads,
    }),
    told,
  };
}

describe('piece by piece', () => {
  const job = jobOf(STEPS);
  const run = whole(job, TEXT);
  const expected = new TextDecoder().decode(writeDelimited(run.steps.at(-1)!.table));

  test.each([900, 4096, 50_001, 10_000_000])(
    'pieces of %i bytes give the table of the whole, and its counts',
    async (size) => {
      const { out, counts, told } = await inPieces(job, TEXT, 'csv', size);
      expect(readFileSync(out, 'utf8')).toBe(expected);
      expect(counts.rows).toBe(run.steps.at(-1)!.table.rows);
      expect(counts.received).toBe(run.steps[0]!.table.rows);
      const piles: Record<string, number> = {};
      for (const { name, rows } of run.steps.flatMap((step) => step.aside))
        piles[name] = (piles[name] ?? 0) + rows.length;
      expect(counts.aside).toEqual(piles);
      expect(counts.unreadable).toBeGreaterThan(0);
      expect(told.filter((text) => text !== '')).toHaveLength(counts.pieces);
    },
  );

  test('on threads: the same bytes and counts, and the same failure of a piece in the middle', async () => {
    const one = await inPieces(job, TEXT, 'csv', 20_000);
    const bytes = readFileSync(one.out);
    const two = await inPieces(job, TEXT, 'csv', 20_000, 2);
    expect(readFileSync(two.out).equals(bytes)).toBe(true);
    expect(two.counts).toEqual(one.counts);
    // An invalid byte (RFC 3629) far behind the first piece.
    const path = join(folder, 'broken.csv');
    const broken = Buffer.from(TEXT);
    broken[110_000] = 0x80;
    writeFileSync(path, broken);
    const given = { job, table: job.tables[0]!, source: 's' };
    const out = join(folder, 'broken-out.csv');
    const plan = { piece: 20_000, threads: 2 };
    await expect(
      runInPieces(given, path, out, ExportSpec.parse({ as: 'csv' }), io, () => undefined, plan),
    ).rejects.toThrow(/is not all utf-8 \(in the piece from line [\d,]+ on\)/);
    expect(existsSync(out)).toBe(false);
  });

  test('as Parquet, read by DuckDB', async () => {
    const { out } = await inPieces(job, TEXT, 'parquet', 20_000);
    const connection = await (await DuckDBInstance.create(':memory:')).connect();
    const rows = await connection.runAndReadAll(`select count(*), sum("Fare"), min("Port") from '${out}'`);
    const { table } = run.steps.at(-1)!;
    const fares = table.fields.find((field) => field.name === 'Fare')!.column as { values: Float64Array };
    const sum = fares.values.reduce((all, value) => all + (Number.isNaN(value) ? 0 : value), 0);
    expect(Number(rows.getRows()[0]![0])).toBe(table.rows);
    expect(Number(rows.getRows()[0]![1])).toBeCloseTo(sum, 6);
    expect(rows.getRows()[0]![2]).toBe('Hask,\n"north"');
  });

  test('fixed columns, without a header', async () => {
    const lines = Array.from(
      { length: 3000 },
      (_, r) => `B${r}`.padEnd(8) + 'Hask'.padEnd(8) + String(r / 4).padStart(9),
    );
    const fixed = jobOf([
      { kind: 'read-fixed-width', params: { source: 's', cuts: [8, 16] } },
      { kind: 'set-types', params: { types: [{ columns: { by: 'names', names: ['C'] }, type: 'number' }] } },
    ]);
    const { out } = await inPieces(fixed, lines.join('\n'), 'csv', 7000);
    const table = whole(fixed, lines.join('\n')).steps.at(-1)!.table;
    expect(readFileSync(out, 'utf8')).toBe(new TextDecoder().decode(writeDelimited(table)));
  });

  test('letters of several bytes at the edges of pieces, and invalid bytes anywhere: the same as the whole, or a stop', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 40, max: 400 }),
        fc.array(fc.constantFrom('Hask', 'Øre', '港', '🚢 Ullin', 'a'), { minLength: 5, maxLength: 60 }),
        fc.option(fc.nat()),
        async (piece, ports, broken) => {
          const text = Buffer.from(`Ref,Port,Foot,Fare\n${ports.map((port, k) => `B${k},${port},1,2\n`).join('')}`);
          // A lone continuation byte is invalid anywhere in UTF-8 (RFC 3629).
          if (broken !== null) text[text.length - 2 - (broken % (text.length - 30))] = 0x80;
          const path = join(folder, 'edges.csv');
          writeFileSync(path, text);
          const out = join(folder, 'edges-out.csv');
          const given = { job, table: job.tables[0]!, source: 's' };
          try {
            await runInPieces(given, path, out, ExportSpec.parse({ as: 'csv' }), io, () => undefined, {
              piece,
              threads: 0,
            });
          } catch (error) {
            expect((error as Error).message).toMatch(/is not all utf-8|no row|gives other columns/i);
            return;
          }
          const runner = new Runner();
          runner.setSource('s', { name: 'edges.csv', bytes: new Uint8Array(text) });
          const { table } = runner.run(job.tables[0]!.steps, quiet).steps.at(-1)!;
          expect(readFileSync(out, 'utf8')).toBe(new TextDecoder().decode(writeDelimited(table)));
        },
      ),
      { numRuns: 150 },
    );
  });

  test('a full disk is named like that of a whole run', async () => {
    // The device of Linux that is always full.
    if (!existsSync('/dev/full')) return;
    const path = join(folder, 'full.csv');
    writeFileSync(path, TEXT);
    const given = { job, table: job.tables[0]!, source: 's' };
    const spec = ExportSpec.parse({ as: 'csv' });
    const out = join(folder, 'full-out.csv');
    symlinkSync('/dev/full', `${out}.${process.pid}.part`);
    await expect(runInPieces(given, path, out, spec, io, () => undefined, { piece: 4096 })).rejects.toThrow(
      /full-out\.csv cannot be written: ENOSPC/,
    );
  });

  test('the encoding of the first piece holds for all', async () => {
    const text = `Ref,Port,Foot,Fare\n${'B1,Hask,1,2\n'.repeat(200)}B2,Øre,1,2\n`;
    await inPieces(job, text, 'csv', 1000);
    const path = join(folder, 'latin.csv');
    writeFileSync(path, Buffer.from(text, 'latin1'));
    const given = { job, table: job.tables[0]!, source: 's' };
    const spec = ExportSpec.parse({ as: 'csv' });
    await expect(
      runInPieces(given, path, join(folder, 'o.csv'), spec, io, () => undefined, { piece: 1000, threads: 0 }),
    ).rejects.toThrow(/is not all utf-8 \(in the piece from line 167 on\).*State its encoding/);
  });
});

describe('what needs the whole table is named', () => {
  test.each<[string, { kind: string; params: Record<string, unknown> }, RegExp]>([
    [
      'a sort',
      { kind: 'sort', params: { by: [{ column: 'Ref' }] } },
      /Step 3 of Bookings \(sort\).*depends on other rows/,
    ],
    ['a fill', { kind: 'fill', params: {} }, /\(fill\)/],
    [
      'the last rows',
      { kind: 'drop-rows', params: { rules: [{ test: 'place', which: 'last', count: 2 }] } },
      /its rule \(place\) asks where a row stands/,
    ],
  ])('%s', async (_, step, message) => {
    await expect(inPieces(jobOf([...STEPS.slice(0, 2), step]), TEXT, 'csv', 4096)).rejects.toThrow(message);
  });

  test('another form of output, and a quote that is never closed', async () => {
    const path = join(folder, 'bookings.csv');
    const given = { job: jobOf(STEPS), table: jobOf(STEPS).tables[0]!, source: 's' };
    await expect(
      runInPieces(given, path, join(folder, 'o.xlsx'), ExportSpec.parse({ as: 'xlsx' }), io, () => undefined),
    ).rejects.toThrow(/written as csv or parquet, and not as xlsx/);
  });
});

test('from the command line', async () => {
  const [jobFile, path, out] = ['job.json', 'bookings.csv', 'tidy.csv'].map((name) => join(folder, name)) as [
    string,
    string,
    string,
  ];
  writeFileSync(jobFile, JSON.stringify(jobOf(STEPS)));
  writeFileSync(path, TEXT);
  said.length = 0;
  const code = await rimefield(
    ['run', jobFile, '--pieces', '--quiet', '--source', `bookings=${path}`, '--out', out],
    io,
  );
  expect(said.join('')).toMatch(
    /rows received in 1 piece: [\d,]+ in the table, .* totals, .*; totals and checks are not looked at/,
  );
  expect(code).toBe(0);
  expect(readFileSync(out, 'utf8').split('\r\n')[0]).toBe('Ref,Port,Foot,Fare,Each');
});
