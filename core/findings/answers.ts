/** Columns that hold answers to questions. */

import type { SeenColumn } from '../glance/sight.ts';

/** Columns of answers, rows that gave them, and the highest mark that they give. */
const MIN_RATED = 3;
const MIN_ANSWERS = 5;
const MAX_MARK = 10;

/** Columns of answers on one small scale, under names that are questions: codes or sentences, alone or in tiers. */
export function ratings(columns: readonly SeenColumn[]): readonly SeenColumn[] {
  const rated = columns.filter((column) => highestMark(column) >= MIN_SCALE);
  // A number that tells the sheets of paper apart may stand in front.
  if (rated.length < MIN_RATED || rated.length < columns.length - 1) return [];
  const highest = rated.map(highestMark);
  if (Math.min(...highest) < Math.max(...highest) - 1) return [];
  const asking = rated.filter(({ name }) => /\?/.test(name) || name.split(/\s+/).length >= 4 || CODE.test(name));
  return asking.length >= rated.length * 0.6 ? rated : [];
}

const MIN_SCALE = 3;

/** The highest of a column of whole marks; NaN where it holds anything else. */
function highestMark({ values }: SeenColumn): number {
  let [most, count] = [0, 0];
  for (const value of values) {
    if (Number.isNaN(value)) continue;
    if (!Number.isInteger(value) || value < 0 || value > MAX_MARK) return Number.NaN;
    most = Math.max(most, value);
    count++;
  }
  return count < MIN_ANSWERS ? Number.NaN : most;
}

/** The code of a question. */
const CODE = /(?:^| \/ )[QFPI]\d{1,2}$/i;
