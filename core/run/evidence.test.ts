import { expect, test } from 'vitest';
import { quayReturns } from '../../demo/quay-returns.ts';
import { draftsOf, evidenceOf, NAME } from '../index.ts';

const { bytes, file } = quayReturns();
const [draft] = draftsOf('s', { name: file, bytes }, { progress: () => undefined }, { most: 1 });
const at = (kind: string, pile?: string) =>
  draft!.steps.findIndex((step) => step.kind === kind && (pile === undefined || step.params['pile'] === pile));

test('a step that takes rows out speaks of those rows of the report', () => {
  const { rows, cells } = evidenceOf(draft!.run, at('set-aside', 'totals'));
  expect(rows).toHaveLength(16);
  expect(rows[0]).toEqual({ part: 0, row: 10 });
  expect(cells).toEqual([]);
});

test('a step that changes columns speaks of their names and cells', () => {
  const { rows, cells } = evidenceOf(draft!.run, at('set-aside-columns'));
  expect(rows).toEqual([]);
  // The columns of the quarter are the last two of the sheets.
  expect(new Set(cells.filter((cell) => cell.row !== NAME).map((cell) => cell.column))).toEqual(new Set([7, 8]));
});

test('a reading speaks of nothing but the report itself', () => {
  expect(evidenceOf(draft!.run, 0)).toEqual({ rows: [], cells: [] });
});
