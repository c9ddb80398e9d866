import { describe, expect, test } from 'vitest';
import { CATALOGUE } from '../core/index.ts';
import { runExample } from './run-example.ts';
import { type ExampleColumns, STEP_EXAMPLES } from './step-examples.ts';

const cut = (columns: ExampleColumns, from: number, to: number): ExampleColumns =>
  Object.fromEntries(Object.entries(columns).map(([name, cells]) => [name, cells.slice(from, to)]));

describe('steps that say they look at one row at a time', () => {
  const examples = STEP_EXAMPLES.filter(({ kind }) => CATALOGUE.get(kind)!.rowByRow === true);

  test('are those that most methods are made of', () => {
    expect(examples.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['keep-rows', 'set-types', 'unpivot']));
  });

  test.each(examples)('$kind gives row by row what it gives for all of them', (example) => {
    const rows = Object.values(example.before)[0]!.length;
    const whole = runExample(example);
    const single = Array.from({ length: rows }, (_, r) =>
      runExample({ ...example, before: cut(example.before, r, r + 1) }),
    );
    expect(single.flatMap(({ after }) => after.rows)).toEqual(whole.after.rows);
    expect(new Set(single.map(({ after }) => after.names.join()))).toEqual(new Set([whole.after.names.join()]));
  });
});
