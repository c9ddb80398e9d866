/** Whole reports of further layouts, and the table that is in each. Reports are invented. */
import { utils, write } from '@e965/xlsx';
import { describe, expect, test } from 'vitest';
import { draftsOf, openSource } from '../index.ts';
import { cellsOf } from '../test-support.ts';

const quiet = { progress: () => undefined };

/** The best draft of a report. */
async function draftOf(name: string, lines: readonly string[]) {
  const source = { name, bytes: new TextEncoder().encode(`${lines.join('\n')}\n`) };
  await openSource(source.bytes, name);
  const [draft] = draftsOf('s', source, quiet, { most: 1 });
  return { draft: draft!, table: draft!.run.steps.at(-1)!.table };
}

const rowsOf = async (name: string, lines: readonly string[]) => cellsOf((await draftOf(name, lines)).table);

describe('labels', () => {
  test('in the corner of each header, which is repeated above each block', async () => {
    const block = (gate: string, from: number) => [
      `${gate};Mon;Tue;Wed;Sum`,
      ...[0, 1, 2].map((k) => {
        const own = [from + 3 * k, from + 7 * k + 1, from + k];
        return [`0${6 + k}-0${7 + k}`, ...own, own.reduce((a, b) => a + b)].join(';');
      }),
      '',
    ];
    const { draft, table } = await draftOf('hours.csv', [...block('Gate A', 12), ...block('Gate B', 31)]);
    expect(table.rows).toBe(18);
    expect(cellsOf(table)[0]).toEqual(['Gate A', '06-07', 'Mon', '12']);
    expect(cellsOf(table).at(-1)).toEqual(['Gate B', '08-09', 'Wed', '33']);
    expect(draft.steps[1]).toMatchObject({ kind: 'header-from-rows', params: { corner: 'Group' } });
  });

  test('in the sums below their rows, where no row says the group', async () => {
    const { draft, table } = await draftOf('hours.csv', [
      'Name;Hours;Fares',
      'Ada Berg;105;310,50',
      'Ole Strand;81;42,25',
      'Total Petrel;186;352,75',
      'Mia Holt;62;7,75',
      'Jon Vik;140;12,50',
      'Total Corvo;202;20,25',
      'Total;388;373,00',
    ]);
    expect(draft.totals).toEqual({ agree: 6, of: 6 });
    expect(cellsOf(table)).toEqual([
      ['Petrel', 'Ada Berg', '105', '310.5'],
      ['Petrel', 'Ole Strand', '81', '42.25'],
      ['Corvo', 'Mia Holt', '62', '7.75'],
      ['Corvo', 'Jon Vik', '140', '12.5'],
    ]);
  });

  test('above two tables that are side by side count for both', async () => {
    const account = (name: string, k: number) => [
      `${name};;;;;`,
      'Debit;;;Credit;;',
      'Date;Text;Amount;Date;Text;Amount',
      `2031-02-0${k};Rope;10${k}.25;2031-03-0${k};Fares;20${k}.50`,
      `2031-02-1${k};Paint;3${k}.75;2031-03-1${k};Fares;41${k}.25`,
      ';;;;;',
    ];
    const rows = await rowsOf('ledger.csv', [...account('Repairs', 1), ...account('Harbour dues', 2)]);
    expect(rows.map((row) => row.slice(0, 2).join('/')).sort()).toEqual(
      ['Repairs', 'Harbour dues']
        .flatMap((name) => ['Debit', 'Debit', 'Credit', 'Credit'].map((side) => `${name}/${side}`))
        .sort(),
    );
  });
});

test('cells merged over rows that each say something in front belong to all of them', async () => {
  const sheet = utils.aoa_to_sheet([
    ['Berth', 'Ship', 'Metres', 'Pier'],
    ['B1', 'Astrid', 60, 'East pier'],
    ['B2', 'Corvo', 45, null],
    ['B3', 'Petrel', 80, 'Long quay'],
    ['B4', 'Sula', 30, null],
    ['B5', 'Merle', 25, null],
  ]);
  sheet['!merges'] = [
    { s: { r: 1, c: 3 }, e: { r: 2, c: 3 } },
    { s: { r: 3, c: 3 }, e: { r: 5, c: 3 } },
  ];
  const book = utils.book_new();
  utils.book_append_sheet(book, sheet, 'Berths');
  const bytes = new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
  await openSource(bytes, 'berths.xlsx');
  const [draft] = draftsOf('s', { name: 'berths.xlsx', bytes }, quiet, { most: 1 });
  expect(draft!.steps[0]).toMatchObject({ kind: 'read-sheets', params: { merged: 'down' } });
  expect(cellsOf(draft!.run.steps.at(-1)!.table).map((row) => row.at(-1))).toEqual([
    'East pier',
    'East pier',
    'Long quay',
    'Long quay',
    'Long quay',
  ]);
});

describe('what is no label', () => {
  test('a row without figures whose words stand on other rows too', async () => {
    const { draft, table } = await draftOf('counts.csv', [
      'Quay,Class,Length,Width,Load',
      ...['Hask', 'Ullin', 'Tarve'].flatMap((quay, k) => [
        `${quay},Ferry,${39.1 + k},${18.7 + k},${3750 + 13 * k}`,
        `${quay},Barge,,,`,
        `${quay},Barge,${40.3 + k},${17.4 + k},${3250 + 17 * k}`,
        `${quay},Ferry,${38.5 + k},${19.2 + k},${3600 + 11 * k}`,
      ]),
    ]);
    expect(table.rows).toBe(12);
    expect(draft.steps.map(({ kind }) => kind)).not.toContain('carry');
  });

  test('lines of names and values above one table, which are the same for all of its rows', async () => {
    const { draft } = await draftOf('fields.csv', [
      '---',
      'name: quay',
      'type: text',
      'name: foot',
      'type: number',
      '---',
      'quay,foot,cars',
      ...['Hask', 'Ullin', 'Tarve', 'Rona'].map((quay, k) => `${quay},${12 + 7 * k},${3 + k}`),
    ]);
    expect(draft.steps.map(({ kind }) => kind)).not.toContain('lines-to-columns');
  });
});

describe('blocks', () => {
  test('weeks of a calendar: numbers of days above what is counted on them', async () => {
    const week = (days: readonly number[], skip = 0) => {
      const cells = (of: (day: number) => number) =>
        [...new Array(skip).fill(''), ...days.map(of), ...new Array(7 - skip - days.length).fill('')].join(';');
      return [`;${cells((day) => day)}`, `Foot;${cells((day) => 40 + 3 * day)}`, `Cars;${cells((day) => 9 + day)}`];
    };
    const month = (name: string) => [
      `${name};;;;;;;`,
      ';Mon;Tue;Wed;Thu;Fri;Sat;Sun',
      ...week([1, 2, 3], 4),
      ...week([4, 5, 6, 7, 8, 9, 10]),
      ...week([11, 12]),
      ';;;;;;;',
    ];
    const rows = await rowsOf('bookings.csv', [...month('May 2031'), ...month('June 2031')]);
    expect(rows).toHaveLength(24);
    expect(rows).toContainEqual(['May 2031', 'Fri', '1', '43', '10']);
    expect(rows).toContainEqual(['June 2031', 'Tue', '12', '76', '21']);
  });

  test('cards of names and values, three beside each other', async () => {
    const ships = ['Astrid', 'Corvo', 'Dunlin', 'Petrel', 'Sula', 'Fulmar'];
    const line = (own: readonly string[], name: string, value: (ship: string) => string | number) =>
      own.map((ship) => `${name};${value(ship)}`).join(';;');
    const cards = [ships.slice(0, 3), ships.slice(3)].flatMap((own) => [
      line(own, 'Ship', (ship) => ship),
      line(own, 'Built', (ship) => 1990 + ships.indexOf(ship)),
      line(own, 'Home port', (ship) => (ships.indexOf(ship) % 2 === 0 ? 'Hask' : 'Ullin')),
      ';;;;;;;',
    ]);
    const rows = await rowsOf('fleet.csv', cards);
    expect(rows).toHaveLength(6);
    expect(rows).toContainEqual(['Sula', '1994', 'Hask']);
  });
});

describe('columns', () => {
  test('of times and numbers under each text of a tier go down together', async () => {
    const rows = await rowsOf('tides.csv', [
      'Day;1st tide;;2nd tide;;3rd tide;',
      ';Time;Height;Time;Height;Time;Height',
      '2031-05-01;00:10;3.1;06:20;0.4;12:35;3.3',
      '2031-05-02;00:55;3.4;07:05;0.6;;',
      '2031-05-03;01:40;3.9;07:50;0.3;14:00;4.1',
    ]);
    expect(rows).toHaveLength(8);
    expect(rows[1]).toEqual(['2031-05-01', '2nd tide', '06:20', '0.4']);
  });

  test('of months whose cells are a name with its number go down before they are taken apart', async () => {
    const rows = await rowsOf('busiest.csv', [
      'Rank;Jan;Feb;Mar',
      '1;Hask (9,120);Ullin (8,004);Hask (7,310)',
      '2;Ullin (6,250);Hask (5,118);Tarve (5,017)',
      '3;Tarve (2,480);Tarve (3,990);Ullin (1,205)',
    ]);
    expect(rows).toHaveLength(9);
    expect(rows[1]).toEqual(['1', 'Feb', 'Ullin', '8004']);
  });
});

describe('texts', () => {
  test('a drawn line between two tiers of a header', async () => {
    const rows = await rowsOf('seasons.txt', [
      '============  ======  ======  ======  ======',
      '              Summer          Winter',
      '------------  --------------  --------------',
      'Port          Foot    Cars    Foot    Cars',
      '============  ======  ======  ======  ======',
      'Hask          492     350     998     972',
      'Ullin         873     72      571     588',
      'Tarve         212     442     279     467',
      'Brannoch      456     37      538     895',
      '============  ======  ======  ======  ======',
    ]);
    expect(rows).toHaveLength(8);
    expect(rows[3]).toEqual(['Ullin', 'Winter', '571', '588']);
  });

  test('a list of lines of one form in a mail', async () => {
    const rows = await rowsOf('counts.txt', [
      'Hello all,',
      '',
      'here are the counts of Monday:',
      '',
      ...['Hask', 'Ullin', 'Tarve', 'Brannoch', 'Rona', 'Ness'].map(
        (port, k) => `  * ${port} - foot ${120 + 37 * k}, cars ${15 + k}`,
      ),
      '',
      'Kind regards',
      'Ole',
    ]);
    expect(rows).toHaveLength(6);
    expect(rows[2]).toEqual(['Tarve', '194', '17']);
  });

  test('lines of a log that stand in go on with the entry above', async () => {
    const entry = (k: number, text: string) => `2031-03-04 06:${10 + k}:00 INFO  [gate] ${text}`;
    const rows = await rowsOf('gate.log', [
      ...[0, 1, 2, 3].map((k) => entry(k, `opened at Hask ${k}`)),
      '2031-03-04 06:20:00 ERROR [gate] printer offline',
      '  at gate.read(line 78)',
      '  at gate.loop(line 105)',
      ...[12, 13, 14, 15].map((k) => entry(k, `closed at Hask ${k}`)),
      '2031-03-04 06:31:00 ERROR [gate] printer offline',
      '  at gate.read(line 78)',
    ]);
    expect(rows).toHaveLength(10);
    expect(rows[4]).toContain('printer offline at gate.read(line 78) at gate.loop(line 105)');
  });

  test('sums that run across a gap hide no column', async () => {
    const ports = ['Hask', 'Ullin', 'Tarve'];
    const line = (k: number) =>
      `${65_119 + 7 * k}     Dunlin    ${ports[k % 3]!.padEnd(10)}${`${1200 + 31 * k}`.padStart(12)}`;
    const sum = (to: number) => Array.from({ length: to }, (_, k) => 1200 + 31 * k).reduce((a, b) => a + b, 0);
    const page = (from: number, to: number) => [
      'Waybill   Ship      Port       Weight',
      'no.                 to             kg',
      '------------------------------------------',
      ...(from > 0 ? [`${'Brought forward'.padEnd(30)}${`${sum(from)}`.padStart(12)}`] : []),
      ...Array.from({ length: to - from }, (_, k) => line(from + k)),
      `${'Page total'.padEnd(30)}${`${sum(to)}`.padStart(12)}`,
    ];
    const rows = await rowsOf('freight.txt', [...page(0, 15), ...page(15, 30), ...page(30, 45)]);
    expect(rows).toHaveLength(45);
    expect(rows[0]).toEqual(['65119', 'Dunlin', 'Hask', '1200']);
  });
});

describe('data that speak for themselves', () => {
  test('rows of codes begin with the first line where no line names the columns', async () => {
    // Numbers of passes are hexadecimal: some have letters in them, some look like figures.
    const lines = Array.from({ length: 24 }, (_, k) => {
      const pass = (0x38 + k).toString(16).toUpperCase().padStart(4, '0');
      return `${pass}; ${(0x90 + 3 * k).toString(16).toUpperCase().padStart(4, '0')}; ${'RCX'[k % 3]} # ${['Hask', 'Ullin'][k % 2]} pass`;
    });
    const { draft, table } = await draftOf('passes.txt', ['# Passes of 2031', '', ...lines]);
    expect(table.rows).toBe(24);
    expect(cellsOf(table)[0]!.slice(0, 2)).toEqual(['0038', '0090']);
    expect(draft.steps.map(({ kind }) => kind)).not.toContain('header-from-rows');
  });

  test('a sign that divides every line alike is never given up for columns of characters', async () => {
    const width = 60;
    const row = (cells: Record<number, string>) => Array.from({ length: width }, (_, k) => cells[k] ?? '').join(',');
    const lines = Array.from({ length: 40 }, (_, k) =>
      row({
        0: `" B-${100 + k} "`,
        1: `" ${['Hask', 'Ullin', 'Tarve'][k % 3]} "`,
        7: `" $${k + 2},${113 + 7 * k} "`,
        30: `" ${k % 4} "`,
      }),
    );
    const { draft, table } = await draftOf('returns.csv', [
      row({ 0: '" Returns of 2031 "' }),
      row({}),
      row({ 0: '" Berth "', 1: '" Port "', 7: '" Dues "', 30: '" Visits "' }),
      ...lines,
    ]);
    expect(draft.steps[0]!.kind).toBe('read-delimited');
    expect(table.rows).toBe(40);
    expect(table.fields.map(({ name }) => name)).toEqual(['Berth', 'Port', 'Dues', 'Visits']);
  });

  test('bars at both ends of padded lines leave no column behind', async () => {
    const cells = (texts: readonly string[]) =>
      ` |${texts.map((text, k) => text.padStart([10, 8, 12][k]!)).join('|')}|`;
    const lines = Array.from({ length: 12 }, (_, k) =>
      cells([`B-${100 + k}`, ['Hask', 'Ullin'][k % 2]!, `${k * 17}.5`]),
    );
    const { table } = await draftOf('berths.txt', [
      cells(['Berth', 'Port', 'Dues']),
      ' |----------|--------|------------|',
      ...lines,
    ]);
    expect(table.rows).toBe(12);
    expect(table.fields.map(({ name }) => name)).toEqual(['Berth', 'Port', 'Dues']);
  });

  test('records are kept where only most of their texts have one form', async () => {
    const lines = Array.from({ length: 30 }, (_, k) =>
      [
        `B-${100 + k}`,
        k * 7,
        k % 9 === 4 ? `closed for repairs since ${k}` : `Berth: no. ${k} (north side) of Hask`,
      ].join(';'),
    );
    expect(await rowsOf('berths.csv', ['Berth;Visits;Remark', ...lines])).toHaveLength(30);
  });

  test('a name that stands again and again above other rows is no label', async () => {
    const block = (k: number) => [
      `yes,Petrel ${k},${k * 31}.5,${k}`,
      ',Checked,Part,Hours',
      `,yes,Winch ${k},${k * 3}`,
      `,no,Ramp ${k},${k * 5}`,
    ];
    const { draft } = await draftOf('ships.csv', ['Checked,Ship,Weight,Age', ...[1, 2, 3, 4, 5].flatMap(block)]);
    expect(draft.steps.filter(({ kind }) => kind === 'carry')).toEqual([]);
    expect(draft.sureness).not.toBe('sure');
  });
});
