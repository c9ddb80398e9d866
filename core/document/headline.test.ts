/** Headlines of steps: short, and with what a step did. */
import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { CATALOGUE, jobNames, makeTable, READINGS, readJobFile, stepHeadline, textColumn } from '../index.ts';

const MAX_WORDS = 7;
const wordsOf = (text: string) => text.split(/\s+/).filter((word) => /[\p{L}\d]/u.test(word)).length;

const step = (kind: string, params: Record<string, unknown>) => ({ id: 's', kind, params });

describe('a headline', () => {
  test('of every step of the demo has at most seven words', () => {
    for (const file of readdirSync('demo/files').filter((name) => name.endsWith('.job.json'))) {
      const job = readJobFile(readFileSync(`demo/files/${file}`, 'utf8'));
      for (const one of job.tables.flatMap(({ steps }) => steps)) {
        const text = stepHeadline(one, { aside: 12 }, jobNames(job));
        expect([text, wordsOf(text) <= MAX_WORDS]).toEqual([text, true]);
      }
    }
  });

  test('is there for every kind, as it starts on a table', () => {
    const table = makeTable({ Quay: textColumn(['Hask', 'Ullin']), Foot: textColumn(['5', '6']) });
    for (const kind of CATALOGUE.values()) {
      let params: Record<string, unknown>;
      try {
        params = kind.params.parse(kind.start(table, ['Foot'])) as Record<string, unknown>;
      } catch {
        continue;
      }
      const text = stepHeadline(step(kind.kind, params));
      expect([kind.kind, text.length > 3 && !text.includes('undefined')]).toEqual([kind.kind, true]);
    }
    expect([...READINGS.values()].every((kind) => typeof kind.headline === 'function')).toBe(true);
  });

  test.each<[string, string, Record<string, unknown>, number | undefined]>([
    ['Set aside 16 totals', 'set-aside', { pile: 'totals', rules: [{ test: 'empty' }] }, 16],
    ['Set aside 1 blank row', 'set-aside', { pile: 'blanks', rules: [{ test: 'empty' }] }, 1],
    ['Set aside totals', 'set-aside', { pile: 'totals', rules: [{ test: 'empty' }] }, undefined],
    ['Carry Route onto its rows', 'carry', { from: 'A', rule: { test: 'empty' }, into: 'Route' }, undefined],
    ['Header from 2 rows', 'header-from-rows', { rows: 2 }, undefined],
    [
      'Unpivot month columns to Month',
      'unpivot',
      { columns: { by: 'month' }, parts: [{ as: 'column', name: 'Month' }] },
      undefined,
    ],
    ['Rename Foot to Foot passengers', 'rename', { names: [{ from: 'Foot', to: 'Foot passengers' }] }, undefined],
    ['Fill down 3 columns', 'fill', { columns: { by: 'names', names: ['A', 'B', 'C'] } }, undefined],
  ])('%s', (text, kind, params, aside) => {
    expect(stepHeadline(step(kind, params), aside === undefined ? {} : { aside })).toBe(text);
  });

  test('of a step with broken params is its title', () => {
    expect(stepHeadline(step('unpivot', { columns: 7 }))).toBe('Unpivot');
    expect(stepHeadline(step('nothing-known', {}))).toBe('nothing-known');
  });
});
