/** Rows and columns calculated from others, measures without a name, currencies, and lines without a header. Reports are invented. */
import { describe, expect, test } from 'vitest';
import { CATALOGUE, draftsOf, openSource, textColumn } from '../index.ts';
import { listPaths } from '../read/nested-rows.ts';
import type { Field } from '../table/table.ts';
import { quiet } from '../test-support.ts';
import { countColumns } from './count-columns.ts';
import { derivedRows } from './derived-rows.ts';
import type { Detector } from './finding.ts';
import { header } from './header.ts';
import { labels } from './labels.ts';
import { measureNames } from './measure-names.ts';
import { nestedCodes } from './nested-codes.ts';
import { detectorInput } from './test-input.ts';
import { twoInOne } from './two-in-one.ts';

type Rows = readonly (readonly (string | null)[])[];

function handFor(rows: Rows, names: readonly string[], nameOrigin: Field['nameOrigin'] = 'named') {
  const fields = names.map(
    (name, k): Field => ({ name, nameOrigin, column: textColumn(rows.map((row) => row[k] ?? null)) }),
  );
  return detectorInput({ rows: rows.length, fields });
}

const stepsOf = (detector: Detector, input: ReturnType<typeof handFor>) => detector.find(input)[0]?.steps ?? [];

/** Rows that each step sets aside, by the name of its pile. */
function asideOf(input: ReturnType<typeof handFor>, detector: Detector) {
  return stepsOf(detector, input).map((step) => {
    const kind = CATALOGUE.get(step.kind)!;
    const { aside } = kind.run(input.profile.table, kind.params.parse(step.params) as never, quiet);
    return aside.map(({ name, rows }) => [name, ...rows]);
  });
}

describe('rows calculated from totals', () => {
  // 700 - 450 = 250 and 610 - 480 = 130; 250 - 40 = 210 and 130 - 45 = 85.
  const statement = [
    ['Fares', '500', '430'],
    ['Freight', '200', '180'],
    ['Total revenue', '700', '610'],
    ['Crew', '300', '310'],
    ['Fuel', '150', '170'],
    ['Total costs', '450', '480'],
    ['Operating result', '250', '130'],
    ['Interest', '25', '35'],
    ['Charges', '15', '10'],
    ['Total finance', '40', '45'],
    ['Result before tax', '210', '85'],
  ];

  test('one sum less another, and what is left of that', () => {
    expect(asideOf(handFor(statement, ['Line', '2031', '2030']), derivedRows)).toEqual([[['results', 6, 10]]]);
  });

  test('a row that misses by one in a column is a row like the others', () => {
    const off = statement.with(6, ['Operating result', '250', '131']).slice(0, 7);
    expect(derivedRows.find(handFor(off, ['Line', '2031', '2030']))).toEqual([]);
  });

  test('shares of the total above, rounded', () => {
    const rows = [
      ['Hask', '30', '20', '50'],
      ['Ullin', '10', '40', '50'],
      ['Tarve', '20', '60', '80'],
      ['Total', '60', '120', '180'],
      ['Percent', '33.3', '66.7', '100'],
    ];
    expect(asideOf(handFor(rows, ['Quay', 'Open', 'Late', 'All']), derivedRows)).toEqual([[['shares', 4]]]);
    const other = rows.with(4, ['Brannoch', '34', '66', '100']);
    expect(derivedRows.find(handFor(other, ['Quay', 'Open', 'Late', 'All']))).toEqual([]);
  });
});

describe('columns that count codes', () => {
  const rows = [
    ['Ada', 'P', 'A', 'P', 'L', '2', '1'],
    ['Bo', 'P', 'P', 'P', 'P', '4', '0'],
    ['Cai', 'A', 'A', 'L', 'P', '1', '2'],
  ];
  const names = ['Name', 'D1', 'D2', 'D3', 'D4', 'Present', 'Away'];

  test('are set aside where every row agrees', () => {
    expect(stepsOf(countColumns, handFor(rows, names))).toMatchObject([
      { kind: 'set-aside-columns', params: { columns: { by: 'names', names: ['Present', 'Away'] }, pile: 'counts' } },
    ]);
  });

  test('stay where one row does not', () => {
    const off = rows.with(1, ['Bo', 'P', 'P', 'P', 'P', '3', '1']);
    expect(countColumns.find(handFor(off, names))).toEqual([]);
  });
});

describe('names of measures', () => {
  const rows = ['Hask', 'Ullin', 'Tarve'].flatMap((port) => [
    [port, 'Foot', '120'],
    [port, 'Cars', '35'],
  ]);

  test('without their own name, behind a named key, become columns', () => {
    const input = handFor(rows, ['Port', 'B', 'Value']);
    const fields = input.profile.table.fields.map((field, k) =>
      k === 1 ? { ...field, nameOrigin: 'position' as const } : field,
    );
    const found = measureNames.find(detectorInput({ rows: rows.length, fields }));
    expect(found[0]).toMatchObject({ weight: 1.5, steps: [{ kind: 'pivot', params: { names: ['B'] } }] });
  });

  test('the corner of a cross table stays', () => {
    const fields = handFor(rows, ['Port', 'B', 'Value']).profile.table.fields;
    const corner = [{ ...fields[1]!, name: 'A', nameOrigin: 'position' as const }, fields[0]!, fields[2]!];
    const found = measureNames.find(detectorInput({ rows: rows.length, fields: corner }));
    expect(found.every(({ weight }) => weight < 1.5)).toBe(true);
  });

  test('units beside them are kept in the names', () => {
    const units = rows.map(([port, name, value]) => [port!, name!, name === 'Foot' ? 'kg' : 'm', value!]);
    const found = measureNames.find(handFor(units, ['Port', 'Measure', 'Unit', 'Value']));
    expect(found[0]!.steps[0]).toMatchObject({ kind: 'pivot', params: { names: ['Measure', 'Unit'] } });
  });
});

test('amounts in several currencies (ISO 4217) fall into code and amount; one currency is none of it', () => {
  const of = (texts: string[]) =>
    handFor(
      texts.map((text, k) => [`SK${k}`, text]),
      ['Ref', 'Fare'],
    );
  expect(stepsOf(twoInOne, of(['EUR 1,200.50', 'GBP 3.10', 'NOK 44.00']))).toMatchObject([
    { kind: 'split-to-columns', params: { column: 'Fare', into: ['Currency', 'Fare'] } },
  ]);
  expect(twoInOne.find(of(['EUR 1,200.50', 'EUR 3.10', 'EUR 44.00']))).toEqual([]);
});

test('labels that go on over a page are no further level', () => {
  const rows = [
    ['North', null],
    ['Hask', '5'],
    ['North (continued)', null],
    ['South', null],
    ['Tarve', '4'],
  ];
  const [step] = stepsOf(labels, handFor(rows, ['Quay', 'Foot']));
  expect(step).toMatchObject({ kind: 'carry', params: { into: 'Group' } });
  expect(step!.params).not.toHaveProperty('outer');
});

test('a label that begins like the one above it is its own level', () => {
  const rows = [
    ['North', null],
    ['North East', null],
    ['Hask', '5'],
    ['North West', null],
    ['Ullin', '7'],
  ];
  const [step] = stepsOf(labels, handFor(rows, ['Quay', 'Foot']));
  expect(step).toMatchObject({ kind: 'carry', params: { into: 'Group', outer: ['Section'] } });
});

test('sums below numbered groups do not hide the numbering', () => {
  const rows = [
    ['1', 'Earthworks', null],
    ['1.1', 'Dig', '30'],
    ['1.2', 'Fill', '12'],
    [null, 'Total earthworks', '42'],
    ['2', 'Concrete', null],
    ['2.1', 'Pour', '8'],
    ['2.2', 'Cure', '7'],
    [null, 'Total concrete', '15'],
  ];
  expect(stepsOf(nestedCodes, handFor(rows, ['Item', 'Text', 'Amount']))).toMatchObject([
    { kind: 'carry', params: { from: 'Text', into: 'Group' } },
  ]);
});

describe('a report without a header', () => {
  const lines = [
    ['Harbour log', null, null],
    ['07:10', 'Orca', '12'],
    ['08:15', 'Hild', '40'],
    ['09:20', 'Gannet', '7'],
    ['11:05', 'Orca', '31'],
  ];

  test('begins with data of the same kinds as all rows', () => {
    expect(header.find(handFor(lines, ['A', 'B', 'C'], 'position')).some(({ gives }) => gives === 'no header')).toBe(
      true,
    );
  });

  test('names over numbers are a header', () => {
    const named = lines.with(0, ['Time', 'Ship', 'Foot']);
    expect(header.find(handFor(named, ['A', 'B', 'C'], 'position')).some(({ gives }) => gives === 'no header')).toBe(
      false,
    );
  });
});

test('lists of a date and a value inside of objects are rows; lists of places are not', () => {
  const series = {
    series: [
      {
        name: 'Hask',
        points: [
          ['2031-01', 5],
          ['2031-02', 6],
        ],
      },
    ],
  };
  expect(listPaths(series)[0]!.path).toBe('$.series[*].points[*]');
  const shapes = {
    features: [
      {
        name: 'Sound',
        line: [
          [1.5, 2],
          [3, 4],
        ],
      },
    ],
  };
  expect(listPaths(shapes)[0]!.path).toBe('$.features[*]');
});

test('numbers of accounts in front of words are not added to the total of a row', async () => {
  const text = [
    'Account,Customer,Current,Late,Old,Total',
    '4711,Ada Merk,10.50,20.25,5.00,35.75',
    '3902,Bo Lunn,7.00,1.25,2.50,10.75',
    '1288,Cai Rost,3.10,4.20,5.30,12.60',
    '9034,Dee Vance,6.00,8.00,1.00,15.00',
  ].join('\n');
  const source = { name: 'debts.csv', bytes: new TextEncoder().encode(`${text}\n`) };
  await openSource(source.bytes, source.name);
  const [first] = draftsOf('s', source, quiet);
  expect(first!.totals).toEqual({ agree: 4, of: 4 });
});
