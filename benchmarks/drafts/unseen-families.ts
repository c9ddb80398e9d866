/**
 * Layouts that were written down before anybody looked at what the detectors make of them: what they score at first
 * tells of the next report, what they score now does not. Both figures are in docs/draft.md.
 */
import { type Family, groups, json, local, localDay, measuresOf, records, text, xlsx } from './made.ts';
import { type Cell, type Day, figure, isoDay, notes, sum, titles, truth, workbook } from './page.ts';

/** A month of days across, with their sum: figures as names. */
const daysAcross: Family = (c, s, size) => {
  const days = Array.from({ length: c.pick([28, 30, 31]) }, (_, k) => k + 1);
  const want: Cell[][] = [];
  const sites = c.some(s.sites, c.whole(5, Math.min(20, Math.max(6, size))));
  const rows = sites.map((site): Cell[] => {
    const counts = days.map(() => (c.yes(0.8) ? c.whole(1, 90) : null));
    for (const [k, count] of counts.entries()) if (count !== null) want.push([site, days[k]!, count]);
    return [site, ...counts, sum(counts)];
  });
  return xlsx(
    [...titles(c, s, 2), [s.site, ...days, s.words.total], ...rows, ...notes(c, s)],
    truth([s.site, 'Day', 'Count'], want),
  );
};

/** Rules of dashes under names of two lines, single blanks between, and headings over the records. */
const ruledHeadings: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const all = groups(c, s, Math.max(16, size), measures);
  const wide = [20, ...measures.map(() => 11)];
  const put = (cells: readonly string[]) =>
    cells
      .map((cell, k) => (k === 0 ? cell.slice(0, wide[k]).padEnd(wide[k]!) : cell.padStart(wide[k]!)))
      .join(' ')
      .trimEnd();
  const halves = measures.map(({ name }) => {
    const words = name.split(' ');
    return words.length > 1 ? [words[0]!, words.slice(1).join(' ')] : ['', name];
  });
  const head = [
    put(['', ...halves.map(([upper]) => upper!.slice(0, 11))]),
    put([s.site, ...halves.map(([, lower]) => lower!.slice(0, 11))]),
    wide.map((w) => '-'.repeat(w)).join(' '),
  ];
  const lines = [`${s.title}`, '', ...head];
  const want: Cell[][] = [];
  for (const { area, rows } of all) {
    lines.push(`${s.area}: ${area}`);
    for (const [site, ...figures] of rows) {
      const own = String(site).slice(0, 20).trim();
      lines.push(put([own, ...figures.map((one, k) => local(one as number, measures[k]!.decimals, s, false))]));
      want.push([area, own, ...figures]);
    }
  }
  return text(lines, truth([s.area, s.site, ...measures.map((m) => m.name)], want));
};

/** A remark on its own line below the record that it belongs to. */
const remarksBelow: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, Math.min(size, 120)), measuresOf(c, s, 2, 2));
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  for (const row of rows) {
    const remark = c.yes(0.4) ? `${c.pick(s.words.remarks)}, ${c.pick(s.sites)}` : null;
    body.push(row);
    if (remark !== null) body.push([null, null, remark]);
    want.push([...row, remark]);
  }
  return xlsx([...titles(c, s, 2), names, ...body], truth([...names, 'Remark'], want));
};

/** Before each group a row of several names with their values; the header is repeated. */
const headRows: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const all = groups(c, s, size, measures);
  const want: Cell[][] = [];
  const body = all.flatMap(({ area, rows }, k): Cell[][] => {
    const number = `${s.code.slice(0, 1).toUpperCase()}${40 + 3 * k}`;
    for (const row of rows) want.push([area, number, ...row]);
    return [[`${s.area}:`, area, `${s.code}:`, number], [s.site, ...measures.map((m) => m.name)], ...rows, []];
  });
  return xlsx([...titles(c, s, 3), ...body], truth([s.area, s.code, s.site, ...measures.map((m) => m.name)], want));
};

/** An order, its date and its customer; below it the header and the lines of its items. */
const masterDetail: Family = (c, s, size) => {
  const [first, second] = measuresOf(c, s, 2, 2);
  const want: Cell[][] = [];
  const body: Cell[][] = [
    [s.code, s.date, s.site],
    [null, s.item, first!.name, second!.name],
  ];
  for (let k = 0; k < c.whole(4, Math.max(5, Math.min(30, size / 3))); k++) {
    const key: Cell[] = [`${1000 + 7 * k}`, { day: c.whole(20_000, 21_000) }, c.pick(s.sites)];
    body.push(key);
    for (const item of c.some(s.items, c.whole(1, 4))) {
      const figures = [figure(c, first!), figure(c, second!)];
      body.push([null, item, ...figures]);
      want.push([...key, item, ...figures]);
    }
  }
  return xlsx([...titles(c, s, 3), ...body], truth([s.code, s.date, s.site, s.item, first!.name, second!.name], want));
};

/** Codes by numbering, sums at each level above the leaves. */
const numberedCodes: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 2);
  const want: Cell[][] = [];
  const body: Cell[][] = [];
  for (const [k, { area, rows }] of groups(c, s, size, measures).entries()) {
    const sums = measures.map((_, m) => sum(rows.map((row) => row[m + 1] as number)));
    body.push([`${k + 1}`, area, ...sums]);
    rows.forEach((row, n) => {
      body.push([`${k + 1}.${n + 1}`, ...row]);
      want.push([area, `${k + 1}.${n + 1}`, ...row]);
    });
  }
  return xlsx(
    [...titles(c, s, 3), [s.code, s.site, ...measures.map((m) => m.name)], ...body],
    truth([s.area, s.code, s.site, ...measures.map((m) => m.name)], want),
  );
};

/** For each class a number and its share, under a header of two tiers. */
const numbersAndShares: Family = (c, s, size) => {
  const classes = c.some(s.items, c.whole(2, 4));
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(5, Math.min(40, Math.max(6, size)))).map((site): Cell[] => {
    const counts = classes.map(() => c.whole(1, 400));
    const all = sum(counts);
    return [
      site,
      ...counts.flatMap((count, k) => {
        const share = Number(((100 * count) / all).toFixed(1));
        want.push([site, classes[k]!, count, share]);
        return [count, share];
      }),
    ];
  });
  const upper: Cell[] = [null, ...classes.flatMap((one): Cell[] => [one, null])];
  const lower: Cell[] = [s.site, ...classes.flatMap((): Cell[] => ['n', '%'])];
  return xlsx([...titles(c, s, 3), upper, lower, ...body], truth([s.site, s.item, 'n', '%'], want));
};

/** Who works when: names down, dates across, codes of shifts in the cells. */
const rota: Family = (c, s, size) => {
  const start = c.whole(20_000, 21_000);
  const days = Array.from({ length: c.whole(7, 14) }, (_, k): Day => ({ day: start + k }));
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(5, Math.min(25, Math.max(6, size)))).map((who): Cell[] => [
    who,
    ...days.map((day): Cell => {
      const code = c.pick(['E', 'L', 'N', null, 'OFF']);
      if (code !== null) want.push([who, day, code]);
      return code;
    }),
  ]);
  return xlsx([...titles(c, s, 2), [s.site, ...days], ...body], truth([s.site, s.date, s.state], want));
};

/** Head, detail and trailer records by a leading code. */
const recordTypes: Family = (c, s, size) => {
  const [measure] = measuresOf(c, s, 1, 1);
  const want: Cell[][] = [];
  const lines: string[] = [];
  for (const { area, rows } of groups(c, s, size, [measure!])) {
    const day: Day = { day: c.whole(20_000, 21_000) };
    lines.push(['H', area, isoDay(day)].join('|'));
    for (const [site, value] of rows) {
      const item = c.pick(s.items);
      lines.push(['D', site, item, (value as number).toFixed(measure!.decimals)].join('|'));
      want.push([area, day, site!, item, value!]);
    }
    lines.push(['T', String(rows.length)].join('|'));
  }
  return text(lines, truth([s.area, s.date, s.site, s.item, measure!.name], want), 'report.dat');
};

/** A log whose messages have one form. */
const sentenceLog: Family = (c, s, size) => {
  const want: Cell[][] = [];
  let minute = c.whole(300, 400);
  const lines = Array.from({ length: c.whole(20, Math.max(25, Math.min(300, size))) }, (_, k) => {
    minute += c.whole(1, 4);
    const at = `2031-06-02 ${String(Math.floor(minute / 60) % 24).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}:00`;
    const [unit, site, foot, cars] = [
      `U${10 + (k % 7)}`,
      c.pick(s.sites).split(' ')[0]!,
      c.whole(0, 400),
      c.whole(0, 60),
    ];
    want.push([at.replace(' ', 'T'), unit, site, foot, cars]);
    return `${at} INFO unit ${unit} left ${site} with ${foot} foot and ${cars} cars`;
  });
  return text(lines, truth(['Time', 'Unit', 'Port', 'Foot', 'Cars'], want), 'report.log');
};

const columnsAndRows: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, size), measuresOf(c, s));
  const data = rows.map((row) => row.map((cell) => (cell !== null && typeof cell === 'object' ? isoDay(cell) : cell)));
  return json({ report: s.title, columns: names, rows: data, count: rows.length }, truth(names, rows));
};

const parallelLists: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, size), measuresOf(c, s));
  const data = rows.map((row) => row.map((cell) => (cell !== null && typeof cell === 'object' ? isoDay(cell) : cell)));
  return json(
    { report: s.title, data: Object.fromEntries(names.map((name, k) => [name, data.map((row) => row[k])])) },
    truth(names, rows),
  );
};

/** Objects whose keys are data, at two levels. */
const keysAsData: Family = (c, s, size) => {
  const want: Cell[][] = [];
  const measures = measuresOf(c, s, 2, 2);
  const months = Array.from({ length: 6 }, (_, k) => `2031-0${k + 1}`);
  const data = Object.fromEntries(
    c.some(s.sites, c.whole(4, Math.min(30, Math.max(5, size / 4)))).map((site) => [
      site,
      Object.fromEntries(
        months.map((month) => {
          const figures = measures.map((m) => figure(c, m));
          want.push([site, month, ...figures]);
          return [month, Object.fromEntries(measures.map((m, k) => [m.name, figures[k]]))];
        }),
      ),
    ]),
  );
  return json(data, truth([s.site, 'Month', ...measures.map((m) => m.name)], want));
};

/** Figures with their unit, with marks of footnotes, and a row of units below the header. */
const markedFigures: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(10, Math.min(size, 200)), [
    { name: s.measures[0]!.name, decimals: 0, most: 4000 },
    { name: s.measures[1]!.name, decimals: 0, most: 900 },
  ]);
  const shown = rows.map((row) => [
    ...row.slice(0, 5),
    `${row[5]}${c.yes(0.15) ? c.pick(['*', ' b)', '²']) : ''}`,
    `${row[6]} kg`,
  ]);
  return xlsx([...titles(c, s, 2), names, ...shown, [], ['* estimated'], ['b) late']], truth(names, rows));
};

/** Ditto marks for what stands above. */
const dittoMarks: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const all = groups(c, s, size, measures);
  const mark = c.pick(['"', '〃', "''"]);
  const rows = all.flatMap(({ area, rows: own }) => own.map((row, k): Cell[] => [k === 0 ? area : mark, ...row]));
  return xlsx(
    [...titles(c, s, 2), [s.area, s.site, ...measures.map((m) => m.name)], ...rows],
    truth(
      [s.area, s.site, ...measures.map((m) => m.name)],
      all.flatMap(({ area, rows: own }) => own.map((row) => [area, ...row])),
    ),
  );
};

/** The first label stands above the header, the others between the rows. */
const labelAboveHeader: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const all = groups(c, s, size, measures);
  const names = [s.site, ...measures.map((m) => m.name)];
  const body = all.flatMap(({ area, rows }, k): Cell[][] => (k === 0 ? [[area], names, ...rows] : [[area], ...rows]));
  return xlsx(
    [...titles(c, s, 2), ...body],
    truth(
      [s.area, ...names],
      all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
    ),
  );
};

/** The sum of a group in its own column, on its last row. */
const sumsBeside: Family = (c, s, size) => {
  const [measure] = measuresOf(c, s, 1, 1);
  const all = groups(c, s, size, [measure!]);
  const rows = all.flatMap(({ area, rows: own }) =>
    own.map((row, k): Cell[] => [
      k === 0 ? area : null,
      ...row,
      k === own.length - 1 ? sum(own.map((one) => one[1] as number)) : null,
    ]),
  );
  return xlsx(
    [...titles(c, s, 2), [s.area, s.site, measure!.name, s.words.total], ...rows],
    truth(
      [s.area, s.site, measure!.name],
      all.flatMap(({ area, rows: own }) => own.map((row) => [area, ...row])),
    ),
  );
};

/** Pages that carry their sum forward, with a group that goes on over the page. */
const carriedPages: Family = (c, s, size) => {
  const [measure] = measuresOf(c, s, 1, 1);
  const all = groups(c, s, Math.max(30, size), [measure!]);
  const put = (cells: readonly string[]) =>
    `${cells[0]!.padEnd(14)}${cells[1]!.padEnd(26)}${cells[2]!.padStart(14)}`.trimEnd();
  const lines: string[] = [];
  const want: Cell[][] = [];
  let [page, left, running] = [0, 0, 0];
  const shown = (value: number) => local(value, measure!.decimals, s, true);
  const head = () => {
    if (page > 0) lines.push(put(['', s.words.carried, shown(running)]), '\f');
    page++;
    lines.push(`${s.title}   ${s.words.page(page, 9)}`, put([s.area, s.site, measure!.name]), '='.repeat(54));
    if (page > 1) lines.push(put(['', s.words.brought, shown(running)]));
    left = 20;
  };
  head();
  for (const { area, rows } of all)
    rows.forEach(([site, value], k) => {
      const turned = left-- <= 0;
      if (turned) head();
      lines.push(put([k === 0 || turned ? area : '', String(site).slice(0, 25), shown(value as number)]));
      running = sum([running, value as number]);
      want.push([area, String(site).slice(0, 25).trim(), value!]);
    });
  lines.push(put([s.words.total, '', shown(running)]));
  return text(lines, truth([s.area, s.site, measure!.name], want));
};

/** Lines about the file in front, and a count at its end. */
const countedFile: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, size), measuresOf(c, s));
  const cell = (one: Cell) => (one === null ? '' : typeof one === 'object' ? localDay(one, s) : String(one));
  return text(
    [
      `File;${s.title}`,
      `Made;2031-06-0${c.whole(1, 9)}`,
      `Made by;${c.pick(s.sites)}`,
      '',
      names.join(';'),
      ...rows.map((row) => row.map(cell).join(';')),
      `Records;${rows.length}`,
    ],
    truth(names, rows),
    'report.csv',
  );
};

/** A value and its flag for each year. */
const valuesAndFlags: Family = (c, s, size) => {
  const years = Array.from({ length: c.whole(3, 5) }, (_, k) => 2025 + k);
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(6, Math.min(40, Math.max(7, size)))).map((site): Cell[] => [
    site,
    ...years.flatMap((year): Cell[] => {
      const [value, flag] = [Number((c.next() * 900).toFixed(1)), c.yes(0.25) ? c.pick(['e', 'p', 'b']) : null];
      want.push([site, year, value, flag]);
      return [value, flag];
    }),
  ]);
  return xlsx(
    [...titles(c, s, 2), [s.site, ...years.flatMap((year): Cell[] => [year, null])], ...body],
    truth([s.site, 'Year', 'Value', 'Flag'], want),
  );
};

/** What each place has, marked by a cross. */
const crosses: Family = (c, s, size) => {
  const items = c.some(s.items, c.whole(4, 6));
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(6, Math.min(40, Math.max(7, size)))).map((site): Cell[] => [
    site,
    ...items.map((item): Cell => {
      const has = c.yes(0.5);
      if (has) want.push([site, item, 'x']);
      return has ? 'x' : null;
    }),
  ]);
  return xlsx([...titles(c, s, 2), [s.site, ...items], ...body], truth([s.site, s.item, 'Mark'], want));
};

/** The header stands again on every page; the label of a group that goes on says so. */
const continuedLabels: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const names = [s.site, ...measures.map((m) => m.name)];
  const again = { en: '(continued)', de: '(Fortsetzung)', fr: '(suite)', es: '(continuación)' }[s.language];
  const all = groups(c, s, Math.max(24, size), measures);
  const body: Cell[][] = [[...names]];
  let onPage = 0;
  for (const { area, rows } of all) {
    body.push([area]);
    for (const row of rows) {
      if (onPage++ === 12) {
        body.push([], [s.words.page(2, 4)], [...names], [`${area} ${again}`]);
        onPage = 1;
      }
      body.push(row);
    }
  }
  return xlsx(
    [...titles(c, s, 2), ...body],
    truth(
      [s.area, ...names],
      all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
    ),
  );
};

/** The name of the sheet says nothing; a line in it says of what it is. */
const namedInSheet: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const all = groups(c, s, size, measures);
  const names = [s.site, ...measures.map((m) => m.name)];
  return {
    name: 'report.xlsx',
    bytes: workbook(
      all.map(({ area, rows }, k) => ({
        name: `Sheet${k + 1}`,
        rows: [[s.title], [s.area, area], [], names, ...rows],
      })),
    ),
    want: truth(
      ['Sheet', s.area, ...names],
      all.flatMap(({ area, rows }, k) => rows.map((row) => [`Sheet${k + 1}`, area, ...row])),
    ),
  };
};

export const UNSEEN_FAMILIES: Readonly<Record<string, Family>> = {
  'days across': daysAcross,
  'headings under a rule': ruledHeadings,
  'remarks below': remarksBelow,
  'rows of names and values': headRows,
  'orders and items': masterDetail,
  'numbered codes': numberedCodes,
  'numbers and shares': numbersAndShares,
  rota,
  'records by code': recordTypes,
  'log in sentences': sentenceLog,
  'columns and rows in JSON': columnsAndRows,
  'parallel lists in JSON': parallelLists,
  'keys that are data': keysAsData,
  'figures with marks': markedFigures,
  'ditto marks': dittoMarks,
  'label above the header': labelAboveHeader,
  'sums beside': sumsBeside,
  'carried from page to page': carriedPages,
  'counted file': countedFile,
  'values and flags': valuesAndFlags,
  crosses,
  'continued labels': continuedLabels,
  'named in the sheet': namedInSheet,
};
