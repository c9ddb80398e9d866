import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { runCommand } from './test-command.ts';

const run = runCommand;
const folder = () => mkdtempSync(join(tmpdir(), 'rimefield-'));
const WORKBOOK = 'demo/files/quay-returns-q2.xlsx';

describe('rimefield draft', () => {
  test('says each step with its reason, then totals, cells and how sure it is; the job runs like any other', async () => {
    const to = folder();
    const [job, table] = [join(to, 'job.json'), join(to, 'tidy.csv')];
    const drafted = await run(['draft', WORKBOOK, '--out', job, '--table', table]);
    expect(drafted).toMatchObject({ status: 0, error: '' });
    expect(drafted.out).toContain(
      'Set aside as totals: rows where Sailing ends with total\n     16 rows, each the sum',
    );
    expect(drafted.out).toContain('206 of 206 totals agree\n623 of 623 filled cells accounted for\nsure: ');
    const again = join(to, 'again.csv');
    expect(await run(['run', job, '--source', `report=${WORKBOOK}`, '--out', again])).toMatchObject({ status: 0 });
    expect(readFileSync(again, 'utf8')).toBe(readFileSync(table, 'utf8'));
  });

  test('as one JSON document: codes with their data, and what was written', async () => {
    const job = join(folder(), 'job.json');
    const { status, out, error } = await run(['draft', WORKBOOK, '--json', '--out', job]);
    expect({ status, error }).toEqual({ status: 0, error: '' });
    const { drafts } = JSON.parse(out);
    expect(drafts).toHaveLength(1);
    expect(drafts[0]).toMatchObject({
      files: ['quay-returns-q2.xlsx'],
      sureness: 'sure',
      reason: { code: 'totals-prove', agree: 206 },
      rows: 117,
      totals: { agree: 206, of: 206 },
      cells: { filled: 623, accounted: 623 },
      remarks: [],
      written: [job],
    });
    expect(drafts[0].columns).toContainEqual({ name: 'Sailing', type: 'time' });
    expect(drafts[0].steps).toHaveLength(JSON.parse(readFileSync(job, 'utf8')).tables[0].steps.length);
    expect((await run(['draft', WORKBOOK, '--json', '--table', '-'])).error).toContain('name a file with --out');
  });

  test('towards a finished table: what differs is reported by row and column, with exit code 1', async () => {
    const like = join(folder(), 'finished.csv');
    writeFileSync(like, readFileSync('demo/truth/fares.csv', 'utf8').replace(/[\d.]+\r\n$/, '0.5\r\n'));
    const exact = await run(['draft', 'demo/files/fares.html', '--like', 'demo/truth/fares.csv']);
    expect(exact).toMatchObject({
      status: 0,
      out: expect.stringContaining('sure: All rows of the finished table are reproduced'),
    });
    const near = await run(['draft', 'demo/files/fares.html', '--like', like]);
    expect(near.status).toBe(1);
    expect(near.out).toMatch(/row 72 of the finished table, \w+: '0.5' is wanted, '[\d.]+' is there/);
  });

  test('some rows and a second report: groups by what the report has not; the job runs on both files', async () => {
    const to = folder();
    const at = (name: string) => join(to, name);
    const ports = 'Name,Shore\nHask,east\nUllin,west\nBrannoch,west\nTarve,east\n';
    writeFileSync(at('ports.csv'), ports);
    const sums = new Map<string, number>();
    const shores = new Map(ports.split('\n').map((line) => line.split(',') as [string, string]));
    const [head, ...lines] = readFileSync('demo/truth/quay-returns-q2.csv', 'utf8').trimEnd().split('\r\n');
    const [port, foot] = [head!.split(',').indexOf('Port'), head!.split(',').indexOf('Foot passengers')];
    for (const cells of lines.map((line) => line.split(','))) {
      const shore = shores.get(cells[port]!)!;
      sums.set(shore, (sums.get(shore) ?? 0) + Number(cells[foot]!));
    }
    writeFileSync(at('finished.csv'), `Shore,Foot\n${[...sums].map((pair) => pair.join()).join('\n')}\n`);
    const given = ['draft', WORKBOOK, at('ports.csv'), '--like', at('finished.csv')];
    const drafted = await run([...given, '--out', at('job.json'), '--table', at('tidy.csv')]);
    expect(drafted).toMatchObject({ status: 0, error: '' });
    const rows = (name: string) => readFileSync(at(name), 'utf8').trimEnd().split('\r\n').slice(1).toSorted();
    expect(rows('tidy.csv')).toEqual([...sums].map((pair) => pair.join()).toSorted());
    const sources = ['--source', `report=${WORKBOOK}`, '--source', `report-2=${at('ports.csv')}`];
    expect(await run(['run', at('job.json'), ...sources, '--out', at('again.csv')])).toMatchObject({ status: 0 });
    expect(rows('again.csv')).toEqual(rows('tidy.csv'));
  });

  test('what goes with a finished table alone is refused without one', async () => {
    expect(await run(['draft', WORKBOOK, '--whole'])).toMatchObject({
      status: 2,
      error: expect.stringContaining('--whole goes with --like TABLE'),
    });
  });

  test('the best few, numbered, with what tells them apart', async () => {
    const to = folder();
    const { out } = await run([
      'draft',
      'demo/files/targets-2030.xlsx',
      '--drafts',
      '2',
      '--out',
      join(to, 'job.json'),
    ]);
    expect(out).toMatch(/Draft 1 of 2: .*4 columns go down as Quarter/);
    expect(out).toContain('Draft 2 of 2: ');
    expect(JSON.parse(readFileSync(join(to, 'job-2.json'), 'utf8'))).toMatchObject({ rimefield: 'job' });
  });

  test('several reports share a method where one fits; the others are named', async () => {
    const to = folder();
    const report = (rows: string[]) => `Quay;Foot\n${rows.join('\n')}\n`;
    writeFileSync(join(to, 'april.csv'), report(['Hask;12', 'Ullin;7', 'Tarve;3']));
    writeFileSync(join(to, 'may.csv'), report(['Hask;13', 'Ullin;9', 'Tarve;4']));
    writeFileSync(join(to, 'other.json'), '[{"ship":"Orrin","crew":9},{"ship":"Tolm","crew":7}]');
    const table = join(to, 'all.csv');
    const { out, error } = await run(['draft', to, '--table', table]);
    expect(out).toContain('2 reports by one method: april.csv, may.csv');
    expect(error).toContain('1 report wants its own method: other.json');
    expect(readFileSync(table, 'utf8').split('\n')).toHaveLength(8);
  });

  test('nothing to read is exit code 2, and what cannot be done is said', async () => {
    const empty = join(folder(), 'empty.csv');
    writeFileSync(empty, '\n');
    expect(await run(['draft', empty])).toMatchObject({
      status: 2,
      error: expect.stringContaining('no table was found'),
    });
    expect(await run(['draft'])).toMatchObject({
      status: 2,
      error: expect.stringContaining('Name at least one report'),
    });
    expect(await run(['draft', WORKBOOK, '--drafts', 'x'])).toMatchObject({
      status: 2,
      error: expect.stringContaining('from 1 to 9'),
    });
    expect(await run(['draft', 'none.xlsx'])).toMatchObject({
      status: 2,
      error: expect.stringContaining('cannot be read'),
    });
  });
});
