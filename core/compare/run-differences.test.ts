/** What is reported before a method takes the next report. */
import { expect, test } from 'vitest';
import { fixedSteps, type JobTable, Runner, runDifferences } from '../index.ts';
import { quiet } from '../test-support.ts';

const encode = (text: string) => new TextEncoder().encode(text);
const table: JobTable = {
  id: 't',
  name: 'T',
  steps: (
    [
      ['read-delimited', { source: 's', delimiter: ';' }],
      ['header-from-rows', {}],
      ['set-aside', { pile: 'totals', rules: [{ test: 'equals', column: 'Quay', text: 'Total' }] }],
      ['set-types', { types: [{ columns: { by: 'names', names: ['Foot'] }, type: 'whole' }] }],
    ] as const
  ).map(([kind, params], k) => ({ id: `s${k}`, kind, params })),
};

function run(text: string, steps = table.steps) {
  const runner = new Runner();
  runner.setSource('s', { name: 's.csv', bytes: encode(text) });
  return runner.runTable([{ ...table, steps }], 't', quiet);
}

const OLD = 'Quay;Foot\nHask;5\nUllin;7\nTotal;12\n';
const texts = (next: string) =>
  runDifferences(run(OLD), run(next), table.steps).map((one) => `${one.severity}: ${one.text}`);

test('the same report again reports nothing', () => {
  expect(texts(OLD)).toEqual([]);
});

test('rows, new and gone values, a new column, types that stopped fitting, a step that is idle', () => {
  expect(texts('Quay;Foot;Cars\nHask;5;1\nTarve;many;2\nBrannoch;1;3\n')).toEqual([
    'warning: new column: Cars',
    'info: 3 rows, 2 last time',
    'info: Foot adds up to 6, 12 last time',
    'warning: new in Quay: Tarve, Brannoch',
    'warning: no longer in Quay: Ullin',
    'warning: Foot has 1 unreadable cell, none last time',
    'warning: step 3 changed nothing this time',
  ]);
});

test('where there was no last run, that is said, and what stops now', () => {
  const broken = run('Quay;Feet\nHask;5\n');
  expect(runDifferences(broken, run(OLD), table.steps).map((one) => one.text)).toEqual([
    'the method did not run to its end last time, so there is nothing to compare with',
  ]);
  expect(runDifferences(broken, broken, table.steps)[1]).toMatchObject({ severity: 'stop' });
});

test('columns in another order', () => {
  expect(texts('Foot;Quay\n5;Hask\n7;Ullin\n12;Total\n')).toEqual(['warning: columns stand in another order']);
});

test('a renamed column stops, is named, and is fixed by one change', () => {
  const next = 'Quay;Foot passengers\nHask;5\nUllin;7\nTotal;12\n';
  const found = runDifferences(run(OLD), run(next), table.steps);
  expect(found.map((one) => one.text)).toEqual([
    expect.stringContaining('step 4 stops: There is no column Foot'),
    'the column Foot is gone; Foot passengers is new and most alike',
  ]);
  const { fix } = found[0]!;
  expect(fix?.label).toBe('rename Foot passengers to Foot before step 4');
  const fixed = run(next, fixedSteps(table.steps, [fix!]));
  expect(fixed.stop).toBeUndefined();
  expect(fixed.steps.at(-1)!.table.fields.map((field) => field.name)).toEqual(['Quay', 'Foot']);
});
