/** Truth as the application writes it: RFC 4180, CRLF. */
export function truthText(rows: readonly (readonly (string | number | null)[])[]): string {
  const cell = (value: string | number | null) => {
    const text = value === null ? '' : String(value);
    return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  return rows.map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}

/** A share in four decimals. */
/** To four decimals, halves away from zero, worked out in whole numbers. */
export const shareOf = (part: number, whole: number) =>
  (Math.sign(part) * Math.round((Math.abs(part) * 10_000) / whole)) / 10_000 || 0;

export const two = (n: number) => String(n).padStart(2, '0');

/** Columns by name, as steps take them. */
export const columns = (...names: string[]) => ({ by: 'names' as const, names });

export const NAMES = [
  'Isla Tolm',
  'Ewan Marr',
  'Zoë Brandt',
  'André Côté',
  'Mairi Skene',
  'Jürgen Falk',
  'Una Orrin',
  'Piet van Dael',
  'Rhona Hask',
  'Siân Pryce',
] as const;
