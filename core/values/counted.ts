/** Counts and numbers as messages and pages show them. */
const LOCALE = 'en-GB';
/** Made when the first number is shown: it takes a tenth of the time that a command needs to start. */
let whole: Intl.NumberFormat | undefined;

/** A figure with marks between its thousands: 1,204. */
export function grouped(figure: number, most?: number): string {
  if (most === undefined) {
    whole ??= new Intl.NumberFormat(LOCALE);
    return whole.format(figure);
  }
  return figure.toLocaleString(LOCALE, { maximumFractionDigits: most });
}

/** A computed figure without the noise behind its twelfth digit: 0.3, not 0.30000000000000004. */
export function plainFigure(figure: number): string {
  return grouped(Number(figure.toPrecision(12)), 12);
}

/** 1 row, 2 rows, 1,204 rows. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${grouped(count)} ${count === 1 ? one : many}`;
}

/** Lists a few and counts the rest: April, May and 3 more. */
export function few(items: readonly string[], most = 3): string {
  if (items.length <= most) return items.join(', ');
  return `${items.slice(0, most).join(', ')} and ${grouped(items.length - most)} more`;
}

/** How large something is: 812 bytes, 1.2 MB. */
export function sizeText(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  const [size, unit] =
    bytes < 1_000_000 ? [bytes / 1e3, 'kB'] : bytes < 1_000_000_000 ? [bytes / 1e6, 'MB'] : [bytes / 1e9, 'GB'];
  return `${grouped(size, size < 10 ? 1 : 0)} ${unit}`;
}
