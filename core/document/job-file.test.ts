import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Job, JobFileError, jobSchema, readJobFile, writeJobFile } from '../index.ts';

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
      'step 2 of Traffic: There is no step kind called conjure',
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

describe('keys that no schema knows are refused, with the nearest name', () => {
  const job = (params: object, kind = 'sort', more: object = {}) =>
    JSON.stringify({
      rimefield: 'job',
      version: 1,
      id: 'j',
      name: 'J',
      sources: [{ id: 's', name: 'S', file: null }],
      tables: [{ id: 't', name: 'T', steps: [{ id: '1', kind, params }], ...more }],
    });

  test.each<[string, string, RegExp]>([
    [
      'deep in a list',
      job({ keys: [{ column: 'A', desc: true }] }),
      /step 1 of T: there is no desc in keys\.0; the nearest name is descending/,
    ],
    ['of a step', job({ keys: [{ column: 'A' }], ordr: 'plain' }), /there is no ordr; the nearest name is order/],
    [
      'of a table',
      job({ keys: [{ column: 'A' }] }, 'sort', { chekcs: [] }),
      /no chekcs in tables\.0; the nearest name is checks/,
    ],
    [
      'of the reading of each file',
      job({ source: 's', each: { kind: 'read-delimited', params: { delimeter: ';' } } }, 'read-files'),
      /there is no delimeter; the nearest name is delimiter/,
    ],
  ])('%s', (_, text, message) => {
    expect(() => readJobFile(text)).toThrow(message);
  });

  test('the published JSON Schema refuses them too', () => {
    const validate = new Ajv2020({ strict: false }).compile(jobSchema());
    expect(validate(JSON.parse(job({ keys: [{ column: 'A', descending: true }] })))).toBe(true);
    expect(validate(JSON.parse(job({ keys: [{ column: 'A', desc: true }] })))).toBe(false);
  });
});
