import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import {
  cellsOfReport,
  cellsOfTable,
  guessReading,
  isBlank,
  Runner,
  readJobFile,
  writeDelimited,
} from '../core/index.ts';
import { DEMOS } from './all.ts';
import { demoFiles, openDemos } from './demo-job.ts';

const quiet = { progress: () => undefined };
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

const MADE = Object.entries(DEMOS).map(([name, make]) => [name, make()] as const);
await openDemos(MADE.map(([, made]) => made));

test('the files kept are those that the script makes', () => {
  // In a process apart: the workbook library remembers what others read and wrote before.
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'demo/make.ts', '--check'], {
    encoding: 'utf8',
  });
  expect([stdout, status]).toEqual(['', 0]);
});

describe.each(MADE)('%s', (name, made) => {
  const job = readJobFile(readFileSync(`demo/files/${name}.job.json`, 'utf8'));
  const source = job.sources[0]!;
  const runner = new Runner();
  for (const { source: id, file, bytes } of demoFiles(made)) runner.setSource(id, { name: file, bytes });
  const run = runner.runTable(job.tables, job.tables.at(-1)!.id, quiet);

  test('the method gives the truth', () => {
    expect(run.stop).toBeUndefined();
    expect(text(writeDelimited(run.steps.at(-1)!.table))).toBe(made.truth);
  });

  test('every tidy cell traces to the report and comes home', () => {
    const last = run.steps.length - 1;
    const { table } = run.steps[last]!;
    for (let row = 0; row < table.rows; row++) {
      for (let column = 0; column < table.fields.length; column++) {
        const cells = cellsOfReport(run, last, { row, column });
        // A blank may stand for something that is not in the report at all.
        if (cells.length === 0 && isBlank(table.fields[column]!.column, row)) continue;
        expect(cells.length).toBeGreaterThan(0);
        expect(cellsOfTable(run, last, cells[0]!)).toContainEqual(expect.objectContaining({ row, column }));
      }
    }
  });

  test('the reading is guessed from the bytes', () => {
    const guess = guessReading(source.id, { name: made.file, bytes: made.bytes });
    expect(guess.kind).toBe(job.tables[0]!.steps[0]!.kind);
    const { cuts } = job.tables[0]!.steps[0]!.params as { cuts?: number[] };
    if (cuts !== undefined) expect((guess.params as { cuts?: number[] }).cuts).toHaveLength(cuts.length);
  });
});
