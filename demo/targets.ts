import { utils } from '@e965/xlsx';
import { bookBytes } from './book-bytes.ts';
import { type DemoFiles, demoTables, type Edition } from './demo-job.ts';
import { columns, shareOf, truthText, two } from './lines.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

const KINDS = ['Foot', 'Vehicles'] as const;
const QUARTERS = ['Q1', 'Q2', 'Q3', 'Q4'] as const;

/** Targets laid wide by quarter and berth in a workbook, beside bookings laid long by day with coded kinds. */
export function targets({ seed = 20_300_101, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const berths = quays.flatMap((port) => [`${port} 1`, `${port} 2`]);
  const actual = new Map<string, number>();
  const lines = ['Date,Berth,Type,Booked'];
  for (let day = 0; day < 360; day += 3) {
    const [month, date] = [Math.floor(day / 30) + 1, (day % 28) + 1];
    for (const berth of berths) {
      for (const [k, kind] of KINDS.entries()) {
        if (random.next() < 0.25) continue;
        const booked = random.whole(4, k === 0 ? 90 : 24);
        const key = `${berth}/${kind}/${QUARTERS[Math.floor((month - 1) / 3)]}`;
        actual.set(key, (actual.get(key) ?? 0) + booked);
        lines.push(`2030-${two(month)}-${two(date)},${berth},${k + 1},${booked}`);
      }
    }
  }
  const rows: (string | number | null)[][] = [
    ['Skerrow Ferries: targets by quarter, 2030'],
    [],
    ['Berth', 'Kind', ...QUARTERS],
  ];
  const truth: (string | number | null)[][] = [
    ['Berth', 'Kind', 'Quarter', 'Target', 'Actual', 'Variance', 'Variance share'],
  ];
  for (const berth of berths) {
    for (const kind of KINDS) {
      const own = QUARTERS.map((quarter) => {
        const booked = actual.get(`${berth}/${kind}/${quarter}`) ?? 0;
        return Math.max(10, Math.round((booked * (0.85 + random.next() * 0.3)) / 10) * 10);
      });
      rows.push([berth, kind, ...own]);
      QUARTERS.forEach((quarter, q) => {
        const booked = actual.get(`${berth}/${kind}/${quarter}`)!;
        truth.push([berth, kind, quarter, own[q]!, booked, booked - own[q]!, shareOf(booked - own[q]!, own[q]!)]);
      });
    }
  }
  const sheet = utils.aoa_to_sheet(rows);
  sheet['!merges'] = [{ s: { r: 0, c: 0 }, e: { r: 0, c: 5 } }];
  const book = utils.book_new();
  utils.book_append_sheet(book, sheet, 'Targets');
  const csv = `${lines.join('\r\n')}\r\n`;
  return {
    file: 'targets-2030.xlsx',
    bytes: bookBytes(book),
    more: [{ source: 'bookings', file: 'bookings-2030.csv', bytes: new TextEncoder().encode(csv) }],
    truth: truthText(truth),
    job: demoTables(
      'targets',
      'Targets against bookings',
      ['targets', 'bookings'],
      [
        [
          'Targets',
          [
            ['read-sheets', { source: 'targets', sheets: { by: 'all' }, nameColumn: null }],
            ['header-from-rows', { at: { test: 'equals', column: 'A', text: 'Berth' } }],
            [
              'unpivot',
              {
                columns: { by: 'all-but', names: ['Berth', 'Kind'] },
                parts: [{ as: 'column', name: 'Quarter' }],
                value: 'Target',
              },
            ],
            ['set-types', { types: [{ columns: columns('Target'), type: 'whole' }] }],
          ],
        ],
        [
          'Bookings by quarter',
          [
            ['read-delimited', { source: 'bookings', delimiter: ',' }],
            ['header-from-rows', {}],
            [
              'recode',
              {
                column: 'Type',
                crosswalk: [
                  { from: '1', to: 'Foot' },
                  { from: '2', to: 'Vehicles' },
                ],
                unmatched: 'keep',
                into: null,
              },
            ],
            [
              'set-types',
              {
                types: [
                  { columns: columns('Date'), type: 'date' },
                  { columns: columns('Booked'), type: 'whole' },
                ],
              },
            ],
            ['expression', { into: 'Quarter', text: `'Q' || extract(quarter from "Date")` }],
            [
              'group',
              {
                by: columns('Berth', 'Type', 'Quarter'),
                measures: [{ column: 'Booked', by: 'sum', name: 'Actual' }],
              },
            ],
          ],
        ],
        [
          'Variance',
          [
            ['from-table', { table: 't1' }],
            [
              'join',
              {
                table: 't2',
                keys: [
                  { left: 'Berth', right: 'Berth' },
                  { left: 'Kind', right: 'Type' },
                  { left: 'Quarter', right: 'Quarter' },
                ],
              },
            ],
            ['variance', { actual: 'Actual', target: 'Target', share: 'Variance share' }],
          ],
        ],
      ],
    ),
  };
}
