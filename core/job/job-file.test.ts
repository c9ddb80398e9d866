import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Job, JobFileError, readJobFile, writeJobFile } from '../index.ts';

const demo = readFileSync('demo/files/quay-returns.job.json', 'utf8');
const changed = (change: (job: Job) => void) => {
  const job = JSON.parse(demo) as Job;
  change(job);
  return JSON.stringify(job);
};

describe('job file', () => {
  test('saved and loaded gives the same bytes', () => {
    expect(writeJobFile(readJobFile(demo))).toBe(demo);
  });

  test('law: whatever the order of keys and however names and rules read, a second round changes nothing', () => {
    const text = fc.string({ minLength: 1 });
    const rule = fc.oneof(
      fc.record({ test: fc.constant('empty') }),
      fc.record({ text, column: text, test: fc.constantFrom('equals', 'ends', 'contains') }),
      fc.record({ columns: fc.array(text), test: fc.constant('only') }),
    );
    const step = fc.oneof(
      fc.record({ kind: fc.constant('set-aside'), id: text, params: fc.record({ rules: fc.array(rule), pile: text }) }),
      fc.record({
        kind: fc.constant('rename'),
        id: text,
        params: fc.record({ names: fc.array(fc.record({ to: text, from: text })) }),
      }),
      fc.record({ kind: fc.constant('read-sheets'), id: text, params: fc.record({ source: text }) }),
    );
    fc.assert(
      fc.property(text, fc.array(step), (name, steps) => {
        const job = { tables: [{ steps, name, id: 't' }], sources: [], name, id: 'j', version: 1, rimefield: 'job' };
        const once = writeJobFile(readJobFile(JSON.stringify(job)));
        expect(writeJobFile(readJobFile(once))).toBe(once);
      }),
    );
  });

  test.each<[string, string, string]>([
    ['text that is not JSON', 'Port,Route', 'not a job file, or it is cut off'],
    ['a file cut off in the middle', demo.slice(0, 900), 'cut off'],
    ['other JSON', '{"a":1}', 'not a Rimefield job'],
    [
      'an unknown version',
      changed((job) => Object.assign(job, { version: 99 })),
      'saved as version 99; this Rimefield reads version 1',
    ],
    ['a missing part', changed((job) => Object.assign(job, { tables: undefined })), 'broken at tables'],
    [
      'an unknown kind of step',
      changed((job) => Object.assign(job.tables[0]!.steps[1]!, { kind: 'conjure' })),
      'step 2 of Traffic: There is no kind of step called conjure',
    ],
    [
      'broken params',
      changed((job) => Object.assign(job.tables[0]!.steps[1]!.params, { rows: 'two' })),
      'step 2 of Traffic (header-from-rows), at rows',
    ],
  ])('%s gives a clear error', (_, text, message) => {
    expect(() => readJobFile(text)).toThrow(JobFileError);
    expect(() => readJobFile(text)).toThrow(message);
  });
});
