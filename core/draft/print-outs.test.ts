/** Whole print-outs and forms in text, and the table that is in each. Reports are invented. */
import { describe, expect, test } from 'vitest';
import { draftsOf, openSource } from '../index.ts';
import { cellsOf } from '../test-support.ts';

async function draftOf(name: string, lines: readonly string[]) {
  const source = { name, bytes: new TextEncoder().encode(`${lines.join('\n')}\n`) };
  await openSource(source.bytes, name);
  const [draft] = draftsOf('s', source, { progress: () => undefined }, { most: 1 });
  const { table } = draft!.run.steps.at(-1)!;
  return { draft: draft!, rows: cellsOf(table), names: table.fields.map((field) => field.name) };
}

describe('statements and tickets', () => {
  const line = (day: string, text: string, out: string, into: string, balance: string) =>
    `${day.padEnd(12)}${text.padEnd(30)}${out.padStart(10)}${into.padStart(10)}${balance.padStart(12)}`.trimEnd();

  test('an entry goes on below itself, and the day stands only on its first entry', async () => {
    const head = (sheet: number) => [
      `Statement of dues   No 00481516   Sheet ${sheet}`,
      '',
      line('Date', 'Details', 'Paid out', 'Paid in', 'Balance'),
    ];
    const { rows, names } = await draftOf('statement.txt', [
      ...head(1),
      line('', 'Balance brought forward', '', '', '400.00'),
      line('09/12/2031', 'Card payment Hask', '20.50', '', '379.50'),
      line('', 'Direct debit Ullin', '100.00', '', '279.50'),
      line('', 'Ref 34433 Arnold', '', '', ''),
      line('12/12/2031', 'Transfer Rona', '', '75.25', '354.75'),
      line('', 'Balance carried forward', '', '', '354.75'),
      '\f',
      ...head(2),
      line('', 'Balance brought forward', '', '', '354.75'),
      line('14/12/2031', 'Card payment Tarve', '4.75', '', '350.00'),
      line('15/12/2031', 'Direct debit Hask', '50.00', '', '300.00'),
      line('', 'Ref 98791 Grieve', '', '', ''),
    ]);
    const at = (name: string) => names.indexOf(name);
    expect(rows.map((row) => [row[at('Date')], row[at('Details')], row[at('Balance')]])).toEqual([
      ['2031-12-09', 'Card payment Hask', '379.5'],
      ['2031-12-09', 'Direct debit Ullin Ref 34433 Arnold', '279.5'],
      ['2031-12-12', 'Transfer Rona', '354.75'],
      ['2031-12-14', 'Card payment Tarve', '350'],
      ['2031-12-15', 'Direct debit Hask Ref 98791 Grieve', '300'],
    ]);
  });

  test('a telephone number is one cell under a name of two words, and one heading above its calls', async () => {
    const call = (day: string, time: string, to: string, cost: string) =>
      `${day.padEnd(8)}${time.padEnd(8)}${to.padEnd(20)}${cost.padStart(10)}`;
    const page = (from: string, calls: readonly string[], total: string) => [
      '',
      `Calls from ${from}`,
      '',
      call('Date', 'Time', 'Number called', 'Cost'),
      ...calls,
      `${'Total for this number'.padEnd(36)}${total.padStart(10)}`,
    ];
    const lines = (more: readonly string[]) => [
      'ITEMISED CALLS',
      ...page(
        '01856 465611',
        [
          call('06 Mar', '18:10', '01546 417122', '2.25'),
          call('07 Mar', '20:17', '01804 634368', '3.96'),
          ...more,
          call('07 Mar', '16:04', '01899 892811', '9.47'),
        ],
        '15.68',
      ),
      ...page(
        '01856 465633',
        [call('07 Mar', '07:03', '01763 620780', '1.63'), call('08 Mar', '12:44', '01623 627633', '8.89')],
        '10.52',
      ),
    ];
    const more = ['08 Mar', '09 Mar'].map((day, k) => call(day, `1${k}:00`, `01899 00000${k}`, '0.00'));
    const { rows, names } = await draftOf('calls.txt', lines(more));
    expect(names).toEqual(['Calls from', 'Date', 'Time', 'Number called', 'Cost']);
    expect(rows.map(([from, , , to]) => [from, to])).toEqual([
      ['01856 465611', '01546 417122'],
      ['01856 465611', '01804 634368'],
      ['01856 465611', '01899 000000'],
      ['01856 465611', '01899 000001'],
      ['01856 465611', '01899 892811'],
      ['01856 465633', '01763 620780'],
      ['01856 465633', '01623 627633'],
    ]);
    // So few lines do not tell headings from rows: the numbers are lost with the heads, which is said.
    const { draft } = await draftOf('calls.txt', lines([]));
    expect(draft.sureness).not.toBe('sure');
    expect(draft.remarks).toContainEqual({ code: 'page-heads-differ', text: expect.stringContaining('465633') });
  });
});

test('cells of a drawn table go on in the next line, and the count below it is a note', async () => {
  const row = (...cells: string[]) => `| ${cells[0]!.padEnd(3)} | ${cells[1]!.padEnd(18)} | ${cells[2]!.padStart(7)} |`;
  const rule = '+-----+--------------------+---------+';
  const { rows, draft } = await draftOf('remarks.txt', [
    rule,
    row('No', 'Remark', 'Amount'),
    rule,
    row('1', 'east ramp', '592.75'),
    row('2', 'counted at the', '4879.75'),
    row('', 'night ferry', ''),
    row('3', 'upper deck', '18.00'),
    row('4', 'sent by the', '2976.50'),
    row('', 'upper deck', ''),
    row('5', 'night ferry', '7.25'),
    rule,
    '5 rows in set (0.01 sec)',
  ]);
  expect(rows.map((cells) => cells.join('|'))).toEqual([
    '1|592.75|east ramp',
    '2|4879.75|counted at the night ferry',
    '3|18|upper deck',
    '4|2976.5|sent by the upper deck',
    '5|7.25|night ferry',
  ]);
  // Spaces that fill up the cells of a second line are no cells that were lost.
  expect(draft.why).not.toContain('accounted');
});

test('pairs that are set in below a line make a record, and the line is a field of it', async () => {
  const { rows, names } = await draftOf('skippers.txt', [
    'REGISTER OF SKIPPERS',
    '',
    ...[1, 2, 3, 4].flatMap((k) => [
      `Skipper ${'ABCD'[k - 1]}`,
      `  Licence no.: ${5000 + 7 * k}`,
      `  Home port:   ${k % 2 === 0 ? 'Hask' : 'Rona'}`,
      '',
    ]),
  ]);
  expect(names).toEqual(['Licence no.', 'Home port', 'Other lines']);
  expect(rows).toEqual([
    ['5007', 'Rona', 'Skipper A'],
    ['5014', 'Hask', 'Skipper B'],
    ['5021', 'Rona', 'Skipper C'],
    ['5028', 'Hask', 'Skipper D'],
  ]);
});

test('a measure that others add up to behind it stays beside other measures', async () => {
  const teams = [
    [15, 11, 3, 1, 44],
    [21, 12, 1, 8, 31],
    [12, 5, 2, 5, 18],
    [10, 7, 1, 2, 13],
    [13, 7, 1, 5, 16],
  ].map((cells, k) => [`Team ${'ABCDE'[k]}`, ...cells].join(';'));
  const { names } = await draftOf('league.csv', ['Team;Played;Won;Drawn;Lost;Goals', ...teams]);
  expect(names).toEqual(['Team', 'Played', 'Won', 'Drawn', 'Lost', 'Goals']);
});

test('numbers of pages between signs are no headings of the tables below them', async () => {
  const head = 'No;Date;Port;Foot';
  const page = (n: number, from: number) => [
    `;;;- ${n} -`,
    head,
    ...[0, 1, 2, 3].map(
      (k) => `${from + k};2031-03-${10 + from + k};${k % 2 === 0 ? 'Hask' : 'Rona'};${17 * (from + k)}`,
    ),
  ];
  const { rows, names } = await draftOf('pages.csv', [head, '1;2031-03-11;Hask;17', ...page(1, 2), ...page(2, 6)]);
  expect(names).toEqual(['No', 'Date', 'Port', 'Foot']);
  expect(rows.map(([no]) => no)).toEqual(['1', '2', '3', '4', '5', '6', '7', '8', '9']);
});
