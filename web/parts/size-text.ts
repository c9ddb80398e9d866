export function sizeText(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  const [size, unit] = bytes < 1_000_000 ? [bytes / 1000, 'kB'] : [bytes / 1_000_000, 'MB'];
  return `${size.toLocaleString('en-GB', { maximumFractionDigits: size < 10 ? 1 : 0 })} ${unit}`;
}
