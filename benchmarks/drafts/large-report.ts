/** A delimited report of so many rows by 20 columns, with a title and a total. */
export function largeReport(rows: number): Uint8Array<ArrayBuffer> {
  const columns = 16;
  const sums = new Array<number>(columns).fill(0);
  const lines = [
    'Returns of the yards',
    '',
    ['Code', 'Day', 'Site', 'Item', ...sums.map((_, k) => `Measure ${k + 1}`)].join(','),
  ];
  for (let r = 0; r < rows; r++) {
    const figures = sums.map((_, k) => ((r * 7919 + k * 104729) % 100003) + 100);
    for (const [k, value] of figures.entries()) sums[k]! += value;
    lines.push(
      [
        `C-${r}`,
        `2030-0${1 + (r % 9)}-1${r % 9}`,
        `Site ${r % 50}`,
        `Item ${r % 13}`,
        ...figures.map((value) => value / 10),
      ].join(','),
    );
  }
  lines.push(['Total', '', '', '', ...sums.map((value) => value / 10)].join(','));
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
