/** Clock time in a stated zone: UTC, an offset of ISO 8601, or a name of the time zone database (IANA). */
import { daysFromCivil, MS } from './civil.ts';

const OFFSET = /^(?:UTC|GMT)?([+-])(\d{1,2})(?::?(\d\d))?$/i;

/**
 * @returns milliseconds since 1970 by the zone's clock, for milliseconds since 1970 in UTC
 * @throws Error for a zone that is not known
 */
export function zoneOf(name: string): (utc: number) => number {
  const plain = name.trim();
  if (/^(?:Z|UTC|GMT)$/i.test(plain)) return (utc) => utc;
  const match = OFFSET.exec(plain);
  if (match !== null) {
    const size = (Number(match[2]) * 60 + Number(match[3] ?? 0)) * MS.minute;
    return (utc) => utc + (match[1] === '-' ? -size : size);
  }
  const format = formatOf(plain);
  // Offsets hold for a quarter of an hour at least.
  const known = new Map<number, number>();
  return (utc) => {
    const quarter = Math.floor(utc / (15 * MS.minute));
    let offset = known.get(quarter);
    if (offset === undefined) {
      offset = clockOf(format, quarter * 15 * MS.minute) - quarter * 15 * MS.minute;
      known.set(quarter, offset);
    }
    return utc + offset;
  };
}

function formatOf(name: string): Intl.DateTimeFormat {
  try {
    return new Intl.DateTimeFormat('en-GB', {
      timeZone: name,
      hourCycle: 'h23',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
      second: 'numeric',
    });
  } catch {
    throw new Error(
      `There is no time zone ${name}: use UTC, an offset such as +01:00, or a name such as Europe/Lisbon`,
    );
  }
}

function clockOf(format: Intl.DateTimeFormat, utc: number): number {
  const parts = new Map(format.formatToParts(utc).map(({ type, value }) => [type, Number(value)]));
  const of = (type: Intl.DateTimeFormatPartTypes) => parts.get(type)!;
  const days = daysFromCivil(of('year'), of('month'), of('day'));
  return days * MS.day + of('hour') * MS.hour + of('minute') * MS.minute + of('second') * MS.second;
}
