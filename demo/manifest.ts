import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { columns, NAMES, truthText, two } from './lines.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

/** A manifest: a header by tabs, and the records of a whole voyage packed on one line. */
export function manifest({ seed = 20_310_605, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const lines = ['Voyage\tDate\tMaster\tRecords (ref|name|foot|vehicle)'];
  const truth: (string | number | null)[][] = [['Voyage', 'Date', 'Master', 'Ref', 'Name', 'Foot', 'Vehicle']];
  let ref = 410;
  for (let voyage = 0; voyage < 14; voyage++) {
    const port = random.pick(quays);
    const to = random.pick(quays.filter((other) => other !== port));
    const code = `${port[0]}${to[0]}-${two(random.whole(6, 21))}${random.pick(['00', '10', '25', '40'])}`;
    const date = `2031-06-${two(2 + Math.floor(voyage / 3))}`;
    const master = random.pick(NAMES);
    const records = Array.from({ length: random.whole(3, 9) }, () => {
      const vehicle = random.pick(['car', 'van', 'lorry', '', '']);
      const record = [`M${ref++}`, random.pick(NAMES), random.whole(1, 6), vehicle];
      truth.push([code, date, master, ...record.map((cell) => (cell === '' ? null : cell))]);
      return record.join('|');
    });
    lines.push([code, date, master, records.join('; ')].join('\t'));
  }
  const packed = 'Records (ref|name|foot|vehicle)';
  return {
    file: 'manifest.txt',
    bytes: new TextEncoder().encode(`${lines.join('\n')}\n`),
    truth: truthText(truth),
    job: demoJob('manifest', 'Packed manifest', 'manifest', 'Passengers', [
      ['read-delimited', { source: 'manifest', delimiter: '\t' }],
      ['header-from-rows', { rows: 1 }],
      ['split-to-rows', { columns: [packed], cut: { by: 'delimiter', delimiters: [';'] } }],
      [
        'split-to-columns',
        { column: packed, cut: { by: 'delimiter', delimiters: ['|'] }, into: ['Ref', 'Name', 'Foot', 'Vehicle'] },
      ],
      [
        'set-types',
        {
          types: [
            { columns: columns('Date'), type: 'date' },
            { columns: columns('Foot'), type: 'whole' },
          ],
        },
      ],
    ]),
  };
}
