import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { columns, truthText, two } from './lines.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

/** Records of sailings: lists in lists, fields only sometimes there, a vehicle's kind and length in one value. */
export function sailingRecords({ seed = 20_310_606, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const truth: (string | number | null)[][] = [
    ['Port', 'Sailing', 'Departed', 'Booking', 'Adults', 'Children', 'Vehicle', 'Length m', 'Extras'],
  ];
  let ref = 7700;
  const ports = quays.map((port) => ({
    port,
    sailings: Array.from({ length: random.whole(3, 6) }, () => {
      const to = random.pick(quays.filter((other) => other !== port));
      const time = `${two(random.whole(6, 21))}:${random.pick(['00', '10', '25', '40'])}`;
      const code = `${port[0]}${to[0]}-${time.replace(':', '')}`;
      const departed = `2031-06-${two(random.whole(2, 8))}T${time}`;
      // One sailing in eight went empty: it has no list at all, or one without items.
      const empty = random.next() < 0.12;
      const bookings = Array.from({ length: empty ? 0 : random.whole(2, 7) }, () => {
        const [adults, children] = [random.whole(1, 4), random.next() < 0.35 ? random.whole(1, 3) : undefined];
        const kind = random.next() < 0.45 ? random.pick(['car', 'van', 'lorry']) : undefined;
        const length = kind === undefined ? undefined : random.whole(36, 120) / 10;
        const extras = random.next() < 0.2 ? random.pick([['bike'], ['dog', 'cabin'], ['bike', 'dog']]) : undefined;
        const own = `B${ref++}`;
        truth.push([
          port,
          code,
          departed,
          own,
          adults,
          children ?? null,
          kind ?? null,
          length ?? null,
          extras?.join('; ') ?? null,
        ]);
        return {
          ref: own,
          party: { adults, ...(children === undefined ? {} : { children }) },
          ...(kind === undefined ? {} : { vehicle: `${kind}/${length}` }),
          ...(extras === undefined ? {} : { extras }),
        };
      });
      return { code, departed, ...(empty && random.next() < 0.5 ? {} : { bookings }) };
    }),
  }));
  return {
    file: 'sailings.json',
    bytes: new TextEncoder().encode(`${JSON.stringify(ports, null, 1)}\n`),
    truth: truthText(truth),
    job: demoJob('sailing-records', 'Sailing records', 'sailings', 'Bookings', [
      ['read-nested', { source: 'sailings', rows: '$[*].sailings[*].bookings[*]' }],
      ['set-aside', { pile: 'without bookings', rules: [{ test: 'blank', columns: columns('ref') }] }],
      [
        'split-to-columns',
        { column: 'vehicle', cut: { by: 'delimiter', delimiters: ['/'] }, into: ['Vehicle', 'Length m'] },
      ],
      [
        'rename',
        {
          names: [
            ['port', 'Port'],
            ['code', 'Sailing'],
            ['departed', 'Departed'],
            ['ref', 'Booking'],
            ['party.adults', 'Adults'],
            ['party.children', 'Children'],
            ['extras', 'Extras'],
          ].map(([from, to]) => ({ from, to })),
        },
      ],
      ['keep-columns', { columns: columns(...truth[0]!.map(String)) }],
      [
        'set-types',
        {
          types: [
            { columns: columns('Departed'), type: 'datetime' },
            { columns: columns('Adults', 'Children'), type: 'whole' },
            { columns: columns('Length m'), type: 'number' },
          ],
        },
      ],
    ]),
  };
}
