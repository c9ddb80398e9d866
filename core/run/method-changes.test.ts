/** Methods side by side. Reports are invented. */
import { describe, expect, test } from 'vitest';
import { type JobStep, Runner } from '../index.ts';
import { quiet } from '../test-support.ts';
import { type MethodOnReport, methodChanges } from './method-changes.ts';

const reading: JobStep = { id: 'a', kind: 'read-delimited', params: { source: 's', delimiter: ',' } };
const header: JobStep = { id: 'b', kind: 'header-from-rows', params: { rows: 1 } };
const drop: JobStep = {
  id: 'c',
  kind: 'drop-rows',
  params: { rules: [{ test: 'equals', column: 'Port', text: 'Ullin' }] },
};

function on(text: string, steps: readonly JobStep[]): MethodOnReport {
  const runner = new Runner();
  runner.setSource('s', { name: 'a.csv', bytes: new TextEncoder().encode(text) });
  return { steps, run: runner.run(steps, quiet) };
}

const states = (old: MethodOnReport, now: MethodOnReport) => methodChanges(old, now).map(({ state }) => state);

describe('two methods side by side', () => {
  const spring = 'Port,Foot\nHask,5\nUllin,7\nTarve,1\n';
  const summer = 'Port,Foot\nHask,6\nTarve,2\n';

  test('the same method on two reports: each step with what it did to each', () => {
    const found = methodChanges(on(spring, [reading, header, drop]), on(summer, [reading, header, drop]));
    expect(found.map(({ state }) => state)).toEqual(['same', 'same', 'same']);
    expect(found[2]!.before).toMatchObject({ size: { rows: 2, columns: 2 }, aside: 1 });
    expect(found[2]!.after).toMatchObject({ size: { rows: 2, columns: 2 }, aside: 0 });
  });

  test('a step with other params is changed; others are gone or new, each at its place', () => {
    const other = { ...drop, params: { rules: [{ test: 'equals', column: 'Port', text: 'Tarve' }] } };
    const sort: JobStep = { id: 'd', kind: 'sort', params: { by: [{ column: 'Port' }] } };
    expect(states(on(spring, [reading, header, drop]), on(summer, [reading, header, other]))).toEqual([
      'same',
      'same',
      'changed',
    ]);
    expect(states(on(spring, [reading, header, drop]), on(summer, [reading, header, sort]))).toEqual([
      'same',
      'same',
      'gone',
      'new',
    ]);
    expect(states(on(spring, [reading, header]), on(summer, [reading, sort, header]))).toEqual(['same', 'new', 'same']);
  });

  test('the step that stops the method says so, and those after it have no size', () => {
    const gone = { ...drop, params: { rules: [{ test: 'equals', column: 'Quay', text: 'Ullin' }] } };
    const sort: JobStep = { id: 'd', kind: 'sort', params: { by: [{ column: 'Port' }] } };
    const found = methodChanges(on(spring, [reading, header, drop, sort]), on(summer, [reading, header, gone, sort]));
    expect(found[2]!.after).toMatchObject({ failed: 'stops' });
    expect(found[3]!.after).not.toHaveProperty('size');
    expect(found[3]!.after).toMatchObject({ failed: 'not run' });
  });

  test('a method whose results are not known says nothing of them', () => {
    const [first] = methodChanges({ steps: [reading], run: undefined }, on(summer, [reading]));
    expect(first!.before).toEqual({ step: { kind: reading.kind, params: reading.params }, aside: 0 });
  });
});
