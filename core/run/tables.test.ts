/** Several tables in one job, and the laws that hold for every kind of step. */
import { describe, expect, test } from 'vitest';
import {
  CATALOGUE,
  cellsOfReport,
  cellsOfTable,
  chosenColumns,
  countedColumn,
  isBlank,
  type JobTable,
  makeTable,
  NAME,
  Runner,
  type StepResult,
  type Table,
  textColumn,
  traceBack,
  traceForward,
} from '../index.ts';
import { cellsOf, quiet } from '../test-support.ts';

const encode = (text: string) => new TextEncoder().encode(text);

function table(id: string, ...steps: [string, Record<string, unknown>][]): JobTable {
  return {
    id,
    name: id.toUpperCase(),
    steps: steps.map(([kind, params], k) => ({ id: `${id}${k + 1}`, kind, params })),
  };
}
const read = (source: string): [string, Record<string, unknown>] => ['read-delimited', { source }];
const header: [string, Record<string, unknown>] = ['header-from-rows', {}];
const from = (id: string, step: string | null = null): [string, Record<string, unknown>] => [
  'from-table',
  { table: id, step },
];

function runner(): Runner {
  const made = new Runner();
  made.setSource('s', { name: 's.csv', bytes: encode('k,x\na,1\nb,2\na,3\n') });
  made.setSource('t', { name: 't.csv', bytes: encode('k,name\na,Alpha\nc,Gamma\n') });
  return made;
}

describe('several tables', () => {
  const joined: JobTable[] = [
    table('a', read('s'), header, ['join', { table: 'b', keys: [{ left: 'k', right: 'k' }] }]),
    table('b', read('t'), header),
  ];

  test('a join reads the end of another table, and traces into its report and back', () => {
    const run = runner().runTable(joined, 'a', quiet);
    expect(cellsOf(run.steps[2]!.table)).toEqual([
      ['a', '1', 'Alpha'],
      ['b', '2', null],
      ['a', '3', 'Alpha'],
    ]);
    expect(run.steps[2]!.notices.map((notice) => notice.text)).toEqual([
      '2 of 3 rows match, 1 of 2 rows of B',
      '1 row here without a match: b',
      '1 row of B without a match: c',
    ]);
    const [alpha] = cellsOfReport(run, 2, { row: 2, column: 2 });
    expect(alpha).toMatchObject({ source: 't', part: 0, row: 1, column: 1, role: 'value' });
    expect(cellsOfTable(run, 2, alpha!).map((cell) => cell.row)).toEqual([0, 2]);
    // The key of a joined row stems from both reports.
    expect(cellsOfReport(run, 2, { row: 0, column: 0 }).map((cell) => [cell.source, cell.role])).toEqual([
      ['t', 'key'],
      ['s', 'value'],
    ]);
  });

  test('a table starts from another after any of its steps, and runs again only when those change', () => {
    const one = runner();
    const tables = [
      table('a', read('s'), header, ['drop-columns', { columns: { by: 'names', names: ['x'] } }]),
      table('b', from('a', 'a2'), ['rename', { names: [{ from: 'x', to: 'y' }] }]),
    ];
    expect(cellsOf(one.runTable(tables, 'b', quiet).steps[1]!.table)[0]).toEqual(['a', '1']);
    const before = one.counts.ran;
    const later = [
      { ...tables[0]!, steps: [...tables[0]!.steps.slice(0, 2), { id: 'a3', kind: 'tidy-names', params: {} }] },
      tables[1]!,
    ];
    one.runTable(later, 'b', quiet);
    expect(one.counts.ran).toBe(before);
    const run = one.runTable(tables, 'b', quiet);
    expect(cellsOfReport(run, 1, { row: 1, column: 1 })).toMatchObject([{ source: 's', row: 2, column: 1 }]);
  });

  test('a circle is refused with its tables named; what is missing is reported', () => {
    const partial = [table('a', read('s'), header, ['append', { tables: ['b'] }]), table('b', from('a', 'a2'))];
    // What was made of the steps before is no circle.
    expect(cellsOf(runner().runTable(partial, 'a', quiet).steps[2]!.table)).toHaveLength(6);
    const circle = [table('a', from('b')), table('b', from('c')), table('c', from('a'))];
    const stop = runner().runTable(circle, 'a', quiet).stop!.message;
    expect(stop).toContain('A needs B needs C needs A');
    expect(runner().runTable([table('a', from('z'))], 'a', quiet).stop!.message).toContain('There is no table z');
    expect(
      runner().runTable([table('a', from('b', 'gone')), table('b', read('s'))], 'a', quiet).stop!.message,
    ).toContain('no longer has the step');
    expect(runner().runTable([table('a', from('b')), table('b', read('nowhere'))], 'a', quiet).stop!.message).toContain(
      'B has no result to give: it stops at its step 1',
    );
    expect(
      runner().runTable([table('a', read('s'), ['join', { table: '', keys: [{ left: 'A', right: 'A' }] }])], 'a', quiet)
        .stop!.message,
    ).toContain('Choose the other table');
  });

  test('forty tables in a chain: an edit at the end runs one step', () => {
    const chain = Array.from({ length: 40 }, (_, k) =>
      k === 0 ? table('t0', read('s'), header) : table(`t${k}`, from(`t${k - 1}`), ['tidy-names', {}]),
    );
    const one = runner();
    one.runTable(chain, 't39', quiet);
    const before = one.counts.ran;
    const edited = chain.with(39, table('t39', from('t38'), ['tidy-names', { style: 'camel' }]));
    expect(one.runTable(edited, 't39', quiet).stop).toBeUndefined();
    expect(one.counts.ran - before).toBe(1);
  });
});

describe('laws of every kind of step', () => {
  const input: Table = makeTable({
    Port: textColumn(['Hask', 'Hask', 'Ullin', null, 'Tarve', 'Hask']),
    Packed: textColumn(['a;b', '["x","y"]', 'c', 'd;e;f', null, 'a;b']),
    Foot: countedColumn('number', [1.25, null, 3, 4, 5.5, 1.25]),
    Day: countedColumn('date', [0, 1, 2, null, 4, 0]),
    Note: textColumn([null, null, 'n', null, null, null]),
  });
  input.fields[0]!.nameOrigin = 'beside';
  const right = makeTable({ Port: textColumn(['Hask', 'Brannoch', 'Hask']), Code: textColumn(['H', 'B', 'h']) });
  const COLUMNS: Record<string, string[]> = {
    'date-parts': ['Day'],
    round: ['Foot'],
    unnest: ['Packed'],
    'split-to-rows': ['Packed'],
    'split-to-columns': ['Packed'],
    extract: ['Packed'],
    'join-text': ['Port', 'Note'],
    pivot: ['Note'],
    'header-from-rows': [],
  };
  // Steps that need more than a guess, or that are worth more than one look.
  const MORE: Record<string, object[]> = {
    append: [{ tables: ['r'], nameColumn: 'From' }],
    join: ['left', 'inner', 'full', 'unmatched'].map((how) => ({
      table: 'r',
      how,
      keys: [{ left: 'Port', right: 'Port' }],
    })),
    pivot: [
      { rows: { by: 'names', names: ['Port'] }, names: ['Packed'], values: [{ column: 'Foot' }] },
      { rows: { by: 'names', names: ['Port'] }, names: ['Note'], values: [{ column: 'Foot', by: 'sum' }] },
    ],
    unpivot: [{ columns: { by: 'all-but', names: ['Port'] }, blanks: 'drop' }],
    fill: [
      { columns: { by: 'all' }, direction: 'up' },
      { columns: { by: 'all' }, direction: 'across' },
    ],
    'keep-rows': [{ rules: [{ test: 'place', which: 'every', from: 2, count: 2 }] }],
    'split-off': [{ key: ['Port'], columns: ['Note'] }],
    group: [
      {
        by: { by: 'names', names: ['Port'] },
        measures: [
          { by: 'mean', column: 'Foot', name: 'm' },
          { by: 'rows', name: 'n' },
        ],
      },
    ],
    'remove-duplicates': [{ keep: 'last' }],
    carry: [{ from: 'Packed', rule: { test: 'equals', column: 'Packed', text: 'c' }, into: 'Label' }],
  };

  const cases = [...CATALOGUE.values()].flatMap((kind) => {
    const guessed =
      MORE[kind.kind] !== undefined && ['append', 'join'].includes(kind.kind)
        ? []
        : [kind.start(input, COLUMNS[kind.kind] ?? [])];
    return [...guessed, ...(MORE[kind.kind] ?? [])].map((params) => [kind.kind, kind.params.parse(params)] as const);
  });
  const run = (kind: string, params: unknown): StepResult =>
    CATALOGUE.get(kind)!.run(input, params, { ...quiet, other: () => ({ name: 'r', table: right }) });

  test.each(cases)('%s: every filled cell traces back, or its column is computed from nothing', (kind, params) => {
    const result = run(kind, params);
    expect(result.origin).toHaveLength(result.table.fields.length);
    result.table.fields.forEach((field, column) => {
      if (result.origin[column]!.cells.length === 0) return;
      for (let row = 0; row < result.table.rows; row++) {
        if (isBlank(field.column, row)) continue;
        const sources = traceBack(result.origin, { row, column });
        expect(sources.length, `${kind} ${field.name} row ${row}`).toBeGreaterThan(0);
        for (const source of sources) {
          const forward = traceForward(
            result.origin,
            { column: source.column, rows: [source.row], input: source.input },
            result.table.rows,
          );
          expect(forward.some((cell) => cell.row === row && cell.column === column)).toBe(true);
        }
      }
    });
  });

  // Kinds whose very meaning is to leave columns or cells out, and say so.
  const DROPS = new Set([
    'keep-columns',
    'drop-columns',
    'split-off',
    'pivot',
    'group',
    'count',
    'join',
    'split-to-columns',
    'blank-texts',
    'recode',
  ]);
  test.each(cases.filter(([kind]) => !DROPS.has(kind)))(
    '%s: every filled cell of the input is in the table or on a pile',
    (kind, params) => {
      const result = run(kind, params);
      const aside = new Set(result.aside.flatMap((pile) => [...pile.rows]));
      input.fields.forEach((field, column) => {
        for (let row = 0; row < input.rows; row++) {
          if (isBlank(field.column, row) || aside.has(row)) continue;
          const forward = traceForward(result.origin, { column, rows: [row] }, result.table.rows);
          expect(forward.length, `${kind} ${field.name} row ${row}`).toBeGreaterThan(0);
        }
      });
    },
  );

  test.each(cases)('%s: the same input gives the same result, and the input is left alone', (kind, params) => {
    const before = JSON.stringify(cellsOf(input));
    expect(cellsOf(run(kind, params).table)).toEqual(cellsOf(run(kind, params).table));
    expect(JSON.stringify(cellsOf(input))).toBe(before);
  });

  test.each(cases)('%s: a table without rows is no trouble, and its sentence reads', (kind, params) => {
    const empty: Table = { rows: 0, fields: input.fields.map((field) => ({ ...field, column: textColumn([]) })) };
    const typed: Table = {
      rows: 0,
      fields: input.fields.map((field) => ({
        ...field,
        column: field.column.type === 'text' ? textColumn([]) : countedColumn(field.column.type as 'number', []),
      })),
    };
    if (kind !== 'header-from-rows')
      expect(() =>
        CATALOGUE.get(kind)!.run(typed, params, { ...quiet, other: () => ({ name: 'r', table: right }) }),
      ).not.toThrow();
    expect(chosenColumns({ by: 'blank' }, empty)).toHaveLength(5);
    const sentence = CATALOGUE.get(kind)!.sentence(params);
    expect(sentence.length).toBeGreaterThan(0);
    for (const phrase of sentence) if (typeof phrase !== 'string') expect(phrase.edit.label).not.toBe('');
  });

  test('names are cells too: NAME is traced through every kind that keeps columns', () => {
    const renamed = run('rename', { names: [{ from: 'Foot', to: 'Feet' }] });
    expect(traceBack(renamed.origin, { row: NAME, column: 2 })).toEqual([
      { row: NAME, column: 2, input: 0, role: 'value' },
    ]);
  });
});
