/** Look-ups, joins seen before they are kept, appends lined up, keys that decide, sets of steps. */
import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  CATALOGUE,
  cellsOfReport,
  cellsOfTable,
  countedColumn,
  determinedBy,
  fullTables,
  guessKeys,
  type Job,
  jobMap,
  keepAsSet,
  lineUp,
  lookAtJoin,
  makeTable,
  neededTables,
  Runner,
  readJobFile,
  rowFates,
  type StepResult,
  type Table,
  textColumn,
  unfoldSet,
  writeJobFile,
} from '../../index.ts';
import { comparableRows, type Duck, openDuck } from '../../test-duck.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';

function run(kind: string, params: object, table: Table, others: Record<string, Table> = {}): StepResult {
  const found = CATALOGUE.get(kind)!;
  return found.run(table, found.params.parse(params), { ...quiet, other: (id) => ({ name: id, table: others[id]! }) });
}

let duck: Duck;
beforeAll(async () => {
  duck = await openDuck();
});

const bookings = makeTable({
  berth: textColumn(['H1', 'H2', 'h1', 'T9', null, 'H2']),
  booked: countedColumn('whole', [5, 7, 1, 2, 9, 4]),
});
const berths = makeTable({
  code: textColumn(['H1', 'H2', 'H2', 'B1']),
  quay: textColumn(['Hask', 'Hask', 'Hask', 'Brannoch']),
  depth: countedColumn('number', [4.5, 5, 6, 3]),
});

describe('look up', () => {
  const params = { table: 'b', keys: [{ left: 'berth', right: 'code' }], columns: ['quay', 'depth'] };

  test('brings what the key decides; what it does not decide is unreadable and told', () => {
    const result = run('look-up', params, bookings, { b: berths });
    expect(cellsOf(result.table)).toEqual([
      ['H1', '5', 'Hask', '4.5'],
      ['H2', '7', 'Hask', 'several values'],
      ['h1', '1', null, null],
      ['T9', '2', null, null],
      [null, '9', null, null],
      ['H2', '4', 'Hask', 'several values'],
    ]);
    expect(result.notices.map((notice) => notice.text)).toEqual([
      '3 of 6 rows found',
      '3 rows not found in b: h1, T9, blank',
      '2 rows meet several values of depth: H2',
    ]);
  });

  test('forgiving keys meet whatever their case; the first of several if that is wanted', () => {
    const { table } = run('look-up', { ...params, forgiving: true, several: 'first' }, bookings, { b: berths });
    expect(cellsOf(table).map((row) => row[3])).toEqual(['4.5', '5', '4.5', null, null, '5']);
  });

  test('where the key is unique it is the left join of SQL (DuckDB)', async () => {
    const unique = makeTable({ code: textColumn(['H1', 'H2', 'T9']), quay: textColumn(['Hask', null, 'Tarve']) });
    await duck.load('bookings', bookings);
    await duck.load('quays', unique);
    const ours = run('look-up', { ...params, columns: ['quay'] }, bookings, { b: unique });
    const sql = 'select berth, booked, quay from bookings l left join quays r on l.berth = r.code order by l."#"';
    expect(comparableRows(cellsOf(ours.table))).toEqual(comparableRows(await duck.query(sql)));
  });

  test('law: it never adds or loses a row', () => {
    const key = fc.array(fc.option(fc.constantFrom('a', 'b', 'c', 'd'), { nil: null }), { maxLength: 20 });
    fc.assert(
      fc.property(key, key, (left, right) => {
        const [l, r] = [makeTable({ k: textColumn(left) }), makeTable({ k: textColumn(right), v: textColumn(right) })];
        const found = run('look-up', { table: 'r', keys: [{ left: 'k', right: 'k' }], columns: ['v'] }, l, { r });
        expect(found.table.rows).toBe(l.rows);
        expect(cellsOf(found.table).map((row) => row[0])).toEqual(left);
      }),
    );
  });
});

describe('a join seen before it is kept', () => {
  const asked = { keys: [{ left: 'berth', right: 'code' }], forgiving: false };

  test('rows that match, the unmatched on either side with what is nearly the same, and keys that meet several', () => {
    const look = lookAtJoin(bookings, berths, asked);
    expect(look.left).toMatchObject({ rows: 6, matched: 3, unmatched: 3 });
    expect(look.right).toMatchObject({ rows: 4, matched: 3, unmatched: 1, keys: [{ key: 'B1', rows: 1 }] });
    expect(look.several).toEqual([{ key: 'H2', here: 2, there: 2 }]);
    expect(look.out).toEqual({ left: 8, inner: 5, full: 9 });
    expect(look.fixes[0]).toMatchObject({
      label: 'ignoring blanks, case and accents',
      matched: 4,
      forgiving: true,
    });
  });

  test('what it foretells is what the join gives', () => {
    const key = fc.array(fc.option(fc.constantFrom('a', 'A ', 'b', 'é', 'e'), { nil: null }), { maxLength: 12 });
    fc.assert(
      fc.property(key, key, fc.boolean(), (left, right, forgiving) => {
        const [l, r] = [makeTable({ k: textColumn(left) }), makeTable({ k: textColumn(right), v: textColumn(right) })];
        const keys = [{ left: 'k', right: 'k' }];
        const look = lookAtJoin(l, r, { keys, forgiving });
        for (const how of ['left', 'inner', 'full'] as const)
          expect(run('join', { table: 'r', how, keys, forgiving }, l, { r }).table.rows).toBe(look.out[how]);
        expect(look.left.matched + look.left.unmatched).toBe(l.rows);
        expect(look.right.matched + look.right.unmatched).toBe(r.rows);
        const told = look.left.keys.reduce((sum, one) => sum + one.rows, 0);
        expect(told).toBe(look.left.unmatched);
      }),
    );
  });

  const plan = makeTable({ Category: textColumn(['Harbour dues', 'Fuel', 'Crew wages']) });
  const outturn = makeTable({ Category: textColumn(['Harbourdues', 'Fuel', 'Crew wagse']) });

  test('near matches make a crosswalk that fixes the join', () => {
    const keys = [{ left: 'Category', right: 'Category' }];
    const look = lookAtJoin(plan, outturn, { keys, forgiving: false });
    expect(look.left.keys.map(({ key, near }) => [key, near])).toEqual([
      ['Harbour dues', 'Harbourdues'],
      ['Crew wages', 'Crew wagse'],
    ]);
    const fix = look.fixes.find((one) => one.step?.kind === 'recode')!;
    expect(fix).toMatchObject({ label: 'Crosswalk of 2 near matches of Category', matched: 3 });
    const fixed = run('recode', fix.step!.params, plan).table;
    expect(run('join', { table: 'o', how: 'inner', keys }, fixed, { o: outturn }).table.rows).toBe(3);
  });

  test('a key of another type is typed alike', () => {
    const here = makeTable({ Berth: textColumn(['01', '02', '03']) });
    const there = makeTable({ Berth: countedColumn('whole', [1, 2, 4]), Name: textColumn(['A', 'B', 'D']) });
    const { fixes } = lookAtJoin(here, there, { keys: [{ left: 'Berth', right: 'Berth' }], forgiving: false });
    expect(fixes[0]).toMatchObject({ step: { kind: 'set-types' }, matched: 2 });
  });

  test('another pair of columns is offered where rows meet several', () => {
    const here = makeTable({ Berth: textColumn(['H1', 'H1', 'T1']), Quarter: textColumn(['Q1', 'Q2', 'Q1']) });
    const there = makeTable({
      Berth: textColumn(['H1', 'H1', 'T1', 'T1']),
      Quarter: textColumn(['Q1', 'Q2', 'Q1', 'Q2']),
      Actual: countedColumn('whole', [3, 4, 5, 6]),
    });
    const { fixes } = lookAtJoin(here, there, { keys: [{ left: 'Berth', right: 'Berth' }], forgiving: false });
    expect(fixes).toContainEqual(expect.objectContaining({ matched: 3, out: 3 }));
    expect(guessKeys(here, there)).toEqual([
      { left: 'Berth', right: 'Berth' },
      { left: 'Quarter', right: 'Quarter' },
    ]);
  });
});

describe('append', () => {
  const spring = makeTable({ Berth: textColumn(['H1']), 'Foot passengers': textColumn(['5']) });
  const summer = makeTable({
    Berth: textColumn(['H2']),
    'Foot passenger': textColumn(['7']),
    Remark: textColumn(['x']),
  });

  test('columns are lined up by name and by likeness', () => {
    expect(lineUp(spring, summer)).toEqual([
      { from: 'Berth', to: 'Berth', how: 'name' },
      { from: 'Foot passenger', to: 'Foot passengers', how: 'likeness' },
      { from: 'Remark', to: 'Remark', how: 'alone' },
    ]);
  });

  test('a column stands under another name, or is left out; what is missing is reported', () => {
    const columns = [
      { table: 's', from: 'Foot passenger', to: 'Foot passengers' },
      { table: 's', from: 'Remark', to: '' },
    ];
    const result = run('append', { tables: ['s'], columns }, spring, { s: summer });
    expect(namesOf(result.table)).toEqual(['Berth', 'Foot passengers']);
    expect(cellsOf(result.table)).toEqual([
      ['H1', '5'],
      ['H2', '7'],
    ]);
    expect(result.notices).toEqual([]);
    expect(run('append', { tables: ['s'] }, spring, { s: summer }).notices.map((one) => one.text)).toEqual([
      'Table has no Foot passenger, Remark: blank in its 1 row',
      's has no Foot passengers: blank in its 1 row',
    ]);
  });
});

test('whether a key decides a column, with an example where it does not', () => {
  expect(determinedBy(berths, ['code'])).toEqual([
    { column: 'quay', broken: 0, keys: 3, example: undefined },
    { column: 'depth', broken: 1, keys: 3, example: 'H2' },
  ]);
});

test('variance: the difference, its share, and rows that stand out; no share of nothing', () => {
  const table = makeTable({
    Actual: countedColumn('number', [110.1, 95, 3, null]),
    Target: countedColumn('number', [100, 100, 0, 10]),
  });
  const result = run('variance', { actual: 'Actual', target: 'Target', share: 'Share' }, table);
  // 110.1 - 100 is 10.099999999999994 in binary fractions.
  expect(cellsOf(result.table).map((row) => row.slice(2))).toEqual([
    ['10.1', '0.101'],
    ['-5', '-0.05'],
    ['3', null],
    [null, null],
  ]);
  expect(result.notices.map((notice) => [notice.text, [...notice.rows!.rows]])).toEqual([
    ['1 row is 10 % or more off Target', [0]],
  ]);
});

describe('sets of steps', () => {
  const encode = (text: string) => new TextEncoder().encode(text);
  const job: Job = {
    rimefield: 'job',
    version: 1,
    id: 'j',
    name: 'J',
    sources: [
      { id: 's', name: 'S', file: null },
      { id: 't', name: 'T', file: null },
    ],
    tables: ['s', 't'].map((source) => ({
      id: `of-${source}`,
      name: source.toUpperCase(),
      steps: [
        { id: `${source}1`, kind: 'read-delimited', params: { source } },
        { id: `${source}2`, kind: 'header-from-rows', params: {} },
        {
          id: `${source}3`,
          kind: 'set-aside',
          params: { pile: 'totals', rules: [{ test: 'equals', column: 'k', text: 'total' }] },
        },
        { id: `${source}4`, kind: 'rename', params: { names: [{ from: 'x', to: 'Figure' }] } },
      ],
    })),
  };
  const runner = () => {
    const made = new Runner();
    made.setSource('s', { name: 's.csv', bytes: encode('k,x\na,1\ntotal,1\nb,2\n') });
    made.setSource('t', { name: 't.csv', bytes: encode('k,x\ntotal,7\nc,7\n') });
    return made;
  };
  const kept = keepAsSet(job, 'of-s', ['s2', 's3', 's4'], { set: 'set', step: 'use' }, 'Tidy up');
  const both: Job = {
    ...kept,
    tables: kept.tables.map((table) => ({
      ...table,
      steps: [table.steps[0]!, { id: `${table.id}-use`, kind: 'use-set', params: { set: 'set' } }],
    })),
  };

  test('give what their steps give, in every table that uses them, traced and followed through', () => {
    const one = runner();
    for (const [id, cells] of [
      [
        'of-s',
        [
          ['a', '1'],
          ['b', '2'],
        ],
      ],
      ['of-t', [['c', '7']]],
    ] as const) {
      const run = one.runTable(fullTables(both), id, quiet);
      const plain = runner().runTable(job.tables, id, quiet);
      expect(run.stop).toBeUndefined();
      expect(cellsOf(run.steps[1]!.table)).toEqual(cells);
      expect(cellsOfReport(run, 1, { row: 0, column: 1 })).toEqual(cellsOfReport(plain, 3, { row: 0, column: 1 }));
      const [home] = cellsOfReport(run, 1, { row: 0, column: 1 });
      expect(cellsOfTable(run, 1, home!)).toContainEqual(expect.objectContaining({ row: 0, column: 1 }));
      expect(rowFates(run, 1).counts()).toEqual(rowFates(plain, 3).counts());
    }
  });

  test('a step inside that stops says which; a set that is gone is reported', () => {
    const broken = structuredClone(both);
    broken.sets![0]!.steps[2]!.params = { names: [{ from: 'y', to: 'Figure' }] };
    expect(runner().runTable(fullTables(broken), 'of-s', quiet).stop?.message).toContain(
      'Step 3 of the set: There is no column y',
    );
    const gone = runner().runTable(fullTables({ ...both, sets: [] }), 'of-s', quiet).stop;
    expect(gone).toMatchObject({ index: 1, message: expect.stringContaining('not in this job any more') });
  });

  test('a job file keeps them, byte for byte; unfolding gives the steps back', () => {
    const text = writeJobFile(both);
    expect(writeJobFile(readJobFile(text))).toBe(text);
    let n = 0;
    const unfolded = unfoldSet(both, 'of-s', 'of-s-use', () => `n${++n}`);
    const run = runner().runTable(fullTables(unfolded), 'of-s', quiet);
    expect(run.steps).toHaveLength(4);
    expect(cellsOf(run.steps[3]!.table)).toEqual([
      ['a', '1'],
      ['b', '2'],
    ]);
  });

  test('the map says what feeds what, through sets too', () => {
    const step = { id: 'j1', kind: 'join', params: { table: 'of-t', keys: [{ left: 'k', right: 'k' }] } };
    const joined: Job = { ...both, sets: [{ ...both.sets![0]!, steps: [...both.sets![0]!.steps, step] }] };
    expect(jobMap(both).edges.map(({ from, to, how }) => [from.name, to.name, how])).toEqual([
      ['S', 'S', 'reads it'],
      ['T', 'T', 'reads it'],
    ]);
    expect(jobMap(joined).edges).toContainEqual(expect.objectContaining({ step: 1, how: 'joins it' }));
    expect([...neededTables(joined, 'of-s')]).toEqual(['of-s', 'of-t']);
  });
});
