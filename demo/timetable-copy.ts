import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { columns, truthText, two } from './lines.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

/** A table copied out of a print as CSV: cells slipped to the right, the header again on each page, page numbers. */
export function timetableCopy({ seed = 20_310_609, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const header = 'Sailing,Route,Ship,Foot,Vehicles,,';
  const lines: string[] = [];
  const truth: (string | number | null)[][] = [['Sailing', 'Route', 'Ship', 'Foot', 'Vehicles']];
  for (let page = 1; page <= 4; page++) {
    lines.push(header);
    for (let k = 0; k < 18; k++) {
      const from = random.pick(quays);
      const to = random.pick(quays.filter((port) => port !== from));
      const row = [
        `${two(random.whole(6, 21))}:${random.pick(['00', '10', '25', '40'])}`,
        `${from} to ${to}`,
        random.pick(['Orrin', 'Tolm', 'Skerrow Star']),
        random.whole(20, 240),
        random.whole(0, 60),
      ];
      truth.push(row);
      const cells: (string | number)[] = [...row];
      for (let slips = random.next() < 0.3 ? random.whole(1, 2) : 0; slips > 0; slips--)
        cells.splice(random.whole(0, 4), 0, '');
      while (cells.length < 7) cells.push('');
      lines.push(cells.join(','));
    }
    lines.push(`,,,Page ${page} of 4,,,`);
  }
  return {
    file: 'timetable-copy.csv',
    bytes: new TextEncoder().encode(`${lines.join('\n')}\n`),
    truth: truthText(truth),
    job: demoJob('timetable-copy', 'Timetable copied from a print', 'timetable-copy', 'Sailings', [
      ['read-delimited', { source: 'timetable-copy' }],
      ['header-from-rows', { rows: 1 }],
      ['set-aside', { pile: 'page numbers', rules: [{ test: 'starts', column: 'Foot', text: 'Page ' }] }],
      ['close-gaps', {}],
      ['drop-columns', { columns: columns('F', 'G') }],
      [
        'set-types',
        {
          types: [
            { columns: columns('Sailing'), type: 'time' },
            { columns: columns('Foot', 'Vehicles'), type: 'whole' },
          ],
        },
      ],
    ]),
  };
}
