import { spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { unzipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { rimefield } from './commands.ts';
import { runCommand } from './test-command.ts';

const JOB = 'demo/files/quay-returns.job.json';
const WORKBOOK = 'demo/files/quay-returns-q2.xlsx';
const truth = readFileSync('demo/truth/quay-returns-q2.csv', 'utf8');

const run = runCommand;

test('the command itself: arguments, standard input and output, exit code', () => {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', 'service/cli.ts', 'run', JOB, '--source', 'quay returns=-', '--out', '-'],
    { input: readFileSync(WORKBOOK) },
  );
  expect({ status, out: stdout.toString(), error: stderr.toString() }).toEqual({ status: 0, out: truth, error: '' });
});

test('whoever reads its output may stop reading', () => {
  const { status, stdout, stderr } = spawnSync('sh', [
    '-c',
    `"${process.execPath}" --import tsx service/cli.ts run ${JOB} --source "quay returns=${WORKBOOK}" --out - | head -c 4`,
  ]);
  expect({ status, out: stdout.toString(), error: stderr.toString() }).toEqual({
    status: 0,
    out: truth.slice(0, 4),
    error: '',
  });
});

describe('rimefield run', () => {
  test.each(['constructor', '__proto__', 'toString', 'xls'])('--as %s is no format', async (as) => {
    const args = ['run', JOB, '--source', `quay returns=${WORKBOOK}`, '--out', '-', '--as', as];
    expect(await run(args)).toMatchObject({ status: 2, out: '', error: expect.stringContaining(`no format ${as}`) });
  });

  test('writes the truth, to a file and to standard output', async () => {
    const out = join(mkdtempSync(join(tmpdir(), 'rimefield-')), 'tidy.csv');
    expect(await run(['run', JOB, '--source', `quay returns=${WORKBOOK}`, '--out', out])).toMatchObject({
      status: 0,
      error: '',
    });
    expect(readFileSync(out, 'utf8')).toBe(truth);
    expect((await run(['run', JOB, '--source', `quay-returns=${WORKBOOK}`, '--out', '-'])).out).toBe(truth);
  });

  test('takes a source from standard input', async () => {
    expect((await run(['run', JOB, '--source', 'quay returns=-', '--out', '-'], readFileSync(WORKBOOK))).out).toBe(
      truth,
    );
  });

  test('a step that stops names step, column and what it saw, and nothing is written', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'rimefield-'));
    const broken = join(folder, 'broken.job.json');
    writeFileSync(broken, readFileSync(JOB, 'utf8').replace('"from": "Sailing"', '"from": "Sailings"'));
    const { status, error, out } = await run(['run', broken, '--source', `quay returns=${WORKBOOK}`, '--out', '-']);
    expect(status).toBe(2);
    expect(out).toBe('');
    expect(error).toContain('Traffic stopped at step 5 (Carry Route down from Sailings');
    expect(error).toContain('There is no column Sailings');
    expect(error).toContain('Did you mean Sailing');
  });

  test.each<[string, string[], string]>([
    [
      'a missing file',
      ['run', JOB, '--source', 'quay returns=nowhere.xlsx', '--out', '-'],
      'nowhere.xlsx cannot be read',
    ],
    [
      'an unknown source',
      ['run', JOB, '--source', `fares=${WORKBOOK}`, '--out', '-'],
      'no source fares. Its sources are quay returns',
    ],
    ['no file for a source', ['run', JOB, '--out', '-'], 'has no file yet'],
    ['no place to write', ['run', JOB], '--out'],
    ['a file that is no job', ['run', WORKBOOK, '--out', '-'], 'not a job file'],
    ['an unknown command', ['walk'], 'no command walk'],
    ['an unknown option', ['run', JOB, '--speed', '9'], '--speed'],
    ['an unknown table', ['run', JOB, '--table', 'Fares', '--out', '-'], 'Its tables are Traffic'],
  ])('%s is reported without a stack', async (_, args, message) => {
    const { status, error } = await run(args);
    expect(status).toBe(2);
    expect(error).toContain(message);
    expect(error).not.toContain('    at ');
  });
});

describe('rimefield run --each', () => {
  /** Two good reports, one that is none, and one at which the method stops. */
  const folder = () => {
    const inputs = mkdtempSync(join(tmpdir(), 'rimefield-in-'));
    for (const name of ['q1.xlsx', 'q2.xlsx']) copyFileSync(WORKBOOK, join(inputs, name));
    writeFileSync(join(inputs, 'photo.xlsx'), Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10));
    writeFileSync(join(inputs, 'other.csv'), 'Port,Foot\r\nHask,5\r\n');
    return inputs;
  };

  test('a folder: each file on its own, failures told with their reasons, the others finished', async () => {
    const [inputs, out] = [folder(), join(mkdtempSync(join(tmpdir(), 'rimefield-')), 'tables')];
    const record = join(inputs, '.record.json');
    const { status, error } = await run([
      'run',
      JOB,
      '--each',
      `quay returns=${inputs}`,
      '--out',
      out,
      '--record',
      record,
    ]);
    expect(status).toBe(1);
    expect(readdirSync(out).sort()).toEqual(['q1.csv', 'q2.csv']);
    expect(readFileSync(join(out, 'q1.csv'), 'utf8')).toBe(truth);
    expect(error).toContain('photo.xlsx: photo.xlsx is a picture');
    expect(error).toMatch(/other\.csv: Traffic stopped at step 1 \(Read all sheets/);
    const records = JSON.parse(readFileSync(record, 'utf8'));
    expect(records.map((one: { ok: boolean; files: { file: string }[] }) => [one.files[0]!.file, one.ok])).toEqual([
      ['other.csv', false],
      ['photo.xlsx', false],
      ['q1.xlsx', true],
      ['q2.xlsx', true],
    ]);
  });

  test('a pattern, stacked into one table with the names of the files', async () => {
    const out = join(mkdtempSync(join(tmpdir(), 'rimefield-')), 'all.csv');
    const { status, error } = await run([
      'run',
      JOB,
      '--each',
      `quay returns=${join(folder(), 'q?.xlsx')}`,
      '--stack',
      '--out',
      out,
    ]);
    expect({ status, error }).toEqual({ status: 0, error: '' });
    const lines = readFileSync(out, 'utf8').trimEnd().split('\r\n');
    expect(lines[0]).toBe(`File,${truth.split('\r\n')[0]}`);
    const own = truth.trimEnd().split('\r\n').slice(1);
    expect(lines.slice(1)).toEqual(['q1.xlsx', 'q2.xlsx'].flatMap((file) => own.map((line) => `${file},${line}`)));
  });

  test('files in place of a job: each is run by the job that knows it, and said; others are left', async () => {
    const inputs = mkdtempSync(join(tmpdir(), 'rimefield-match-'));
    const [out, strange] = [join(inputs, 'matched'), join(inputs, 'members.csv')];
    writeFileSync(strange, 'Member,Joined,Fee\nAda Berg,2031-05-01,12\n');
    const files = ['demo/files/fares.html', strange];
    const { status, error } = await run(['run', '--match', 'demo/files', ...files, '--out', out]);
    expect(status).toBe(1);
    expect(error).toMatch(/fares\.html: .*names in its header are the same\./);
    expect(error).toContain('members.csv: no job has a report like it.');
    expect(readFileSync(join(out, 'fares.csv'), 'utf8')).toBe(readFileSync('demo/truth/fares.csv', 'utf8'));
    expect(readdirSync(out)).toEqual(['fares.csv']);
  });

  test('two jobs that know a file alike are named, and neither runs it', async () => {
    const inputs = mkdtempSync(join(tmpdir(), 'rimefield-match-'));
    const [jobs, out] = [join(inputs, 'jobs'), join(inputs, 'tables')];
    mkdirSync(jobs);
    for (const name of ['one', 'two']) copyFileSync('demo/files/fares-page.job.json', join(jobs, `${name}.job.json`));
    const { status, error } = await run(['run', '--match', jobs, 'demo/files/fares.html', '--out', out]);
    expect(status).toBe(1);
    expect(error).toContain('have reports like it');
    expect(existsSync(out)).toBe(false);
  });

  test('a pattern that no file fits is reported', async () => {
    const { status, error } = await run([
      'run',
      JOB,
      '--each',
      `quay returns=${join(folder(), 'z*.xlsx')}`,
      '--out',
      'nowhere',
    ]);
    expect(status).toBe(2);
    expect(error).toContain('holds no files');
  });
});

describe('rimefield check', () => {
  test('says how tally and checks stand, and ends with 0 where all is well', async () => {
    const { status, out, error } = await run(['check', JOB, '--source', `quay returns=${WORKBOOK}`]);
    expect(error).toBe('');
    expect(status).toBe(0);
    expect(out).toBe('Traffic: 117 rows\n623 of 623 filled cells accounted for\n206 of 206 totals agree\n');
  });

  test('a total that disagrees is named with what explains it, and ends with 1', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'rimefield-'));
    const job = JSON.parse(readFileSync(JOB, 'utf8'));
    job.tables[0].steps.push({
      id: 'x',
      kind: 'drop-rows',
      params: { rules: [{ test: 'equals', column: 'Route', text: 'Hask to Ullin' }] },
    });
    job.tables[0].checks = [{ kind: 'rows', id: 'c', level: 'stop', least: 117, most: null }];
    const changed = join(folder, 'changed.job.json');
    writeFileSync(changed, JSON.stringify(job));
    const source = ['--source', `quay returns=${WORKBOOK}`];
    const checked = await run(['check', changed, ...source]);
    expect(checked.status).toBe(1);
    expect(checked.out).toContain('Hask!B11 says 4378, the table adds to 0.');
    expect(checked.out).toContain('taken out by step 11 onto dropped');
    expect(checked.out).toContain('FAILS: there are between 117 and anything rows (105 rows)');
    const out = join(folder, 'out.csv');
    const ran = await run(['run', changed, ...source, '--out', out]);
    expect(ran).toMatchObject({
      status: 1,
      error: expect.stringContaining(
        'nothing was written: Traffic fails a check that stops exports: there are between 117',
      ),
    });
    expect(existsSync(out)).toBe(false);
  });

  test('the record is JSON with files, steps, totals and checks', async () => {
    const { out, status } = await run(['check', JOB, '--source', `quay returns=${WORKBOOK}`, '--record', '-']);
    expect(status).toBe(0);
    expect(JSON.parse(out)).toMatchObject({
      rimefield: 'record',
      ok: true,
      files: [
        { source: 'quay returns', file: 'quay-returns-q2.xlsx', sha256: expect.stringMatching(/^[0-9a-f]{64}$/) },
      ],
      cells: { filled: 623, accounted: 623 },
      totals: { agrees: 206, disagrees: 0, cannotTell: 0 },
    });
  });
});

describe('what is to check', () => {
  const folder = () => mkdtempSync(join(tmpdir(), 'rimefield-'));
  const source = ['--source', `quay returns=${WORKBOOK}`];
  const changed = (change: (table: { id: string; steps: unknown[]; accepts?: string[] }) => void) => {
    const path = join(folder(), 'changed.job.json');
    const job = JSON.parse(readFileSync(JOB, 'utf8'));
    change(job.tables[0]);
    writeFileSync(path, JSON.stringify(job));
    return path;
  };
  const filter = {
    id: 'x',
    kind: 'drop-rows',
    params: { rules: [{ test: 'equals', column: 'Route', text: 'Hask to Ullin' }] },
  };

  test('unreadable cells and what steps tell are lines on standard error; --strict makes them 1', async () => {
    const job = changed((table) => {
      table.steps.push({
        id: 'x',
        kind: 'set-types',
        params: { types: [{ columns: { by: 'names', names: ['Route'] }, type: 'number' }] },
      });
    });
    const args = ['run', job, ...source, '--out', join(folder(), 'a.csv')];
    const ran = await run(args);
    expect(ran.status).toBe(0);
    expect(ran.error).toMatch(/^rimefield: step \d+: .*Route/m);
    expect(ran.error).toMatch(/^rimefield: unreadable cells in Traffic: Route \(\d+\)$/m);
    expect(await run([...args, '--quiet'])).toEqual(ran);
    expect((await run([...args, '--strict'])).status).toBe(1);
  });

  test('totals that rows left out on purpose explain are one line, until they are accepted in the job', async () => {
    const args = (job: string) => ['run', job, ...source, '--out', join(folder(), 'a.csv')];
    const ran = await run(args(changed((table) => table.steps.push(filter))));
    expect(ran.status).toBe(1);
    expect(ran.error.split('\n').filter((line) => line.includes('total'))).toEqual([
      expect.stringMatching(
        /^rimefield: 24 totals of the report count rows left out by step 11 \(Drop rows where Route is .*\): Hask!B11, .* and 21 more/,
      ),
    ]);
    const accepted = await run(
      args(
        changed((table) => {
          table.steps.push(filter);
          table.accepts = ['x'];
        }),
      ),
    );
    expect(accepted).toEqual({ status: 0, out: '', error: '' });
  });

  test('an internal error is not a failed check: exit code 2 and a sentence', async () => {
    let said = '';
    const ran = await rimefield(['run', JOB, ...source, '--out', '-'], {
      input: () => new Uint8Array(),
      output: () => {
        throw new RangeError('made up for the test');
      },
      error: (text) => {
        said += text;
      },
      terminal: false,
    });
    expect(said).toMatch(/^rimefield: something went wrong in Rimefield itself \(made up for the test\)/);
    expect(ran).toBe(2);
  });
});

describe('what is given and where it goes', () => {
  const folder = () => mkdtempSync(join(tmpdir(), 'rimefield-'));
  const FILES = 'demo/files/monthly-files.job.json';

  test.each<[string, string[], string]>([
    [
      'an ending of no format',
      ['run', JOB, '--source', `quay returns=${WORKBOOK}`, '--out', 'a.docx'],
      'ends in .docx',
    ],
    [
      'all tables into one that holds one',
      ['run', JOB, '--all', '--source', `quay returns=${WORKBOOK}`, '--out', 'a.csv'],
      'A file .csv holds one table. With --all name an archive (.zip)',
    ],
    [
      'two files for a source that is one',
      ['run', JOB, '--source', `quay returns=${WORKBOOK}`, '--source', `quay returns=${WORKBOOK}`, '--out', '-'],
      'quay returns is read as one file, and 2 files were given',
    ],
  ])('%s is refused', async (_, args, message) => {
    const { status, error } = await run(args);
    expect(status).toBe(2);
    expect(error).toContain(message);
  });

  test('a folder, an archive and one file after the other are the same for a source of several files', async () => {
    const archive = 'demo/files/arrivals-2030.zip';
    const job = JSON.parse(readFileSync(FILES, 'utf8'));
    const name = job.sources[0].name;
    const unpacked = folder();
    for (const [file, bytes] of Object.entries(unzipSync(readFileSync(archive))))
      writeFileSync(join(unpacked, basename(file)), bytes);
    const files = readdirSync(unpacked).sort();
    const once = await run(['run', FILES, '--source', `${name}=${archive}`, '--out', '-']);
    expect(once.status).toBe(0);
    const whole = await run(['run', FILES, '--source', `${name}=${unpacked}`, '--out', '-']);
    expect(whole.out).toBe(once.out);
    const each = await run([
      'run',
      FILES,
      ...files.flatMap((file) => ['--source', `${name}=${join(unpacked, file)}`]),
      '--out',
      '-',
    ]);
    expect(each.out).toBe(once.out);
    const single = await run(['run', FILES, '--source', `${name}=${join(unpacked, files[0]!)}`, '--out', '-']);
    expect(single.status).toBe(0);
    expect(once.out.startsWith(single.out.trimEnd().slice(0, 200))).toBe(true);
  });
});

test('rimefield show prints the method: a headline and a rule for each step', async () => {
  const { out, status } = await run(['show', JOB]);
  expect(status).toBe(0);
  expect(out.split('\n').slice(0, 3)).toEqual([
    'Traffic',
    '  1. Read all sheets, stacked',
    '     Read all sheets of quay returns, stacked, sheet name in Port',
  ]);
});

test('every example of the pages on the command line runs as it says', { timeout: 120_000 }, async () => {
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-'));
  const examples = ['command-line.md', 'sql.md', 'many-reports.md']
    .flatMap((page) => [...readFileSync(join('docs', page), 'utf8').matchAll(/^ {4}rimefield (.+)$/gm)])
    .map((one) => one[1]!);
  expect(examples.length).toBeGreaterThan(4);
  for (const example of examples) {
    const args = [...example.replaceAll('OUT/', `${folder}/`).matchAll(/"([^"]*)"|(\S+)/g)].map(
      (one) => one[1] ?? one[2]!,
    );
    const { status, error } = await run(args);
    // What steps say is to check is no trouble.
    expect(
      error.replace(
        /^rimefield: (?:[^:\n]+: .*, as (?:all \d+|\d+ of \d+) names .*|(?:[^:\n]+, )?step \d+: .*|\d+ files?: .* a second)\n/gm,
        '',
      ),
      example,
    ).toBe('');
    expect(status, example).toBe(0);
  }
  expect(readdirSync(folder).sort()).toEqual([
    'arrivals.csv',
    'drafted.csv',
    'drafted.job.json',
    'fares',
    'fares-data',
    'fares.job.json',
    'fares.sqlite',
    'matched',
    'plan-outturn.sqlite',
    'targets_raw.parquet',
    'traffic.csv',
    'traffic.parquet',
    'traffic.sql',
    'traffic.xlsx',
    'traffic_raw.parquet',
    'variance.json',
    'variance.record.json',
    'variance.sql',
  ]);
});

describe('one JSON document', () => {
  const source = ['--source', `quay returns=${WORKBOOK}`];

  test('of a run: its columns, counts, totals and checks, while the table goes to its file', async () => {
    const table = join(mkdtempSync(join(tmpdir(), 'rimefield-')), 'tidy.csv');
    const ran = await runCommand(['run', JOB, ...source, '--json', '--out', table]);
    expect(ran.status).toBe(0);
    expect(JSON.parse(ran.out)).toMatchObject({ ok: true, rows: 117, totals: { agrees: 206, disagrees: 0 } });
    expect(JSON.parse(ran.out).columns).toContainEqual({ name: 'Month', type: 'text' });
    expect(readFileSync(table, 'utf8').trimEnd().split('\r\n')).toHaveLength(118);
    expect((await runCommand(['run', JOB, ...source, '--json', '--out', '-'])).status).toBe(2);
    expect((await runCommand(['check', JOB, ...source, '--json', '--record', 'a.json'])).error).toContain('not both');
  });

  test('of a check, without the sentences', async () => {
    const { out } = await runCommand(['check', JOB, ...source, '--json']);
    expect(JSON.parse(out)).toMatchObject({ rimefield: 'record', cells: { filled: 623, accounted: 623 } });
  });
});

describe('a job file alone', () => {
  test('is checked without a report', async () => {
    expect(await runCommand(['check', JOB, '--schema-only'])).toMatchObject({
      status: 0,
      out: expect.stringMatching(/: a valid job of 1 table and 10 steps\n$/),
    });
    const { out } = await runCommand(['check', JOB, '--schema-only', '--json']);
    expect(JSON.parse(out)).toMatchObject({ valid: true, tables: 1, steps: 10 });
    const broken = join(mkdtempSync(join(tmpdir(), 'rimefield-')), 'job.json');
    writeFileSync(broken, readFileSync(JOB, 'utf8').replace('"header-from-rows"', '"header-of-rows"'));
    const refused = await runCommand(['check', broken, '--schema-only']);
    expect(refused.status).toBe(2);
    expect(refused.error).toContain('header-of-rows');
  });
});
