import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

const HAULIERS = ['Orrin & Daughters', 'Tolm Haulage', 'North Quay Stores', 'Brae Timber', 'Ness & Sons'];
const GOODS = ['BARLEY', 'TIMBER', 'EMPTY', 'FISH, ICED', 'WOOL', 'MALT', 'SLATE'];
const PAGE_LINES = 14;

/** 14 220, or 11 060- for what was weighed back out: as old print-outs write amounts. */
function amount(value: number): string {
  const grouped = String(Math.abs(value)).replace(/\B(?=(\d{3})+$)/g, ' ');
  return value < 0 ? `${grouped}-` : grouped;
}

/** A print-out in fixed columns, with page heads, a column head on each page, and a subtotal for each port. */
export function weighbridge({ seed = 20_310_602, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const lines: string[] = [];
  const truth: string[] = ['Port,Ticket,Time,Haulier,Goods,Gross kg'];
  let page = 0;
  let onPage = 0;
  let ticket = 412;
  const head = (port: string) => {
    page++;
    onPage = 0;
    lines.push(`SKERROW FERRIES      QUAY WEIGHBRIDGE             PAGE ${page}`);
    lines.push(`PORT ${port.toUpperCase().padEnd(17)}PRINTED 04/07/2031 06:12`, '');
    lines.push(
      `${'TICKET'.padEnd(14)}${'TIME'.padEnd(8)}${'HAULIER'.padEnd(22)}${'GOODS'.padEnd(18)}${'GROSS KG'.padStart(9)}`,
    );
  };
  for (const port of quays) {
    head(port);
    let total = 0;
    let minutes = random.whole(360, 390);
    for (let k = random.whole(18, 26); k > 0; k--) {
      if (onPage === PAGE_LINES) {
        lines.push('');
        head(port);
      }
      onPage++;
      minutes += random.whole(3, 40);
      const time = `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
      const number = `${port[0]}-${String(ticket++).padStart(5, '0')}`;
      const [haulier, goods] = [random.pick(HAULIERS), random.pick(GOODS)];
      const kilos = random.whole(300, 2600) * 10 * (random.next() < 0.12 ? -1 : 1);
      total += kilos;
      lines.push(
        `${number.padEnd(14)}${time.padEnd(8)}${haulier.padEnd(22)}${goods.padEnd(18)}${amount(kilos).padStart(kilos < 0 ? 10 : 9)}`,
      );
      truth.push(
        [port.toUpperCase(), number, time, haulier, goods.includes(',') ? `"${goods}"` : goods, kilos].join(','),
      );
    }
    lines.push(
      `${' '.repeat(44)}${`${port.toUpperCase()} SUBTOTAL`.padEnd(18)}${amount(total).padStart(total < 0 ? 10 : 9)}`,
      '',
    );
  }
  return {
    file: 'weighbridge.prn',
    bytes: new TextEncoder().encode(`${lines.join('\r\n')}\r\n`),
    truth: `${truth.join('\r\n')}\r\n`,
    job: demoJob('weighbridge', 'Weighbridge print-out', 'weighbridge', 'Weighings', [
      ['read-fixed-width', { source: 'weighbridge', cuts: [14, 22, 41, 61] }],
      ['carry', { from: 'A', rule: { test: 'starts', column: 'A', text: 'PORT ' }, into: 'Port' }],
      ['header-from-rows', { at: { test: 'equals', column: 'A', text: 'TICKET' } }],
      ['set-aside', { pile: 'titles', rules: [{ test: 'starts', column: 'TICKET', text: 'SKERROW' }] }],
      ['set-aside', { pile: 'blanks', rules: [{ test: 'empty' }] }],
      ['set-aside', { pile: 'totals', rules: [{ test: 'ends', column: 'GOODS', text: 'SUBTOTAL' }] }],
      ['replace', { columns: { by: 'names', names: ['Port'] }, find: 'PORT ', with: '' }],
      [
        'set-types',
        {
          types: [
            { columns: { by: 'names', names: ['TIME'] }, type: 'time' },
            { columns: { by: 'names', names: ['GROSS KG'] }, type: 'whole' },
          ],
        },
      ],
      [
        'rename',
        {
          names: [
            ['TICKET', 'Ticket'],
            ['TIME', 'Time'],
            ['HAULIER', 'Haulier'],
            ['GOODS', 'Goods'],
            ['GROSS KG', 'Gross kg'],
          ].map(([from, to]) => ({ from, to })),
        },
      ],
    ]),
  };
}
