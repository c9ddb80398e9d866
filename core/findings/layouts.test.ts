/** What the detectors of single layouts see, and what they leave alone. Reports are invented. */
import { describe, expect, test } from 'vitest';
import { textColumn } from '../index.ts';
import type { Field } from '../table/table.ts';
import { isNumbering } from '../values/numbering.ts';
import { continued } from './continued.ts';
import { ditto } from './ditto.ts';
import type { Detector, DetectorInput } from './finding.ts';
import { flags } from './flags.ts';
import { header } from './header.ts';
import { leaders } from './leaders.ts';
import { masterDetail } from './master-detail.ts';
import { nestedCodes } from './nested-codes.ts';
import { recordCodes } from './record-codes.ts';
import { remarksBelow } from './remarks-below.ts';
import { detectorInput as tableHand } from './test-input.ts';
import { transposed } from './transposed.ts';
import { units } from './units.ts';

type Rows = readonly (readonly (string | null)[])[];

const handOf = (fields: Field[], rows: number): DetectorInput => tableHand({ rows, fields });

/** A table as it is read, its columns named by where they stand; or with names. */
function handFor(rows: Rows, names?: readonly string[]): DetectorInput {
  const width = Math.max(...rows.map((row) => row.length));
  const fields = Array.from(
    { length: width },
    (_, k): Field => ({
      name: names?.[k] ?? String.fromCharCode(65 + k),
      nameOrigin: names === undefined ? 'position' : 'named',
      column: textColumn(rows.map((row) => row[k] ?? null)),
    }),
  );
  return handOf(fields, rows.length);
}

const kindsOf = (detector: Detector, input: DetectorInput) =>
  detector.find(input)[0]?.steps.map(({ kind }) => kind) ?? [];
const paramsOf = (detector: Detector, input: DetectorInput) =>
  detector.find(input)[0]?.steps.map(({ params }) => params) ?? [];

describe('headers', () => {
  test('a row of days or of numbers that count up names columns; a row of times does not', () => {
    const body = (cells: readonly string[]) => [
      ['Hask', ...cells],
      ['Ullin', ...cells],
      ['Tarve', ...cells],
    ];
    const counting = handFor([['Quay', '1', '2', '3', '4'], ...body(['7', '90', '3', '12'])]);
    expect(header.find(counting)[0]!.steps.at(-1)).toMatchObject({
      kind: 'header-from-rows',
      params: { rows: 1, at: null },
    });
    const times = handFor([['Quay', 'S1', 'S2', 'S3', 'S4'], ...body(['07:10', '08:10', '09:10', '10:10'])]);
    expect(header.find(times)[0]!.gives).toBe('header in 1 row from row 1');
  });

  test('the first label stands above the header, the others between the rows', () => {
    const rows = [['North'], ['Quay', 'Foot'], ['Hask', '5'], ['Ullin', '6'], ['South'], ['Tarve', '4']];
    const found = header.find(handFor(rows)).find(({ gives }) => gives?.endsWith('under the first label'));
    expect(found?.steps.map(({ kind }) => kind)).toEqual(['carry', 'header-from-rows']);
    // Under a header that has a label right below it, what stands above is a title.
    const titled = [['Returns'], ['Quay', 'Foot'], ['North'], ['Hask', '5'], ['South'], ['Tarve', '4']];
    expect(header.find(handFor(titled)).some(({ gives }) => gives?.endsWith('under the first label'))).toBe(false);
  });
});

describe('labels', () => {
  test('a label that goes on over the page says so behind itself', () => {
    const fields = (texts: string[]): Field[] => [
      { name: 'Group', nameOrigin: 'beside', column: textColumn(texts) },
      { name: 'Foot', nameOrigin: 'named', column: textColumn(texts.map((_, k) => String(k))) },
    ];
    const again = ['North', 'North', 'North (continued)', 'South'];
    expect(paramsOf(continued, handOf(fields(again), 4))).toMatchObject([
      { find: ' (continued)', with: '', how: 'part' },
    ]);
    // Two places, and not one that goes on.
    expect(continued.find(handOf(fields(['Hask', 'Hask (north)', 'Hask (south)']), 3))).toEqual([]);
  });

  test('ditto marks are filled down; inches are no ditto marks', () => {
    const names = ['Region', 'Foot'];
    const input = handFor(
      [
        ['North', '5'],
        ['"', '6'],
        ['South', '4'],
        ['"', '2'],
      ],
      names,
    );
    expect(kindsOf(ditto, input)).toEqual(['blank-texts', 'fill']);
    expect(
      ditto.find(
        handFor(
          [
            ['"', '5'],
            ['North', '6'],
          ],
          names,
        ),
      ),
    ).toEqual([]);
    expect(
      ditto.find(
        handFor(
          [
            ['7"', '5'],
            ['9"', '6'],
          ],
          names,
        ),
      ),
    ).toEqual([]);
  });
});

describe('rows that belong together', () => {
  const names = ['No', 'Quay', 'Foot'];
  const records = [
    ['1', 'Hask', '5'],
    [null, 'gate was shut'],
    ['2', 'Ullin', '6'],
    ['3', 'Tarve', '4'],
    [null, 'fog'],
  ];

  test('a remark below joins the record above it', () => {
    const [fold, name] = remarksBelow.find(handFor(records, names))[0]!.steps;
    expect(fold).toMatchObject({ kind: 'fold-rows', params: { first: { columns: { names: ['No'] } } } });
    expect(name).toMatchObject({ kind: 'rename', params: { names: [{ from: 'Quay of line 2', to: 'Remark' }] } });
  });

  test('what stands above the first record is a label and no remark', () => {
    expect(remarksBelow.find(handFor([[null, 'North'], ...records], names))).toEqual([]);
  });

  test('orders with items below them, under two headers', () => {
    const rows = [
      ['Order', 'Day', 'Quay'],
      [null, 'Item', 'Count', 'Dues'],
      ['7', '2031-05-01', 'Hask'],
      [null, 'Rope', '2', '3.5'],
      [null, 'Salt', '9', '1.5'],
      ['8', '2031-05-02', 'Ullin'],
      [null, 'Peat', '4', '2.5'],
    ];
    expect(paramsOf(masterDetail, handFor(rows))[0]).toMatchObject({
      from: 'A',
      into: 'Order',
      also: [
        { from: 'B', into: 'Day' },
        { from: 'C', into: 'Quay' },
      ],
    });
    // One line below each record is a record of two rows.
    expect(masterDetail.find(handFor(rows.filter((_, r) => r !== 4)))).toEqual([]);
  });

  test('heads, details and trailers by a code in front', () => {
    const block = (area: string, ...quays: string[]) => [
      ['H', area, '2031-05-01', '9'],
      ...quays.map((quay) => ['D', quay, '5']),
      ['T', String(quays.length)],
    ];
    const rows = [...block('North', 'Hask', 'Ullin', 'Rona'), ...block('South', 'Tarve', 'Varra')];
    expect(kindsOf(recordCodes, handFor(rows))).toEqual(['carry', 'set-aside', 'drop-columns']);
    expect(
      recordCodes.find(
        handFor([
          ['Hask', '5'],
          ['Hask', '6'],
          ['Ullin', '7'],
          ['Hask', '5'],
          ['Hask', '6'],
          ['Ullin', '7'],
        ]),
      ),
    ).toEqual([]);
  });

  test('numbered groups are labels of the rows that go on them, proven by their sums', () => {
    const rows = [
      ['1', 'North', '11'],
      ['1.1', 'Hask', '5'],
      ['1.2', 'Ullin', '6'],
      ['2', 'South', '4'],
      ['2.1', 'Tarve', '4'],
    ];
    const [found] = nestedCodes.find(handFor(rows, ['Code', 'Quay', 'Foot']));
    expect(found).toMatchObject({ explained: { fit: 2, of: 2 } });
    expect(found).not.toHaveProperty('doubt');
    // A group that nothing goes on would be lost as a label.
    expect(nestedCodes.find(handFor([...rows, ['3', 'West', '9']], ['Code', 'Quay', 'Foot']))).toEqual([]);
  });
});

describe('cells', () => {
  test('one unit behind all figures goes into the name; codes and two units stay', () => {
    const of = (...cells: string[]) =>
      handFor(
        cells.map((cell, k) => [`Q${k}`, cell]),
        ['Quay', 'Load'],
      );
    expect(paramsOf(units, of('12 kg', '7 kg', '9 kg'))).toMatchObject([
      { find: '(?<=\\d)\\s?kg\\s*$', with: '' },
      { names: [{ from: 'Load', to: 'Load (kg)' }] },
    ]);
    for (const cells of [
      ['12A', '13A', '14A'],
      ['12 kg', '7 t', '9 kg'],
      ['012 kg', '007 kg', '009 kg'],
      ['fog', 'rain', 'sun'],
    ])
      expect(units.find(of(...cells)), cells.join()).toEqual([]);
  });

  test('dots that lead to the next column go; a text that breaks off keeps its own', () => {
    const of = (...cells: string[]) =>
      handFor(
        cells.map((cell) => [cell, '1']),
        ['Quay', 'Foot'],
      );
    expect(kindsOf(leaders, of('Hask .....', 'Ullin ....', 'Tarve ......'))).toEqual(['replace']);
    expect(leaders.find(of('Hask', 'Ullin', 'Tarve', 'and so on...', 'Rona'))).toEqual([]);
  });

  test('letters behind the figures of each year are their flags', () => {
    const rows = [
      ['Hask', '5', 'e', '6', null],
      ['Ullin', '7', null, '8', 'p'],
    ];
    expect(kindsOf(flags, handFor(rows, ['Quay', '2030', 'C', '2031', 'E']))).toEqual(['rename', 'unpivot']);
    expect(flags.find(handFor(rows, ['Quay', '2030', 'State', '2031', 'Note']))).toEqual([]);
  });

  test('numbering counts up and begins again; amounts do not', () => {
    expect(isNumbering(['1', '1.1', '1.2', '2', '2.1'])).toBe(true);
    expect(isNumbering(['1.1', '1.2', '1.3', '2.1', '2.2'])).toBe(true);
    for (const texts of [
      ['1.5', '1.6', '2.7'],
      ['1', '2', '3'],
      ['1.1', '1.3', '2.1'],
      ['a', 'b'],
    ])
      expect(isNumbering(texts), texts.join()).toBe(false);
  });
});

test('columns that are records are turned, without the units and sums beside them', () => {
  const rows = [
    ['Quay', 'Unit', 'Hask', 'Ullin', 'Tarve', 'All'],
    ['Code', null, 'H-1', 'U-1', 'T-1', null],
    ['Region', null, 'North', 'North', 'South', null],
    ['Foot', 'count', '5', '6', '4', '15'],
    ['Load', 't', '2', '1', '7', '10'],
  ];
  const [found] = transposed.find(handFor(rows));
  expect(found?.steps.map(({ kind, params }) => [kind, params['pile'] ?? ''])).toEqual([
    ['set-aside-columns', 'units'],
    ['set-aside-columns', 'totals'],
    ['transpose', ''],
    ['drop-columns', ''],
  ]);
  expect(found?.explained).toEqual({ fit: 2, of: 2 });
});
