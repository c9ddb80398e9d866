/**
 * Arithmetic as an accountant expects it: numbers that read as decimals are added, multiplied and divided as decimals.
 *
 * A number is kept as a double. Where its shortest text has at most 15 significant digits it stands for that decimal
 * (IEEE 754 doubles hold 15 digits without loss), and the result here is the double nearest to the exact decimal result:
 * operands become whole numbers at a common power of ten, and one division at the end rounds once. Numbers that are no
 * such decimals, a third say, are computed as doubles.
 */

/** Powers of ten that a double holds exactly. */
export const POWERS = Array.from({ length: 23 }, (_, k) => Number(`1e${k}`));
const MAX_DIGITS = 1e15;
/** Places that are tried first for operations on many numbers. */
const MAX_TRIED = 8;
const SAFE = Number.MAX_SAFE_INTEGER;

/** Decimal places of a number that is a decimal of at most 15 digits, or -1. */
export function placesOf(value: number): number {
  if (Number.isInteger(value)) return 0;
  for (let places = 1; places < POWERS.length; places++) {
    const power = POWERS[places]!;
    const whole = Math.round(value * power);
    if (whole > MAX_DIGITS || whole < -MAX_DIGITS) return -1;
    if (whole / power === value) return places;
  }
  return -1;
}

/**
 * Decimal places that all numbers have room in, where the sum of all of them at these places stays a whole number below
 * 2^53; undefined where there are none. NaN does not count.
 */
export function commonPlaces(values: Float64Array, most: number): number | undefined {
  let places = 0;
  let size = 0;
  for (let r = 0; r < values.length; r++) {
    const value = values[r]!;
    if (Number.isNaN(value)) continue;
    // Most are whole, and have room wherever others have.
    for (; (value | 0) !== value; ) {
      const power = POWERS[places]!;
      const whole = Math.round(value * power);
      if (whole / power === value && isShort(whole)) break;
      if (++places > most) return undefined;
    }
    const own = Math.abs(value);
    if (own > size) size = own;
  }
  return size * POWERS[places]! * values.length <= SAFE ? places : undefined;
}

export function add(a: number, b: number): number {
  const plain = a + b;
  if (Number.isInteger(a) && Number.isInteger(b)) return plain;
  const [p, q] = [placesOf(a), placesOf(b)];
  if (p < 0 || q < 0) return plain;
  const places = Math.max(p, q);
  const power = POWERS[places]!;
  const [x, y] = [Math.round(a * power), Math.round(b * power)];
  if (Number.isSafeInteger(x) && Number.isSafeInteger(y) && Number.isSafeInteger(x + y)) return (x + y) / power;
  return Number(`${wholeAt(a, p, places) + wholeAt(b, q, places)}e-${places}`);
}

/** A decimal of some places as a whole number at more of them, every digit. */
function wholeAt(value: number, places: number, to: number): bigint {
  return BigInt(Math.round(value * POWERS[places]!)) * 10n ** BigInt(to - places);
}

export function subtract(a: number, b: number): number {
  return add(a, -b);
}

export function multiply(a: number, b: number): number {
  const plain = a * b;
  if (Number.isInteger(a) && Number.isInteger(b)) return plain;
  const [p, q] = [placesOf(a), placesOf(b)];
  if (p < 0 || q < 0) return plain;
  const [x, y] = [Math.round(a * POWERS[p]!), Math.round(b * POWERS[q]!)];
  const product = x * y;
  const places = p + q;
  if (product <= SAFE && product >= -SAFE && places < POWERS.length) return product / POWERS[places]!;
  return Number.isSafeInteger(x) && Number.isSafeInteger(y) ? Number(`${BigInt(x) * BigInt(y)}e-${places}`) : plain;
}

/** @returns what the division of doubles gives for a divisor of zero */
export function divide(a: number, b: number): number {
  const plain = a / b;
  if (b === 0 || (Number.isInteger(a) && Number.isInteger(b))) return plain;
  const [p, q] = [placesOf(a), placesOf(b)];
  if (p < 0 || q < 0) return plain;
  const places = Math.max(p, q);
  const [x, y] = [scaled(a, p, places), scaled(b, q, places)];
  return Number.isSafeInteger(x) && Number.isSafeInteger(y) ? x / y : plain;
}

/** The remainder with the sign of the first, as % gives it. */
export function remainder(a: number, b: number): number {
  const [p, q] = [placesOf(a), placesOf(b)];
  if (p < 0 || q < 0 || b === 0) return a % b;
  const places = Math.max(p, q);
  const [x, y] = [scaled(a, p, places), scaled(b, q, places)];
  return Number.isSafeInteger(x) && Number.isSafeInteger(y) ? (x % y) / POWERS[places]! : a % b;
}

function scaled(value: number, places: number, to: number): number {
  return Math.round(value * POWERS[places]!) * POWERS[to - places]!;
}

/** To a whole power by decimal products, else as doubles. */
export function power(a: number, b: number): number {
  if (!Number.isInteger(b) || b < 2 || b > 64 || Number.isInteger(a)) return a ** b;
  let product = a;
  for (let k = 1; k < b; k++) product = multiply(product, a);
  return product;
}

/** The same results for an operation that is done on many numbers alike: it tries the places of the last ones first. */
export function adder(sign: 1 | -1): (a: number, b: number) => number {
  let places = 0;
  return (a, b) => {
    const power = POWERS[places]!;
    const x = Math.round(a * power);
    const y = Math.round(b * power);
    if (x / power === a && y / power === b) {
      const sum = x + sign * y;
      if (sum <= MAX_DIGITS && sum >= -MAX_DIGITS && isShort(x) && isShort(y)) return sum / power;
    }
    places = Math.max(places, Math.min(placesOf(a), MAX_TRIED), Math.min(placesOf(b), MAX_TRIED));
    return add(a, sign * b);
  };
}

/** As adder, for products. */
export function multiplier(): (a: number, b: number) => number {
  let p = 0;
  let q = 0;
  return (a, b) => {
    const [left, right] = [POWERS[p]!, POWERS[q]!];
    const x = Math.round(a * left);
    const y = Math.round(b * right);
    const product = x * y;
    if (x / left === a && y / right === b && isShort(x) && isShort(y) && product <= SAFE && product >= -SAFE)
      return product / POWERS[p + q]!;
    p = Math.max(p, Math.min(placesOf(a), MAX_TRIED));
    q = Math.max(q, Math.min(placesOf(b), MAX_TRIED));
    return multiply(a, b);
  };
}

/** As adder, for quotients. */
export function divider(): (a: number, b: number) => number {
  let places = 0;
  return (a, b) => {
    const power = POWERS[places]!;
    const x = Math.round(a * power);
    const y = Math.round(b * power);
    if (x / power === a && y / power === b && isShort(x) && isShort(y) && y !== 0) return x / y;
    places = Math.max(places, Math.min(placesOf(a), MAX_TRIED), Math.min(placesOf(b), MAX_TRIED));
    return divide(a, b);
  };
}

function isShort(whole: number): boolean {
  return whole <= MAX_DIGITS && whole >= -MAX_DIGITS;
}

/**
 * A sum of decimals without any error, kept as a whole number at the places of the finest; where a number is no decimal
 * or the sum outgrows 2^53, a sum that loses no small parts beside large ones (Neumaier's improvement of Kahan's
 * summation, Zeitschrift für Angewandte Mathematik und Mechanik 54, 1974), rounded to the places seen.
 */
export class Sum {
  private whole = 0;
  private places = 0;
  private exact = true;
  private total = 0;
  private lost = 0;

  clear(): void {
    this.whole = 0;
    this.places = 0;
    this.exact = true;
    this.total = 0;
    this.lost = 0;
  }

  add(value: number): void {
    if (this.exact) {
      const power = POWERS[this.places]!;
      const own = Math.round(value * power);
      if (own / power === value && isShort(own)) {
        const next = this.whole + own;
        if (next <= SAFE && next >= -SAFE) {
          this.whole = next;
          return;
        }
      } else if (this.finer(value)) {
        this.add(value);
        return;
      }
      this.exact = false;
      this.total = this.whole / POWERS[this.places]!;
    }
    const next = this.total + value;
    this.lost += Math.abs(this.total) >= Math.abs(value) ? this.total - next + value : value - next + this.total;
    this.total = next;
  }

  /** Keeps the sum at more places, where the number needs them and the sum can. */
  private finer(value: number): boolean {
    const places = placesOf(value);
    if (places <= this.places) return false;
    const whole = this.whole * POWERS[places - this.places]!;
    if (!Number.isSafeInteger(whole)) return false;
    this.whole = whole;
    this.places = places;
    return true;
  }

  get value(): number {
    return this.exact ? this.whole / POWERS[this.places]! : this.total + this.lost;
  }

  /** The sum over a count, rounded once. */
  mean(count: number): number {
    const divisor = POWERS[this.places]! * count;
    return this.exact && divisor <= SAFE ? this.whole / divisor : this.value / count;
  }
}
