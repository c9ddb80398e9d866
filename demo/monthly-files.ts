import { bundleFiles } from '../core/index.ts';
import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { columns, truthText, two } from './lines.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

/** Twelve months of arrivals, a file each in one archive, each with a header and a line of totals. */
export function monthlyFiles({
  seed = 20_310_610,
  quays = PORTS,
  months = 12,
}: Edition & { months?: number } = {}): DemoFiles {
  const random = new Random(seed);
  const truth: (string | number | null)[][] = [['Month', 'Quay', 'Sailings', 'Foot', 'Vehicles']];
  const files = Array.from({ length: months }, (_, m) => {
    const month = `${2030 + Math.floor(m / 12)}-${two((m % 12) + 1)}`;
    const rows = quays.map((port) => {
      const sailings = random.whole(60, 120);
      return [port, sailings, sailings * random.whole(30, 80), sailings * random.whole(4, 16)] as const;
    });
    truth.push(...rows.map((row) => [month, ...row]));
    const totals = [1, 2, 3].map((c) => rows.reduce((sum, row) => sum + (row[c] as number), 0));
    const lines = [['Quay', 'Sailings', 'Foot', 'Vehicles'], ...rows, ['Total', ...totals]];
    return {
      name: `arrivals-${month}.csv`,
      bytes: new TextEncoder().encode(`${lines.map((line) => line.join(',')).join('\r\n')}\r\n`),
    };
  });
  return {
    file: 'arrivals-2030.zip',
    bytes: bundleFiles(files),
    truth: truthText(truth),
    job: demoJob('monthly-files', 'Arrivals, twelve files', 'arrivals', 'Arrivals', [
      [
        'read-files',
        {
          source: 'arrivals',
          each: { kind: 'read-delimited', params: {} },
          nameColumn: null,
          nameTemplate: 'arrivals-{Month}.csv',
        },
      ],
      ['header-from-rows', { rows: 1, within: 'Month' }],
      ['set-aside', { pile: 'totals', rules: [{ test: 'equals', column: 'Quay', text: 'Total' }] }],
      ['set-types', { types: [{ columns: columns('Sailings', 'Foot', 'Vehicles'), type: 'whole' }] }],
    ]),
  };
}
