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

const DEPOTS = ['Hask', 'Ullin', 'Brannoch', 'Varra', 'Orrin', 'Tarve', 'Skerrow'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct'];

/**
 * Delimited text of so many rows with every layer that reports have: titles, a header of two tiers over 20 columns of
 * figures, a heading for each depot, its subtotal, a grand total and notes.
 */
export function layeredReport(rows: number): Uint8Array<ArrayBuffer> {
  const width = 2 * MONTHS.length;
  const blocks = Math.max(2, Math.round(rows / 40));
  const total = new Array<number>(width).fill(0);
  const line = (first: string, values: readonly number[]) => [first, ...values.map((value) => value / 10)].join(',');
  const lines = [
    'Depot returns 2031',
    'All depots',
    '',
    ['', ...MONTHS.flatMap((month) => [month, ''])].join(','),
    ['Site', ...MONTHS.flatMap(() => ['Foot', 'Cars'])].join(','),
  ];
  for (let block = 0, r = 0; block < blocks; block++) {
    const depot = `${DEPOTS[block % DEPOTS.length]} ${1 + Math.floor(block / DEPOTS.length)}`;
    const sums = new Array<number>(width).fill(0);
    lines.push(depot);
    for (const end = Math.round(((block + 1) * rows) / blocks); r < end; r++) {
      const values = sums.map((_, k) => ((r * 7919 + k * 104_729) % 100_003) + 100);
      for (const [k, value] of values.entries()) sums[k]! += value;
      lines.push(line(`Site ${r % 997}`, values));
    }
    for (const [k, value] of sums.entries()) total[k]! += value;
    lines.push(line(`Total ${depot}`, sums));
  }
  lines.push(line('Grand total', total), '', 'Figures are provisional.');
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
