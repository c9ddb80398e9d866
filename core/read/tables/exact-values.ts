/** Values of typed files whose digits a double does not always keep. */

/**
 * A decimal as a number where a number keeps each of its digits, else as its text.
 * @param unscaled the digits as one whole number
 * @param scale how many of them are behind the point
 */
export function decimalValue(unscaled: bigint, scale: number): number | string {
  const digits = String(unscaled < 0n ? -unscaled : unscaled).padStart(scale + 1, '0');
  const sign = unscaled < 0n ? '-' : '';
  const text = sign + (scale === 0 ? digits : `${digits.slice(0, -scale)}.${digits.slice(-scale)}`);
  const value = Number(text);
  // A double keeps 15 significant digits without loss (IEEE 754).
  if (digits.replace(/^0+/, '').length <= 15) return value;
  const plain = scale === 0 ? text : text.replace(/\.?0+$/, '');
  return String(value) === plain ? value : text;
}

/**
 * The decimal that a 32-bit float was written as: where the float itself has more than 9 digits, the shortest decimal
 * that gives it back (0.1, where the double beside it is 0.10000000149011612).
 */
export function float32Value(value: number): number {
  if (Number.isInteger(value) || !Number.isFinite(value) || Number(value.toPrecision(9)) === value) return value;
  for (let digits = 6; digits < 9; digits++) {
    const short = Number(value.toPrecision(digits));
    if (Math.fround(short) === value) return short;
  }
  return Number(value.toPrecision(9));
}

/** A point in time, or a time of day, in units that may be finer than milliseconds. */
export class FineTime {
  /** @param units since 1970 or midnight @param perMillisecond how many units make a millisecond */
  constructor(
    private readonly units: bigint,
    private readonly perMillisecond: bigint,
  ) {}

  /** Whole milliseconds, rounded down. */
  get milliseconds(): number {
    return Number((this.units - this.rest) / this.perMillisecond);
  }

  get hasFraction(): boolean {
    return this.rest !== 0n;
  }

  private get rest(): bigint {
    const rest = this.units % this.perMillisecond;
    return rest < 0n ? rest + this.perMillisecond : rest;
  }

  /** ISO 8601 with each digit of the fraction, for values inside lists and records. */
  toJSON(): string {
    const time = new Date(this.milliseconds).toISOString().slice(0, -1);
    if (!this.hasFraction) return `${time}Z`;
    const places = String(this.perMillisecond).length - 1;
    return `${time}${String(this.rest).padStart(places, '0')}Z`;
  }
}

/** Months, days and milliseconds, each four bytes from the low end (Parquet, LogicalTypes, INTERVAL), as ISO 8601. */
export function intervalText(bytes: Uint8Array): string {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [months, days, milliseconds] = [0, 4, 8].map((at) => view.getUint32(at, true)) as [number, number, number];
  const time = milliseconds === 0 ? '' : `T${milliseconds / 1000}S`;
  const text = `${months === 0 ? '' : `${months}M`}${days === 0 ? '' : `${days}D`}${time}`;
  return text === '' ? 'PT0S' : `P${text}`;
}
