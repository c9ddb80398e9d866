/** The reports of later quarters, with the changes that happen to reports from one time to the next. */
import { read, utils, type WorkBook } from '@e965/xlsx';
import { archiveFiles, bundleFiles } from '../core/index.ts';
import { bookBytes } from './book-bytes.ts';
import { bookingExport } from './booking-export.ts';
import { crewList } from './crew-list.ts';
import { crossings } from './crossings.ts';
import type { DemoFiles } from './demo-job.ts';
import { faresPage } from './fares-page.ts';
import { gateLog } from './gate-log.ts';
import { manifest } from './manifest.ts';
import { monthlyFiles } from './monthly-files.ts';
import { planOutturn } from './plan-outturn.ts';
import { PORTS, quayReturns } from './quay-returns.ts';
import { sailingRecords } from './sailing-records.ts';
import { targets } from './targets.ts';
import { timetableCopy } from './timetable-copy.ts';
import { weighbridge } from './weighbridge.ts';

/**
 * right: the method gives the table that is true. stops: it stops and says why. told: it comes to its end, and what is
 * otherwise is said before the report is taken.
 */
export type Outcome = 'right' | 'stops' | 'told';

export interface LaterReport {
  demo: string;
  change: string;
  made: DemoFiles;
  outcome: Outcome;
  /** What is said: why it stopped, or what is otherwise. */
  says?: RegExp;
  /** The fixes that are offered make the true table of it. */
  fixed?: true;
}

const SKARVOE = [...PORTS, 'Skarvoe'];
const WITHOUT_TARVE = PORTS.slice(0, 3);
const THIRD = { seed: 20_310_703 };
const FOURTH = { seed: 20_311_004 };

/** Windows-1252 as text and back, one byte a character. */
const latin = {
  text: (bytes: Uint8Array) => String.fromCharCode(...bytes),
  bytes: (text: string) => Uint8Array.from(text, (character) => character.charCodeAt(0)),
};
const utf8 = {
  text: (bytes: Uint8Array) => new TextDecoder().decode(bytes),
  bytes: (text: string) => new TextEncoder().encode(text),
};

function withText(made: DemoFiles, change: (text: string) => string, code = utf8): DemoFiles {
  return { ...made, bytes: code.bytes(change(code.text(made.bytes))) };
}

/** The rows of delimited text without quotes, changed and put together again. */
function withRows(
  made: DemoFiles,
  delimiter: string,
  change: (cells: string[], row: number) => string[],
  code = utf8,
): DemoFiles {
  const rows = (text: string) =>
    text
      .split(/(?<=\n)/)
      .map((line, r) => {
        const end = /\r?\n$/.exec(line)?.[0] ?? '';
        return change(line.slice(0, line.length - end.length).split(delimiter), r).join(delimiter) + end;
      })
      .join('');
  return withText(made, rows, code);
}

function withBook(made: DemoFiles, change: (book: WorkBook) => void): DemoFiles {
  const book = read(made.bytes, { cellStyles: true });
  change(book);
  return { ...made, bytes: bookBytes(book) };
}

/** Rows put in above those of every sheet; the merges go down with theirs. */
function rowsAbove(book: WorkBook, rows: string[][]): void {
  for (const name of book.SheetNames) {
    const sheet = book.Sheets[name]!;
    const cells = utils.sheet_to_json<unknown[]>(sheet, { header: 1, raw: true, defval: null, blankrows: true });
    const moved = utils.aoa_to_sheet([...rows, ...cells]);
    const down = (at: { r: number; c: number }) => ({ ...at, r: at.r + rows.length });
    moved['!merges'] = (sheet['!merges'] ?? []).map(({ s, e }) => ({ s: down(s), e: down(e) }));
    book.Sheets[name] = moved;
  }
}

function replaceInBook(book: WorkBook, from: string | RegExp, to: string): void {
  for (const sheet of Object.values(book.Sheets)) {
    for (const address of Object.keys(sheet).filter((one) => !one.startsWith('!'))) {
      const cell = sheet[address];
      if (cell.t === 's') sheet[address] = { t: 's', v: String(cell.v).replace(from, to) };
    }
  }
}

/** One figure of the truth replaced: what stands there in place of it. */
function withTruth(made: DemoFiles, from: string, to: string): DemoFiles {
  return { ...made, truth: made.truth.replace(from, to) };
}

type Case = [change: string, made: DemoFiles, outcome: Outcome, says?: RegExp, fixed?: true];

/** Every later report, by its demo and what changed. */
export function laterReports(): LaterReport[] {
  return Object.entries(CASES).flatMap(([demo, cases]) =>
    cases().map(([change, made, outcome, says, fixed]) => ({ demo, change, made, outcome, says, fixed })),
  );
}

const CASES: Record<string, () => Case[]> = {
  'quay-returns': () => {
    const third = quayReturns({ ...THIRD, months: ['July', 'August', 'September'] });
    const fourth = () => quayReturns(FOURTH);
    return [
      ['other months', third, 'right'],
      [
        'corrected figures',
        quayReturns({
          correct: (sailings) =>
            sailings
              .filter((_, k) => k !== 20)
              .map((one, k) => (k % 9 === 4 ? { ...one, foot: one.foot.with(k % 3, one.foot[k % 3]! + 7 * k) } : one)),
        }),
        'right',
      ],
      ['one more month', quayReturns({ ...FOURTH, months: ['October', 'November', 'December', 'January'] }), 'right'],
      ['a new quay', quayReturns({ ...FOURTH, quays: SKARVOE }), 'right'],
      ['a sheet is missing', quayReturns({ ...FOURTH, quays: WITHOUT_TARVE }), 'right'],
      ['an extra title line', withBook(fourth(), (book) => rowsAbove(book, [['Issued to all quays']])), 'right'],
      [
        'a renamed column',
        withBook(fourth(), (book) => replaceInBook(book, /^Sailing$/, 'Departure')),
        'stops',
        /No row where A is Sailing/,
        true,
      ],
      [
        'text in a number column',
        (() => {
          const made = fourth();
          const [line] = /^Hask,Hask to Ullin,[^\r]*/m.exec(made.truth)!;
          const [port, route, sailing, month, , vehicles] = line.split(',');
          const changed = withBook(made, (book) => {
            const sheet = book.Sheets[port!]!;
            const rows = utils.sheet_to_json<unknown[]>(sheet, { header: 1, blankrows: true });
            const at = rows.findIndex((row) => row[0] === sailing);
            sheet[utils.encode_cell({ r: at, c: 1 })] = { t: 's', v: 'fog' };
          });
          return withTruth(changed, line, [port, route, sailing, month, 'fog', vehicles].join(','));
        })(),
        'right',
        /Foot passengers has 1 unreadable cell/,
      ],
    ];
  },
  weighbridge: () => {
    const fourth = () => weighbridge(FOURTH);
    return [
      ['other figures', weighbridge(THIRD), 'right'],
      ['a new quay', weighbridge({ ...FOURTH, quays: SKARVOE }), 'right'],
      ['a quay is missing', weighbridge({ ...FOURTH, quays: WITHOUT_TARVE }), 'right'],
      ['an extra title line', withText(fourth(), (text) => `SKERROW FERRIES      THIRD ISSUE\r\n${text}`), 'right'],
      [
        'a renamed column',
        withText(fourth(), (text) => text.replaceAll('GROSS KG', 'NET KG  ')),
        'stops',
        /no column GROSS KG/,
        true,
      ],
      [
        'a column is moved',
        withText(fourth(), (text) =>
          text.replace(
            /^(TICKET {8}|[A-Z]-\d{5} {7})(.{8})(.{22})/gm,
            (_, ticket, time, haulier) => ticket + haulier + time,
          ),
        ),
        'told',
        /TIME has|Time has/,
      ],
    ];
  },
  crossings: () => [
    ['other figures', crossings(THIRD), 'right'],
    ['a new quay', crossings({ ...FOURTH, quays: SKARVOE }), 'right'],
    ['a quay is missing', crossings({ ...FOURTH, quays: WITHOUT_TARVE }), 'right'],
    [
      'a renamed column',
      withText(crossings(FOURTH), (text) => text.replaceAll('(Fares)', '(Money)'), latin),
      'stops',
      /no column Fares/,
      true,
    ],
  ],
  'gate-log': () => [
    ['other figures', gateLog(THIRD), 'right'],
    ['a new quay', gateLog({ ...FOURTH, quays: SKARVOE }), 'right'],
    ['an extra title line', withText(gateLog(FOURTH), (text) => `-- gates of all quays --\n${text}`), 'right'],
    [
      'a renamed count',
      withText(gateLog(FOURTH), (text) => text.replaceAll('(foot ', '(walking ')),
      'told',
      /lines|notes|rows/,
    ],
    [
      'text in a number column',
      (() => {
        const made = gateLog(FOURTH);
        const [line, foot] = /\(foot (\d+), /.exec(utf8.text(made.bytes))!;
        const changed = withText(made, (text) => text.replace(line, '(foot many, '));
        return { ...changed, truth: replaceCell(made.truth, 1, 6, foot!, 'many') };
      })(),
      'right',
      /Foot has 1 unreadable cell/,
    ],
  ],
  'booking-export': () => {
    const fourth = () => bookingExport(FOURTH);
    return [
      ['other figures', bookingExport(THIRD), 'right'],
      ['a new quay', bookingExport({ ...FOURTH, quays: SKARVOE }), 'right'],
      [
        'an extra title line',
        withText(fourth(), (text) => `Bookings of the fourth quarter\r\n${text}`, latin),
        'stops',
        /no column/,
        true,
      ],
      [
        'a renamed column',
        withText(fourth(), (text) => text.replace('Fare \u0080', 'Price \u0080'), latin),
        'stops',
        /no column Fare/,
        true,
      ],
      [
        'a column is moved',
        (() => {
          const swap = <T>(cells: T[]) => cells.with(1, cells[2]!).with(2, cells[1]!);
          const made = withRows(fourth(), ';', (cells) => (cells.length < 3 ? cells : swap(cells)), latin);
          const truth = made.truth.split('\r\n').map((line) => (line === '' ? line : swap(line.split(',')).join(',')));
          return { ...made, truth: truth.join('\r\n') };
        })(),
        'right',
        /columns stand in another order/,
      ],
      [
        'text in a number column',
        (() => {
          const made = fourth();
          const foot = made.truth.split('\r\n')[1]!.split(',')[5]!;
          const changed = withRows(made, ';', (cells, r) => (r === 1 ? cells.with(5, 'party') : cells), latin);
          return { ...changed, truth: replaceCell(made.truth, 1, 5, foot, 'party') };
        })(),
        'right',
        /Foot has 1 unreadable cell/,
      ],
    ];
  },
  manifest: () => [
    ['other figures', manifest(THIRD), 'right'],
    ['a new quay', manifest({ ...FOURTH, quays: SKARVOE }), 'right'],
    [
      'a renamed column',
      withText(manifest(FOURTH), (text) => text.replace('Records (ref|', 'Records (number|')),
      'stops',
      /no column Records/,
      true,
    ],
    [
      'an extra column',
      (() => {
        const made = withRows(manifest(FOURTH), '\t', (cells, r) =>
          cells.length < 4 ? cells : cells.toSpliced(3, 0, r === 0 ? 'Ship' : 'Orrin'),
        );
        const truth = made.truth.split('\r\n').map((line, r) =>
          line === ''
            ? line
            : line
                .split(',')
                .toSpliced(3, 0, r === 0 ? 'Ship' : 'Orrin')
                .join(','),
        );
        return { ...made, truth: truth.join('\r\n') };
      })(),
      'right',
      /new column: Ship/,
    ],
  ],
  'sailing-records': () => [
    ['other figures', sailingRecords(THIRD), 'right'],
    ['a new quay', sailingRecords({ ...FOURTH, quays: SKARVOE }), 'right'],
    [
      'an extra field',
      withText(sailingRecords(FOURTH), (text) => text.replaceAll('"ref":', '"desk": "Hask",\n"ref":')),
      'right',
      /new column: desk/,
    ],
    [
      'a renamed field',
      withText(sailingRecords(FOURTH), (text) => text.replaceAll('"children"', '"under 16"')),
      'stops',
      /no column party\.children/,
      true,
    ],
    [
      'a renamed list',
      withText(sailingRecords(FOURTH), (text) => text.replaceAll('"bookings"', '"reservations"')),
      'stops',
      /bookings/,
    ],
  ],
  'crew-list': () => [
    ['other figures', crewList(THIRD), 'right'],
    ['a new ship', crewList({ ...FOURTH, ships: ['M.V. Orrin', 'M.V. Hask Light', 'M.V. Tolm'] }), 'right'],
    ['an extra title line', withText(crewList(FOURTH), (text) => `FOURTH QUARTER\r\n${text}`), 'right'],
    ['an extra field', withText(crewList(FOURTH), (text) => text.replace(/^Joined: .*$/gm, '$&\r\nCabin: A')), 'right'],
    [
      'a renamed field',
      withText(crewList(FOURTH), (text) => text.replaceAll('Berth: ', 'Bunk: ')),
      'stops',
      /no column Berth/,
      true,
    ],
  ],
  'fares-page': () => [
    ['other figures', faresPage(THIRD), 'right'],
    ['a new quay', faresPage({ ...FOURTH, quays: SKARVOE }), 'right'],
    ['a table is missing', faresPage({ ...FOURTH, quays: WITHOUT_TARVE }), 'right'],
    ['one more season', faresPage({ ...FOURTH, seasons: ['Spring', 'Summer', 'Winter'] }), 'right'],
    ['a new ticket', faresPage({ ...FOURTH, tickets: ['Foot', 'Bike', 'Car', 'Lorry'] }), 'right'],
    [
      'a renamed column',
      withText(faresPage(FOURTH), (text) => text.replaceAll('<th>Return</th>', '<th>Day return</th>')),
      'stops',
      /no column Return/,
      true,
    ],
  ],
  'timetable-copy': () => [
    ['other figures', timetableCopy(THIRD), 'right'],
    ['a new quay', timetableCopy({ ...FOURTH, quays: SKARVOE }), 'right'],
    [
      'an extra title line',
      withText(timetableCopy(FOURTH), (text) => `Timetable as printed,,,,,,\n${text}`),
      'stops',
      /no column/,
      true,
    ],
    [
      'a renamed column',
      withText(timetableCopy(FOURTH), (text) => text.replaceAll('Foot,', 'Passengers,')),
      'stops',
      /no column Foot/,
      true,
    ],
  ],
  'monthly-files': () => [
    ['three months more', monthlyFiles({ ...THIRD, months: 15 }), 'right'],
    ['a new quay', monthlyFiles({ ...FOURTH, quays: SKARVOE }), 'right'],
    ['a file is missing', monthlyFiles({ ...FOURTH, months: 11 }), 'right'],
    [
      'a column is moved in one file',
      withFile(monthlyFiles(FOURTH), 4, (line) => line.split(',').toReversed().join(',')),
      'right',
    ],
  ],
  targets: () => [
    ['other figures', targets(THIRD), 'right'],
    ['a new quay', targets({ ...FOURTH, quays: SKARVOE }), 'right'],
    ['an extra title line', withBook(targets(FOURTH), (book) => rowsAbove(book, [['Second issue']])), 'right'],
    ['another name of the sheet', withBook(targets(FOURTH), (book) => renameSheet(book, 'Targets', 'Goals')), 'right'],
    [
      'a renamed column',
      withBook(targets(FOURTH), (book) => replaceInBook(book, /^Kind$/, 'Kind of traffic')),
      'stops',
      /no column Kind/,
      true,
    ],
  ],
  'plan-outturn': () => {
    const fourth = () => planOutturn(FOURTH);
    return [
      ['other months', planOutturn({ ...THIRD, months: ['Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] }), 'right'],
      [
        'one more month',
        planOutturn({ ...FOURTH, months: ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul'] }),
        'right',
      ],
      ['an extra title line', withBook(fourth(), (book) => rowsAbove(book, [['Second issue']])), 'right'],
      [
        'a sheet is missing',
        withBook(fourth(), (book) => {
          delete book.Sheets['Outturn'];
          book.SheetNames = book.SheetNames.filter((name) => name !== 'Outturn');
        }),
        'stops',
        /Outturn/,
      ],
      [
        'a renamed column',
        withBook(fourth(), (book) => replaceInBook(book, /^Amount$/, 'Amount booked')),
        'stops',
        /no column Amount/,
        true,
      ],
    ];
  },
};

/** A cell of the truth replaced, which must hold what is said. */
function replaceCell(truth: string, row: number, column: number, from: string, to: string): string {
  const lines = truth.split('\r\n');
  const cells = lines[row]!.split(',');
  if (cells[column] !== from) throw new Error(`the truth has ${cells[column]} there, not ${from}`);
  return lines.with(row, cells.with(column, to).join(',')).join('\r\n');
}

function renameSheet(book: WorkBook, from: string, to: string): void {
  book.Sheets[to] = book.Sheets[from]!;
  delete book.Sheets[from];
  book.SheetNames = book.SheetNames.map((name) => (name === from ? to : name));
}

/** One file of an archive with its lines changed. */
function withFile(made: DemoFiles, at: number, change: (line: string) => string): DemoFiles {
  const files = archiveFiles(made.bytes, made.file).map(({ name, bytes }, k) => ({
    name,
    bytes: k === at ? utf8.bytes(utf8.text(bytes).split('\r\n').map(change).join('\r\n')) : bytes,
  }));
  return { ...made, bytes: bundleFiles(files) };
}
