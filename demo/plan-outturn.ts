import { utils } from '@e965/xlsx';
import { bookBytes } from './book-bytes.ts';
import { type DemoFiles, demoTables, type Edition } from './demo-job.ts';
import { columns, shareOf, truthText } from './lines.ts';
import { Random } from './random.ts';

const CATEGORIES = ['Harbour dues', 'Fuel', 'Crew wages', 'Berth repairs', 'Insurance', 'Catering'] as const;
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun'] as const;
/** Two categories are spelled without blanks in the outturn. */
const SPELLED: Record<string, string> = { 'Harbour dues': 'Harbourdues', 'Crew wages': 'Crewwages' };

const thousands = (amount: number) => `${amount / 1000}K`;

/** Plan and outturn on two sheets in two layouts: wide with thousands as K and notes, and long with a total. */
export function planOutturn({
  seed = 20_310_630,
  months = MONTHS,
}: Edition & { months?: readonly string[] } = {}): DemoFiles {
  const random = new Random(seed);
  const plan = CATEGORIES.map(() => months.map(() => random.whole(40, 620) * 100));
  const outturn = plan.map((own) => own.map((amount) => Math.round(amount * (0.88 + random.next() * 0.26))));
  const wide: (string | number | null)[][] = [
    ['Skerrow Ferries: plan, first half of 2031'],
    [],
    ['Category', ...months, 'Notes'],
    ...CATEGORIES.flatMap((category, c): (string | null)[][] => [
      // A blank line parts what the quays spend from what the ships spend.
      ...(c === 3 ? [[null]] : []),
      [category, ...plan[c]!.map(thousands), c === 1 ? 'price fixed to May' : null],
    ]),
  ];
  const long: (string | number | null)[][] = [['Outturn, as booked'], ['Month', 'Category', 'Amount']];
  const truth: (string | number | null)[][] = [['Category', 'Month', 'Plan', 'Outturn', 'Variance', 'Variance share']];
  months.forEach((month, m) => {
    CATEGORIES.forEach((category, c) => {
      long.push([month, SPELLED[category] ?? category, outturn[c]![m]!]);
    });
  });
  long.push([null, 'Total', outturn.flat().reduce((sum, amount) => sum + amount, 0)]);
  CATEGORIES.forEach((category, c) => {
    months.forEach((month, m) => {
      const [target, spent] = [plan[c]![m]!, outturn[c]![m]!];
      truth.push([category, month, target, spent, spent - target, shareOf(spent - target, target)]);
    });
  });
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet(wide), 'Plan');
  utils.book_append_sheet(book, utils.aoa_to_sheet(long), 'Outturn');
  const sheet = (name: string) => ({
    source: 'plan-outturn',
    sheets: { by: 'names', names: [name] },
    nameColumn: null,
  });
  return {
    file: 'plan-outturn.xlsx',
    bytes: bookBytes(book),
    truth: truthText(truth),
    job: demoTables(
      'plan-outturn',
      'Plan against outturn',
      ['plan-outturn'],
      [
        [
          'Plan',
          [
            ['read-sheets', sheet('Plan')],
            ['header-from-rows', { at: { test: 'equals', column: 'A', text: 'Category' } }],
            ['set-aside', { pile: 'blanks', rules: [{ test: 'empty' }] }],
            ['set-aside-columns', { pile: 'notes', columns: columns('Notes') }],
            [
              'unpivot',
              {
                columns: { by: 'all-but', names: ['Category'] },
                parts: [{ as: 'column', name: 'Month' }],
                value: 'Plan',
              },
            ],
            ['set-types', { types: [{ columns: columns('Plan'), type: 'whole' }] }],
          ],
        ],
        [
          'Outturn',
          [
            ['read-sheets', sheet('Outturn')],
            ['header-from-rows', { at: { test: 'equals', column: 'A', text: 'Month' } }],
            ['set-aside', { pile: 'totals', rules: [{ test: 'ends', column: 'Category', text: 'total' }] }],
            ['set-types', { types: [{ columns: columns('Amount'), type: 'whole' }] }],
            ['rename', { names: [{ from: 'Amount', to: 'Outturn' }] }],
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
                  { left: 'Category', right: 'Category' },
                  { left: 'Month', right: 'Month' },
                ],
                forgiving: true,
              },
            ],
            ['variance', { actual: 'Outturn', target: 'Plan', share: 'Variance share' }],
          ],
        ],
      ],
    ),
  };
}
