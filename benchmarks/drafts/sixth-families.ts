/** Further layouts that were written down before anybody looked at what the detectors make of them. */
import type { Chance } from './chance.ts';
import { dayIn, type Family, json, measuresOf, text, xlsx } from './made.ts';
import { type Cell, isoDay, notes, sum, titles, truth, workbook } from './page.ts';

const money = (c: Chance, most = 5000) => Number((c.next() * most + 1).toFixed(2));
const FIRST = [
  'Ada',
  'Bela',
  'Cora',
  'Dirk',
  'Elsa',
  'Finn',
  'Gwen',
  'Hugo',
  'Ines',
  'Jost',
  'Kaja',
  'Lars',
  'Mina',
  'Nils',
  'Olga',
  'Pavel',
];
const LAST = [
  'Arnold',
  'Brandt',
  'Carrow',
  'Dunmore',
  'Ekwall',
  'Farrant',
  'Grieve',
  'Hollis',
  'Isbister',
  'Jamieson',
  'Kerr',
  'Linklater',
  'Moar',
  'Norquoy',
];
const person = (c: Chance) => `${c.pick(FIRST)} ${c.pick(LAST)}`;
const people = (c: Chance, n: number) => {
  const s = new Set<string>();
  while (s.size < n) s.add(person(c));
  return [...s];
};
const two = (n: number) => String(n).padStart(2, '0');

/** Account statement: the date stands only on the first line of a day, texts go on below, balances carried over pages. */
const statement: Family = (c, s, size) => {
  const n = Math.min(Math.max(20, size), 90);
  const lines: string[] = [];
  const want: Cell[][] = [];
  let balance = money(c, 9000);
  let day = c.whole(20000, 21000);
  let onPage = 0;
  let page = 1;
  const put = (a: string, b: string, d: string, e: string, f: string) =>
    `${a.padEnd(12)}${b.padEnd(34)}${d.padStart(12)}${e.padStart(12)}${f.padStart(14)}`.trimEnd();
  const m = (v: number) => v.toFixed(2).replace(/\B(?=(?:\d{3})+(?!\d))/g, ',');
  const head = () => [
    `Statement of account   No 00481516          Sheet ${page}`,
    '',
    put('Date', 'Details', 'Paid out', 'Paid in', 'Balance'),
    put('', 'Balance brought forward', '', '', m(balance)),
  ];
  lines.push(...head());
  let last = -1;
  for (let k = 0; k < n; k++) {
    if (c.yes(0.5)) day += c.whole(1, 3);
    const what = c.pick(['Card payment', 'Direct debit', 'Standing order', 'Transfer', 'Cash']);
    const more = c.yes(0.4) ? `Ref ${c.whole(10000, 99999)} ${c.pick(LAST)}` : '';
    const inn = c.yes(0.3);
    const v = money(c, 900);
    balance = Number((balance + (inn ? v : -v)).toFixed(2));
    const iso = isoDay({ day });
    const [y, mo, d] = iso.split('-');
    const shown = `${d}/${mo}/${y}`;
    const own = `${what} ${c.pick(s.sites)}`.slice(0, 32).trim();
    lines.push(put(day === last && onPage > 0 ? '' : shown, own, inn ? '' : m(v), inn ? m(v) : '', m(balance)));
    if (more) lines.push(put('', more, '', '', ''));
    last = day;
    want.push([iso, more ? `${own} ${more}` : own, inn ? null : v, inn ? v : null, balance]);
    if (++onPage >= 18 && k < n - 1) {
      lines.push(put('', 'Balance carried forward', '', '', m(balance)), '\f');
      page++;
      onPage = 0;
      lines.push(...head());
    }
  }
  lines.push('', put('', 'Balance at end of statement', '', '', m(balance)));
  return text(lines, truth(['Date', 'Details', 'Out', 'In', 'Balance'], want));
};

/** Prices by quantity: ranges as names under one heading. */
const quantityPrices: Family = (c, s, size) => {
  const ranges = c.pick([
    ['1-9', '10-49', '50-99', '100+'],
    ['1 to 4', '5 to 19', '20 to 99', 'from 100'],
    ['< 10', '10 - 100', '> 100'],
  ]);
  const n = Math.min(Math.max(8, size), 60);
  const want: Cell[][] = [];
  const rows = Array.from({ length: n }, (_, k): Cell[] => {
    let p = money(c, 300);
    return [
      `A${1000 + k}`,
      c.pick(s.items),
      c.pick(['piece', 'box', 'm']),
      ...ranges.map((_r) => {
        p = Number((p * 0.93).toFixed(2));
        return p;
      }),
    ];
  });
  for (const r of rows)
    ranges.forEach((q, k) => {
      want.push([...r.slice(0, 3), q, r[3 + k]!]);
    });
  return {
    name: 'report.xlsx',
    bytes: workbook([
      {
        name: 'Prices',
        rows: [
          [`${s.title}`],
          [],
          ['Article', 'Name', 'Unit', 'Price for a quantity of'],
          [null, null, null, ...ranges],
          ...rows,
          ...notes(c, s),
        ],
        merges: [{ row: 2, column: 3, rows: 1, columns: ranges.length }],
      },
    ]),
    want: truth(['a', 'b', 'c', 'q', 'p'], want),
  };
};

/** A sheet that sums up, then a sheet for each area. */
const summaryFirst: Family = (c, s, size) => {
  const ms = measuresOf(c, s, 2, 3);
  const areas = c.some(s.areas, 4);
  const want: Cell[][] = [];
  const sheets = areas.map((a) => ({
    name: a.slice(0, 30),
    rows: c
      .some(s.sites, Math.min(20, Math.max(4, size)))
      .map((x): Cell[] => [
        x,
        c.pick(s.items),
        ...ms.map((m) => Number((c.next() * Math.min(m.most, 900)).toFixed(m.decimals))),
      ]),
  }));
  for (const sh of sheets) for (const r of sh.rows) want.push([sh.name, ...r]);
  const sums = sheets.map((sh): Cell[] => [sh.name, ...ms.map((_, k) => sum(sh.rows.map((r) => r[2 + k] as number)))]);
  return {
    name: 'report.xlsx',
    bytes: workbook([
      {
        name: c.pick(['Summary', 'Overview']),
        rows: [
          [s.title],
          [],
          [s.area, ...ms.map((m) => m.name)],
          ...sums,
          [s.words.total, ...ms.map((_, k) => sum(sums.map((r) => r[1 + k] as number)))],
        ],
      },
      ...sheets.map((sh) => ({
        name: sh.name,
        rows: [
          [`${s.title} ${sh.name}`],
          [],
          [s.site, s.item, ...ms.map((m) => m.name)],
          ...sh.rows,
          [s.words.total, null, ...ms.map((_, k) => sum(sh.rows.map((r) => r[2 + k] as number)))],
        ],
      })),
    ]),
    want: truth([s.area, s.site, s.item, ...ms.map((m) => m.name)], want),
  };
};

/** Time sheets: in and out under each date. */
const inAndOut: Family = (c, _s, size) => {
  const days = Array.from({ length: 5 }, (_, k) => ({ day: 20500 + c.whole(0, 300) * 7 + k })).sort(
    (a, b) => a.day - b.day,
  );
  const start = days[0]!.day;
  const ds = [0, 1, 2, 3, 4].map((k) => ({ day: start + k }));
  const ps = people(c, Math.min(Math.max(5, size), 40));
  const want: Cell[][] = [];
  const rows = ps.map((p, i): Cell[] => [
    100 + i,
    p,
    ...ds.flatMap((d) => {
      if (c.yes(0.12)) return [null, null];
      const a = `0${c.whole(6, 9)}:${two(c.whole(0, 59))}`;
      const b = `${c.whole(14, 18)}:${two(c.whole(0, 59))}`;
      want.push([100 + i, p, d, `${a}`, `${b}`]);
      return [a, b];
    }),
  ]);
  return {
    name: 'report.xlsx',
    bytes: workbook([
      {
        name: 'Week',
        rows: [
          [`Time sheet`],
          ['No', 'Name', ...ds.flatMap((d) => [d, null])],
          [null, null, ...ds.flatMap(() => ['In', 'Out'])],
          ...rows,
        ],
        merges: ds.map((_, k) => ({ row: 1, column: 2 + 2 * k, rows: 1, columns: 2 })),
      },
    ]),
    want: truth(['no', 'name', 'date', 'in', 'out'], want),
  };
};

/** Stock by month: opening, in, out, closing. */
const stockLedger: Family = (c, s, size) => {
  const months = s.words.months.slice(0, c.whole(3, 6));
  const parts = ['Opening', 'Received', 'Issued', 'Closing'];
  const want: Cell[][] = [];
  const rows = Array.from({ length: Math.min(Math.max(8, size), 60) }, (_, k): Cell[] => {
    let o = c.whole(20, 500);
    const code = `${c.pick(['K', 'M', 'T'])}-${200 + k}`;
    const it = c.pick(s.items);
    return [
      code,
      it,
      ...months.flatMap((m) => {
        const i = c.whole(0, 300);
        const u = c.whole(0, o + i);
        const cl = o + i - u;
        want.push([code, it, m, o, i, u, cl]);
        const r = [o, i, u, cl];
        o = cl;
        return r;
      }),
    ];
  });
  const w = 2 + months.length * 4;
  const total: Cell[] = [
    s.words.total,
    null,
    ...Array.from({ length: w - 2 }, (_, k) => sum(rows.map((r) => r[2 + k] as number))),
  ];
  return {
    name: 'report.xlsx',
    bytes: workbook([
      {
        name: 'Stock',
        rows: [
          [s.title],
          [],
          ['Code', 'Article', ...months.flatMap((m) => [m, null, null, null])],
          [null, null, ...months.flatMap(() => parts)],
          ...rows,
          total,
        ],
        merges: months.map((_, k) => ({ row: 2, column: 2 + 4 * k, rows: 1, columns: 4 })),
      },
    ]),
    want: truth(['c', 'i', 'm', 'o', 'r', 'u', 'cl'], want),
  };
};

/** Settings in sections: a section is a record. */
const sections: Family = (c, s, size) => {
  const n = Math.min(Math.max(6, size), 80);
  const want: Cell[][] = [];
  const lines: string[] = ['; berths of the harbour, exported nightly', ''];
  for (let k = 0; k < n; k++) {
    const name = `berth-${two(k + 1)}`;
    const a = c.pick(s.sites);
    const l = c.whole(20, 180);
    const d = (c.next() * 9 + 2).toFixed(1);
    const u = c.yes(0.5) ? 'yes' : 'no';
    lines.push(`[${name}]`, `place = ${a}`, `length = ${l}`, `depth = ${d}`, `lit = ${u}`, '');
    want.push([name, a, l, Number(d), u]);
  }
  return text(lines, truth(['section', 'place', 'length', 'depth', 'lit'], want), 'berths.ini');
};

/** Calendar of events (RFC 5545). */
const events: Family = (c, s, size) => {
  const n = Math.min(Math.max(6, size), 80);
  const want: Cell[][] = [];
  const lines = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Quay//EN'];
  for (let k = 0; k < n; k++) {
    const d = dayIn(c);
    const iso = isoDay(d).replaceAll('-', '');
    const h = c.whole(7, 15);
    const a = `${iso}T${two(h)}0000Z`;
    const b = `${iso}T${two(h + 2)}3000Z`;
    const w = `${c.pick(s.items)} ${c.pick(s.sites)}`;
    const l = c.pick(s.sites);
    lines.push(
      'BEGIN:VEVENT',
      `UID:${1000 + k}@quay`,
      `DTSTART:${a}`,
      `DTEND:${b}`,
      `SUMMARY:${w}`,
      `LOCATION:${l}`,
      'END:VEVENT',
    );
    want.push([`${1000 + k}@quay`, a, b, w, l]);
  }
  lines.push('END:VCALENDAR');
  return text(lines, truth(['UID', 'DTSTART', 'DTEND', 'SUMMARY', 'LOCATION'], want), 'quay.ics');
};

/** A small second table of other columns below the first. */
const secondBelow: Family = (c, s, size) => {
  const n = Math.min(Math.max(20, size), 120);
  const want: Cell[][] = [];
  const rows = Array.from({ length: n }, (_, k): Cell[] => [
    `V${300 + k}`,
    dayIn(c),
    c.pick(s.sites),
    c.whole(1, 900),
    money(c),
  ]);
  for (const r of rows) want.push(r);
  return xlsx(
    [
      [s.title],
      [],
      ['No', 'Date', s.site, 'Pieces', 'Amount'],
      ...rows,
      [s.words.total, null, null, sum(rows.map((r) => r[3] as number)), sum(rows.map((r) => r[4] as number))],
      [],
      ['Codes used'],
      ['Code', 'Meaning'],
      ['V', 'voyage'],
      ['R', 'return'],
      ['X', 'cancelled'],
    ],
    truth(['a', 'b', 'c', 'd', 'e'], want),
  );
};

/** Distances: a triangle. */
const triangle: Family = (c, s, _size) => {
  const ports = c.some(s.sites, c.whole(6, 12));
  const want: Cell[][] = [];
  const rows = ports.map((p, i): Cell[] => [
    p,
    ...ports.map((q, j) => {
      if (j >= i) return null;
      const v = c.whole(4, 400);
      want.push([p, q, v]);
      return v;
    }),
  ]);
  return xlsx([[`Distances in nautical miles`], [], [null, ...ports], ...rows], truth(['from', 'to', 'nm'], want));
};

/** Ages in the middle: men to the left, women to the right. */
const agesInTheMiddle: Family = (c, _s, _size) => {
  const ages = ['0-9', '10-19', '20-29', '30-39', '40-49', '50-59', '60-69', '70-79', '80+'];
  const want: Cell[][] = [];
  const rows = ages.map((a): Cell[] => {
    const m = c.whole(40, 900);
    const f = c.whole(40, 900);
    const mp = Number((m / 50).toFixed(1));
    const fp = Number((f / 50).toFixed(1));
    want.push([a, 'Men', m, mp], [a, 'Women', f, fp]);
    return [m, mp, a, f, fp];
  });
  return {
    name: 'report.xlsx',
    bytes: workbook([
      {
        name: 'Ages',
        rows: [
          ['Passengers by age'],
          [],
          ['Men', null, 'Age', 'Women', null],
          ['Number', '%', null, 'Number', '%'],
          ...rows,
        ],
        merges: [
          { row: 2, column: 0, rows: 1, columns: 2 },
          { row: 2, column: 3, rows: 1, columns: 2 },
          { row: 2, column: 2, rows: 2, columns: 1 },
        ],
      },
    ]),
    want: truth(['age', 'sex', 'n', '%'], want),
  };
};

/** A statement of two years in sections with sums, a column of note numbers, a unit below. */
const balanceSheet: Family = (c, _s, _size) => {
  const secs: [string, string[]][] = [
    ['Fixed assets', ['Ships', 'Quays and ramps', 'Buildings', 'Goodwill']],
    ['Current assets', ['Stores', 'Debtors', 'Cash at bank']],
    ['Creditors due within one year', ['Trade creditors', 'Loans', 'Taxes']],
    ['Reserves', ['Share capital', 'Retained profit']],
  ];
  const y = c.whole(2025, 2033);
  const want: Cell[][] = [];
  const rows: Cell[][] = [];
  let note = 3;
  for (const [name, items] of secs) {
    rows.push([name]);
    const own: number[][] = [];
    for (const it of items) {
      const a = c.whole(10, 9000);
      const b = c.whole(10, 9000);
      const nn = c.yes(0.6) ? note++ : null;
      rows.push([it, nn, a, b]);
      own.push([a, b]);
      want.push([name, it, nn, y, a], [name, it, nn, y - 1, b]);
    }
    rows.push([null, null, sum(own.map((o) => o[0]!)), sum(own.map((o) => o[1]!))], []);
  }
  return xlsx(
    [[`Balance sheet as at 31 December ${y}`], [], [null, 'Note', y, y - 1], [null, null, "£'000", "£'000"], ...rows],
    truth(['sec', 'item', 'note', 'year', 'v'], want),
  );
};

/** Results by constituency: two facts in the heading, candidates, turnout below. */
const results: Family = (c, s, _size) => {
  const want: Cell[][] = [];
  const rows: Cell[][] = [];
  for (const a of c.some(s.sites, c.whole(4, 9))) {
    const e = c.whole(3000, 60000);
    rows.push([`Ward: ${a}`, null, `Electorate: ${e}`]);
    rows.push(['Candidate', 'List', 'Votes']);
    const own: number[] = [];
    for (const p of people(c, c.whole(3, 6))) {
      const v = c.whole(20, 9000);
      const l = c.pick(['Harbour', 'Green', 'Union', 'Independent']);
      rows.push([p, l, v]);
      own.push(v);
      want.push([a, e, p, l, v]);
    }
    rows.push(['Valid votes', null, sum(own)], []);
  }
  return xlsx([[`Council election`], [], ...rows], truth(['ward', 'el', 'cand', 'list', 'votes'], want));
};

/** League tables one below the other. */
const leagues: Family = (c, s, _size) => {
  const want: Cell[][] = [];
  const lines: string[] = [];
  const ds = c.some(
    ['Premier Division', 'Division One', 'Division Two North', 'Division Two South', 'Reserve Division'],
    3,
  );
  const used = c.some(s.sites, 30);
  for (const [i, d] of ds.entries()) {
    lines.push(
      d,
      `${'Pos'.padStart(3)}  ${'Team'.padEnd(22)}${['P', 'W', 'D', 'L', 'F', 'A', 'Pts'].map((x) => x.padStart(5)).join('')}`,
    );
    const n = c.whole(6, 9);
    for (let k = 0; k < n; k++) {
      const w = c.whole(0, 12);
      const dr = c.whole(0, 6);
      const l = c.whole(0, 9);
      const r = [w + dr + l, w, dr, l, c.whole(5, 60), c.whole(5, 60), 3 * w + dr];
      const t = `${used[i * 9 + k]}`.slice(0, 20).trim();
      lines.push(`${String(k + 1).padStart(3)}  ${t.padEnd(22)}${r.map((x) => String(x).padStart(5)).join('')}`);
      want.push([d, k + 1, t, ...r]);
    }
    lines.push('');
  }
  return text(lines, truth(['div', 'pos', 'team', 'P', 'W', 'D', 'L', 'F', 'A', 'Pts'], want));
};

/** Readings in lines of words and signs. */
const meterLines: Family = (c, _s, size) => {
  const n = Math.min(Math.max(20, size), 200);
  const want: Cell[][] = [];
  const lines: string[] = [];
  for (let k = 0; k < n; k++) {
    const m = c.whole(4000, 4030);
    const d = isoDay(dayIn(c));
    const t = `${two(c.whole(0, 23))}:${c.pick(['00', '15', '30', '45'])}`;
    const v = (c.next() * 400).toFixed(1);
    const q = c.pick(['ok', 'estimated', 'gap']);
    lines.push(`Meter ${m} | ${d} ${t} | ${v} kWh | quality=${q}`);
    want.push([m, `${d} ${t}`, Number(v), q]);
  }
  return text(lines, truth(['meter', 'time', 'kWh', 'quality'], want), 'meters.log');
};

/** Header in two languages, one below the other. */
const twoLanguages: Family = (c, s, size) => {
  const n = Math.min(Math.max(10, size), 200);
  const rows = Array.from({ length: n }, (_, k): Cell[] => [
    `R-${1000 + k}`,
    dayIn(c),
    c.pick(s.sites),
    c.pick(s.states),
    c.whole(1, 300),
    money(c),
  ]);
  return xlsx(
    [
      ...titles(c, s, 2),
      ['Number', 'Date', 'Port', 'State', 'Pieces', 'Amount'],
      ['Nummer', 'Datum', 'Hafen', 'Zustand', 'Stück', 'Betrag'],
      ...rows,
    ],
    truth(['a', 'b', 'c', 'd', 'e', 'f'], rows),
  );
};

/** Quarters merged down beside months, with a line for their sums. */
const quartersDown: Family = (c, s, _size) => {
  const ms = measuresOf(c, s, 2, 4);
  const want: Cell[][] = [];
  const rows: Cell[][] = [];
  const merges: { row: number; column: number; rows: number; columns: number }[] = [];
  const y = c.whole(2024, 2032);
  const all: number[][] = [];
  for (let q = 1; q <= 4; q++) {
    const own: number[][] = [];
    merges.push({ row: 3 + rows.length, column: 0, rows: 4, columns: 1 });
    for (let k = 0; k < 3; k++) {
      const f = ms.map((m) => Number((c.next() * Math.min(m.most, 5000)).toFixed(m.decimals)));
      own.push(f);
      all.push(f);
      rows.push([k === 0 ? `Q${q}` : null, s.words.months[(q - 1) * 3 + k]!, ...f]);
      want.push([`Q${q}`, s.words.months[(q - 1) * 3 + k]!, ...f]);
    }
    rows.push([null, 'Sum', ...ms.map((_, j) => sum(own.map((o) => o[j]!)))]);
  }
  rows.push(['Year', null, ...ms.map((_, j) => sum(all.map((o) => o[j]!)))]);
  return {
    name: 'report.xlsx',
    bytes: workbook([
      {
        name: String(y),
        rows: [[`${s.title} ${y}`], [], ['Quarter', 'Month', ...ms.map((m) => m.name)], ...rows],
        merges,
      },
    ]),
    want: truth(['q', 'm', ...ms.map((m) => m.name)], want),
  };
};

/** Day, month and year in three columns, given only where they change. */
const dateInThree: Family = (c, s, size) => {
  const n = Math.min(Math.max(20, size), 200);
  const want: Cell[][] = [];
  const rows: Cell[][] = [];
  let day = c.whole(20000, 21000);
  let last = ['', '', ''];
  for (let k = 0; k < n; k++) {
    if (k > 0 && c.yes(0.6)) day += c.whole(1, 9);
    const [y, m, d] = isoDay({ day }).split('-').map(Number) as [number, number, number];
    const mo = s.words.months[m - 1]!;
    const now = [String(y), mo, String(d)];
    const show = [now[0] !== last[0], now[0] !== last[0] || now[1] !== last[1], now.join() !== last.join()];
    const r: Cell[] = [c.pick(s.sites), c.pick(s.items), c.whole(1, 400)];
    rows.push([show[0] ? y : null, show[1] ? mo : null, show[2] ? d : null, ...r]);
    want.push([y, mo, d, ...r]);
    last = now;
  }
  return xlsx(
    [[s.title], ['Year', 'Month', 'Day', s.site, s.item, 'Count'], ...rows],
    truth(['y', 'm', 'd', 's', 'i', 'n'], want),
  );
};

/** What a spreadsheet's cross table looks like: labels indented, a grand total at the right and below. */
const crossTable: Family = (c, s, _size) => {
  const cols = c.some(s.states, 4).sort();
  const areas = c.some(s.areas, c.whole(3, 5)).sort();
  const want: Cell[][] = [];
  const rows: Cell[][] = [];
  const all: (number | null)[][] = [];
  for (const a of areas) {
    const own = c
      .some(s.sites, c.whole(3, 7))
      .sort()
      .map((x) => ({ x, v: cols.map((_k) => (c.yes(0.85) ? c.whole(1, 500) : null)) }))
      .filter(({ v }) => v.some((one) => one !== null));
    const sums = cols.map((_, k) => {
      const vs = own.map((o) => o.v[k]!);
      return vs.every((v) => v === null) ? null : sum(vs);
    });
    rows.push([a, ...sums, sum(sums)]);
    for (const o of own) {
      rows.push([`  ${o.x}`, ...o.v, sum(o.v)]);
      all.push(o.v);
      o.v.forEach((v, k) => {
        if (v !== null) want.push([a, o.x, cols[k]!, v]);
      });
    }
  }
  const g = cols.map((_, k) => sum(all.map((v) => v[k]!)));
  rows.push(['Grand Total', ...g, sum(g)]);
  return xlsx(
    [['Sum of Pieces', 'State'], ['Place', ...cols, 'Grand Total'], ...rows],
    truth(['area', 'site', 'state', 'n'], want),
  );
};

/** A table drawn with signs, cells that go on below. */
const drawn: Family = (c, s, size) => {
  const n = Math.min(Math.max(8, size), 100);
  const want: Cell[][] = [];
  const w = [6, 18, 20, 9];
  const rule = `+${w.map((x) => '-'.repeat(x + 2)).join('+')}+`;
  const put = (r: string[]) => `| ${r.map((x, k) => (k === 3 ? x.padStart(w[k]!) : x.padEnd(w[k]!))).join(' | ')} |`;
  const lines = [rule, put(['No', 'Place', 'Remark', 'Amount']), rule];
  for (let k = 0; k < n; k++) {
    const p = c.pick(s.sites).slice(0, 18).trim();
    const long = c.yes(0.3);
    const r1 = c.pick(['sent by the', 'counted at the', 'left on the']);
    const r2 = c.pick(['night ferry', 'east ramp', 'upper deck']);
    const v = money(c).toFixed(2);
    lines.push(put([String(k + 1), p, long ? r1 : r2, v]));
    if (long) lines.push(put(['', '', r2, '']));
    want.push([k + 1, p, long ? `${r1} ${r2}` : r2, Number(v)]);
  }
  lines.push(rule, `${n} rows in set (0.01 sec)`);
  return text(lines, truth(['n', 'p', 'r', 'a'], want));
};

/** Markdown: a heading before each table. */
const markdownSections: Family = (c, s, _size) => {
  const want: Cell[][] = [];
  const lines = [`# ${s.title}`, '', 'Figures as returned by the quays.', ''];
  for (const a of c.some(s.areas, 4)) {
    lines.push(`## ${a}`, '', '| Place | Article | Pieces |', '| --- | --- | ---: |');
    for (const x of c.some(s.sites, c.whole(3, 8))) {
      const it = c.pick(s.items);
      const v = c.whole(1, 900);
      lines.push(`| ${x} | ${it} | ${v} |`);
      want.push([a, x, it, v]);
    }
    lines.push('');
  }
  return text(lines, truth(['area', 'p', 'a', 'n'], want), 'report.md');
};

/** A page: a heading before each table. */
const pageSections: Family = (c, s, _size) => {
  const want: Cell[][] = [];
  let body = `<h1>${s.title}</h1><p>As returned.</p>`;
  for (const a of c.some(s.areas, 4)) {
    body += `<h2>${a}</h2><table><thead><tr><th>Place</th><th>Article</th><th>Pieces</th></tr></thead><tbody>`;
    const own: number[] = [];
    for (const x of c.some(s.sites, c.whole(3, 8))) {
      const it = c.pick(s.items);
      const v = c.whole(1, 900);
      body += `<tr><td>${x}</td><td>${it}</td><td>${v}</td></tr>`;
      own.push(v);
      want.push([a, x, it, v]);
    }
    body += `</tbody><tfoot><tr><td colspan="2">Total</td><td>${sum(own)}</td></tr></tfoot></table>`;
  }
  return text(
    [`<!doctype html><html><head><title>${s.title}</title></head><body>${body}</body></html>`],
    truth(['area', 'p', 'a', 'n'], want),
    'report.html',
  );
};

/** GeoJSON (RFC 7946). */
const geo: Family = (c, s, size) => {
  const want: Cell[][] = [];
  const n = Math.min(Math.max(6, size), 100);
  const features = Array.from({ length: n }, (_, k) => {
    const lon = Number((-3 + c.next()).toFixed(4));
    const lat = Number((58 + c.next()).toFixed(4));
    const name = c.pick(s.sites);
    const depth = Number((c.next() * 20).toFixed(1));
    want.push([k + 1, name, depth, lon, lat]);
    return {
      type: 'Feature',
      id: k + 1,
      geometry: { type: 'Point', coordinates: [lon, lat] },
      properties: { name, depth },
    };
  });
  return json(
    { type: 'FeatureCollection', features },
    truth(['id', 'name', 'depth', 'lon', 'lat'], want),
    'berths.geojson',
  );
};

/** A log of states with an arrow. */
const stateChanges: Family = (c, _s, size) => {
  const n = Math.min(Math.max(20, size), 200);
  const want: Cell[][] = [];
  const lines: string[] = [];
  const st = ['ALONGSIDE', 'LOADING', 'DEPARTED', 'AT SEA', 'ANCHORED'];
  for (let k = 0; k < n; k++) {
    const d = isoDay(dayIn(c));
    const t = `${two(c.whole(0, 23))}:${two(c.whole(0, 59))}:${two(c.whole(0, 59))}`;
    const v = c.pick(['MV Skua', 'MV Tern', 'MV Auk']);
    const a = c.pick(st);
    const b = c.pick(st.filter((x) => x !== a));
    lines.push(`${d} ${t} ${v}: ${a} -> ${b}`);
    want.push([`${d} ${t}`, v, a, b]);
  }
  return text(lines, truth(['t', 'v', 'a', 'b'], want), 'states.log');
};

/** Marks: the most that can be had below the names, means at the end. */
const marks: Family = (c, _s, size) => {
  const tests = ['Navigation', 'Signals', 'First aid', 'Ropes', 'Radio'].slice(0, c.whole(3, 5));
  const max = tests.map(() => c.pick([20, 40, 50, 60]));
  const ps = people(c, Math.min(Math.max(10, size), 60));
  const rows = ps.map((p, i): Cell[] => [i + 1, p, ...max.map((m) => c.whole(Math.floor(m / 3), m))]);
  return xlsx(
    [
      ['Crew course, spring'],
      [],
      ['No', 'Name', ...tests],
      [null, 'out of', ...max],
      ...rows,
      [],
      [
        null,
        'Average',
        ...tests.map((_, k) => Number((rows.reduce((t, r) => t + (r[2 + k] as number), 0) / rows.length).toFixed(1))),
      ],
    ],
    truth(['no', 'name', ...tests], rows),
  );
};

/** Sailings by day: times in one line. */
const timesInLine: Family = (c, s, _size) => {
  const want: Cell[][] = [];
  const rows: Cell[][] = [];
  for (const r of c.some(s.sites, c.whole(4, 10)))
    for (const d of ['Monday to Friday', 'Saturday', 'Sunday']) {
      const ts = Array.from(
        { length: c.whole(2, 6) },
        (_, k) => `${two(6 + k * 2)}:${c.pick(['00', '15', '40', '50'])}`,
      );
      rows.push([r, d, ts.join('  ')]);
      for (const t of ts) want.push([r, d, t]);
    }
  return xlsx([['Departures'], [], ['Quay', 'Days', 'Times'], ...rows], truth(['q', 'd', 't'], want));
};

/** Calls by number: the number above, durations, the sum of each number. */
const calls: Family = (c, _s, _size) => {
  const want: Cell[][] = [];
  const lines: string[] = ['ITEMISED CALLS', ''];
  for (let k = 0; k < c.whole(3, 7); k++) {
    const no = `01856 ${c.whole(200000, 899999)}`;
    lines.push(
      `Calls from ${no}`,
      '',
      `${'Date'.padEnd(8)}${'Time'.padEnd(8)}${'Number called'.padEnd(20)}${'Duration'.padStart(10)}${'Cost'.padStart(10)}`,
    );
    let total = 0;
    let day = c.whole(1, 9);
    for (let j = 0; j < c.whole(4, 12); j++) {
      day = Math.min(28, day + c.whole(0, 2));
      const d = `${two(day)} Mar`;
      const t = `${two(c.whole(7, 20))}:${two(c.whole(0, 59))}`;
      const to = `0${c.whole(1000, 1999)} ${c.whole(200000, 899999)}`;
      const du = `${c.whole(0, 59)}:${two(c.whole(0, 59))}`;
      const co = Number((c.next() * 4).toFixed(2));
      total += Math.round(co * 100);
      lines.push(`${d.padEnd(8)}${t.padEnd(8)}${to.padEnd(20)}${du.padStart(10)}${co.toFixed(2).padStart(10)}`);
      want.push([no, d, t, to, du, co]);
    }
    lines.push(`${'Total for this number'.padEnd(46)}${(total / 100).toFixed(2).padStart(10)}`, '');
  }
  return text(lines, truth(['from', 'd', 't', 'to', 'du', 'co'], want));
};

/** Members: a name in capitals, then address lines and named lines. */
const members: Family = (c, s, size) => {
  const want: Cell[][] = [];
  const lines: string[] = ['REGISTER OF SKIPPERS', ''];
  for (const p of people(c, Math.min(Math.max(8, size), 60))) {
    const no = c.whole(1000, 9999);
    const port = c.pick(s.sites);
    const since = c.whole(1990, 2030);
    const boat = c.pick(['Skua', 'Tern', 'Auk', 'Fulmar', 'Gannet']);
    lines.push(
      p,
      `  Licence no.: ${no}`,
      `  Home port:   ${port}`,
      `  Since:       ${since}`,
      `  Boat:        ${boat}`,
      '',
    );
    want.push([p, no, port, since, boat]);
  }
  return text(lines, truth(['name', 'no', 'port', 'since', 'boat'], want));
};

/** Delimited text with directives above (names, units, types), as instruments write it. */
const instrument: Family = (c, _s, size) => {
  const n = Math.min(Math.max(20, size), 300);
  const want: Cell[][] = [];
  const lines = [
    '# station: Skerrow North',
    `# position: 58.9 N 3.1 W`,
    '# interval: 600 s',
    '# columns: time;temp;wind;dir',
    '# units: UTC;degC;m/s;deg',
  ];
  for (let k = 0; k < n; k++) {
    const t = new Date(Date.UTC(2031, 2, 1) + k * 600000).toISOString().slice(0, 16).replace('T', ' ');
    const r = [Number((c.next() * 12).toFixed(1)), Number((c.next() * 20).toFixed(1)), c.whole(0, 359)];
    lines.push([t, ...r].join(';'));
    want.push([t, ...r]);
  }
  return text(lines, truth(['time', 'temp', 'wind', 'dir'], want), 'station.dat');
};

/** Two tables beside each other with the same keys: plan and actual. */
const planBeside: Family = (c, s, size) => {
  const sites = c.some(s.sites, Math.min(Math.max(6, size), 20));
  const qs = ['Q1', 'Q2', 'Q3', 'Q4'];
  const want: Cell[][] = [];
  const a = sites.map(() => qs.map(() => c.whole(10, 900)));
  const b = sites.map(() => qs.map(() => c.whole(10, 900)));
  sites.forEach((x, i) => {
    qs.forEach((q, k) => {
      want.push([x, q, a[i]![k]!, b[i]![k]!]);
    });
  });
  const tot = (t: number[][]) => qs.map((_, k) => sum(t.map((r) => r[k]!)));
  return {
    name: 'report.xlsx',
    bytes: workbook([
      {
        name: 'Plan',
        rows: [
          [s.title],
          [],
          [s.site, 'Plan', null, null, null, 'Actual', null, null, null],
          [null, ...qs, ...qs],
          ...sites.map((x, i): Cell[] => [x, ...a[i]!, ...b[i]!]),
          [s.words.total, ...tot(a), ...tot(b)],
        ],
        merges: [
          { row: 2, column: 1, rows: 1, columns: 4 },
          { row: 2, column: 5, rows: 1, columns: 4 },
          { row: 2, column: 0, rows: 2, columns: 1 },
        ],
      },
    ]),
    want: truth(['s', 'q', 'p', 'a'], want),
  };
};

/** Written before their drafts were seen; first figures in docs/draft.md. */
export const SIXTH_FAMILIES: Readonly<Record<string, Family>> = {
  'account statement': statement,
  'prices by quantity': quantityPrices,
  'summary first': summaryFirst,
  'in and out': inAndOut,
  'stock ledger': stockLedger,
  'settings in sections': sections,
  'calendar of events': events,
  'second table below': secondBelow,
  'triangle of distances': triangle,
  'ages in the middle': agesInTheMiddle,
  'balance sheet': balanceSheet,
  'results by ward': results,
  leagues,
  'meter lines': meterLines,
  'two languages': twoLanguages,
  'quarters down': quartersDown,
  'date in three columns': dateInThree,
  'cross table of groups': crossTable,
  'table drawn with signs': drawn,
  'sections of Markdown': markdownSections,
  'sections of a page': pageSections,
  'places in JSON': geo,
  'changes of state': stateChanges,
  marks,
  'times in a line': timesInLine,
  'calls by number': calls,
  'register of members': members,
  instrument,
  'plan beside actual': planBeside,
};
