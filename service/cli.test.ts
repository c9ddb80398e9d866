import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';

const JOB = 'demo/files/quay-returns.job.json';
const WORKBOOK = 'demo/files/quay-returns-q2.xlsx';
const truth = readFileSync('demo/truth/quay-returns-q2.csv', 'utf8');

function rimefield(args: string[], input?: Buffer) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'service/cli.ts', ...args], {
    input,
  });
  return { status, out: stdout.toString(), error: stderr.toString() };
}

describe('rimefield run', () => {
  test('writes the truth, to a file and to standard output', () => {
    const out = join(mkdtempSync(join(tmpdir(), 'rimefield-')), 'tidy.csv');
    expect(rimefield(['run', JOB, '--source', `quay returns=${WORKBOOK}`, '--out', out])).toMatchObject({
      status: 0,
      error: '',
    });
    expect(readFileSync(out, 'utf8')).toBe(truth);
    expect(rimefield(['run', JOB, '--source', `quay-returns=${WORKBOOK}`, '--out', '-']).out).toBe(truth);
  });

  test('takes a source from standard input', () => {
    expect(rimefield(['run', JOB, '--source', 'quay returns=-', '--out', '-'], readFileSync(WORKBOOK)).out).toBe(truth);
  });

  test('a step that stops names step, column and what it saw, and nothing is written', () => {
    const folder = mkdtempSync(join(tmpdir(), 'rimefield-'));
    const broken = join(folder, 'broken.job.json');
    writeFileSync(broken, readFileSync(JOB, 'utf8').replace('"from": "Sailing"', '"from": "Sailings"'));
    const { status, error, out } = rimefield(['run', broken, '--source', `quay returns=${WORKBOOK}`, '--out', '-']);
    expect(status).toBe(2);
    expect(out).toBe('');
    expect(error).toContain('Traffic stopped at step 5 (Carry Route down from Sailings');
    expect(error).toContain('There is no column Sailings');
    expect(error).toContain('The most alike is Sailing');
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
    ['no file for a source', ['run', JOB, '--out', '-'], 'not here yet'],
    ['no place to write', ['run', JOB], '--out'],
    ['a file that is no job', ['run', WORKBOOK, '--out', '-'], 'not a job file'],
    ['an unknown command', ['walk'], 'no command walk'],
    ['an unknown option', ['run', JOB, '--speed', '9'], '--speed'],
    ['an unknown table', ['run', JOB, '--table', 'Fares', '--out', '-'], 'Its tables are Traffic'],
  ])('%s is told without a stack', (_, args, message) => {
    const { status, error } = rimefield(args);
    expect(status).toBe(2);
    expect(error).toContain(message);
    expect(error).not.toContain('    at ');
  });
});
