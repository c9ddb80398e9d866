import { describe, expect, test } from 'vitest';
import type { JobStep } from '../document/job.ts';
import { columnFates } from './column-fates.ts';
import { Runner } from './run.ts';

const TEXT = 'Port;April;May;Total;Remark\nHask;1;2;3;fog\nUllin;4;5;9;\n';

function run(...steps: Omit<JobStep, 'id'>[]) {
  const runner = new Runner();
  runner.setSource('s', { name: 'a.csv', bytes: new TextEncoder().encode(TEXT) });
  const read = { kind: 'read-delimited', params: { source: 's', delimiter: ';' } };
  const found = runner.run(
    [read, ...steps].map((step, k) => ({ id: `${k}`, ...step })),
    { progress: () => undefined },
  );
  expect(found.stop).toBeUndefined();
  return found;
}

const HEADER = { kind: 'header-from-rows', params: {} };
const names = (...of: string[]) => ({ by: 'names', names: of });

describe('what becomes of the columns of a report', () => {
  test('they keep their names until a step takes them out, and then say which and onto what pile', () => {
    const found = run(
      HEADER,
      { kind: 'set-aside-columns', params: { pile: 'totals', columns: names('Total') } },
      { kind: 'drop-columns', params: { columns: names('Remark') } },
    );
    const fates = columnFates(found, 3);
    expect(fates.map((fate) => fate.names)).toEqual([['Port'], ['April'], ['May'], [], []]);
    expect(fates[3]).toMatchObject({ mark: 'total', step: 2, pile: 'totals', was: 'Total' });
    expect(fates[4]).toMatchObject({ mark: 'other', step: 3, was: 'Remark' });
    // Before the step it was there still.
    expect(columnFates(found, 1)[3]!.names).toEqual(['Total']);
  });

  test('unpivoted columns are all in the one value column', () => {
    const found = run(HEADER, {
      kind: 'unpivot',
      params: { columns: names('April', 'May'), parts: [{ as: 'column', name: 'Month' }], value: 'Foot' },
    });
    const fates = columnFates(found, 2);
    expect(fates[1]!.names).toEqual(['Foot']);
    expect(fates[2]!.names).toEqual(['Foot']);
    expect(fates[0]!.names).toEqual(['Port']);
  });

  test('a renamed and moved column is found under its new name', () => {
    const found = run(
      HEADER,
      { kind: 'rename', params: { names: [{ from: 'May', to: 'Mai' }] } },
      { kind: 'move-columns', params: { columns: names('Mai'), to: 'first' } },
    );
    expect(columnFates(found, 3)[2]!.names).toEqual(['Mai']);
  });
});
