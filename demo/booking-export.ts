import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { columns, NAMES, truthText, two } from './lines.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

/** Windows-1252 for what this report holds: Latin-1 and the euro sign. */
function windows1252(text: string): Uint8Array {
  return Uint8Array.from(text, (character) => (character === '€' ? 0x80 : character.charCodeAt(0)));
}

/** An export of bookings: semicolons, decimal commas, Windows-1252, remarks past the last column, short rows. */
export function bookingExport({ seed = 20_310_604, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const lines = ['Ref;Date;From;To;Name;Foot;Vehicles;Fare €'];
  const truth: (string | number | null)[][] = [
    ['Ref', 'Date', 'From', 'To', 'Name', 'Foot', 'Vehicles', 'Fare', 'Remark'],
  ];
  for (let k = 0; k < 160; k++) {
    const from = random.pick(quays);
    const to = random.pick(quays.filter((port) => port !== from));
    const [day, foot, vehicles] = [random.whole(1, 30), random.whole(1, 9), random.whole(0, 2)];
    const cents = (foot * 840 + vehicles * 4650) * (random.next() < 0.06 ? 25 : 1);
    const ref = `B${7000 + k}`;
    const name = random.pick(NAMES);
    const unpaid = random.next() < 0.08;
    const remark = random.next() < 0.1 ? random.pick(['wheelchair', 'dog; small', 'lorry, see "freight"']) : null;
    const euros = `${String(Math.floor(cents / 100)).replace(/\B(?=(\d{3})+$)/g, '.')},${two(cents % 100)}`;
    const cells = [ref, `${two(day)}.06.2031`, from, to, name, foot, vehicles, unpaid ? '' : euros];
    const quoted = remark !== null && /[;"]/.test(remark) ? `"${remark.replaceAll('"', '""')}"` : remark;
    // What is not paid yet is cut off: the row ends early.
    lines.push(
      (unpaid && remark === null ? cells.slice(0, -1) : [...cells, ...(quoted === null ? [] : [quoted])]).join(';'),
    );
    truth.push([ref, `2031-06-${two(day)}`, from, to, name, foot, vehicles, unpaid ? null : cents / 100, remark]);
  }
  return {
    file: 'booking-export.csv',
    bytes: windows1252(`${lines.join('\r\n')}\r\n`),
    truth: truthText(truth),
    job: demoJob('booking-export', 'Booking export', 'booking-export', 'Bookings', [
      ['read-delimited', { source: 'booking-export', delimiter: ';' }],
      ['header-from-rows', { rows: 1 }],
      [
        'rename',
        {
          names: [
            { from: 'Fare €', to: 'Fare' },
            { from: 'I', to: 'Remark' },
          ],
        },
      ],
      [
        'set-types',
        {
          types: [
            { columns: columns('Date'), type: 'date', patterns: ['dd.MM.yyyy'] },
            { columns: columns('Foot', 'Vehicles'), type: 'whole' },
            { columns: columns('Fare'), type: 'number', number: { decimal: ',', grouping: '.' } },
          ],
        },
      ],
    ]),
  };
}
