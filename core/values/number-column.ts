/** Whether the texts of a column are numbers or codes, and what is open where they are numbers. */

import {
  currencyOf,
  exceedsExact,
  isPlainlyNumber,
  leadsWithZero,
  magnitudeOf,
  NumberForm,
  readNumber,
} from './number-text.ts';

/** Why texts that could be read as numbers stay text: a number would not give back what was written. */
export type CodeReason = 'not-numbers' | 'leading-zero' | 'too-many-digits' | 'ends-in-mark' | 'plus' | 'uneven-zeros';

export type NumberDoubt =
  /** The mark could part thousands or decimals, in every text that has one. */
  | { code: 'open-marks'; mark: '.' | ','; example: string; asDecimal: number; asThousands: number }
  /** Some texts group with the mark that others use for decimals. */
  | { code: 'conflicting-marks'; texts: readonly [string, string] }
  /** Currencies, percent signs or magnitudes differ; '' is a figure without one. */
  | { code: 'mixed-units'; units: readonly string[] }
  /** Different texts give one number. */
  | { code: 'same-number'; texts: readonly [string, string] };

export interface NumberReading {
  /** Undefined where they stay text. */
  type: 'whole' | 'number' | undefined;
  number: NumberForm;
  reason?: CodeReason;
  doubts: readonly NumberDoubt[];
}

/** @param texts used cells of one column, each once; blank ones do not count */
export function numberReading(texts: readonly string[], decimal: '.' | ','): NumberReading {
  const number = NumberForm.parse({ decimal });
  const figures = texts.map((text) => text.trim()).filter((text) => text !== '');
  const text = (reason: CodeReason, doubts: readonly NumberDoubt[] = []): NumberReading => ({
    type: undefined,
    number,
    reason,
    doubts,
  });
  if (figures.length === 0 || !figures.every(isPlainlyNumber)) return text('not-numbers');
  const values = figures.map((one) => readNumber(one, number).value);
  if (values.some(Number.isNaN)) return text('not-numbers');
  const bodies = figures.map(bodyOf);
  if (bodies.some(leadsWithZero)) return text('leading-zero');
  if (bodies.some((body) => exceedsExact(body, decimal))) return text('too-many-digits');
  if (bodies.some((body) => /[.,]$/.test(body))) return text('ends-in-mark');
  if (figures.some((one) => /^\+\d{7,}$/.test(one))) return text('plus');
  const doubts = doubtsOf(figures, decimal);
  if (doubts.some((doubt) => doubt.code === 'same-number') || hasUnevenZeros(figures, bodies, decimal))
    return text('uneven-zeros', doubts);
  if (doubts.some((doubt) => doubt.code === 'mixed-units')) return text('not-numbers', doubts);
  return { type: values.every(Number.isInteger) ? 'whole' : 'number', number, doubts };
}

/** What is open about texts that are read as numbers, whoever asked for it. */
export function doubtsOf(texts: readonly string[], decimal: '.' | ','): NumberDoubt[] {
  const figures = texts.map((text) => text.trim()).filter((text) => text !== '');
  return [...openMarks(figures, decimal), ...mixedUnits(figures), ...sameNumbers(figures, decimal)];
}

/** A sentence without a full stop. */
export function doubtText(name: string, doubt: NumberDoubt): string {
  switch (doubt.code) {
    case 'open-marks':
      return `${doubt.example} in ${name} could be ${doubt.asDecimal} or ${doubt.asThousands}: each '${doubt.mark}' has three digits after it`;
    case 'conflicting-marks':
      return `${name} contains ${doubt.texts[0]} and ${doubt.texts[1]}, which use different decimal marks`;
    case 'mixed-units': {
      const named = doubt.units.map((unit) => (unit === '' ? 'no unit' : unit));
      return `${name} mixes ${named.slice(0, -1).join(', ')} and ${named.at(-1)}`;
    }
    case 'same-number':
      return `${doubt.texts[0]} and ${doubt.texts[1]} in ${name} are the same number`;
  }
}

/** Without signs, brackets, currency, percent and magnitude. */
function bodyOf(text: string): string {
  const digits = /[\d.,][\d.,'’\s\u00a0\u2007\u2009\u202f]*(?:e[+-]?\d+)?/i.exec(text);
  return digits === null ? '' : digits[0].trim();
}

const THREE: Record<'.' | ',', RegExp> = { '.': /^\D*\d{1,3}\.\d{3}\D*$/, ',': /^\D*\d{1,3},\d{3}\D*$/ };

function openMarks(figures: readonly string[], decimal: '.' | ','): NumberDoubt[] {
  const other = decimal === '.' ? ',' : '.';
  const marked = figures.filter((text) => /\d[.,]\d/.test(text));
  const own = marked.filter((text) => THREE[decimal].test(text));
  const grouped = marked.find((text) => THREE[other].test(text));
  const isOpen = (text: string) => THREE['.'].test(text) || THREE[','].test(text);
  if (own.length > 0 && grouped !== undefined) return [{ code: 'conflicting-marks', texts: [own[0]!, grouped] }];
  if (marked.length === 0 || !marked.every(isOpen)) return [];
  const example = marked[0]!;
  const mark = THREE['.'].test(example) ? '.' : ',';
  // A zero in front of the mark is no thousand.
  if (marked.some((text) => new RegExp(`(?<!\\d)0\\${mark}`).test(text))) return [];
  // Beside figures below a thousand without a mark, a grouping mark is what it looks like.
  if (mark !== decimal && figures.some((text) => /^\D*\d{1,3}\D*$/.test(text))) return [];
  const body = bodyOf(example);
  return [
    {
      code: 'open-marks',
      mark,
      example,
      asDecimal: Number(body.replace(mark, '.')),
      asThousands: Number(body.replace(mark, '')),
    },
  ];
}

function mixedUnits(figures: readonly string[]): NumberDoubt[] {
  // Nothing of any unit is nothing.
  const counted = figures.filter((text) => /[1-9]/.test(text));
  const units = new Set(counted.map(unitOf));
  if (units.size > 1) return [{ code: 'mixed-units', units: [...units] }];
  const sizes = new Set(counted.map((text) => magnitudeOf(text) ?? ''));
  return sizes.size > 1 && sizes.has('') ? [{ code: 'mixed-units', units: [...sizes] }] : [];
}

/** Codes (ISO 4217) of signs that stand for one currency, to meet texts that use the code. */
const SIGN_OF: Record<string, string> = {
  '€': 'EUR',
  '£': 'GBP',
  '₽': 'RUB',
  '₹': 'INR',
  '₺': 'TRY',
  zł: 'PLN',
  $: 'USD',
};

function unitOf(text: string): string {
  const currency = currencyOf(text);
  return currency === undefined ? (text.includes('%') ? '%' : '') : (SIGN_OF[currency] ?? currency);
}

/** Two texts whose numbers are the same, though more than grouping and a common number of decimals differs. */
function sameNumbers(figures: readonly string[], decimal: '.' | ','): NumberDoubt[] {
  const first = new Map<string, string>();
  for (const text of figures) {
    const at = text.indexOf(decimal);
    if (at < 0 || !/^[+-]?\d+$/.test(text.replace(decimal, ''))) continue;
    const key = text.replace(/0+$/, '');
    const before = first.get(key);
    // Programs write 10.0 for 10.
    if (before !== undefined && before !== text && !key.endsWith(decimal))
      return [{ code: 'same-number', texts: [before, text] }];
    if (before === undefined) first.set(key, text);
  }
  return [];
}

/** Zeros at the end of some decimals, where decimals have no common length and nothing else says that these are figures. */
function hasUnevenZeros(figures: readonly string[], bodies: readonly string[], decimal: '.' | ','): boolean {
  const fractions = bodies.flatMap((body) => (body.includes(decimal) ? [body.slice(body.indexOf(decimal) + 1)] : []));
  if (
    !fractions.some((digits) => /^\d+0$/.test(digits)) ||
    new Set(fractions.map((digits) => digits.length)).size === 1
  )
    return false;
  return figures.every((text) => /^\d+(?:[.,]\d+)?$/.test(text));
}
