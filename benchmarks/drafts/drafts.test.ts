import { expect, test } from 'vitest';
import { FAMILY_NAMES, scoreFamily } from './score.ts';

/** Not the seeds of the benchmark: what may not happen is that it gets worse unseen. */
const SEED = 5000;
const REPORTS = 2;
const MIN_SHARE = 0.9;

test('most layouts are drafted outright, and none that is wrong says that it is sure', () => {
  const scores = FAMILY_NAMES.map((family) => scoreFamily(family, SEED, REPORTS));
  const wrong = scores.filter((score) => score.wrongAndSure > 0).map(({ family, missed }) => `${family}: ${missed}`);
  expect(wrong).toEqual([]);
  const all = scores.reduce((sum, score) => sum + score.reports, 0);
  const right = scores.reduce((sum, score) => sum + score.outright, 0);
  const missed = scores.flatMap((score) => score.missed.map((one) => `${score.family}, ${one}`));
  expect(right / all, missed.join('; ')).toBeGreaterThanOrEqual(MIN_SHARE);
  expect(all).toBeGreaterThan(100);
}, 120_000);
