/**
 * Dates and times as text, by the date field symbols of Unicode UTS #35 (Part 4):
 * y yy yyyy, M MM MMM MMMM, d dd, E to EEEE (read over), H HH h hh a, m mm, s ss, S to SSS, X x Z with their widths (an offset from UTC), text in '...'.
 */
import { daysFromCivil, daysInMonth, MS } from './civil.ts';
import { monthNames, monthNumber } from './month-names.ts';

export type DatePart = 'date' | 'time' | 'datetime';

interface Token {
  symbol: string;
  width: number;
  /** Literal text, when symbol is ''. */
  text: string;
}

export interface DatePattern {
  pattern: string;
  kind: DatePart;
  tokens: readonly Token[];
  /** The first year that two digits may mean; 1950 reads 49 as 2049 and 50 as 1950. */
  windowFrom: number;
  language: string;
  /** Turns UTC into the clock that is wanted; without it the clock stays as it is written, whatever the offset. */
  zone?: ((utc: number) => number) | undefined;
}

const DATE_SYMBOLS = 'yMdE';
const TIME_SYMBOLS = 'HhamsSXxZ';

/** @throws Error that names the symbol when the pattern holds one that is not known, or no field at all */
export function compilePattern(
  pattern: string,
  language = 'any',
  windowFrom = 1950,
  zone?: (utc: number) => number,
): DatePattern {
  const tokens: Token[] = [];
  for (let k = 0; k < pattern.length; ) {
    const symbol = pattern[k]!;
    if (symbol === "'") {
      const end = pattern.indexOf("'", k + 1);
      if (end < 0) throw new Error(`The pattern ${pattern} has an opening ' without a closing one`);
      tokens.push({ symbol: '', width: 0, text: end === k + 1 ? "'" : pattern.slice(k + 1, end) });
      k = end + 1;
    } else if (/[A-Za-z]/.test(symbol)) {
      let width = 1;
      while (pattern[k + width] === symbol) width++;
      if (!DATE_SYMBOLS.includes(symbol) && !TIME_SYMBOLS.includes(symbol)) {
        throw new Error(
          `The pattern ${pattern} has '${symbol}', which is no date field here: use y M d E H h m s S a X, or quote it`,
        );
      }
      tokens.push({ symbol, width, text: '' });
      k += width;
    } else {
      tokens.push({ symbol: '', width: 0, text: symbol });
      k++;
    }
  }
  const has = (symbols: string) => tokens.some((token) => token.symbol !== '' && symbols.includes(token.symbol));
  const [dated, timed] = [has(DATE_SYMBOLS), has(TIME_SYMBOLS)];
  if (!dated && !timed) throw new Error(`The pattern ${pattern} names no part of a date or time`);
  return { pattern, kind: dated ? (timed ? 'datetime' : 'date') : 'time', tokens, windowFrom, language, zone };
}

interface Fields {
  y?: number;
  M: number;
  d: number;
  hour: number;
  half: number | undefined;
  minute: number;
  second: number;
  ms: number;
  /** Minutes that the clock is ahead of UTC. */
  offset?: number;
}

/** @returns days, milliseconds of the day, or milliseconds since 1970 by the pattern's kind; or the reason why not */
export function readDate(text: string, pattern: DatePattern): number | string {
  const fields: Fields = { M: 1, d: 1, hour: 0, half: undefined, minute: 0, second: 0, ms: 0 };
  let at = 0;
  const source = text.trim();
  for (const token of pattern.tokens) {
    if (token.symbol === '') {
      if (token.text === ' ') {
        const blanks = /^\s+/u.exec(source.slice(at));
        if (blanks === null) return `expected a blank at character ${at + 1}`;
        at += blanks[0].length;
      } else if (source.startsWith(token.text, at)) {
        at += token.text.length;
      } else {
        return `expected '${token.text}' at character ${at + 1}`;
      }
      continue;
    }
    const next = readField(source, at, token, pattern, fields);
    if (typeof next === 'string') return next;
    at = next;
  }
  if (at < source.length) return `'${source.slice(at)}' is left over`;
  return assemble(fields, pattern);
}

function readField(source: string, at: number, token: Token, pattern: DatePattern, fields: Fields): number | string {
  const { symbol, width } = token;
  if (symbol === 'E') {
    const word = /^[\p{L}.]+/u.exec(source.slice(at));
    return word === null ? `expected a weekday at character ${at + 1}` : at + word[0].length;
  }
  if (symbol === 'M' && width >= 3) {
    const word = /^[\p{L}\p{M}]+\.?/u.exec(source.slice(at));
    if (word === null) return `expected the name of a month at character ${at + 1}`;
    const month = monthNumber(word[0], pattern.language);
    if (month === undefined) return `'${word[0]}' is not the name of a month`;
    fields.M = month;
    return at + word[0].length;
  }
  if (symbol === 'X' || symbol === 'x' || symbol === 'Z') {
    const offset = /^(?:([Zz])|(?:UTC|GMT)?([+\-\u2212])(\d\d)(?::?(\d\d))?)/u.exec(source.slice(at, at + 10));
    if (offset === null) return `expected an offset such as Z or +02:00 at character ${at + 1}`;
    const minutes = offset[1] === undefined ? Number(offset[3]) * 60 + Number(offset[4] ?? 0) : 0;
    fields.offset = offset[2] === undefined || offset[2] === '+' ? minutes : -minutes;
    return at + offset[0].length;
  }
  if (symbol === 'a') {
    const half = /^([ap])\.?\s?m\.?/iu.exec(source.slice(at));
    if (half === null) return `expected am or pm at character ${at + 1}`;
    fields.half = half[1]!.toLowerCase() === 'p' ? 12 : 0;
    return at + half[0].length;
  }
  const most = symbol === 'y' ? (width === 2 ? 2 : 4) : symbol === 'S' ? width : 2;
  let end = at;
  while (end < source.length && end - at < most && isDigit(source.charCodeAt(end))) end++;
  const least = width >= 2 && symbol !== 'S' ? Math.min(width, most) : 1;
  if (end - at < least) return `expected ${least === 1 ? 'a digit' : `${least} digits`} at character ${at + 1}`;
  const value = Number(source.slice(at, end));
  switch (symbol) {
    case 'y':
      fields.y = width === 2 ? windowed(value, pattern.windowFrom) : value;
      break;
    case 'M':
      fields.M = value;
      break;
    case 'd':
      fields.d = value;
      break;
    case 'H':
    case 'h':
      if (symbol === 'h' && (value < 1 || value > 12)) return `${value} is not an hour from 1 to 12`;
      fields.hour = symbol === 'h' ? value % 12 : value;
      break;
    case 'm':
      fields.minute = value;
      break;
    case 's':
      fields.second = value;
      break;
    default:
      fields.ms = Math.round((value / 10 ** (end - at)) * 1000);
  }
  return end;
}

function isDigit(code: number): boolean {
  return code >= 48 && code <= 57;
}

function windowed(twoDigits: number, from: number): number {
  const century = Math.floor(from / 100) * 100;
  return century + twoDigits < from ? century + 100 + twoDigits : century + twoDigits;
}

function assemble(fields: Fields, pattern: DatePattern): number | string {
  const hour = fields.hour + (fields.half ?? 0);
  if (hour > 23) return `${hour} is not an hour`;
  if (fields.minute > 59) return `${fields.minute} is not a minute`;
  if (fields.second > 59) return `${fields.second} is not a second`;
  const time = hour * MS.hour + fields.minute * MS.minute + fields.second * MS.second + fields.ms;
  const turned = (local: number) =>
    pattern.zone === undefined || fields.offset === undefined ? local : pattern.zone(local - fields.offset * MS.minute);
  if (pattern.kind === 'time') return ((turned(time) % MS.day) + MS.day) % MS.day;
  if (fields.M < 1 || fields.M > 12) return `${fields.M} is not a month`;
  const year = fields.y ?? 1970;
  if (fields.d < 1 || fields.d > daysInMonth(year, fields.M)) {
    return `month ${fields.M} of ${year} has no day ${fields.d}`;
  }
  const days = daysFromCivil(year, fields.M, fields.d);
  return pattern.kind === 'date' ? days : turned(days * MS.day + time);
}

/** Writes a value by a pattern; the value is of the pattern's kind. English names unless the pattern names a language. */
export function writeDate(
  value: number,
  pattern: DatePattern,
  civil: (days: number) => [number, number, number],
): string {
  const days = pattern.kind === 'date' ? value : Math.floor(value / MS.day);
  const time = pattern.kind === 'date' ? 0 : pattern.kind === 'time' ? value : value - days * MS.day;
  const [year, month, day] = pattern.kind === 'time' ? [1970, 1, 1] : civil(days);
  const hour = Math.floor(time / MS.hour);
  let out = '';
  for (const { symbol, width, text } of pattern.tokens) {
    const pad = (n: number) => String(n).padStart(width, '0');
    if (symbol === '') out += text;
    else if (symbol === 'y')
      out += width === 2 ? String(year % 100).padStart(2, '0') : String(year).padStart(Math.max(width, 1), '0');
    else if (symbol === 'M') out += width >= 3 ? monthNames(pattern.language, width === 3)[month - 1]! : pad(month);
    else if (symbol === 'd') out += pad(day);
    else if (symbol === 'E') out += ['Thu', 'Fri', 'Sat', 'Sun', 'Mon', 'Tue', 'Wed'][((days % 7) + 7) % 7]!;
    else if (symbol === 'H') out += pad(hour);
    else if (symbol === 'h') out += pad(hour % 12 === 0 ? 12 : hour % 12);
    else if (symbol === 'a') out += hour < 12 ? 'AM' : 'PM';
    else if (symbol === 'X' || symbol === 'x' || symbol === 'Z') out += symbol === 'X' ? 'Z' : '+0000';
    else if (symbol === 'm') out += pad(Math.floor((time % MS.hour) / MS.minute));
    else if (symbol === 's') out += pad(Math.floor((time % MS.minute) / MS.second));
    else
      out += String(time % MS.second)
        .padStart(3, '0')
        .slice(0, width)
        .padEnd(width, '0');
  }
  return out;
}
