/** Texts become numbers only where each number gives back the text that it came from. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { doubtText } from '../findings/doubt.ts';
import type { DetectorInput } from '../findings/finding.ts';
import { detectorInput } from '../findings/test-input.ts';
import { types } from '../findings/types.ts';
import { CellKind, profileTable } from '../glance/table-profile.ts';
import { makeTable, textColumn } from '../index.ts';
import { numberReading } from './number-column.ts';
import { numberText, readNumber } from './number-text.ts';

/** Digits as a decimal writes them in one way: no grouping, no zeros at either end, no sign of zero. */
function plain(text: string, decimal: '.' | ','): string {
  const other = decimal === '.' ? ',' : '.';
  const [whole = '', fraction = ''] = text.replaceAll(other, '').split(decimal);
  const digits = `${whole.replace(/^(-?)0+(?=\d)/, '$1')}.${fraction}`.replace(/\.?0*$/, '');
  return digits === '-0' ? '0' : digits;
}

const DIGITS = fc.stringMatching(
  /^-?\d{1,9}(?:\.\d{1,9})?$|^\d{15,20}$|^0\d{1,4}$|^\d{1,3}(?:,\d{3}){1,2}$|^\d{1,2}E\d{1,2}$/,
);

test('whatever is typed gives back its text, up to grouping and zeros at the end', () => {
  fc.assert(
    fc.property(fc.array(DIGITS, { minLength: 1, maxLength: 5 }), (texts) => {
      const { type, number } = numberReading(texts, '.');
      if (type === undefined) return;
      for (const text of texts) {
        const { value } = readNumber(text, number);
        // Programs write 17 digits so that a reader gets the very double.
        expect([numberText(value), value.toPrecision(17)].map((one) => plain(one, '.'))).toContain(plain(text, '.'));
      }
      // Two texts that are written alike but for zeros at the end have one number of decimals.
      const values = new Map<number, string>();
      for (const text of texts.filter((one) => /\.\d*[1-9]0+$|\.\d*[1-9]$/.test(one))) {
        const { value } = readNumber(text, number);
        expect(values.get(value) ?? text).toBe(text);
        values.set(value, text);
      }
    }),
    { numRuns: 2000 },
  );
});

describe('why texts stay text', () => {
  test.each([
    [['007', '12'], 'leading-zero'],
    [['453957876362148612', '453957876362148613'], 'too-many-digits'],
    [['1E10', '9E04'], 'not-numbers'],
    [['1.', '2.'], 'ends-in-mark'],
    [['+441234567'], 'plus'],
    [['1.1', '1.10'], 'uneven-zeros'],
    [['Hask', '5'], 'not-numbers'],
    [['12%', '24'], 'not-numbers'],
  ] as const)('%j: %s', (texts, reason) => {
    expect(numberReading(texts, '.')).toMatchObject({ type: undefined, reason });
  });
});

function hand(cells: Record<string, readonly string[]>, decimal?: '.'): DetectorInput {
  const table = makeTable(Object.fromEntries(Object.entries(cells).map(([name, texts]) => [name, textColumn(texts)])));
  return detectorInput(table, { raw: { ...table, ...(decimal === undefined ? {} : { decimal }) } });
}

describe('types that a draft proposes', () => {
  test('a mark that may part thousands or decimals is offered both ways', () => {
    const weights = ['1.200', '2.500', '3.750', '4.100'];
    const findings = types.find(hand({ Weight: weights }));
    expect(findings.map((one) => one.gives)).toEqual(['Weight as 1200', 'Weight as 1.2']);
    expect(doubtText(findings[0]!.doubt!)).toBe(
      "1.200 in Weight could be 1.2 or 1200: each '.' has three digits after it",
    );
    expect(findings.map((one) => one.steps[0]!.params)).toMatchObject([
      { types: [{ type: 'whole', number: { decimal: ',' } }] },
      { types: [{ type: 'number' }] },
    ]);
    // In a file divided by commas it is a decimal mark.
    const [only, ...others] = types.find(hand({ Weight: weights }, '.'));
    expect([others.length, only!.doubt]).toEqual([0, undefined]);
    expect(only!.steps[0]!.params).toEqual({
      types: [{ columns: { by: 'names', names: ['Weight'] }, type: 'number' }],
    });
  });

  test('units that differ stay text, and the doubt names them', () => {
    const [mixed] = types.find(hand({ Fare: ['€ 5', '$ 5', '£ 5'], Foot: ['1', '2', '3'] }));
    expect(doubtText(mixed!.doubt!)).toBe('Fare mixes EUR, USD and GBP');
    expect(mixed!.steps[0]!.params).toMatchObject({ types: [{ columns: { names: ['Foot'] } }] });
    expect(types.find(hand({ Share: ['12%', '24'] }))).toMatchObject([
      { steps: [], weight: 0, doubt: { code: 'number', column: 'Share', doubt: { code: 'mixed-units' } } },
    ]);
  });

  test('whole numbers are not called decimal comma', () => {
    const [found] = types.find(hand({ Fare: ['1,5', '2,25'], Foot: ['1', '2'] }));
    expect(found!.steps[0]!.why).toBe('every cell matches: Fare number (decimal comma); Foot whole');
  });

  test('dates in several forms, with serial days between them', () => {
    const dates = ['6. Januar 2021', '2021/02/21', '25.12.2021', '44560'];
    const [found] = types.find(hand({ Day: dates }));
    expect(found!.steps[0]!.params).toMatchObject({ types: [{ type: 'date', serial: 1900 }] });
    expect(found!.doubt).toEqual({ code: 'dates-and-serials', column: 'Day', serials: 1 });
  });
});

describe('words that can mean blank', () => {
  test.each([
    [['SE', 'NO', 'NA'], CellKind.text],
    [['NC', 'SD', 'ND'], CellKind.text],
    [['ab', 'cd', 'nd'], CellKind.text],
    [['low', 'high', 'some', 'none'], CellKind.text],
    [['Hask', 'Ullin', 'NA'], CellKind.missing],
    [['Hask', 'Ullin', 'n/a'], CellKind.missing],
    [['12', '14', 'NA'], CellKind.missing],
    [['SWE', 'NOR', 'NA'], CellKind.missing],
  ])('%j', (texts, kind) => {
    expect(profileTable(makeTable({ A: textColumn(texts) })).columns[0]!.kinds.at(-1)).toBe(kind);
  });
});
