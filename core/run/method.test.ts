import { describe, expect, test } from 'vitest';
import { compareStep } from '../compare/compare.ts';
import { type JobStep, Runner, readJobFile, writeJobFile } from '../index.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { copySteps, leaningOn, pasteSteps } from './method.ts';

const csv = 'Port,Foot,Cars\nHask,3,1\nUllin,4,\nTotal,7,1\n';
const step = (id: string, kind: string, params: Record<string, unknown>, more: Partial<JobStep> = {}): JobStep => ({
  id,
  kind,
  params,
  ...more,
});
const steps: JobStep[] = [
  step('1', 'read-delimited', { source: 's' }),
  step('2', 'header-from-rows', { rows: 1 }),
  step('3', 'rename', { names: [{ from: 'Foot', to: 'Walkers' }] }, { name: 'Words of the port', note: 'as agreed' }),
  step('4', 'set-aside', { pile: 'totals', rules: [{ test: 'equals', column: 'Port', text: 'Total' }] }),
  step('5', 'expression', { into: 'All', text: 'cast("Walkers" as integer) + 1' }),
  step('6', 'fill-blanks', { columns: { by: 'names', names: ['Cars'] }, with: '0' }),
];
const runOf = (list: readonly JobStep[]) => {
  const runner = new Runner();
  runner.setSource('s', { name: 'a.csv', bytes: new TextEncoder().encode(csv) });
  return runner.run(list, quiet);
};

describe('steps as things to work on', () => {
  test('a muted step is passed over, and the steps behind it run on the table before it', () => {
    const run = runOf(steps.map((one) => (one.id === '4' ? { ...one, muted: true } : one)));
    expect(run.stop).toBeUndefined();
    expect(run.steps[3]!.table).toBe(run.steps[2]!.table);
    expect(run.steps[5]!.table.rows).toBe(3);
    expect(runOf(steps).steps[5]!.table.rows).toBe(2);
  });

  test('steps that lean on another are reported', () => {
    const run = runOf(steps);
    expect(leaningOn(run, 2)).toEqual([4]);
    expect(leaningOn(run, 1)).toEqual([2, 3, 5]);
    expect(leaningOn(run, 3)).toEqual([]);
  });

  test('copied steps are text that pastes elsewhere; other text is refused', () => {
    const pasted = pasteSteps(copySteps(steps.slice(2, 4)));
    expect(pasted.map(({ kind, name }) => [kind, name])).toEqual([
      ['rename', 'Words of the port'],
      ['set-aside', undefined],
    ]);
    expect(() => pasteSteps('Port\tFoot')).toThrow(/holds no steps/);
    expect(() => pasteSteps('{"rimefield":"steps","version":1,"steps":[{"kind":"vanish","params":{}}]}')).toThrow(
      /no step kind called vanish/,
    );
  });

  test('names, notes and muting are part of the job file', () => {
    const job = {
      rimefield: 'job' as const,
      version: 1 as const,
      id: 'j',
      name: 'J',
      sources: [{ id: 's', name: 'a', file: null }],
      tables: [{ id: 't', name: 'T', steps: steps.map((one) => (one.id === '6' ? { ...one, muted: true } : one)) }],
    };
    const text = writeJobFile(job);
    const read = readJobFile(text);
    expect(read.tables[0]!.steps[2]).toMatchObject({ name: 'Words of the port', note: 'as agreed' });
    expect(read.tables[0]!.steps[5]!.muted).toBe(true);
    expect(writeJobFile(read)).toBe(text);
  });
});

describe('a table before and after a step', () => {
  const run = runOf(steps);

  test('rows that went, columns that came, cells that changed', () => {
    expect(compareStep(run, 3)).toMatchObject({ goneRows: 1, addedRows: 0, changed: 0, goneColumns: [] });
    expect(compareStep(run, 4)).toMatchObject({ addedColumns: ['All'], goneRows: 0, changed: 0 });
    expect(compareStep(run, 2)).toMatchObject({ addedColumns: ['Walkers'], goneColumns: ['Foot'] });
    expect(compareStep(run, 5)).toMatchObject({
      changed: 1,
      examples: [{ row: 1, column: 'Cars', before: null, after: '0' }],
    });
    expect(compareStep(run, 0)).toBeUndefined();
  });

  test('rows that a split makes are added', () => {
    const list = [
      ...steps.slice(0, 2),
      step('x', 'split-to-rows', { columns: ['Port'], cut: { by: 'delimiter', delimiters: ['l'] } }),
    ];
    const split = runOf(list);
    expect(namesOf(split.steps[2]!.table)).toContain('Port');
    expect(cellsOf(split.steps[2]!.table).length - 3).toBe(compareStep(split, 2)!.addedRows);
  });
});
