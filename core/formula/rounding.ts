/**
 * Rounding in decimal, on the shortest decimal text of a number, so that what reads 2.675 rounds as 2.675 does.
 * Half up is away from zero (IEEE 754 roundTiesToAway), half even is roundTiesToEven.
 */
export type Ties = 'half-up' | 'half-even';

/** @param digits decimal digits kept; negative rounds to tens, hundreds */
export function roundTo(value: number, digits: number, ties: Ties = 'half-up'): number {
  if (!Number.isFinite(value)) return value;
  const shifted = Number(shift(value, digits));
  if (!Number.isFinite(shifted) || Math.abs(shifted) >= 2 ** 52) return value;
  return Number(shift(roundWhole(shifted, ties), -digits)) || 0;
}

/** To a whole number of parts: 4 rounds to quarters. */
export function roundToFraction(value: number, parts: number, ties: Ties = 'half-up'): number {
  return roundWhole(value * parts, ties) / parts || 0;
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
