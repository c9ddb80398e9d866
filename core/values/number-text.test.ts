import { describe, expect, test } from 'vitest';
import { NumberForm, numberText, readNumber } from './number-text.ts';

const read = (text: string, form: Partial<NumberForm> = {}) => readNumber(text, NumberForm.parse(form)).value;

describe('numbers as print-outs write them (common practice of the trade)', () => {
  test.each([
    ['1,204', 1204],
    ['1 204.5', 1204.5],
    ['1\u00a0204', 1204],
    ['1\u202f204\u202f000', 1204000],
    ["1'204.50", 1204.5],
    ['(1,204)', -1204],
    ['1,204-', -1204],
    ['-1,204', -1204],
    ['\u22121,204', -1204],
    ['£1,204.50', 1204.5],
    ['1,204.50 EUR', 1204.5],
    ['($12.30)', -12.3],
    ['-$5', -5],
    ['12.5%', 0.125],
    ['0.1%', 0.001],
    ['150.00 CR', -150],
    ['150.00 DR', 150],
    ['1.1K', 1100],
    ['2.5M', 2_500_000],
    ['3bn', 3e9],
    ['12,34,567', 1234567],
    ['007', 7],
    ['.5', 0.5],
    ['5.', 5],
    ['1e3', 1000],
    ['+7', 7],
    ['-0', 0],
  ])('%s is %d', (text, value) => {
    expect(read(text)).toBe(value);
  });

  test.each([
    ['1.204,50', 1204.5],
    ['1 204,5', 1204.5],
    ['-0,75', -0.75],
  ])('with a decimal comma %s is %d', (text, value) => {
    expect(read(text, { decimal: ',' })).toBe(value);
  });

  test.each([
    '',
    '  ',
    'abc',
    '1,20',
    '1,2045',
    '12 34',
    '--5',
    '-5-',
    '(-5)',
    '1.2.3',
    '5%%',
    'Route total',
    '1/2',
    'K',
    '12-06',
  ])("'%s' is no number, and the reason says why", (text) => {
    const reading = readNumber(text, NumberForm.parse({}));
    expect(reading.value).toBeNaN();
    expect(reading.reason).toBeTruthy();
  });

  test('grouping can be held to one mark, or none', () => {
    expect(read("1'204", { grouping: ',' })).toBeNaN();
    expect(read('1,204', { grouping: 'none' })).toBeNaN();
    expect(read('1,204', { grouping: ',' })).toBe(1204);
  });

  test('decimal fractions read as JavaScript reads them, to the last bit (ECMAScript StringToNumber)', () => {
    for (const text of ['0.1', '0.3', '123.456', '9007199254740991', '0.000001', '99999999.99'])
      expect(read(text)).toBe(Number(text));
  });

  test('numbers are written as they read back', () => {
    for (const value of [0, -0, 1.1, 1e20, 123456789012, -0.001]) expect(Number(numberText(value))).toBe(value + 0);
  });
});

describe('texts that are no numbers end in a reason', () => {
  test.each(['12\nnorth', '1\r\n2', 'Quay 3\n', '(1\n2)', `1${' '.repeat(100_000)}x`, `${'9 '.repeat(50_000)}`])(
    '%#',
    (text) => {
      const reading = readNumber(text, NumberForm.parse({}));
      expect(Number.isNaN(reading.value)).toBe(true);
      expect(reading.reason).not.toBe('');
    },
  );
});
