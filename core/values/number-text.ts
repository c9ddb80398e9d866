/**
 * Reading numbers as print-outs write them.
 *
 * Covers grouping marks, currency signs and codes, percent, brackets or a trailing minus for negatives, CR and DR
 * (accounting: credit is negative), and the magnitudes K, M, bn. Common practice of the trade.
 */
import { z } from 'zod';
import { CURRENCY_CODES } from './currencies.ts';

export const NumberForm = z.object({
  decimal: z.enum(['.', ',']).default('.').describe('Decimal mark'),
  grouping: z
    .enum(['any', 'none', ',', '.', ' ', "'"])
    .default('any')
    .describe(
      "Grouping mark; any takes comma, point, blank and apostrophe but the decimal mark; ' ' takes no-break blanks too",
    ),
});
export type NumberForm = z.infer<typeof NumberForm>;

export type NumberReading = { value: number; reason?: undefined } | { value: number; reason: string };

const BLANKS = /[\u0020\u00a0\u2007\u2009\u202f]/;
const CURRENCY_SIGNS = '[$€£¥₤₩₹₽₺₴₪¢]';
const CURRENCY = new RegExp(`^(?:${CURRENCY_SIGNS}|(?:${CURRENCY_CODES})(?=[\\s\\d.,(+-])|kr\\.?|zł)\\s*`, 'u');
const CURRENCY_BEHIND = new RegExp(`(?:${CURRENCY_SIGNS}|\\s(?:${CURRENCY_CODES})|kr\\.?|zł)$`, 'u');
const CURRENCIES = new RegExp(`${CURRENCY_SIGNS}|\\b(?:${CURRENCY_CODES})\\b|kr\\b|zł`, 'gu');
const SIGNS = '+-\u2212\u2013';
/** No number is written in more characters than this, dress and all. */
const MAX_LENGTH = 400;
const MAGNITUDES: Record<string, number> = { k: 1e3, m: 1e6, mn: 1e6, mio: 1e6, bn: 1e9, b: 1e9 };
/** A small m is metres or minutes, and a small b a mark of statistics: neither is a magnitude. */
const MAGNITUDE = /(?<=[\d.,\s])([kK]|M|[mM]n|MN|[mM]io|MIO|[bB]n|BN|B)\.?$/u;

/** @returns a value, or NaN with the reason why the text is not a number */
export function readNumber(text: string, form: NumberForm): NumberReading {
  const plain = readPlain(text, form);
  if (plain !== undefined) return { value: plain };
  return readDressed(text, form);
}

/**
 * The common case without dress: an optional sign, digits with or without one kind of group mark, one decimal mark.
 * Anything else is left to the slower way.
 */
export function readPlain(text: string, form: NumberForm): number | undefined {
  const n = text.length;
  if (n === 0 || n > MAX_PLAIN_LENGTH) return undefined;
  for (let k = 0; k < n; k++) {
    const code = text.charCodeAt(k);
    if (code >= 0x80) return undefined;
    scratch[k] = code;
  }
  return readPlainBytes(scratch, 0, n, form);
}

const MAX_PLAIN_LENGTH = 20;
const scratch = new Uint8Array(MAX_PLAIN_LENGTH);

/** The same from bytes in an encoding that keeps ASCII as it is. */
export function readPlainBytes(bytes: Uint8Array, from: number, to: number, form: NumberForm): number | undefined {
  if (from === to || to - from > MAX_PLAIN_LENGTH) return undefined;
  let k = from;
  let negative = false;
  const first = bytes[from]!;
  if (first === 45 || first === 43) {
    negative = first === 45;
    k++;
  }
  const decimal = decimalByte(form);
  const group = groupByte(form);
  let whole = 0;
  let scale = 0;
  let digits = 0;
  /** Digits since the last group mark; -1 before the first. */
  let since = -1;
  for (; k < to; k++) {
    const code = bytes[k]!;
    if (code >= 48 && code <= 57) {
      whole = whole * 10 + (code - 48);
      digits++;
      if (scale > 0) scale *= 10;
      else if (since >= 0) since++;
    } else if (code === decimal && scale === 0) {
      scale = 1;
    } else if (code === group && scale === 0 && (since < 0 ? digits >= 1 && digits <= 3 : since === 3)) {
      since = 0;
    } else {
      return undefined;
    }
  }
  if (digits === 0 || digits > 15 || (since >= 0 && since !== 3)) return undefined;
  // Both parts are exact below 2^53 and powers of ten up to 10^22 are exact, so one division rounds correctly.
  const value = scale > 1 ? whole / scale : whole;
  return negative && value !== 0 ? -value : value;
}

/** The decimal mark of numbers without dress, by its byte. */
export function decimalByte({ decimal }: NumberForm): number {
  return decimal === '.' ? POINT : COMMA;
}

/** The mark between their groups likewise; -1 where they have none. */
export function groupByte({ decimal, grouping }: NumberForm): number {
  if (grouping === 'any') return decimal === '.' ? COMMA : POINT;
  return grouping === ',' ? COMMA : grouping === '.' ? POINT : -1;
}

const COMMA = 44;
const POINT = 46;

const DECIMAL: NumberForm = { decimal: '.', grouping: 'none' };

/**
 * A decimal number as XML and JSON write it (XML Schema 1.0 part 2, 3.2.5; RFC 8259, 6), from bytes.
 * @returns undefined where another text stands there
 */
export function readDecimalBytes(bytes: Uint8Array, from: number, to: number): number | undefined {
  const plain = readPlainBytes(bytes, from, to, DECIMAL);
  if (plain !== undefined || to - from > MAX_LENGTH) return plain;
  let text = '';
  for (let k = from; k < to; k++) text += String.fromCharCode(bytes[k]!);
  return /^\s*[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?\s*$/i.test(text) ? Number(text) : undefined;
}

function readDressed(text: string, form: NumberForm): NumberReading {
  let rest = text.trim();
  if (rest === '') return fail('nothing stands here');
  if (rest.length > MAX_LENGTH) return fail('the text is too long for a number');
  let sign = 1;
  const open = rest.indexOf('(');
  const close = rest.lastIndexOf(')');
  const bracketed = open >= 0 && close > open;
  if (bracketed) {
    sign = -1;
    rest = `${rest.slice(0, open)}${rest.slice(open + 1, close)}${rest.slice(close + 1)}`.trim();
  }
  const side = /(CR|DR)\.?$/iu.exec(rest);
  if (side !== null) {
    if (side[1]!.toUpperCase() === 'CR') sign = -sign;
    rest = rest.slice(0, side.index).trimEnd();
  }
  let scale = 1;
  let divide = 1;
  let signed = false;
  // Signs, currency and percent may stand in any order on either side.
  for (let last = ''; last !== rest; ) {
    last = rest;
    rest = rest.replace(CURRENCY, '').replace(CURRENCY_BEHIND, '').trim();
    if (rest.endsWith('%')) {
      if (divide !== 1) return fail('two percent signs');
      divide = 100;
      rest = rest.slice(0, -1).trimEnd();
    }
    const magnitude = MAGNITUDE.exec(rest);
    if (magnitude !== null && scale === 1) {
      scale = MAGNITUDES[magnitude[1]!.toLowerCase()]!;
      rest = rest.slice(0, magnitude.index).trimEnd();
    }
    const before = rest !== '' && SIGNS.includes(rest[0]!);
    const behind = rest.length > 1 && rest.at(-1) !== '+' && SIGNS.includes(rest.at(-1)!);
    if (before && behind) return fail('a sign on both sides');
    if (before || behind) {
      const negative = behind || rest[0] !== '+';
      if (bracketed && negative) return fail('brackets and a minus sign');
      if (signed) return fail('two signs');
      signed = true;
      if (negative) sign = -sign;
      rest = (before ? rest.slice(1) : rest.slice(0, -1)).trim();
    }
  }
  const digits = ungroup(rest, form);
  if (digits === undefined) return fail(whyNot(rest, form));
  const exponent = Math.round(Math.log10(scale / divide));
  const value = Number(exponent === 0 ? digits : shiftPoint(digits, exponent));
  return { value: sign * value || 0 };
}

/** Moves the decimal point in the text itself, so that 1.1K is exactly 1100. */
function shiftPoint(digits: string, by: number): string {
  return /e/i.test(digits) ? String(Number(digits) * 10 ** by) : `${digits}e${by}`;
}

/** Letters behind a figure: a magnitude, credit or debit, an exponent that a whole number alone would not show (12E5). */
const SUFFIXES =
  /(?<=[\d.,\s])(?:[kK]|M|[mM]n|MN|[mM]io|MIO|[bB]n|BN|[cC][rR]|[dD][rR])\b|(?<=\d)[eE][+-]\d+\b|(?<=[.,]\d+)[eE]\d+\b/gu;

/** Nothing in the text but what numbers are written with, so that codes such as 12E5 and 7B are left as text. */
export function isPlainlyNumber(text: string): boolean {
  return !/\p{L}/u.test(text.replace(CURRENCIES, '').replace(SUFFIXES, ''));
}

/** K, M, bn and the like after a figure, as written; undefined where there is none. */
export function magnitudeOf(text: string): string | undefined {
  return MAGNITUDE.exec(text.trim().replace(CURRENCY_BEHIND, '').trim())?.[1];
}

/** The currency in a text, or undefined. */
export function currencyOf(text: string): string | undefined {
  return text.match(CURRENCIES)?.[0];
}

/** Digits with a decimal point and no groups, or undefined when the text is no number in this form. */
function ungroup(text: string, form: NumberForm): string | undefined {
  const at = text.lastIndexOf(form.decimal);
  const whole = at < 0 ? text : text.slice(0, at);
  const fraction = at < 0 ? '' : text.slice(at + 1);
  if (!/^\d*(?:[eE][+-]?\d{1,3})?$/.test(fraction)) return undefined;
  if (/^\d+(?:[eE][+-]?\d{1,3})?$/.test(whole)) return at < 0 ? whole : `${whole}.${fraction || '0'}`;
  if (whole === '') return fraction === '' || /^[eE]/.test(fraction) ? undefined : `0.${fraction}`;
  const mark = groupMark(whole, form);
  if (mark === undefined) return undefined;
  const groups = whole.split(mark);
  const shaped = groups.every((group, k) => /^\d+$/.test(group) && (k === 0 ? group.length <= 3 : group.length === 3));
  // Groups of two before the last three are the usage of South Asia (common practice).
  const southAsian =
    mark === ',' &&
    groups.at(-1)!.length === 3 &&
    groups.every((group, k) => /^\d+$/.test(group) && (k === groups.length - 1 || group.length <= 2));
  if (!shaped && !southAsian) return undefined;
  return `${groups.join('')}${at < 0 ? '' : `.${fraction || '0'}`}`;
}

function groupMark(whole: string, form: NumberForm): RegExp | string | undefined {
  const marks = new Set(whole.replace(/\d/g, '').replace(new RegExp(BLANKS, 'g'), ' ').replaceAll('’', "'"));
  if (marks.size !== 1) return undefined;
  const mark = [...marks][0]!;
  if (mark === form.decimal || form.grouping === 'none') return undefined;
  if (form.grouping !== 'any' && form.grouping !== mark) return undefined;
  if (mark === ' ') return BLANKS;
  if (mark === "'") return /['’]/;
  return mark === ',' || mark === '.' ? mark : undefined;
}

function whyNot(text: string, form: NumberForm): string {
  const stray = /[^\d.,'’\s\u00a0+-]/u.exec(text);
  if (stray !== null) return `'${stray[0]}' is not part of a number`;
  if (!/\d/.test(text)) return 'no digits';
  return `the marks do not fit a number with '${form.decimal}' as decimal mark`;
}

function fail(reason: string): NumberReading {
  return { value: Number.NaN, reason };
}

/** Shortest text that reads back as the same number, never in exponent form below 1e21. */
export function numberText(value: number, decimal = '.'): string {
  const text = Object.is(value, -0) ? '0' : String(value);
  return decimal === '.' ? text : text.replace('.', decimal);
}

/** A zero with a digit behind it at the front, past blanks and a sign. */
export function leadsWithZero(text: string): boolean {
  let k = 0;
  while (k < text.length && (text.charCodeAt(k) <= 32 || text.charCodeAt(k) === 43 || text.charCodeAt(k) === 45)) k++;
  const next = text.charCodeAt(k + 1);
  return text.charCodeAt(k) === 48 && next >= 48 && next <= 57;
}

/** A number has more digits than are kept: see keepsDigits. */
export function exceedsExact(text: string, decimal: '.' | ',' = '.'): boolean {
  if (text.length <= 15) return false;
  const [whole = '', fraction = ''] = text.replace(/e[+-]?\d+$/i, '').split(decimal);
  const digits = (part: string) => part.replace(/\D/g, '');
  return !keepsDigits(fraction === '' ? digits(whole) : `${digits(whole)}.${digits(fraction)}`);
}

/**
 * Whether a number gives back each digit of a decimal without exponent: whole numbers up to 2^53, decimals of 15
 * significant digits (IEEE 754, binary64), and longer ones that a program wrote for the very double.
 */
export function keepsDigits(text: string): boolean {
  if (text.length <= 15) return true;
  const [whole = '', fraction = ''] = text.replace(/^[+-]/, '').split('.');
  const kept = fraction.replace(/0+$/, '');
  if (kept === '') return whole.length <= 15 || Number.isSafeInteger(Number(whole));
  const significant = (whole + kept).replace(/^0+/, '');
  if (significant.length <= 15) return true;
  const value = Number(`${whole || '0'}.${kept}`);
  const digitsOf = (written: string) =>
    written
      .replace(/e.*$/, '')
      .replace('.', '')
      .replace(/^0+|0+$/g, '');
  return (
    digitsOf(String(value)) === significant ||
    (significant.length === 17 && digitsOf(value.toPrecision(17)) === significant)
  );
}
