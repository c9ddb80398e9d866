/** The tally finds what is planted, and is quiet where nothing is wrong. */
import { read, write } from '@e965/xlsx';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DEMOS } from '../../demo/all.ts';
import { demoFiles, openDemos } from '../../demo/demo-job.ts';
import {
  bundleFiles,
  CATALOGUE,
  type Job,
  type JobStep,
  type JobTable,
  Runner,
  type Tally,
  tallyOf,
} from '../index.ts';
import { quiet } from '../test-support.ts';

// What was made of their bytes goes with them, so whoever needs it takes them from here.
const MADE = new Map(Object.entries(DEMOS).map(([name, make]) => [name, make()]));
await openDemos([...MADE.values()]);

const encode = (text: string) => new TextEncoder().encode(text);

/** Runs a demo job, its files or its method changed. */
function tallied(
  name: string,
  change: { bytes?(bytes: Uint8Array, file: string): Uint8Array; job?(job: Job): Job } = {},
): Tally {
  const made = MADE.get(name)!;
  const runner = new Runner();
  for (const { source, file, bytes } of demoFiles(made))
    runner.setSource(source, { name: file, bytes: new Uint8Array(change.bytes?.(bytes, file) ?? bytes) });
  const job = change.job?.(made.job) ?? made.job;
  const table = job.tables.find((one) => one.id === made.job.tables.at(-1)!.id)!;
  const run = runner.runTable(job.tables, table.id, quiet);
  expect(run.stop).toBeUndefined();
  return tallyOf(run, table);
}

/** A workbook with some cells changed. */
function edited(bytes: Uint8Array, cells: Record<string, number>): Uint8Array {
  const book = read(bytes, { cellStyles: true });
  for (const [address, value] of Object.entries(cells)) {
    const [sheet, cell] = address.split('!') as [string, string];
    const own = book.Sheets[sheet]![cell]!;
    own.v = value;
    delete own.w;
  }
  return new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }));
}

function cellOf(bytes: Uint8Array, address: string): number {
  const [sheet, cell] = address.split('!') as [string, string];
  return read(bytes).Sheets[sheet]![cell]!.v as number;
}

const withSteps = (job: Job, steps: readonly Omit<JobStep, 'id'>[], more: readonly JobTable[] = []): Job => ({
  ...job,
  tables: [
    ...job.tables.map((table, t) =>
      t === job.tables.length - 1
        ? { ...table, steps: [...table.steps, ...steps.map((step, k) => ({ ...step, id: `more${k}` }))] }
        : table,
    ),
    ...more,
  ],
});

const quay = DEMOS['quay-returns']!().bytes;

describe('every demo job', () => {
  test.each(Object.keys(DEMOS))('%s: its totals agree and every filled cell is accounted for', (name) => {
    const { cells, ledger } = tallied(name);
    expect(ledger).toMatchObject({ disagrees: 0, cannotTell: 0 });
    expect(cells.accounted).toBe(cells.filled);
    expect(cells.filled).toBe(cells.fates.reduce((sum, fate) => sum + fate.figures + fate.words, 0));
  });

  test('how many figures there are to compare', () => {
    const counts = Object.fromEntries(
      ['quay-returns', 'weighbridge', 'monthly-files', 'plan-outturn'].map((name) => [
        name,
        tallied(name).ledger.agrees,
      ]),
    );
    // 16 total rows of 8 figures and 39 rows beside 2 total columns; subtotals; 12 months of 3; one total.
    expect(counts).toEqual({ 'quay-returns': 206, weighbridge: 4, 'monthly-files': 36, 'plan-outturn': 1 });
  });
});

describe('planted faults', () => {
  const disagreeing = (tally: Tally) =>
    tally.ledger.entries.filter((entry) => entry.state === 'disagrees').map((entry) => entry);

  test('a changed digit in a total', () => {
    const before = cellOf(quay, 'Hask!B11');
    const [entry, ...rest] = disagreeing(
      tallied('quay-returns', { bytes: (bytes) => edited(bytes, { 'Hask!B11': before + 100 }) }),
    );
    expect(rest).toEqual([]);
    expect(entry).toMatchObject({
      place: { part: 0, row: 10, column: 1 },
      covers: 'Route total · April / Foot: rows 7 to 10',
      figure: before + 100,
      report: before,
      table: before,
      explanation: { text: expect.stringContaining('One digit of the total differs') },
    });
  });

  test('a row that the total leaves out', () => {
    const [total, row] = [cellOf(quay, 'Hask!C11'), cellOf(quay, 'Hask!C8')];
    const [entry] = disagreeing(
      tallied('quay-returns', { bytes: (bytes) => edited(bytes, { 'Hask!C11': total - row }) }),
    );
    expect(entry?.explanation).toMatchObject({
      text: `The total leaves out row 8, which reads ${row}.`,
      cells: [{ part: 0, row: 7, column: 2 }],
    });
  });

  test('two digits exchanged in a row', () => {
    const row = cellOf(quay, 'Hask!B7');
    const digits = String(row);
    const other = Number(digits.slice(0, 2) + digits[3]! + digits[2]!);
    expect(other).not.toBe(row);
    const found = disagreeing(tallied('quay-returns', { bytes: (bytes) => edited(bytes, { 'Hask!B7': other }) }));
    // The route's and the port's total, and the quarter beside it.
    expect(found.length).toBeGreaterThanOrEqual(3);
    expect(found.map((entry) => entry.explanation?.text)).toContainEqual(
      expect.stringMatching(new RegExp(`Row 7 reads ${other}; with two digits exchanged, ${row} less ${other}`)),
    );
  });

  test('a page that came twice', () => {
    const tally = tallied('weighbridge', {
      bytes: (bytes) => {
        const lines = new TextDecoder().decode(bytes).split('\r\n');
        const page = lines.indexOf(lines.find((line) => line.includes('PAGE 1'))!);
        const next = lines.findIndex((line) => line.includes('PAGE 2'));
        return encode([...lines.slice(0, next), ...lines.slice(page)].join('\r\n'));
      },
    });
    expect(disagreeing(tally)[0]?.explanation?.text).toMatch(
      /^The report has rows twice: rows \d+ to \d+ stand there word for word/,
    );
  });

  test('a join that doubled rows', () => {
    const twice: JobTable = {
      id: 'ports',
      name: 'Ports',
      steps: [
        { id: 'p1', kind: 'read-delimited', params: { source: 'ports' } },
        { id: 'p2', kind: 'header-from-rows', params: {} },
      ],
    };
    const made = DEMOS['quay-returns']!();
    const job = withSteps(
      { ...made.job, sources: [...made.job.sources, { id: 'ports', name: 'ports', file: null }] },
      [{ kind: 'join', params: { table: 'ports', keys: [{ left: 'Port', right: 'Port' }] } }],
      [twice],
    );
    const runner = new Runner();
    runner.setSource('quay-returns', { name: made.file, bytes: new Uint8Array(made.bytes) });
    runner.setSource('ports', {
      name: 'ports.csv',
      bytes: encode('Port,Island\nHask,North\nHask,Far North\nUllin,South\n'),
    });
    const table = job.tables[0]!;
    const found = disagreeing(tallyOf(runner.runTable(job.tables, table.id, quiet), table));
    expect(found.length).toBeGreaterThan(10);
    expect(found.every((entry) => entry.place.part === 0)).toBe(true);
    expect(found[0]!.explanation?.text).toContain('in the table more than once: a join or a split doubled');
    expect(found[0]!.table).toBe(found[0]!.figure * 2);
  });

  test('a filter that dropped one sailing', () => {
    const tally = tallied('quay-returns', {
      job: (job) =>
        withSteps(job, [
          {
            kind: 'drop-rows',
            params: { rules: [{ test: 'expression', text: `"Port" = 'Hask' and "Sailing" = time '08:50'` }] },
          },
        ]),
    });
    const found = disagreeing(tally);
    // Eight columns in the route's and the port's total, and two totals beside the row itself.
    expect(found).toHaveLength(18);
    expect(found[0]!.explanation).toMatchObject({
      text: expect.stringMatching(/not in the table: taken out by step 11/),
      step: { index: 10 },
    });
    expect(tally.cells.accounted).toBe(tally.cells.filled);
  });
});

describe('no false alarm', () => {
  const report = (text: string, steps: [string, Record<string, unknown>][]): Tally => {
    const runner = new Runner();
    runner.setSource('s', { name: 's.csv', bytes: encode(text) });
    const all: [string, Record<string, unknown>][] = [
      ['read-delimited', { source: 's', delimiter: ';' }],
      ['header-from-rows', {}],
      ['set-aside', { pile: 'totals', rules: [{ test: 'ends', column: 'Berth', text: 'total' }] }],
      ...steps,
    ];
    const table: JobTable = {
      id: 't',
      name: 'T',
      steps: all.map(([kind, params], k) => ({ id: `s${k}`, kind, params })),
    };
    const run = runner.runTable([table], 't', quiet);
    expect(run.stop).toBeUndefined();
    return tallyOf(run, table);
  };
  const types = (type: string, number: object = {}): [string, Record<string, unknown>] => [
    'set-types',
    { types: [{ columns: { by: 'names', names: ['Fare'] }, type, number }] },
  ];

  test.each([
    ['noise of binary fractions', 'Berth;Fare\nA;0.1\nB;0.2\nC;0.3\nTotal;0.6\n', {}],
    ['rounding to the shown digits', 'Berth;Fare\nA;1.24\nB;1.24\nC;1.24\nTotal;3.7\n', {}],
    ['thousands and millions', 'Berth;Fare\nA;1.2K\nB;0.5M\nTotal;501.2K\n', {}],
    ['rounded thousands', 'Berth;Fare\nA;1.2K\nB;1.2K\nC;1.2K\nTotal;3.7K\n', {}],
    ['percent', 'Berth;Fare\nA;12.5%\nB;87.5%\nTotal;100%\n', {}],
    ['negatives in brackets', 'Berth;Fare\nA;(1,250)\nB;2,000\nTotal;750\n', {}],
    ['decimal commas', 'Berth;Fare\nA;1.250,5\nB;2,25\nTotal;1.252,75\n', { decimal: ',', grouping: '.' }],
    ['a mean', 'Berth;Fare\nA;2\nB;4\nTotal;3\nC;10\nD;20\nTotal;15\n', {}],
    ['a grand total of subtotals', 'Berth;Fare\nA;2\nB;4\nHask total;6\nC;10\nUllin total;10\nTotal;16\n', {}],
  ])('%s', (_, text, number) => {
    const { ledger } = report(text, [types('number', number)]);
    expect(ledger.entries.map((entry) => [entry.state, entry.explanation?.text])).toEqual(
      ledger.entries.map(() => ['agrees', undefined]),
    );
    expect(ledger.agrees).toBeGreaterThan(0);
  });

  test('plain whole numbers are held to the last digit, and rounding is offered as the reason', () => {
    const { ledger } = report('Berth;Fare\nA;3\nB;4\nC;4\nTotal;12\n', [types('whole')]);
    expect(ledger).toMatchObject({ agrees: 0, disagrees: 1 });
  });

  test('a total whose shape has changed is still found: unpivoted, pivoted, grouped', () => {
    const text = 'Berth;Q1;Q2\nA;1;2\nB;3;4\nTotal;4;6\n';
    const columns = { by: 'all-but', names: ['Berth'] };
    const typed: [string, Record<string, unknown>] = [
      'set-types',
      { types: [{ columns: { by: 'names', names: ['Value'] }, type: 'whole' }] },
    ];
    const long: [string, Record<string, unknown>][] = [['unpivot', { columns }], typed];
    expect(report(text, long).ledger).toMatchObject({ agrees: 2, disagrees: 0 });
    const wide: [string, Record<string, unknown>][] = [
      ...long,
      [
        'pivot',
        CATALOGUE.get('pivot')!.params.parse({
          keys: ['Name'],
          names: ['Berth'],
          values: [{ column: 'Value', by: 'sum' }],
        }) as Record<string, unknown>,
      ],
    ];
    const grouped: [string, Record<string, unknown>][] = [
      ...long,
      ['group', { by: { by: 'names', names: ['Name'] }, measures: [{ column: 'Value', by: 'sum', name: 'Sum' }] }],
    ];
    for (const steps of [wide, grouped]) expect(report(text, steps).ledger).toMatchObject({ agrees: 2, disagrees: 0 });
  });
});

describe('law: filled cells are the sum over their fates', () => {
  const quays = ['Hask', 'Ullin', 'Tarve'];
  const reports = fc
    .array(
      fc.array(fc.tuple(fc.constantFrom(...quays), fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 99 })), {
        minLength: 1,
        maxLength: 5,
      }),
      {
        minLength: 1,
        maxLength: 4,
      },
    )
    .map((blocks) => {
      const lines = ['Bookings', 'Quay;Foot;Cars'];
      for (const block of blocks) {
        for (const [quay, foot, cars] of block) lines.push(`${quay};${foot};${cars}`);
        lines.push(
          `Route total;${block.reduce((sum, row) => sum + row[1], 0)};${block.reduce((sum, row) => sum + row[2], 0)}`,
        );
      }
      return `${lines.join('\n')}\n`;
    });
  const names = (...all: string[]) => ({ by: 'names', names: all });
  const STEPS: readonly [string, Record<string, unknown>][] = [
    ['sort', { keys: [{ column: 'Quay', descending: true }] }],
    ['fill', { columns: names('Quay'), direction: 'down' }],
    ['number-rows', {}],
    ['drop-rows', { rules: [{ test: 'equals', column: 'Quay', text: 'Hask' }] }],
    ['remove-duplicates', {}],
    ['clean-text', { columns: names('Quay') }],
    ['expression', { into: 'Both', text: '"Foot" + "Cars"' }],
    ['replace', { columns: names('Quay'), find: 'T', with: 't' }],
  ];
  const ENDS: readonly ([string, Record<string, unknown>] | undefined)[] = [
    undefined,
    ['unpivot', { columns: { by: 'all-but', names: ['Quay'] } }],
    ['group', { by: names('Quay'), measures: [{ column: 'Foot', by: 'sum', name: 'Sum' }] }],
    ['keep-columns', { columns: names('Quay', 'Cars') }],
    ['count', { columns: ['Quay'] }],
  ];

  test('for any report with totals and any method, and nothing is left unaccounted for', () => {
    fc.assert(
      fc.property(
        reports,
        fc.array(fc.constantFrom(...STEPS), { maxLength: 4 }),
        fc.constantFrom(...ENDS),
        (text, chosen, end) => {
          const runner = new Runner();
          runner.setSource('s', { name: 's.csv', bytes: encode(text) });
          const steps: [string, Record<string, unknown>][] = [
            ['read-delimited', { source: 's', delimiter: ';' }],
            ['header-from-rows', { at: { test: 'equals', column: 'A', text: 'Quay' } }],
            ['set-aside', { pile: 'totals', rules: [{ test: 'ends', column: 'Quay', text: 'total' }] }],
            ['set-types', { types: [{ columns: names('Foot', 'Cars'), type: 'whole' }] }],
            ...chosen,
            ...(end === undefined ? [] : [end]),
          ];
          const table: JobTable = {
            id: 't',
            name: 'T',
            steps: steps.map(([kind, params], k) => ({
              id: `s${k}`,
              kind,
              params: (CATALOGUE.get(kind)?.params.safeParse(params).data ?? params) as Record<string, unknown>,
            })),
          };
          const run = runner.runTable([table], 't', quiet);
          expect(run.stop).toBeUndefined();
          const { cells } = tallyOf(run, table);
          const filled = text
            .split('\n')
            .flatMap((line) => line.split(';'))
            .filter((cell) => cell !== '').length;
          expect(cells.filled).toBe(filled);
          expect(cells.fates.reduce((sum, fate) => sum + fate.figures + fate.words, 0)).toBe(filled);
          expect(cells.accounted).toBe(filled);
        },
      ),
      { numRuns: 150 },
    );
  });
});

test('correct totals of a sheet whose columns stand in another order agree, and are not blamed on the other sheet', () => {
  const rows: [string, (string | null)[]][] = [
    ['Hask', ['Sailing', 'Foot', 'Cars', 'Total', null]],
    ['Hask', ['07:10', '5', '1', '6', null]],
    ['Hask', ['07:40', '9', '2', '11', null]],
    ['Hask', ['Total', '14', '3', '17', null]],
    ['Ullin', ['Sailing', 'Note', 'Cars', 'Foot', 'Total']],
    ['Ullin', ['08:10', 'fog', '1', '7', '8']],
    ['Ullin', ['08:40', null, '2', '1', '3']],
    ['Ullin', ['Total', null, '3', '8', '11']],
  ];
  const files = ['Hask', 'Ullin'].map((name) => ({
    name: `${name}.csv`,
    bytes: new TextEncoder().encode(
      rows.flatMap(([of, cells]) => (of === name ? [`${cells.map((cell) => cell ?? '').join(',')}\n`] : [])).join(''),
    ),
  }));
  const runner = new Runner();
  runner.setSource('s', { name: 'all.zip', bytes: bundleFiles(files) });
  const each = { kind: 'read-delimited', params: { source: 's' } };
  const run = runner.run(
    [
      { id: '1', kind: 'read-files', params: { source: 's', each, nameColumn: 'File' } },
      { id: '2', kind: 'header-from-rows', params: { within: 'File' } },
      {
        id: 'types',
        kind: 'set-types',
        params: { types: [{ columns: { by: 'names', names: ['Foot', 'Cars', 'Total'] }, type: 'whole' }] },
      },
      {
        id: '3',
        kind: 'set-aside',
        params: { pile: 'totals', rules: [{ test: 'equals', column: 'Sailing', text: 'Total' }] },
      },
      { id: '4', kind: 'set-aside-columns', params: { pile: 'totals', columns: { by: 'names', names: ['Total'] } } },
    ],
    { progress: () => undefined },
  );
  expect(run.stop).toBeUndefined();
  const { ledger, cells } = tallyOf(run, { id: 'table' });
  expect(ledger).toMatchObject({ agrees: 10, disagrees: 0, cannotTell: 0 });
  expect(cells.accounted).toBe(cells.filled);
});
