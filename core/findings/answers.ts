/** Columns that hold answers to questions. */

import type { ColumnProfile } from '../glance/table-profile.ts';

/** Columns of answers, rows that gave them, and the highest mark that they give. */
const MIN_RATED = 3;
const MIN_ANSWERS = 5;
const MAX_MARK = 10;

/** Columns of answers on one small scale, under names that are questions: codes or sentences, alone or in tiers. */
export function ratings(columns: readonly ColumnProfile[]): readonly ColumnProfile[] {
  const marked = columns
    .map((column) => ({ column, highest: highestMark(column.values, MIN_ANSWERS) }))
    .filter(({ highest }) => highest >= MIN_SCALE);
  const rated = marked.map(({ column }) => column);
  // A number that tells the sheets of paper apart may be in front.
  if (rated.length < MIN_RATED || rated.length < columns.length - 1) return [];
  const scales = marked.map(({ highest }) => highest);
  if (Math.min(...scales) < Math.max(...scales) - 1) return [];
  const asking = rated.filter(({ name }) => /\?/.test(name) || name.split(/\s+/).length >= 4 || CODE.test(name));
  return asking.length >= rated.length * 0.6 ? rated : [];
}

const MIN_SCALE = 3;

/** The highest of some whole marks up to ten; NaN where there is another figure, or fewer than the least of them. */
export function highestMark(values: Float64Array, least: number): number {
  let [most, count] = [0, 0];
  for (const value of values) {
    if (Number.isNaN(value)) continue;
    if (!Number.isInteger(value) || value < 0 || value > MAX_MARK) return Number.NaN;
    most = Math.max(most, value);
    count++;
  }
  return count < least ? Number.NaN : most;
}

/** The code of a question. */
const CODE = /(?:^| \/ )[QFPI]\d{1,2}$/i;
