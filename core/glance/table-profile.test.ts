import { describe, expect, test } from 'vitest';
import { countedColumn, makeTable, textColumn } from '../index.ts';
import { received } from '../test-support.ts';
import { meansMissing, saysNote, saysSum, saysTotal, totalWordIn } from './hint-words.ts';
import { columnOfKinds, nameKinds } from './period-names.ts';
import { CellKind, decimalOf, isYear, MARK, profileTable, textAt } from './table-profile.ts';

describe('what a cell holds', () => {
  test('texts as a reader takes them, in the form of their table', () => {
    const table = makeTable({
      A: textColumn([
        '1.234,5',
        '6919*',
        '(12,40)',
        '12,40-',
        '0017',
        '-',
        '2031-06-02',
        '17 janvier 2020',
        '-----',
        'Hask',
        null,
      ]),
      B: textColumn(['2,5', '3,5', '4,5', '5,5', '6,5', '7,5', '8,5', '9,5', '1,5', '2,5', '3,5']),
    });
    const profile = profileTable(table);
    expect(profile.decimal).toBe(',');
    const kinds = Object.entries(CellKind);
    expect([...profile.columns[0]!.kinds].map((kind) => kinds.find(([, one]) => one === kind)![0])).toEqual([
      'figure',
      'figure',
      'figure',
      'figure',
      'text',
      'missing',
      'date',
      'date',
      'rule',
      'text',
      'blank',
    ]);
    expect([...profile.columns[0]!.values.slice(0, 4)]).toEqual([1234.5, 6919, -12.4, -12.4]);
    expect(textAt(profile.columns[0]!, 9)).toBe('Hask');
    expect([profile.filled[8], profile.figures[0]]).toEqual([1, 2]);
  });

  test('numbers and dates as they were received need no text', () => {
    const table = makeTable({ A: received([3, 'Hask', null, 4.5]), B: countedColumn('date', [0, null, 2, 3]) });
    const [a, b] = profileTable(table).columns;
    expect([...a!.kinds]).toEqual([CellKind.figure, CellKind.text, CellKind.blank, CellKind.figure]);
    expect([...b!.kinds]).toEqual([CellKind.date, CellKind.blank, CellKind.date, CellKind.date]);
    expect(a!.counts).toEqual([1, 2, 1, 0, 0, 0]);
  });

  test('the decimal mark is proven by figures that only one can write', () => {
    const of = (...texts: string[]) => decimalOf(makeTable({ A: textColumn(texts) })).decimal;
    // In a file divided by commas a point with three digits after it is a decimal mark.
    expect(decimalOf(makeTable({ A: textColumn(['23.110', '4.250']) }), '.')).toEqual({ decimal: '.', isKnown: true });
    expect(decimalOf(makeTable({ A: textColumn(['23.110', '4,25']) }), '.')).toEqual({ decimal: ',', isKnown: false });
    expect(of('1.234', '5.678', '9,5')).toBe(',');
    expect(of('1,234', '5,678', '9.5')).toBe('.');
    expect(of('1.234.567')).toBe(',');
    expect(of('12')).toBe('.');
    expect([isYear(2031), isYear(12), isYear(2031.5)]).toEqual([true, false, false]);
    expect(['41 r', '7 (p)', '12†', '5 kg'].map((text) => MARK.exec(text)?.[0].trim())).toEqual([
      'r',
      '(p)',
      '†',
      undefined,
    ]);
  });
});

describe('words are hints', () => {
  // Words of reports in several languages; common practice.
  test.each([
    'Total',
    'Route total',
    'Summe Nord',
    'Sous-total Est',
    'Suma total',
    'Grand total:',
    'GESAMT',
    'Übertrag',
  ])('%s says a total', (text) => expect(saysTotal(text)).toBe(true));
  test.each(['Totally green', 'Public transport', 'Hask', 'mittel', 'Annual report'])('%s says none', (text) =>
    expect(saysTotal(text)).toBe(false),
  );
  test('sums, notes and missing values', () => {
    expect([saysSum('Total'), saysSum('Average')]).toEqual([true, false]);
    expect(totalWordIn('Summe Nord')).toBe('Summe');
    expect([saysNote('Source: returns'), saysNote('* provisional'), saysNote('Hask')]).toEqual([true, true, false]);
    expect(['-', 'n/a', '..', 'k. A.', 's/d', 'Hask'].map(meansMissing)).toEqual([true, true, true, true, true, false]);
  });
});

describe('names that are values', () => {
  // Forms of periods: ISO 8601 for weeks and dates; the others common practice.
  test.each([
    [['2029', '2030', 'FY 2031', '2031/32'], 'year', 'Year'],
    [['January', 'February', 'May 2031'], 'month', 'Month'],
    [['septembre', 'octobre'], 'month', 'Month'],
    [['Q1', '2. Quartal', '3.er trimestre', '2030-Q4', 'T2 2031'], 'quarter', 'Quarter'],
    [['H1 2030', '2. Halbjahr', '1er semestre'], 'half', 'Half-year'],
    [['KW 12', 'Week 3', '2031-W05', 'Semaine 7'], 'week', 'Week'],
    [['2031-06-02', '02.06.2031'], 'date', 'Date'],
    [['Monday', 'Dienstag'], 'day', 'Day'],
    [['0-4', '5 to 14', '65+', 'under 18'], 'class', 'Class'],
  ] as const)('%j', (names, kind, column) => {
    expect(nameKinds(names)).toEqual(names.map(() => kind));
    expect(columnOfKinds(nameKinds(names))).toBe(column);
  });
  test('names of what is measured are none', () => {
    expect(nameKinds(['Foot', 'Vehicles', 'Gross kg', 'Fare'])).toEqual([undefined, undefined, undefined, undefined]);
    expect(columnOfKinds(['year', 'quarter'])).toBe('Period');
  });
});
