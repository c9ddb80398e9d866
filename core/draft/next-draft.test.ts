import { describe, expect, test } from 'vitest';
import { draftForNext, draftsOf } from '../index.ts';

const quiet = { progress: () => undefined };
const text = (lines: readonly string[], name = 'report.csv') => ({
  name,
  bytes: new TextEncoder().encode(`${lines.join('\n')}\n`),
});
const SPRING = text(['Quay,Foot', 'Hask,5', 'Ullin,7', 'Tarve,9', 'Total,21']);

/** The draft of a report as a method of a job, with more steps of a person's own. */
function methodOf(report: ReturnType<typeof text>, ...more: { kind: string; params: Record<string, unknown> }[]) {
  const [draft] = draftsOf('s', report, quiet, { most: 1 });
  return [...draft!.steps, ...more].map(({ kind, params }, k) => ({ id: `s${k}`, kind, params }));
}

describe('the draft of the next report', () => {
  test('says nothing where the method would be the same', () => {
    const next = draftForNext(
      's',
      text(['Quay,Foot', 'Hask,1', 'Skene,2', 'Tarve,3', 'Total,6']),
      methodOf(SPRING),
      quiet,
    );
    expect(next!.come).toEqual([]);
    expect(next!.gone).toEqual([]);
    expect(next!.rows).toBe(3);
  });

  test('keeps the names and places that a person gave, where the columns are still there', () => {
    const rename = { kind: 'rename', params: { names: [{ from: 'Foot', to: 'Passengers' }] } };
    const steps = methodOf(SPRING, rename);
    const summer = text([
      'Returns of summer',
      '',
      'Quay,Foot',
      'North,',
      'Hask,1',
      'Ullin,2',
      'Total,3',
      'Source: gates,',
    ]);
    const next = draftForNext('s', summer, steps, quiet)!;
    expect(next.columns).toContain('Passengers');
    expect(next.come.map(({ kind }) => kind)).not.toContain('rename');
    expect(next.gone.map(({ kind }) => kind)).not.toContain('rename');
    const gone = draftForNext('s', text(['Berth,Cars', 'H1,1', 'H2,2', 'H3,3']), steps, quiet)!;
    expect(gone.columns).toEqual(['Berth', 'Cars']);
    expect(gone.gone.map(({ kind }) => kind)).toContain('rename');
  });

  test('reads as before as long as that leads to a table', () => {
    const [reading, ...others] = methodOf(text(['Quay;Foot', 'Hask;5', 'Ullin;7', 'Tarve;9']));
    const own = { ...reading!, params: { ...reading!.params, encoding: 'utf-8' } };
    const next = draftForNext('s', text(['Quay;Foot', 'Hask;6', 'Ullin;8', 'Tarve;2']), [own, ...others], quiet)!;
    expect(next.steps[0]!.params).toMatchObject({ encoding: 'utf-8' });
    const otherwise = draftForNext('s', text(['Quay,Foot', 'Hask,6', 'Ullin,8', 'Tarve,2']), [own, ...others], quiet)!;
    expect(otherwise.columns).toEqual(['Quay', 'Foot']);
  });

  test('is none where there is no table', () => {
    expect(draftForNext('s', text(['']), methodOf(SPRING), quiet)).toBeUndefined();
  });
});
