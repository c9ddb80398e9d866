import { utils, type WorkSheet } from '@e965/xlsx';
import type { Job } from '../core/index.ts';
import { bookBytes } from './book-bytes.ts';
import type { DemoFiles, Edition } from './demo-job.ts';
import { Random } from './random.ts';

export const PORTS = ['Hask', 'Ullin', 'Brannoch', 'Tarve'] as const;
const MONTHS = ['April', 'May', 'June'];

interface QuarterEdition extends Edition {
  months?: readonly string[];
  /** Figures that are put right after the first issue. */
  correct?(sailings: readonly Sailing[]): Sailing[];
}

export interface Sailing {
  port: string;
  route: string;
  sailing: string;
  /** Foot and vehicles for each month. */
  foot: number[];
  vehicles: number[];
}

/** The tidy truth, from which the report is made. */
export function makeSailings({ seed = 20_310_401, quays = PORTS, months = MONTHS }: QuarterEdition = {}): Sailing[] {
  const random = new Random(seed);
  return quays.flatMap((port) =>
    quays
      .filter((other) => other !== port)
      .flatMap((other) => {
        const size = random.whole(250, 1100);
        let minutes = random.whole(72, 120) * 5;
        return Array.from({ length: random.whole(2, 4) }, (): Sailing => {
          const sailing = `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
          minutes += random.whole(40, 66) * 5;
          const base = size * (0.7 + random.next() * 0.6);
          const foot = months.map((_, m) => Math.round(base * (1 + 0.08 * m + (random.next() - 0.5) * 0.1)));
          const share = 0.18 + random.next() * 0.1;
          const vehicles = foot.map((count) => Math.round(count * (share + (random.next() - 0.5) * 0.03)));
          return { port, route: `${port} to ${other}`, sailing, foot, vehicles };
        });
      }),
  );
}

type Row = (string | number | null)[];

const sum = (figures: readonly number[]) => figures.reduce((total, figure) => total + figure, 0);

function figures(sailings: readonly Sailing[]): number[] {
  const months = sailings[0]!.foot.flatMap((_, m) => [
    sum(sailings.map((s) => s.foot[m]!)),
    sum(sailings.map((s) => s.vehicles[m]!)),
  ]);
  return [...months, sum(sailings.map((s) => sum(s.foot))), sum(sailings.map((s) => sum(s.vehicles)))];
}

function makeSheet(port: string, sailings: readonly Sailing[], months: readonly string[]): WorkSheet {
  const width = 2 * months.length + 3;
  const rows: Row[] = [[`Skerrow Ferries: quay returns, ${port}`], ['Printed 04/07/2031 06:12'], []];
  const merges: { s: { r: number; c: number }; e: { r: number; c: number } }[] = [
    { s: { r: 0, c: 0 }, e: { r: 0, c: width - 1 } },
    { s: { r: 1, c: 0 }, e: { r: 1, c: width - 1 } },
  ];
  const header = () => {
    const top = rows.length;
    rows.push(['Sailing', ...[...months, 'Quarter'].flatMap((month) => [month, null])]);
    rows.push([null, ...Array.from({ length: months.length + 1 }, () => ['Foot', 'Vehicles']).flat()]);
    merges.push({ s: { r: top, c: 0 }, e: { r: top + 1, c: 0 } });
    for (let c = 1; c < width; c += 2) merges.push({ s: { r: top, c }, e: { r: top, c: c + 1 } });
  };
  header();
  const routes = [...new Set(sailings.map((s) => s.route))];
  let commented: { r: number; c: number } | undefined;
  routes.forEach((route, k) => {
    // The print-out begins a new page before the last route and repeats its header there.
    if (k === routes.length - 1) {
      rows.push([]);
      header();
    }
    const own = sailings.filter((s) => s.route === route);
    rows.push([route]);
    for (const one of own) {
      if (port === 'Hask' && commented === undefined && k === 1) commented = { r: rows.length, c: 3 };
      rows.push([one.sailing, ...figures([one])]);
    }
    rows.push(['Route total', ...figures(own)]);
  });
  rows.push(['Port total', ...figures(sailings)], [], ['Vehicles include trailers from 1 May.']);
  const sheet = utils.aoa_to_sheet(rows);
  sheet['!merges'] = merges;
  sheet['!cols'] = [{ wch: 18 }, ...Array.from({ length: width - 1 }, () => ({ wch: 10 }))];
  for (const address of Object.keys(sheet)) {
    const cell = sheet[address];
    if (!address.startsWith('!') && cell.t === 'n') cell.z = '#,##0';
  }
  if (commented !== undefined) {
    const cell = sheet[utils.encode_cell(commented)];
    cell.c = [{ a: 'Quay office', t: 'Second sailing on 11 and 18 May' }];
    cell.c.hidden = true;
  }
  return sheet;
}

export function quayReturns(edition: QuarterEdition = {}): DemoFiles {
  const { quays = PORTS, months = MONTHS } = edition;
  const sailings = edition.correct?.(makeSailings(edition)) ?? makeSailings(edition);
  const book = utils.book_new();
  for (const port of quays) {
    const own = sailings.filter((s) => s.port === port);
    utils.book_append_sheet(book, makeSheet(port, own, months), port);
  }
  const lines = sailings.flatMap((s) =>
    months.map((month, m) => [s.port, s.route, s.sailing, month, s.foot[m], s.vehicles[m]].join(',')),
  );
  return {
    file: 'quay-returns-q2.xlsx',
    bytes: bookBytes(book),
    truth: `${['Port,Route,Sailing,Month,Foot passengers,Vehicles', ...lines].join('\r\n')}\r\n`,
    job: quayReturnsJob(),
  };
}

function quayReturnsJob(): Job {
  const total = { test: 'ends', column: 'Sailing', text: 'total' };
  const steps: [string, Record<string, unknown>][] = [
    ['read-sheets', { source: 'quay-returns', sheets: { by: 'all' }, nameColumn: 'Port' }],
    ['header-from-rows', { rows: 2, at: { test: 'equals', column: 'A', text: 'Sailing' }, within: 'Port' }],
    ['set-aside', { pile: 'blanks', rules: [{ test: 'empty' }] }],
    ['set-aside', { pile: 'notes', rules: [{ test: 'below-last', row: total, within: 'Port' }] }],
    ['carry', { from: 'Sailing', rule: { test: 'only', columns: ['Sailing'] }, into: 'Route', within: 'Port' }],
    ['set-aside', { pile: 'totals', rules: [total] }],
    ['set-aside-columns', { pile: 'totals', columns: { by: 'starts', text: 'Quarter' } }],
    [
      'unpivot',
      {
        columns: { by: 'all-but', names: ['Port', 'Route', 'Sailing'] },
        split: ' / ',
        parts: [{ as: 'column', name: 'Month' }, { as: 'each' }],
      },
    ],
    [
      'set-types',
      {
        types: [
          { columns: { by: 'names', names: ['Sailing'] }, type: 'time' },
          { columns: { by: 'names', names: ['Foot', 'Vehicles'] }, type: 'whole' },
        ],
      },
    ],
    ['rename', { names: [{ from: 'Foot', to: 'Foot passengers' }] }],
  ];
  return {
    rimefield: 'job',
    version: 1,
    id: 'demo-quay-returns',
    name: 'Quay returns, quarterly',
    sources: [{ id: 'quay-returns', name: 'quay returns', file: null }],
    tables: [
      { id: 'traffic', name: 'Traffic', steps: steps.map(([kind, params], k) => ({ id: `s${k + 1}`, kind, params })) },
    ],
  };
}
