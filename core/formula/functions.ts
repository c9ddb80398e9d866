/**
 * The functions of expressions. Each says its arguments' types, its result's, and what it gives for values; null among
 * the arguments gives null, but for those that say otherwise. Names and meaning by ISO/IEC 9075-2 where it has them.
 */
import { MS } from '../values/civil.ts';
import { power, remainder } from '../values/decimal.ts';
import {
  DATE_FIELDS,
  type DateField,
  dateField,
  PERIODS,
  type Period,
  periodStart,
  TIME_FIELDS,
  type TimeField,
  timeField,
} from './dates.ts';
import { roundTo } from './rounding.ts';

export type FormulaType = 'number' | 'text' | 'boolean' | 'date' | 'time' | 'timestamp';
export type Value = number | string;

/** any: all types; same: one type for all of them. */
export type ArgumentType = FormulaType | 'any' | 'same' | 'dated';

export interface FormulaFunction {
  name: string;
  about: string;
  args: readonly ArgumentType[];
  /** How many of the last arguments may be left out; Infinity: the last may be repeated. */
  optional?: number;
  /** 'same' is the type of the arguments. */
  result: FormulaType | 'same';
  /** A reason in place of a value makes the cell unreadable. */
  apply(args: readonly Value[], fail: (reason: string) => null): Value | null;
  /** An expression and what it gives, as text; run by the tests and shown in the reference. */
  example: readonly [string, string];
}

type Apply = FormulaFunction['apply'];

function make(
  name: string,
  args: readonly ArgumentType[],
  result: FormulaFunction['result'],
  about: string,
  example: readonly [string, string],
  apply: Apply,
  optional = 0,
): FormulaFunction {
  return { name, args, result, about, example, apply, optional };
}

const number = (apply: (x: number, y: number) => number): Apply => {
  return (args, fail) => {
    const value = apply(args[0] as number, args[1] as number);
    return Number.isFinite(value) ? value : fail('the result is no finite number');
  };
};
const text =
  (apply: (a: string, b: string, c: string) => string): Apply =>
  (args) =>
    apply(args[0] as string, args[1] as string, args[2] as string);

/** Characters as people count them in code points, so that no surrogate pair is cut. */
const points = (of: string) => [...of];

function substring(
  of: string,
  start: number,
  length: number | undefined,
  fail: (reason: string) => null,
): string | null {
  if (length !== undefined && length < 0) return fail('a substring cannot have a negative length');
  const from = Math.max(0, start - 1);
  const to = length === undefined ? Number.POSITIVE_INFINITY : start - 1 + length;
  return points(of).slice(from, Math.max(from, to)).join('');
}

/** As much as a cell of a workbook holds: what is filled up further is a slip, and thousands of rows of it are no table. */
const MAX_FILLED_LENGTH = 32_767;

function pad(left: boolean): Apply {
  return (args, fail) => {
    const [of, length, fill] = args as [string, number, string];
    return length > MAX_FILLED_LENGTH
      ? fail('filled up to more than 32,767 characters')
      : padded(of, length, fill, left);
  };
}

function padded(of: string, length: number, fill: string, left: boolean): string {
  const own = points(of);
  if (own.length >= length) return own.slice(0, Math.max(0, length)).join('');
  const unit = points(fill);
  if (unit.length === 0) return of;
  const padding = Array.from({ length: length - own.length }, (_, k) => unit[k % unit.length]).join('');
  return left ? padding + of : of + padding;
}

function trimmed(of: string, characters: string | undefined, left: boolean, right: boolean): string {
  const strip = new Set(points(characters ?? ' '));
  const own = points(of);
  let from = 0;
  let to = own.length;
  while (left && from < to && strip.has(own[from]!)) from++;
  while (right && to > from && strip.has(own[to - 1]!)) to--;
  return own.slice(from, to).join('');
}

function dateOrTimePart(
  part: string,
  field: string,
  value: number,
  timestamp: boolean,
  fail: (reason: string) => null,
): number | null {
  if ((DATE_FIELDS as readonly string[]).includes(field))
    return dateField(timestamp ? Math.floor(value / MS.day) : value, field as DateField);
  if ((TIME_FIELDS as readonly string[]).includes(field)) {
    return timeField(timestamp ? value - Math.floor(value / MS.day) * MS.day : value, field as TimeField);
  }
  return fail(`${part} knows no ${field}`);
}

/** extract and date_trunc need to know which kind of date they have; the compiler tells by the name's ending. */
export const DATED: Record<
  string,
  (field: string, value: number, type: FormulaType, fail: (reason: string) => null) => number | null
> = {
  extract: (field, value, type, fail) => dateOrTimePart('extract', field, value, type === 'timestamp', fail),
  date_trunc: (field, value, type, fail) => {
    if (!(PERIODS as readonly string[]).includes(field)) return fail(`date_trunc knows no ${field}`);
    return periodStart(type === 'timestamp' ? Math.floor(value / MS.day) : value, field as Period);
  },
};

const unused: Apply = () => null;

export const FUNCTIONS: readonly FormulaFunction[] = [
  make('abs', ['number'], 'number', 'The number without its sign.', ['abs(-7.5)', '7.5'], number(Math.abs)),
  make('ceil', ['number'], 'number', 'The next whole number, upwards.', ['ceil(1.2)', '2'], number(Math.ceil)),
  make('floor', ['number'], 'number', 'The next whole number, downwards.', ['floor(-1.2)', '-2'], number(Math.floor)),
  make(
    'round',
    ['number', 'number'],
    'number',
    'Rounds to the given number of decimal digits (0 by default), halves away from zero.',
    ['round(2.675, 2)', '2.68'],
    (args) => roundTo(args[0] as number, (args[1] as number | undefined) ?? 0),
    1,
  ),
  make('sign', ['number'], 'number', '-1, 0 or 1.', ['sign(-3)', '-1'], number(Math.sign)),
  make(
    'mod',
    ['number', 'number'],
    'number',
    'The remainder of a division, with the sign of the first.',
    ['mod(-7, 3)', '-1'],
    (args, fail) => (args[1] === 0 ? fail('division by zero') : remainder(args[0] as number, args[1] as number)),
  ),
  make(
    'power',
    ['number', 'number'],
    'number',
    'The first to the power of the second.',
    ['power(2, 10)', '1024'],
    number(power),
  ),
  make('sqrt', ['number'], 'number', 'The square root.', ['sqrt(2.25)', '1.5'], number(Math.sqrt)),
  make('exp', ['number'], 'number', 'e to the power of the number.', ['exp(0)', '1'], number(Math.exp)),
  make('ln', ['number'], 'number', 'The natural logarithm.', ['ln(1)', '0'], number(Math.log)),
  make('log10', ['number'], 'number', 'The logarithm to base ten.', ['log10(1000)', '3'], number(Math.log10)),
  make(
    'greatest',
    ['same'],
    'same',
    'The greatest of the values; nulls are passed over.',
    ['greatest(3, 7, 5)', '7'],
    unused,
    Number.POSITIVE_INFINITY,
  ),
  make(
    'least',
    ['same'],
    'same',
    'The least of the values; nulls are passed over.',
    ["least('b', 'a')", 'a'],
    unused,
    Number.POSITIVE_INFINITY,
  ),
  make(
    'coalesce',
    ['same'],
    'same',
    'The first value that is not null.',
    ["coalesce(null, 'n/a')", 'n/a'],
    unused,
    Number.POSITIVE_INFINITY,
  ),
  make('nullif', ['same', 'same'], 'same', 'Null where both are equal, else the first.', ['nullif(3, 4)', '3'], unused),
  make(
    'upper',
    ['text'],
    'text',
    'In capitals.',
    ["upper('Hask')", 'HASK'],
    text((a) => a.toUpperCase()),
  ),
  make(
    'lower',
    ['text'],
    'text',
    'In small letters.',
    ["lower('Hask')", 'hask'],
    text((a) => a.toLowerCase()),
  ),
  make(
    'trim',
    ['text', 'text'],
    'text',
    "Without blanks, or the given characters, on both sides; also trim(leading '0' from Code), trim(trailing …).",
    ["trim(leading '0' from '00712')", '712'],
    (args) => trimmed(args[0] as string, args[1] as string | undefined, true, true),
    1,
  ),
  make(
    'ltrim',
    ['text', 'text'],
    'text',
    'Without blanks, or the given characters, in front.',
    ["ltrim('  x')", 'x'],
    (args) => trimmed(args[0] as string, args[1] as string | undefined, true, false),
    1,
  ),
  make(
    'rtrim',
    ['text', 'text'],
    'text',
    'Without blanks, or the given characters, behind.',
    ["rtrim('x--', '-')", 'x'],
    (args) => trimmed(args[0] as string, args[1] as string | undefined, false, true),
    1,
  ),
  make(
    'length',
    ['text'],
    'number',
    'Number of characters.',
    ["length('Brannoch')", '8'],
    (args) => points(args[0] as string).length,
  ),
  make(
    'char_length',
    ['text'],
    'number',
    'Number of characters.',
    ["char_length('é')", '1'],
    (args) => points(args[0] as string).length,
  ),
  make(
    'position',
    ['text', 'text'],
    'number',
    'Where the first text stands in the second, from 1; 0 where it does not.',
    ["position('-' in 'HU-0710')", '3'],
    (args) => {
      const at = (args[1] as string).indexOf(args[0] as string);
      return at < 0 ? 0 : points((args[1] as string).slice(0, at)).length + 1;
    },
  ),
  make(
    'substring',
    ['text', 'number', 'number'],
    'text',
    'Part of a text: from a position, counted from 1, for a number of characters.',
    ["substring('HU-0710' from 4 for 2)", '07'],
    (args, fail) => substring(args[0] as string, args[1] as number, args[2] as number | undefined, fail),
    1,
  ),
  make(
    'left',
    ['text', 'number'],
    'text',
    'The first n characters; if n is negative, all but the last n.',
    ["left('HU-0710', 2)", 'HU'],
    (args) =>
      points(args[0] as string)
        .slice(0, args[1] as number)
        .join(''),
  ),
  make(
    'right',
    ['text', 'number'],
    'text',
    'The last n characters; if n is negative, all but the first n.',
    ["right('HU-0710', 4)", '0710'],
    (args) => {
      const own = points(args[0] as string);
      const n = args[1] as number;
      return n >= 0 ? own.slice(Math.max(0, own.length - n)).join('') : own.slice(-n).join('');
    },
  ),
  make(
    'replace',
    ['text', 'text', 'text'],
    'text',
    'Every appearance of the second in the first becomes the third.',
    ["replace('a-b-c', '-', '/')", 'a/b/c'],
    text((a, b, c) => (b === '' ? a : a.replaceAll(b, () => c))),
  ),
  make(
    'lpad',
    ['text', 'number', 'text'],
    'text',
    'Filled in front up to a length, and cut to it.',
    ["lpad('7', 3, '0')", '007'],
    pad(true),
  ),
  make(
    'rpad',
    ['text', 'number', 'text'],
    'text',
    'Filled behind up to a length, and cut to it.',
    ["rpad('7', 3, '.')", '7..'],
    pad(false),
  ),
  make(
    'concat',
    ['any'],
    'text',
    'The values as text, one behind the other; nulls are passed over.',
    ["concat('Q', 2, null)", 'Q2'],
    unused,
    Number.POSITIVE_INFINITY,
  ),
  make(
    'extract',
    ['text', 'dated'],
    'number',
    'A part of a date or time: year, quarter, month, week (ISO 8601), day, dow (Sunday 0), isodow (Monday 1), doy, isoyear, hour, minute, second.',
    ["extract(week from date '2027-01-03')", '53'],
    unused,
  ),
  make(
    'date_trunc',
    ['text', 'dated'],
    'date',
    'The first day of the year, quarter, month or week that a date lies in.',
    ["date_trunc('quarter', date '2031-06-30')", '2031-04-01'],
    unused,
  ),
];

export const FUNCTION_OF: ReadonlyMap<string, FormulaFunction> = new Map([
  ...FUNCTIONS.map((one): [string, FormulaFunction] => [one.name, one]),
  ['ceiling', FUNCTIONS.find((one) => one.name === 'ceil')!],
  ['character_length', FUNCTIONS.find((one) => one.name === 'char_length')!],
]);
