/** Accounts, changes between periods, names that are no places, and lines of pairs. Reports are invented. */
import { utils, write } from '@e965/xlsx';
import { describe, expect, test } from 'vitest';
import { CATALOGUE, draftsOf, textColumn } from '../index.ts';
import { patternsFor } from '../steps/cells/type-patterns.ts';
import { lineNames } from '../steps/fill/lines-to-columns.ts';
import { type Field, unnamedAmong } from '../table/table.ts';
import { cellsOf, quiet } from '../test-support.ts';
import { changeColumns } from './change-columns.ts';
import { header } from './header.ts';
import { headersAsValues } from './headers-as-values.ts';
import { labelWords } from './label-words.ts';
import { runningBalance } from './running-balance.ts';
import { detectorInput } from './test-input.ts';
import { twoInOne } from './two-in-one.ts';

type Rows = readonly (readonly (string | null)[])[];

function handFor(rows: Rows, names: readonly string[], nameOrigin: Field['nameOrigin'] = 'named') {
  const fields = names.map(
    (name, k): Field => ({ name, nameOrigin, column: textColumn(rows.map((row) => row[k] ?? null)) }),
  );
  return detectorInput({ rows: rows.length, fields });
}

/** Rows that the first step of a finding sets aside. */
function asideOf(input: ReturnType<typeof handFor>, steps: readonly { kind: string; params: object }[] | undefined) {
  const [step] = steps ?? [];
  if (step === undefined) return undefined;
  const kind = CATALOGUE.get(step.kind)!;
  const { aside } = kind.run(input.profile.table, kind.params.parse(step.params) as never, quiet);
  return aside.map(({ mark, rows }) => ({ mark, rows: [...rows] }));
}

describe('a running balance', () => {
  const account = [
    [null, 'Opening balance', null, null, '100'],
    ['2031-05-01', 'Peat', '30', null, '70'],
    ['2031-05-02', 'Dues', null, '55', '125'],
    ['2031-05-03', 'Wool', '25', null, '100'],
    ['2031-05-04', 'Timber', '10', null, '90'],
    ['2031-05-06', 'Dues', null, '5', '95'],
    [null, 'Closing balance', null, null, '95'],
  ];
  const names = ['Day', 'Text', 'Debit', 'Credit', 'Balance'];

  test('is said once more by rows without a movement', () => {
    const input = handFor(account, names);
    expect(asideOf(input, runningBalance.find(input)[0]?.steps)).toEqual([{ mark: 'repeat', rows: [0, 6] }]);
  });

  test('a row that says another balance stays', () => {
    const other = account.with(6, [null, 'Deposit of the harbour', null, null, '4000']);
    expect(runningBalance.find(handFor(other, names))).toEqual([]);
  });
});

describe('changes between periods', () => {
  // 150 / 120 = 1.25, 90 / 100 = 0.9, 330 / 300 = 1.1.
  const rows = [
    ['Hask', '120', '150', '25.0'],
    ['Ullin', '100', '90', '-10.0'],
    ['Tarve', '300', '330', '10.0'],
  ];

  test('are columns that follow from two periods', () => {
    const input = handFor(rows, ['Quay', '2030', '2031', 'Change %']);
    expect(changeColumns.find(input)[0]?.steps[0]?.params).toMatchObject({ columns: { names: ['Change %'] } });
  });

  test('the difference of two measures is a measure', () => {
    expect(changeColumns.find(handFor(rows, ['Quay', 'Plan', 'Actual', 'Difference']))).toEqual([]);
  });
});

test.each<[string[], boolean[]]>([
  [
    ['Article', 'B', 'C', 'D'],
    [false, true, true, true],
  ],
  // Sizes go otherwise than places do.
  [
    ['Article', 'S', 'M', 'L'],
    [false, false, false, false],
  ],
  // Columns to the left were dropped.
  [
    ['Quay', 'D', 'F'],
    [false, true, true],
  ],
])('which of %j only say a place', (names, unnamed) => {
  expect(unnamedAmong(names)).toEqual(unnamed);
});

describe('headers', () => {
  const rows = [
    [null, 'Foot', null, 'Cars', null],
    ['Quay', 'May', 'June', 'May', 'June'],
    ['Hask', '5', '6', '7', '8'],
    ['Ullin', '4', '3', '2', '1'],
  ];
  const weightOf = (own: Rows, gives: string) =>
    header.find(handFor(own, ['A', 'B', 'C', 'D', 'E'], 'position')).find((one) => one.gives === gives)?.weight ?? -9;

  test('names that stand twice need the tier above that tells them apart', () => {
    expect(weightOf(rows, 'header in 2 rows from row 1')).toBeGreaterThan(weightOf(rows, 'header in 1 row from row 2'));
  });

  test('the first of several labels is no tier of the names above it', () => {
    const labelled = [rows[0]!, rows[1]!, ['North'], ...rows.slice(2), ['South'], ...rows.slice(2)];
    expect(weightOf(labelled, 'header in 2 rows from row 1')).toBeGreaterThan(
      weightOf(labelled, 'header in 3 rows from row 1'),
    );
  });

  test('a row that names the columns stands above lines and labels', () => {
    const lined = [['Quay', 'Foot', 'Cars'], ['-'.repeat(64)], ['1 North'], ['Hask', '5', '7'], ['Ullin', '4', '2']];
    const [best] = header.find(handFor(lined, ['A', 'B', 'C'], 'position')).toSorted((a, b) => b.weight - a.weight);
    expect(best!.gives).toBe('header in 1 row from row 1');
  });
});

describe('labels', () => {
  const labelled = (texts: string[]) =>
    detectorInput({
      rows: texts.length,
      fields: [
        { name: 'Group', nameOrigin: 'beside', column: textColumn(texts) },
        { name: 'Foot', nameOrigin: 'named', column: textColumn(texts.map((_, r) => String(r))) },
      ],
    });

  test('between signs lose the signs, and are parted from a number in front', () => {
    expect(labelWords.find(labelled(['*** Hask ***', '*** Ullin ***']))[0]?.steps[0]).toMatchObject({
      kind: 'replace',
      params: { with: '$1' },
    });
    expect(labelWords.find(labelled(['2.3 Quay walls', '2.4 Cranes']))).toMatchObject([
      { steps: [{ kind: 'split-to-columns' }], doubt: { code: 'two-in-one' } },
    ]);
    expect(labelWords.find(labelled(['2030 Season', '2031 Season']))).toEqual([]);
  });
});

test('names and values one behind the other on a line, that come again with other values', () => {
  const block = (note: string, day: string, name: string) => [
    ['Note', note, 'Date', day],
    ['Customer', name],
    ['Item', 'Amount', 'Price', 'Sum'],
    ['Peat', '4', '2.50', '10.00'],
    ['Wool', '1', '7.25', '7.25'],
    ['Total', '17.25'],
    [],
  ];
  const rows = [...block('4100', '2031-05-01', 'Ada Merk'), ...block('4101', '2031-05-02', 'Bo Lunn')];
  const { table } = handFor(rows, ['A', 'B', 'C', 'D'], 'position').profile;
  expect(lineNames(table)).toEqual(['Note', 'Date', 'Customer']);
  const kind = CATALOGUE.get('lines-to-columns')!;
  const after = kind.run(table, kind.params.parse({ names: ['Note', 'Date', 'Customer'] }) as never, quiet).table;
  expect(cellsOf(after)[1]).toEqual(['4100', '2031-05-01', 'Ada Merk', 'Peat', '4', '2.50', '10.00']);
});

test('as many figures in each text are as many columns, each with its sign', () => {
  const points = ['-4.01; 56.47', '-4.56; 56.7', '5.39; -56.9', '-4.72; 59.83', '1.5; 2.25'];
  const [finding] = twoInOne.find(
    handFor(
      points.map((text) => [text]),
      ['Place'],
    ),
  );
  const kind = CATALOGUE.get('split-to-columns')!;
  const params = kind.params.parse(finding!.steps[0]!.params) as never;
  const { table } = kind.run(
    handFor(
      points.map((text) => [text]),
      ['Place'],
    ).profile.table,
    params,
    quiet,
  );
  expect(cellsOf(table)).toEqual(points.map((text) => text.split('; ')));
});

// The forms are those of the standards that are named; the values are invented.
test.each([
  ['common log format', '02/Jun/2031:17:26:39 +0000'],
  ['asctime of ISO C', 'Mon Jun  2 17:26:39 2031'],
  ['RFC 9110', 'Mon, 02 Jun 2031 17:26:39 GMT'],
  ['RFC 5322', 'Mon, 02 Jun 2031 17:26:39 +0000'],
])('times of the %s are read', (_, text) => {
  expect(patternsFor([text, text])?.type).toBe('datetime');
});

describe('means', () => {
  test('beside and below are worked out from the marks, and prove that these are of one kind', () => {
    const lines = [
      'Trainee,Ropes,Engines,Safety,Average',
      'Merk,71,80,92,81.0',
      'Lunn,64,58,77,66.3',
      'Rost,90,88,95,91.0',
      'Vance,55,61,70,62.0',
      'Mean,70.0,71.8,83.5,',
    ];
    const source = { name: 'marks.csv', bytes: new TextEncoder().encode(lines.join('\n')) };
    const [draft] = draftsOf('s', source, { progress: () => undefined }, { most: 1 });
    expect(draft!.totals).toEqual({ agree: 7, of: 7 });
    expect(cellsOf(draft!.run.steps.at(-1)!.table).slice(0, 3)).toEqual([
      ['Merk', 'Ropes', '71'],
      ['Merk', 'Engines', '80'],
      ['Merk', 'Safety', '92'],
    ]);
  });
});

describe('answers to questions', () => {
  const answers = ['4', '3', '5', '2', '1', '5'].map((first, k) => [`R${k}`, first, '5', String((k % 5) + 1)]);

  test('on one scale go down, under names that ask', () => {
    const names = ['Sheet', 'Clean? / Q1', 'On time? / Q2', 'Friendly? / Q3'];
    const [down] = headersAsValues.find(handFor(answers, names));
    expect(down!.steps[0]!.params).toMatchObject({
      split: ' / ',
      parts: [
        { as: 'column', name: 'Question' },
        { as: 'column', name: 'Part' },
      ],
    });
  });

  test('counts under names of what is counted stay', () => {
    const kinds = headersAsValues
      .find(handFor(answers, ['Sheet', 'Lorries', 'Bicycles', 'Dogs']))
      .map(({ gives }) => gives);
    expect(kinds.some((gives) => gives?.includes('questions'))).toBe(false);
  });
});

test('figures that are written as text beside stored numbers have their own decimal mark', () => {
  const rows = [
    ['Quay', 'Length', 'Boats'],
    ['Hask', '97,89', 4],
    ['Ullin', '449,13', 2.5],
    ['Tarve', '11,65', 7],
  ];
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet(rows), 'Quays');
  const bytes = new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
  const [draft] = draftsOf('s', { name: 'quays.xlsx', bytes }, { progress: () => undefined }, { most: 1 });
  expect(cellsOf(draft!.run.steps.at(-1)!.table)).toEqual([
    ['Hask', '97.89', '4'],
    ['Ullin', '449.13', '2.5'],
    ['Tarve', '11.65', '7'],
  ]);
});

test('a code in front of a name is cut off at the first sign, though the name holds it too', () => {
  const rows = [['00230 – Hask'], ['00243 – Ullin – North'], ['00256 – Ullin – South']];
  const input = handFor(rows, ['Quay']);
  const kind = CATALOGUE.get('split-to-columns')!;
  const { table } = kind.run(
    input.profile.table,
    kind.params.parse(twoInOne.find(input)[0]!.steps[0]!.params) as never,
    quiet,
  );
  expect(cellsOf(table)).toEqual([
    ['00230', 'Hask'],
    ['00243', 'Ullin – North'],
    ['00256', 'Ullin – South'],
  ]);
});
