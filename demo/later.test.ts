/**
 * The demo's methods on the reports of later quarters. Whatever happened to a report, the method gives the true table,
 * or stops and says why, or the difference is reported before the report is taken: never a wrong table in silence.
 */
import { describe, expect, test } from 'vitest';
import { fixedJob } from '../core/index.ts';
import { DEMOS } from './all.ts';
import { laterReports } from './later.ts';
import { laterRun, openAllDemos, resultOf } from './later-run.ts';

const REPORTS = laterReports();
await openAllDemos();

test('every demo has at least two later reports, and at least one with a change of layout', () => {
  for (const demo of Object.keys(DEMOS)) {
    const own = REPORTS.filter((one) => one.demo === demo);
    expect(own.length, demo).toBeGreaterThan(2);
    expect(
      own.some((one) => !/figures|months/.test(one.change)),
      demo,
    ).toBe(true);
  }
});

describe.each(REPORTS.map((one) => [`${one.demo}: ${one.change}`, one] as const))('%s', (_, later) => {
  const { outcome, says, fixed, made } = later;
  const found = laterRun(later);
  const texts = found.said.map((one) => one.text);

  test(
    outcome === 'right' ? 'gives the true table' : outcome === 'stops' ? 'stops and says why' : 'is reported',
    () => {
      if (outcome === 'right') expect(found.result).toBe(made.truth);
      if (outcome === 'stops') {
        expect(found.result).toBeUndefined();
        expect(
          found.said.some((one) => one.severity === 'stop' && says!.test(one.text)),
          texts.join('\n'),
        ).toBe(true);
      }
      if (outcome === 'told') expect(found.result).toBeDefined();
      if (says !== undefined && outcome !== 'stops')
        expect(
          found.said.some((one) => one.severity === 'warning' && says.test(one.text)),
          texts.join('\n'),
        ).toBe(true);
    },
  );

  if (fixed)
    test('the fixes that are offered give the true table', () => {
      expect(resultOf(found.runner, fixedJob(found.job, found.next))).toBe(made.truth);
    });
});
