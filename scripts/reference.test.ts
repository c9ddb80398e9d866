import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { describe, expect, test } from 'vitest';
import { allKinds, CATALOGUE, jobSchema, stepSentence } from '../core/index.ts';
import { runExample } from '../demo/run-example.ts';
import { STEP_EXAMPLES } from '../demo/step-examples.ts';
import { referencePages } from './reference.ts';

describe('docs that are made from the code', () => {
  test.each(Object.entries(referencePages()))('docs/%s is up to date (npm run docs)', (name, text) => {
    expect(readFileSync(`docs/${name}`, 'utf8')).toBe(text);
  });
});

describe('examples of steps', () => {
  test('there is one of each kind, and it shows what the step does', () => {
    expect(STEP_EXAMPLES.map(({ kind }) => kind)).toEqual([...CATALOGUE.keys()]);
    for (const example of STEP_EXAMPLES) {
      const { before, after, aside } = runExample(example);
      expect([example.kind, after, aside]).not.toEqual([example.kind, before, undefined]);
    }
  });
});

describe('the published JSON Schema (checked by ajv)', () => {
  const validate = new Ajv2020({ strict: false, allErrors: true }).compile(jobSchema());
  const demo = JSON.parse(readFileSync('demo/files/quay-returns.job.json', 'utf8'));

  test('takes the demo job', () => {
    expect(validate(demo), JSON.stringify(validate.errors)).toBe(true);
  });

  test.each<[string, (job: typeof demo) => void]>([
    ['another version', (job) => Object.assign(job, { version: 2 })],
    ['an unknown kind', (job) => Object.assign(job.tables[0].steps[1], { kind: 'conjure' })],
    ['params that do not fit', (job) => Object.assign(job.tables[0].steps[1].params, { rows: 'two' })],
    ['a table without steps', (job) => Object.assign(job.tables[0], { steps: undefined })],
  ])('refuses %s', (_, change) => {
    const job = structuredClone(demo);
    change(job);
    expect(validate(JSON.parse(JSON.stringify(job)))).toBe(false);
  });

  test('knows every kind of step, each with a sentence', () => {
    const kinds = allKinds().map((one) => one.kind);
    expect(new Set(kinds).size).toBe(kinds.length);
    for (const kind of kinds) expect(stepSentence({ id: 'x', kind, params: {} }).length).toBeGreaterThan(0);
  });
});
