import { divide, multiply, POWERS, placesOf } from '../values/decimal.ts';

/**
 * Rounding in decimal, on the shortest decimal text of a number, so that what reads 2.675 rounds as 2.675 does.
 * Half up is away from zero (IEEE 754 roundTiesToAway), half even is roundTiesToEven.
 */
export type Ties = 'half-up' | 'half-even';

/** @param digits decimal digits kept; negative rounds to tens, hundreds */
export function roundTo(value: number, digits: number, ties: Ties = 'half-up'): number {
  if (!Number.isFinite(value)) return value;
  const places = placesOf(value);
  if (places >= 0 && places <= digits) return value;
  if (places > 0 && digits >= 0) {
    // Both are whole numbers that doubles hold: nothing is lost before the one division at the end.
    const [whole, unit] = [Math.round(value * POWERS[places]!), POWERS[places - digits]!];
    return roundParts(whole, unit, ties) / POWERS[digits]! || 0;
  }
  const shifted = Number(shift(value, digits));
  if (!Number.isFinite(shifted) || Math.abs(shifted) >= 2 ** 52) return value;
  return Number(shift(roundWhole(shifted, ties), -digits)) || 0;
}

/** To a whole number of parts: 4 rounds to quarters. */
export function roundToFraction(value: number, parts: number, ties: Ties = 'half-up'): number {
  return divide(roundWhole(multiply(value, parts), ties), parts) || 0;
}

/** How many units a whole number is, rounded. */
function roundParts(whole: number, unit: number, ties: Ties): number {
  const size = Math.abs(whole);
  let units = Math.floor(size / unit);
  const rest = size - units * unit;
  if (rest * 2 > unit || (rest * 2 === unit && (ties === 'half-up' || units % 2 === 1))) units++;
  return whole < 0 ? -units : units;
}

function roundWhole(value: number, ties: Ties): number {
  const size = Math.abs(value);
  let whole = Math.floor(size);
  const rest = size - whole;
  if (rest > 0.5 || (rest === 0.5 && (ties === 'half-up' || whole % 2 === 1))) whole++;
  return value < 0 ? -whole : whole;
}

/** The number times ten to the power, without the error of a multiplication. */
function shift(value: number, by: number): string {
  const [digits, exponent = '0'] = String(value).split('e');
  return `${digits}e${Number(exponent) + by}`;
}
