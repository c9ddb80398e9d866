import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { PAGE, type Print, pdfBytes } from './pdf-bytes.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

const SHIPS = ['Gannet', 'Little Tern', 'Storm Petrel'];
const REMARKS = [
  'Late by an hour: fog in the sound',
  'One vehicle left on the quay for want of room on deck',
  'Bow door worked by hand',
  'Put back to port with an injured passenger, and sailed again',
  'Sailed early before the gale',
];
const SIZE = 9;
/** Points from one line to the next within a cell, and from one row to the next. */
const LEADING = 10.5;
const PITCH = 15;
const FIRST_ROW = 112;
const LAST_ROW = 780;
/** Letters of a remark on one line. */
const REMARK_WIDTH = 34;

const LEFT = { day: 42, crossing: 108, ship: 208, remarks: 420 };
const RIGHT = { foot: 300, vehicles: 348, fares: 408 };

/** 12,804.50 as it is printed; 12804.5 as it is. */
function money(pence: number): string {
  return `${String(Math.floor(pence / 100)).replace(/\B(?=(\d{3})+$)/g, ',')}.${String(pence % 100).padStart(2, '0')}`;
}

function wrapped(text: string): string[] {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + word.length < REMARK_WIDTH) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines[0] === '' ? [] : lines;
}

interface Sums {
  foot: number;
  vehicles: number;
  pence: number;
}

/** Printed pages: heads and feet on each, remarks over several lines, a total for each week. */
export function crossings({ seed = 20_310_701, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const pages: Print[][] = [];
  const truth: string[] = ['Day,Crossing,Ship,Foot,Vehicles,Fares,Remarks'];
  let y = LAST_ROW;
  const put = (text: string, x: number, more: Partial<Print> = {}) =>
    pages.at(-1)!.push({ text, x, y, size: SIZE, ...more });
  const room = (lines: number) => {
    if (y + (lines - 1) * LEADING < LAST_ROW) return;
    pages.push([]);
    y = 44;
    put('Skerrow Ferries', LEFT.day, { size: 14, bold: true });
    y = 62;
    put('Crossings and what they carried, June 2031', LEFT.day);
    put('Printed 02/07/2031', LEFT.remarks);
    y = 92;
    put('Day', LEFT.day, { bold: true });
    put('Crossing', LEFT.crossing, { bold: true });
    put('Ship', LEFT.ship, { bold: true });
    put('Foot', RIGHT.foot - 19, { bold: true });
    put('Vehicles', RIGHT.vehicles - 37, { bold: true });
    put('Fares', RIGHT.fares - 25, { bold: true });
    put('Remarks', LEFT.remarks, { bold: true });
    y = FIRST_ROW;
  };
  const figures = ({ foot, vehicles, pence }: Sums, bold = false) => {
    put(String(foot), RIGHT.foot, { right: true, bold });
    put(String(vehicles), RIGHT.vehicles, { right: true, bold });
    put(money(pence), RIGHT.fares, { right: true, bold });
  };
  const total = (name: string, sums: Sums) => {
    room(1);
    put(name, LEFT.day, { bold: true });
    figures(sums, true);
    y += PITCH;
  };
  const none = (): Sums => ({ foot: 0, vehicles: 0, pence: 0 });
  const add = (to: Sums, { foot, vehicles, pence }: Sums) => {
    to.foot += foot;
    to.vehicles += vehicles;
    to.pence += pence;
  };
  const all = none();
  let week = none();
  for (let day = 2; day <= 29; day++) {
    for (let k = random.whole(2, 4); k > 0; k--) {
      const from = random.pick(quays);
      const to = random.pick(quays.filter((one) => one !== from));
      const crossing = `${from} to ${to}`;
      const ship = random.pick(SHIPS);
      const foot = random.whole(0, 240);
      const vehicles = random.whole(0, 38);
      const sums = { foot, vehicles, pence: foot * 850 + vehicles * 3125 };
      const remark = random.next() < 0.22 ? random.pick(REMARKS) : '';
      const lines = wrapped(remark);
      room(Math.max(1, lines.length));
      const date = String(day).padStart(2, '0');
      put(`${date}/06/2031`, LEFT.day);
      put(crossing, LEFT.crossing);
      put(ship, LEFT.ship);
      figures(sums);
      lines.forEach((line, n) => {
        pages.at(-1)!.push({ text: line, x: LEFT.remarks, y: y + n * LEADING, size: SIZE });
      });
      y += PITCH + Math.max(0, lines.length - 1) * LEADING;
      add(week, sums);
      const said = remark.includes(',') ? `"${remark}"` : remark;
      truth.push([`2031-06-${date}`, crossing, ship, foot, vehicles, sums.pence / 100, said].join(','));
    }
    // Weeks end on Sundays: 2 June 2031 is a Monday.
    if ((day - 1) % 7 === 0 || day === 29) {
      total(`Week ${23 + Math.floor((day - 2) / 7)}`, week);
      add(all, week);
      week = none();
    }
  }
  total('All weeks', all);
  pages.forEach((page, k) => {
    page.push({ text: `Page ${k + 1} of ${pages.length}`, x: PAGE.width / 2 - 24, y: 815, size: 8 });
  });
  return {
    file: 'crossings.pdf',
    bytes: pdfBytes(pages),
    truth: `${truth.join('\r\n')}\r\n`,
    job: demoJob('crossings', 'Crossings, printed', 'crossings', 'Crossings', [
      ['read-pdf', { source: 'crossings', cuts: [98, 195, 269, 306, 355, 414] }],
      ['header-from-rows', { rows: 1 }],
      [
        'set-aside',
        {
          pile: 'totals',
          rules: [
            { test: 'starts', column: 'Day', text: 'Week ' },
            { test: 'starts', column: 'Day', text: 'All weeks' },
          ],
        },
      ],
      [
        'set-types',
        {
          types: [
            { columns: { by: 'names', names: ['Day'] }, type: 'date', patterns: ['dd/MM/yyyy'] },
            { columns: { by: 'names', names: ['Foot', 'Vehicles'] }, type: 'whole' },
            { columns: { by: 'names', names: ['Fares'] }, type: 'number' },
          ],
        },
      ],
    ]),
  };
}
