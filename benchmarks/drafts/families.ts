/** Layouts of reports, each made with the tidy table that is in it. Invented after common practice. */
import type { Chance } from './chance.ts';
import {
  bytesOf,
  type Cell,
  type Day,
  figure,
  indentedByStyle,
  isoDay,
  type MadeReport,
  notes,
  shift,
  sum,
  tidy,
  titles,
  truth,
  workbook,
} from './page.ts';
import type { Measure, Scenario } from './scenarios.ts';

type Made = Omit<MadeReport, 'family'>;
export type Family = (chance: Chance, s: Scenario, size: number) => Made;

const xlsx = (rows: Cell[][], want: Made['want'], name = 'Sheet1'): Made => ({
  name: 'report.xlsx',
  bytes: workbook([{ name, rows }]),
  want,
});

const measuresOf = (c: Chance, s: Scenario, least = 2, most = 4) => {
  const count = c.whole(least, most);
  return s.measures.filter((_, k) => k < count);
};

const dayIn = (c: Chance): Day => ({ day: c.whole(19800, 21500) });

/** Records of code, date, site, item, state and figures. */
function records(c: Chance, s: Scenario, count: number, measures: readonly Measure[], first = 1) {
  const names = [s.code, s.date, s.site, s.item, s.state, ...measures.map((m) => m.name)];
  const rows = Array.from({ length: count }, (_, k): Cell[] => [
    `${s.code.slice(0, 2).toUpperCase()}-${String(first + k).padStart(4, '0')}`,
    dayIn(c),
    c.pick(s.sites.slice(0, 12)),
    c.pick(s.items),
    c.pick(s.states),
    ...measures.map((m) => figure(c, m)),
  ]);
  return { names, rows, keys: 5 };
}

/** Sites with items and figures, in areas. */
function groups(c: Chance, s: Scenario, size: number, measures: readonly Measure[]) {
  const areas = c.some(s.areas, c.whole(2, Math.min(7, 2 + Math.ceil(size / 20))));
  const sites = c.some(s.sites, 50);
  return areas.map((area) => ({
    area,
    rows: c
      .some(sites, c.whole(2, Math.max(3, Math.min(20, Math.ceil(size / areas.length)))))
      .map((site): Cell[] => [site, ...measures.map((m) => figure(c, m))]),
  }));
}

const totalRow = (label: Cell[], rows: readonly (readonly Cell[])[], keys: number, width: number): Cell[] => [
  ...label,
  ...new Array<Cell>(keys - label.length).fill(null),
  ...Array.from({ length: width - keys }, (_, k) => sum(rows.map((row) => row[keys + k] as number | null))),
];

const plain: Family = (c, s, size) => {
  const { names, rows, keys } = records(c, s, c.whole(8, size), measuresOf(c, s));
  const total = c.yes(0.6) ? [totalRow([s.words.total], rows, keys, names.length)] : [];
  return xlsx(shift(c, [...titles(c, s, 2), names, ...rows, ...total, ...notes(c, s)]), truth(names, rows));
};

const tidyTable: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, size), measuresOf(c, s));
  return xlsx([names, ...rows], truth(names, rows));
};

const periodsOver =
  (years: boolean): Family =>
  (c, s, size) => {
    const measures = measuresOf(c, s, 2, 3);
    const start = c.whole(0, 6);
    const periods = years
      ? Array.from({ length: c.whole(2, 5) }, (_, k) => String(2020 + start + k))
      : s.words.months.slice(start, start + c.whole(2, 5));
    const all = groups(
      c,
      s,
      size,
      periods.flatMap(() => measures),
    );
    const block = c.yes(0.4);
    const upper: Cell[] = [s.area, s.site];
    const lower: Cell[] = [null, null];
    for (const p of [...periods, ...(block ? [s.words.total] : [])]) {
      measures.forEach((m, k) => {
        upper.push(k === 0 ? p : null);
        lower.push(m.name);
      });
    }
    const body: Cell[][] = [];
    const want: Cell[][] = [];
    for (const { area, rows } of all)
      for (const row of rows) {
        const figures = row.slice(1) as number[];
        const sums = measures.map((_, m) => sum(periods.map((_p, p) => figures[p * measures.length + m]!)));
        body.push([area, row[0]!, ...figures, ...(block ? sums : [])]);
        periods.forEach((p, n) => {
          want.push([area, row[0]!, p, ...figures.slice(n * measures.length, (n + 1) * measures.length)]);
        });
      }
    const total = c.yes(0.6) ? [totalRow([s.words.grand], body, 2, upper.length)] : [];
    return xlsx(
      shift(c, [...titles(c, s, 3), upper, lower, ...body, ...total, ...notes(c, s)]),
      truth([s.area, s.site, 'Period', ...measures.map((m) => m.name)], want),
    );
  };

const measureOverYears: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const years = Array.from({ length: c.whole(2, 5) }, (_, k) => 2022 + k);
  const all = groups(
    c,
    s,
    size,
    measures.flatMap(() => years.map(() => measures[0]!)),
  );
  const upper: Cell[] = [null, null];
  const lower: Cell[] = [s.area, s.site];
  for (const m of measures)
    for (const [k, year] of years.entries()) {
      upper.push(k === 0 ? m.name : null);
      lower.push(year);
    }
  const want: Cell[][] = [];
  const body = all.flatMap(({ area, rows }) =>
    rows.map((row): Cell[] => {
      for (const [y, year] of years.entries())
        want.push([area, row[0]!, year, ...measures.map((_, m) => row[1 + m * years.length + y]!)]);
      return [area, ...row];
    }),
  );
  return xlsx(
    shift(c, [...titles(c, s, 3), upper, lower, ...body, ...notes(c, s)]),
    truth([s.area, s.site, 'Year', ...measures.map((m) => m.name)], want),
  );
};

/** Three tiers: year, quarter, measure. */
const threeTiers: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 2);
  const years = ['2029', '2030'];
  const quarters = [1, 2].map(s.words.quarter);
  const head: Cell[][] = [[s.site], [null], [null]];
  for (const y of years)
    for (const q of quarters)
      for (const m of measures) {
        head[0]!.push(q === quarters[0] && m === measures[0] ? y : null);
        head[1]!.push(m === measures[0] ? q : null);
        head[2]!.push(m.name);
      }
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(4, Math.min(size, 40))).map((site): Cell[] => {
    const row: Cell[] = [site];
    for (const y of years)
      for (const q of quarters) {
        const figures = measures.map((m) => figure(c, m));
        row.push(...figures);
        want.push([site, y, q, ...figures]);
      }
    return row;
  });
  return xlsx(
    [...titles(c, s, 3), ...head, ...body, ...notes(c, s)],
    truth([s.site, 'Year', 'Quarter', ...measures.map((m) => m.name)], want),
  );
};

const labelRows =
  (totals: boolean, blanks: boolean): Family =>
  (c, s, size) => {
    const measures = measuresOf(c, s);
    const names = [s.site, ...measures.map((m) => m.name)];
    const all = groups(c, s, size, measures);
    const body: Cell[][] = [];
    for (const { area, rows } of all) {
      body.push([area], ...rows);
      if (totals) body.push(totalRow([c.yes(0.5) ? s.words.total : s.words.subtotal(area)], rows, 1, names.length));
      if (blanks) body.push([null]);
    }
    if (c.yes(0.6))
      body.push(
        totalRow(
          [s.words.grand],
          all.flatMap(({ rows }) => rows),
          1,
          names.length,
        ),
      );
    return xlsx(
      shift(c, [...titles(c, s, 2), names, ...body, ...notes(c, s)]),
      truth(
        [s.area, ...names],
        all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
      ),
    );
  };

/** Groups whose total stands in the label row above them. */
const totalsAbove: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const all = groups(c, s, size, measures);
  const body: Cell[][] = [
    totalRow(
      [s.words.grand],
      all.flatMap(({ rows }) => rows.map((row) => [null, ...row])),
      2,
      names.length,
    ),
  ];
  for (const { area, rows } of all)
    body.push(
      totalRow(
        [area],
        rows.map((row) => [null, ...row]),
        2,
        names.length,
      ),
      ...rows.map((row) => [null, ...row]),
    );
  return xlsx(
    [...titles(c, s, 2), names, ...body, ...notes(c, s)],
    truth(
      names,
      all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
    ),
  );
};

const twoLevels: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.item, ...measures.map((m) => m.name)];
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  const every: Cell[][] = [];
  for (const area of c.some(s.areas, c.whole(2, 4))) {
    body.push([area]);
    const inArea: Cell[][] = [];
    for (const site of c.some(s.sites, c.whole(1, Math.max(2, Math.min(5, size / 10))))) {
      body.push([site]);
      const rows = c.some(s.items, c.whole(2, 6)).map((item): Cell[] => [item, ...measures.map((m) => figure(c, m))]);
      body.push(...rows);
      want.push(...rows.map((row) => [area, site, ...row]));
      inArea.push(...rows);
      if (c.yes(0.8)) body.push(totalRow([s.words.subtotal(site)], rows, 1, names.length));
    }
    body.push(totalRow([s.words.subtotal(area)], inArea, 1, names.length));
    every.push(...inArea);
  }
  body.push(totalRow([s.words.grand], every, 1, names.length));
  return xlsx([...titles(c, s, 2), names, ...body, ...notes(c, s)], truth([s.area, s.site, ...names], want));
};

const indented =
  (parentsSum: boolean, byStyle = false): Family =>
  (c, s, size) => {
    const measures = measuresOf(c, s);
    const names = [`${s.area} / ${s.site} / ${s.item}`.replaceAll(' / ', ', '), ...measures.map((m) => m.name)];
    const step = byStyle ? '  ' : ' '.repeat(c.whole(2, 4));
    const body: Cell[][] = [];
    const want: Cell[][] = [];
    const every: Cell[][] = [];
    for (const area of c.some(s.areas, c.whole(2, 4))) {
      const inArea: Cell[][] = [];
      const lines: Cell[][] = [];
      for (const site of c.some(s.sites, c.whole(1, Math.max(2, Math.min(5, size / 10))))) {
        const rows = c.some(s.items, c.whole(2, 6)).map((item): Cell[] => [item, ...measures.map((m) => figure(c, m))]);
        lines.push(parentsSum ? totalRow([step + site], rows, 1, names.length) : [step + site]);
        lines.push(...rows.map((row) => [step + step + row[0], ...row.slice(1)]));
        want.push(...rows.map((row) => [area, site, ...row]));
        inArea.push(...rows);
      }
      body.push(parentsSum ? totalRow([area], inArea, 1, names.length) : [area], ...lines);
      every.push(...inArea);
    }
    if (c.yes(0.7)) body.push(totalRow([s.words.total], every, 1, names.length));
    const rows = [...titles(c, s, 2), names, ...body, ...notes(c, s)];
    const tidied = truth([s.area, s.site, ...names], want);
    if (byStyle) return { name: 'report.xlsx', bytes: indentedByStyle({ name: 'Sheet1', rows }), want: tidied };
    return xlsx(rows, tidied);
  };

const sheets =
  (differ: boolean): Family =>
  (c, s, size) => {
    const measures = measuresOf(c, s, 3, 4);
    const areas = c.some(s.areas, c.whole(2, 6));
    const title = c.yes(0.6);
    const names = [s.code, s.date, s.site, s.item, s.state, ...measures.map((m) => m.name)];
    const want: Cell[][] = [];
    let next = 1;
    const made = areas.map((area, k) => {
      const { rows, keys } = records(c, s, c.whole(3, Math.max(4, size / areas.length)), measures, next);
      next += rows.length;
      const order = differ && k > 0 ? c.some([...names.keys()], names.length) : [...names.keys()];
      const dropped = differ && k > 0 && c.yes(0.5) ? names.length - 1 : -1;
      const kept = order.filter((n) => n !== dropped);
      want.push(...rows.map((row) => [area, ...row.map((cell, n) => (n === dropped ? null : cell))]));
      const total = !differ && c.yes(0.5) ? [totalRow([s.words.total], rows, keys, names.length)] : [];
      return {
        name: area,
        rows: [
          ...(title ? [[`${s.title}, ${area}`] as Cell[], [null] as Cell[]] : []),
          kept.map((n) => names[n]!),
          ...rows.map((row) => kept.map((n) => row[n]!)),
          ...total,
        ],
      };
    });
    return { name: 'report.xlsx', bytes: workbook(made), want: truth([s.area, ...names], want) };
  };

const stacked =
  (differ: boolean): Family =>
  (c, s, size) => {
    const measures = measuresOf(c, s, 3, 4);
    const names = [s.site, ...measures.map((m) => m.name)];
    const rowsOut: Cell[][] = titles(c, s, 2);
    const want: Cell[][] = [];
    groups(c, s, size, measures).forEach(({ area, rows }, k) => {
      const without = differ && k > 0 && c.yes(0.5) ? names.length - 1 : -1;
      const cut = (row: readonly Cell[]) => row.filter((_, n) => n !== without);
      if (rowsOut.length > 0) rowsOut.push([null]);
      rowsOut.push([area], cut(names), ...rows.map(cut));
      if (c.yes(0.7)) rowsOut.push(cut(totalRow([s.words.total], rows, 1, names.length)));
      want.push(...rows.map((row) => [area, ...row.map((cell, n) => (n === without ? null : cell))]));
    });
    return xlsx([...rowsOut, ...notes(c, s)], truth([s.area, ...names], want));
  };

const besideEachOther: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const names = [s.site, ...measures.map((m) => m.name)];
  const all = groups(c, s, size, measures).slice(0, 3);
  const gap = c.yes(0.8) ? 1 : 0;
  const high = Math.max(...all.map(({ rows }) => rows.length)) + 3;
  const heading = c.yes(0.8) || gap === 0;
  const grid: Cell[][] = Array.from({ length: high }, () => []);
  all.forEach(({ area, rows }) => {
    const lines: Cell[][] = [[heading ? area : null], names, ...rows];
    if (c.yes(0.6)) lines.push(totalRow([s.words.total], rows, 1, names.length));
    grid.forEach((row, r) => {
      for (let k = 0; k < names.length + gap; k++) row.push(lines[r]?.[k] ?? null);
    });
  });
  const want = all.flatMap(({ area, rows }) => rows.map((row) => (heading ? [area, ...row] : row)));
  return xlsx(
    [...titles(c, s, 2), ...(heading ? grid : grid.slice(1)), ...notes(c, s)],
    truth(heading ? [s.area, ...names] : names, want),
  );
};

const namedLines: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.item, ...measures.map((m) => m.name)];
  const out: Cell[][] = titles(c, s, 2);
  const want: Cell[][] = [];
  const inCell = c.yes();
  const line = (name: string, value: string): Cell[] => (inCell ? [`${name}: ${value}`] : [`${name}:`, value]);
  for (const site of c.some(s.sites, c.whole(2, Math.max(3, Math.min(10, size / 5))))) {
    const area = c.pick(s.areas);
    const rows = c.some(s.items, c.whole(2, 7)).map((item): Cell[] => [item, ...measures.map((m) => figure(c, m))]);
    if (out.length > 0) out.push([null]);
    out.push(line(s.area, area), line(s.site, site), names, ...rows);
    if (c.yes(0.5)) out.push(totalRow([s.words.total], rows, 1, names.length));
    want.push(...rows.map((row) => [area, site, ...row]));
  }
  return xlsx([...out, ...notes(c, s)], truth([s.area, s.site, ...names], want));
};

const foldedRecords: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const { names, rows } = records(c, s, c.whole(6, size), measures);
  const cut = 3;
  const lines = (row: readonly Cell[]): Cell[][] => [
    [...row.slice(0, cut), ...row.slice(names.length - 1)],
    [null, ...row.slice(cut, names.length - 1)],
  ];
  return xlsx([...titles(c, s, 2), ...lines(names), ...rows.flatMap(lines), ...notes(c, s)], truth(names, rows));
};

const crossTable: Family = (c, s, size) => {
  const items = c.some(s.items, c.whole(3, 7));
  const measure = c.pick(s.measures);
  const sites = c.some(s.sites, c.whole(4, Math.min(50, size)));
  const code = c.pick(['-', '..', 'n/a', 'x', '–']);
  const want: Cell[][] = [];
  const numbers = sites.map((site) =>
    items.map((item) => {
      if (c.yes(0.12)) return null;
      const value = figure(c, measure);
      want.push([site, item, value]);
      return value;
    }),
  );
  const head: Cell[] = [c.yes() ? s.site : null, ...items, s.words.total];
  const body = sites.map((site, r): Cell[] => [
    site,
    ...numbers[r]!.map((value) => value ?? (c.yes() ? code : null)),
    sum(numbers[r]!),
  ]);
  const total: Cell[] = [
    s.words.total,
    ...items.map((_, k) => sum(numbers.map((row) => row[k]!))),
    sum(numbers.flat()),
  ];
  return xlsx(
    shift(c, [...titles(c, s, 2), head, ...body, ...(c.yes(0.7) ? [total] : []), ...notes(c, s)]),
    truth([s.site, s.item, measure.name], want),
  );
};

const keysOnce: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.area, s.site, s.item, ...measures.map((m) => m.name)];
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  for (const area of c.some(s.areas, c.whole(2, 4))) {
    const inArea: Cell[][] = [];
    c.some(s.sites, c.whole(1, Math.max(2, Math.min(6, size / 10)))).forEach((site, n) => {
      c.some(s.items, c.whole(2, 6)).forEach((item, k) => {
        const row = [area, site, item, ...measures.map((m) => figure(c, m))];
        want.push(row);
        inArea.push(row);
        body.push([n === 0 && k === 0 ? area : null, k === 0 ? site : null, ...row.slice(2)]);
      });
    });
    if (c.yes(0.6)) body.push(totalRow([s.words.subtotal(area)], inArea, 3, names.length));
  }
  return xlsx(shift(c, [...titles(c, s, 2), names, ...body, ...notes(c, s)]), truth(names, want));
};

const manyYears: Family = (c, s, size) => {
  const years = Array.from({ length: c.whole(4, 10) }, (_, k) => 2018 + k);
  const measure = { ...c.pick(s.measures), decimals: 0, most: 90000 };
  const mark = c.pick(['*', '(p)', '†', ' r', '1)']);
  const seasons = c.yes(0.3);
  const names: Cell[] = years.map((y) => (seasons ? `${y}/${String(y + 1).slice(2)}` : y));
  const want: Cell[][] = [];
  const unit = c.pick(s.words.unit);
  const body = c.some(s.sites, c.whole(4, Math.min(40, size))).map((site): Cell[] => [
    site,
    ...names.map((name): Cell => {
      const value = figure(c, measure);
      want.push([site, name, value]);
      return mark !== '1)' && c.yes(0.1) ? `${value}${mark}` : value;
    }),
  ]);
  const units: Cell[][] = c.yes() ? [[null, ...names.map(() => unit)]] : [];
  return xlsx(
    [...titles(c, s, 2), [s.site, ...names], ...units, ...body, ...notes(c, s)],
    truth([s.site, 'Year', measure.name], want),
  );
};

const pages: Family = (c, s, size) => {
  const { names, rows, keys } = records(c, s, c.whole(30, Math.max(40, size)), measuresOf(c, s));
  const long = c.whole(10, 20);
  const count = Math.ceil(rows.length / long);
  const carried = c.yes(0.5);
  const head = titles(c, s, 2);
  const out: Cell[][] = [...head];
  for (let p = 0; p < count; p++) {
    const own = rows.slice(p * long, (p + 1) * long);
    out.push(names);
    if (carried && p > 0) out.push(totalRow([s.words.brought], rows.slice(0, p * long), keys, names.length));
    out.push(...own);
    if (p + 1 < count) {
      if (carried) out.push(totalRow([s.words.carried], rows.slice(0, (p + 1) * long), keys, names.length));
      out.push([s.words.page(p + 1, count)], [null]);
    }
  }
  out.push(totalRow([s.words.grand], rows, keys, names.length));
  return xlsx([...out, ...notes(c, s)], truth(names, rows));
};

const listsInStep: Family = (c, s, size) => {
  const sign = c.pick([';', '; ', '|', '\n', ' / ']);
  const names = [s.code, s.date, s.item, s.measures[0]!.name, s.state];
  const want: Cell[][] = [];
  const body = Array.from({ length: c.whole(6, size) }, (_, k): Cell[] => {
    const items = c.some(s.items, c.whole(1, 4));
    const figures = items.map(() => c.whole(1, 90));
    const fixed: Cell[] = [`A-${1000 + k}`, dayIn(c)];
    const state = c.pick(s.states);
    for (const [n, item] of items.entries()) want.push([...fixed, item, figures[n]!, state]);
    return [...fixed, items.join(sign), figures.length === 1 ? figures[0]! : figures.join(sign), state];
  });
  return xlsx([...titles(c, s, 2), names, ...body, ...notes(c, s)], truth(names, want));
};

const oneList: Family = (c, s, size) => {
  const sign = c.pick(['; ', ', ', '|', '\n']);
  const names = [s.code, s.site, s.item, s.measures[0]!.name];
  const want: Cell[][] = [];
  const body = Array.from({ length: c.whole(12, Math.max(14, size)) }, (_, k): Cell[] => {
    const items = c.some(s.items, c.whole(1, 4));
    const rest: Cell[] = [`A-${1000 + k}`, c.pick(s.sites)];
    const value = figure(c, s.measures[0]!);
    for (const item of items) want.push([...rest, item, value]);
    return [...rest, items.join(sign), value];
  });
  return xlsx([names, ...body], truth(names, want));
};

const quarterSums: Family = (c, s, size) => {
  const measure = c.pick(s.measures);
  const names: Cell[] = [s.site];
  s.words.months.forEach((month, k) => {
    names.push(month);
    if (k % 3 === 2) names.push(s.words.quarter((k + 1) / 3));
  });
  names.push(s.words.total);
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(3, Math.min(40, size))).map((site): Cell[] => {
    const figures = s.words.months.map((month) => {
      const value = figure(c, measure);
      want.push([site, month, value]);
      return value;
    });
    const row: Cell[] = [site];
    figures.forEach((value, k) => {
      row.push(value);
      if (k % 3 === 2) row.push(sum(figures.slice(k - 2, k + 1)));
    });
    return [...row, sum(figures)];
  });
  const total = totalRow([s.words.grand], body, 1, names.length);
  return xlsx(
    [...titles(c, s, 2), names, ...body, ...(c.yes(0.6) ? [total] : []), ...notes(c, s)],
    truth([s.site, 'Month', measure.name], want),
  );
};

const turned: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(4, Math.min(30, size)), measuresOf(c, s, 2, 3));
  const grid = names.map((name, k): Cell[] => [name, ...rows.map((row) => row[k]!)]);
  return xlsx([...titles(c, s, 2), ...grid], truth(names, rows));
};

const attributes: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s, 2, 3));
  const body = rows.flatMap((row) => names.slice(1).map((name, k): Cell[] => [row[0]!, name, row[k + 1]!]));
  return xlsx([...titles(c, s, 2), [s.code, 'Field', 'Value'], ...body], truth(names, rows));
};

const nameWithCode: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const form = c.whole(0, 2);
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(6, Math.min(50, size))).map((site, k): Cell[] => {
    const code = `${s.site.slice(0, 2).toUpperCase()}${100 + k * 7}`;
    const figures = measures.map((m) => figure(c, m));
    want.push([site, code, ...figures]);
    return [form === 0 ? `${site} (${code})` : form === 1 ? `${code} - ${site}` : `${site} [${code}]`, ...figures];
  });
  const names = [s.site, ...measures.map((m) => m.name)];
  return xlsx(
    [...titles(c, s, 2), names, ...body, ...notes(c, s)],
    truth([s.site, 'Code', ...measures.map((m) => m.name)], want),
  );
};

const planActual: Family = (c, s, size) => {
  const flat = c.yes();
  const months = s.words.months.slice(0, c.whole(2, 4));
  const measure = c.pick(s.measures);
  const pair = [s.words.plan, s.words.actual];
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(4, Math.min(40, size))).map((site): Cell[] => [
    site,
    ...months.flatMap((month) => {
      const own = pair.map(() => figure(c, measure));
      want.push([site, month, ...own]);
      return own;
    }),
  ]);
  const head: Cell[][] = flat
    ? [[s.site, ...months.flatMap((m) => pair.map((p) => `${m} ${p}`))]]
    : [
        [s.site, ...months.flatMap((m) => [m, null])],
        [null, ...months.flatMap(() => pair)],
      ];
  return xlsx([...titles(c, s, 2), ...head, ...body, ...notes(c, s)], truth([s.site, 'Month', ...pair], want));
};

const agesAcross: Family = (c, s, size) => {
  const classes = ['0-4', '5-14', '15-29', '30-64', '65+'].slice(c.whole(0, 1));
  const measure = { name: 'Persons', decimals: 0, most: 4000 };
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(4, Math.min(40, size))).map((site): Cell[] => [
    site,
    ...classes.map((one) => {
      const value = figure(c, measure);
      want.push([site, one, value]);
      return value;
    }),
  ]);
  return xlsx(
    [...titles(c, s, 2), [s.site, ...classes], ...body, ...notes(c, s)],
    truth([s.site, 'Class', measure.name], want),
  );
};

function local(value: number, decimals: number, s: Scenario, grouped: boolean): string {
  const mark = s.language === 'en' ? '.' : ',';
  const group = s.language === 'en' ? ',' : s.language === 'fr' ? '\u202f' : '.';
  const [whole, part] = Math.abs(value).toFixed(decimals).split('.');
  const own = grouped ? whole!.replace(/\B(?=(?:\d{3})+$)/g, group) : whole!;
  return `${value < 0 ? '-' : ''}${own}${part === undefined ? '' : mark + part}`;
}

function localDay(day: Day, s: Scenario): string {
  const [y, m, d] = isoDay(day).split('-');
  return s.language === 'de' ? `${d}.${m}.${y}` : `${d}/${m}/${y}`;
}

const delimited: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const { names, rows, keys } = records(c, s, c.whole(30, Math.max(40, size)), measures);
  const sign = s.language === 'en' ? c.pick([',', '\t', '|']) : ';';
  const cell = (one: Cell, k: number) =>
    one === null
      ? ''
      : typeof one === 'object'
        ? localDay(one, s)
        : typeof one === 'number'
          ? local(one, measures[k - keys]!.decimals, s, sign !== ',')
          : one;
  const lines = [
    ...titles(c, s, 1).map((row) => row[0] ?? ''),
    names.join(sign),
    ...rows.map((row) => row.map(cell).join(sign)),
    ...(c.yes(0.6) ? [totalRow([s.words.total], rows, keys, names.length).map(cell).join(sign)] : []),
  ];
  return { name: 'report.csv', bytes: bytesOf(`${lines.join('\n')}\n`), want: truth(names, rows) };
};

/** A print-out in fixed columns, with page heads, groups that are named once, and sums. */
const printout: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const all = groups(c, s, Math.max(20, size), measures);
  const wide = [16, 24, ...measures.map(() => 14)];
  const put = (cells: readonly string[]) =>
    cells
      .map((cell, k) => (k < 2 ? cell.padEnd(wide[k]!) : cell.padStart(wide[k]!)))
      .join('')
      .trimEnd();
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const figures = (row: readonly Cell[]) => measures.map((m, k) => local(row[k + 1] as number, m.decimals, s, true));
  const lines: string[] = [];
  let page = 0;
  let left = 0;
  const head = () => {
    page++;
    lines.push(
      ...(page > 1 ? [''] : []),
      `${s.title.toUpperCase().padEnd(50)}${s.words.page(page, 9).split(' ').slice(0, 2).join(' ')}`,
      '',
      put(names),
      wide.map((w) => '-'.repeat(w - 2)).join('  '),
    );
    left = 24;
  };
  head();
  for (const { area, rows } of all) {
    rows.forEach((row, k) => {
      if (left-- <= 0) head();
      lines.push(put([k === 0 || left === 23 ? area : '', String(row[0]), ...figures(row)]));
    });
    lines.push(
      put(['', s.words.subtotal(area).slice(0, 22), ...figures(totalRow([null], rows, 1, names.length - 1))]),
      '',
    );
  }
  lines.push(
    put([
      s.words.total,
      '',
      ...figures(
        totalRow(
          [null],
          all.flatMap(({ rows }) => rows),
          1,
          names.length - 1,
        ),
      ),
    ]),
  );
  return {
    name: 'report.txt',
    bytes: bytesOf(`${lines.join('\n')}\n`),
    want: truth(
      names,
      all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
    ),
  };
};

const nested: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const want: Cell[][] = [];
  const areas = groups(c, s, size, []).map(({ area, rows }) => ({
    name: area,
    sites: rows.map(([site]) => ({
      name: site,
      entries: c.some(s.items, c.whole(1, 4)).map((item) => {
        const figures = measures.map((m) => figure(c, m));
        want.push([area, site!, item, ...figures]);
        return {
          item,
          ...Object.fromEntries(measures.map((m, k) => [m.name.toLowerCase().replace(/ /g, '_'), figures[k]])),
        };
      }),
    })),
  }));
  return {
    name: 'report.json',
    bytes: bytesOf(JSON.stringify({ title: s.title, areas }, null, 1)),
    want: truth([s.area, s.site, s.item, ...measures.map((m) => m.name)], want),
  };
};

const lineJson: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s));
  const text = rows
    .map((row) =>
      JSON.stringify(
        Object.fromEntries(names.map((name, k) => [name, typeof row[k] === 'object' ? tidy(row[k]!) : row[k]])),
      ),
    )
    .join('\n');
  return { name: 'report.ndjson', bytes: bytesOf(`${text}\n`), want: truth(names, rows) };
};

const xml: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const want: Cell[][] = [];
  const tag = (name: string) => name.normalize('NFD').replace(/\p{M}/gu, '').replace(/\W+/g, '-').toLowerCase();
  const areas = groups(c, s, size, measures).map(({ area, rows }) => {
    want.push(...rows.map((row) => [area, ...row]));
    return `<area name="${area}">${rows.map((row) => `<site><name>${row[0]}</name>${measures.map((m, k) => `<${tag(m.name)}>${row[k + 1]}</${tag(m.name)}>`).join('')}</site>`).join('')}</area>`;
  });
  return {
    name: 'report.xml',
    bytes: bytesOf(`<?xml version="1.0"?><report><title>${s.title}</title>${areas.join('\n')}</report>`),
    want: truth([s.area, s.site, ...measures.map((m) => m.name)], want),
  };
};

const webPage: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const all = groups(c, s, size, measures);
  const names = [s.site, ...measures.map((m) => m.name)];
  const row = (cells: readonly Cell[], t: string) =>
    `<tr>${cells.map((cell) => `<${t}>${cell ?? ''}</${t}>`).join('')}</tr>`;
  const body = all.map(
    ({ area, rows }) =>
      `<tr><th colspan="${names.length}">${area}</th></tr>${rows.map((one) => row(one, 'td')).join('')}${row(totalRow([s.words.total], rows, 1, names.length), 'td')}`,
  );
  const html = `<!doctype html><html><body><h1>${s.title}</h1><table>${row(names, 'th')}${body.join('')}</table><p>${s.words.notes[0]}</p></body></html>`;
  return {
    name: 'report.html',
    bytes: bytesOf(html),
    want: truth(
      [s.area, ...names],
      all.flatMap(({ area, rows }) => rows.map((one) => [area, ...one])),
    ),
  };
};

/** Blocks of name and value, one for each record. */
const textBlocks: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s));
  const text = rows.map((row) => names.map((name, k) => `${name}: ${tidy(row[k]!)}`).join('\n')).join('\n\n');
  return { name: 'report.txt', bytes: bytesOf(`${text}\n`), want: truth(names, rows) };
};

const log: Family = (c, s, size) => {
  const want: Cell[][] = [];
  const lines = Array.from({ length: c.whole(20, Math.max(30, size)) }, (_, k) => {
    const time = `${isoDay({ day: 20000 + Math.floor(k / 50) })} ${String(6 + (k % 12)).padStart(2, '0')}:${String((k * 7) % 60).padStart(2, '0')}:${String((k * 13) % 60).padStart(2, '0')}`;
    const level = c.pick(['INFO', 'WARN', 'ERROR']);
    const message = `${c.pick(s.sites.slice(0, 5))} ${c.pick(s.words.remarks)}`;
    want.push([time.replace(' ', 'T'), level, message]);
    return `${time} ${level} ${message}`;
  });
  return {
    name: 'report.log',
    bytes: bytesOf(`${lines.join('\n')}\n`),
    want: truth(['Time', 'Level', 'Message'], want),
  };
};

/** A mean under the sum, with the groups' keys on every row. */
const meansToo: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const rows = groups(c, s, size, measures).flatMap(({ area, rows: own }) => own.map((row) => [area, ...row]));
  const mean: Cell[] = [
    s.words.mean,
    null,
    ...measures.map((m, k) =>
      Number((sum(rows.map((row) => row[2 + k] as number)) / rows.length).toFixed(m.decimals + 1)),
    ),
  ];
  return xlsx(
    [...titles(c, s, 2), names, ...rows, totalRow([s.words.total], rows, 2, names.length), mean, ...notes(c, s)],
    truth(names, rows),
  );
};

/** Totals without a word: their keys are blank. */
const unnamedTotals: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 3, 4);
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const all = groups(c, s, size, measures);
  const body = all.flatMap(({ area, rows }) => [
    ...rows.map((row): Cell[] => [area, ...row]),
    totalRow(
      [null],
      rows.map((row) => [null, ...row]),
      2,
      names.length,
    ),
  ]);
  return xlsx(
    [...titles(c, s, 2), names, ...body, ...notes(c, s)],
    truth(
      names,
      all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
    ),
  );
};

/** A table copied out of a page, with cells slipped to the right in some rows. */
const slipped: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 3, 4);
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const rows = groups(c, s, size, measures).flatMap(({ area, rows: own }) => own.map((row) => [area, ...row]));
  const out = rows.map((row): Cell[] => {
    if (!c.yes(0.2)) return row;
    const at = c.whole(1, row.length - 1);
    return [...row.slice(0, at), null, ...row.slice(at)];
  });
  return xlsx([...titles(c, s, 2), names, ...out], truth(names, rows));
};

/** Labels of two levels in columns of their own. */
const labelsInColumns: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names: Cell[] = [s.area, s.site, s.item, ...measures.map((m) => m.name)];
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  for (const area of c.some(s.areas, c.whole(2, 4))) {
    body.push([area]);
    for (const site of c.some(s.sites, c.whole(1, Math.max(2, Math.min(5, size / 10))))) {
      body.push([null, site]);
      for (const item of c.some(s.items, c.whole(2, 6))) {
        const figures = measures.map((m) => figure(c, m));
        body.push([null, null, item, ...figures]);
        want.push([area, site, item, ...figures]);
      }
    }
  }
  return xlsx([...titles(c, s, 2), names, ...body, ...notes(c, s)], truth(names.map(String), want));
};

/** Codes with noughts in front, in a delimited file. */
const codes: Family = (c, s, size) => {
  const names = [s.code, s.site, s.measures[0]!.name];
  const rows = Array.from({ length: c.whole(10, Math.max(12, size)) }, (_, k): Cell[] => [
    String(17 + k * 3).padStart(5, '0'),
    c.pick(s.sites),
    figure(c, { ...s.measures[0]!, decimals: 0 }),
  ]);
  return {
    name: 'report.csv',
    bytes: bytesOf(`${[names, ...rows].map((row) => row.join(';')).join('\n')}\n`),
    want: truth(names, rows),
  };
};

const remarksColumn: Family = (c, s, size) => {
  const { names, rows, keys } = records(c, s, c.whole(12, Math.max(14, size)), measuresOf(c, s));
  const own = rows.map((row) => [...row, c.yes(0.3) ? c.pick(s.words.remarks) : null]);
  const total = [...totalRow([s.words.total], rows, keys, names.length), null];
  return xlsx(
    [...titles(c, s, 2), [...names, 'Remark'], ...own, total, ...notes(c, s)],
    truth([...names, 'Remark'], own),
  );
};

/** A sheet for each area, a cover, and a sheet that sums the others. */
const withSummary: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const all = groups(c, s, size, measures);
  const names = [s.site, ...measures.map((m) => m.name)];
  const want: Cell[][] = [];
  const parts = all.map(({ area, rows }) => {
    want.push(...rows.map((row) => [area, ...row]));
    return {
      name: area,
      rows: [
        [`${s.title}: ${area}`] as Cell[],
        [null] as Cell[],
        names,
        ...rows,
        totalRow([s.words.total], rows, 1, names.length),
      ],
    };
  });
  const summary = {
    name: c.pick(['Summary', 'Overview']),
    rows: [
      [s.area, ...measures.map((m) => m.name)] as Cell[],
      ...all.map(({ area, rows }) => totalRow([area], rows, 1, names.length)),
      totalRow(
        [s.words.grand],
        all.flatMap(({ rows }) => rows),
        1,
        names.length,
      ),
    ],
  };
  const cover = { name: 'Cover', rows: [[s.title] as Cell[], ...s.words.titles.map((line): Cell[] => [line])] };
  const sheets = c.yes() ? [cover, summary, ...parts] : [...parts, summary];
  return { name: 'report.xlsx', bytes: workbook(sheets), want: truth([s.area, ...names], want) };
};

/** A workbook with a sheet for each month. */
const sheetPerMonth: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const months = s.words.months.slice(0, c.whole(2, 6));
  const sites = c.some(s.sites, c.whole(3, Math.max(4, Math.min(20, size / 4))));
  const names = [s.site, ...measures.map((m) => m.name)];
  const want: Cell[][] = [];
  const parts = months.map((month) => {
    const rows = sites.map((site): Cell[] => [site, ...measures.map((m) => figure(c, m))]);
    want.push(...rows.map((row) => [month, ...row]));
    return {
      name: month,
      rows: [[`${s.title}, ${month} 2030`] as Cell[], names, ...rows, totalRow([s.words.total], rows, 1, names.length)],
    };
  });
  return { name: 'report.xlsx', bytes: workbook(parts), want: truth(['Month', ...names], want) };
};

const weeksAcross: Family = (c, s, size) => {
  const form = { en: 'Week', de: 'KW', fr: 'Semaine', es: 'Semana' }[s.language];
  const from = c.whole(1, 30);
  const names = Array.from({ length: c.whole(4, 10) }, (_, k) => `${form} ${from + k}`);
  const measure = c.pick(s.measures);
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(4, Math.min(40, size))).map((site): Cell[] => {
    const figures = names.map((name) => {
      const value = figure(c, measure);
      want.push([site, name, value]);
      return value;
    });
    return [site, ...figures, sum(figures)];
  });
  return xlsx(
    [...titles(c, s, 2), [s.site, ...names, s.words.total], ...body, ...notes(c, s)],
    truth([s.site, 'Week', measure.name], want),
  );
};

/** Names that go on in a second row. */
const wrappedHeader: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 3, 4);
  const { names, rows } = records(c, s, c.whole(6, size), measures);
  const pair = (name: string, k: number): [Cell, Cell] =>
    k % 3 === 0 ? [name, null] : [name, ['(net)', 'no.', '(sum)', 'code', 'text'][k % 5]!];
  const pairs = names.map(pair);
  return xlsx(
    [...titles(c, s, 2), pairs.map(([a]) => a), pairs.map(([, b]) => b), ...rows, ...notes(c, s)],
    truth(names, rows),
  );
};

/** Money and shares as text, negatives in brackets. */
const dressedFigures: Family = (c, s, size) => {
  const names = [s.code, s.site, 'A', 'B', 'C'];
  const rows: Cell[][] = [];
  const body = Array.from({ length: c.whole(8, Math.max(10, size)) }, (_, k): Cell[] => {
    const money = Number((figure(c, { name: '', decimals: 2, most: 90000 }) * (c.yes(0.2) ? -1 : 1)).toFixed(2));
    const share = Number((c.next() * 100).toFixed(1));
    const count = c.whole(1, 9000);
    const own: Cell[] = [`K${100 + k}`, c.pick(s.sites)];
    rows.push([...own, money, share, count]);
    const text = local(Math.abs(money), 2, s, true);
    return [...own, money < 0 ? `(${text})` : text, local(share, 1, s, false), `${local(count, 0, s, true)} €`];
  });
  return xlsx([...titles(c, s, 2), names, ...body, ...notes(c, s)], truth(names, rows));
};

/** Periods with their year in one name: '2030 H1', 'Jan 2031'. */
const datedPeriods: Family = (c, s, size) => {
  const forms = [
    ['H1 2029', 'H2 2029', 'H1 2030', 'H2 2030'],
    [0, 1, 2, 3].map((k) => `${s.words.months[k]!} 2031`),
    ['2029-Q3', '2029-Q4', '2030-Q1', '2030-Q2', '2030-Q3'],
    ['01.2030', '02.2030', '03.2030'],
  ];
  const names = c.pick(forms);
  const measure = c.pick(s.measures);
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(4, Math.min(40, size))).map((site): Cell[] => [
    c.pick(s.areas),
    site,
    ...names.map((name): Cell => {
      const value = figure(c, measure);
      want.push([site, name, value]);
      return value;
    }),
  ]);
  const areas = new Map(body.map((row) => [row[1], row[0]!]));
  return xlsx(
    [...titles(c, s, 2), [s.area, s.site, ...names], ...body, ...notes(c, s)],
    truth(
      [s.area, s.site, 'Period', measure.name],
      want.map((row) => [areas.get(row[0]!)!, ...row]),
    ),
  );
};

const threeLevels: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.item, ...measures.map((m) => m.name)];
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  for (const year of [2029, 2030]) {
    body.push([`${s.words.titles[2]!.split(' ')[0]} ${year}`]);
    for (const area of c.some(s.areas, c.whole(2, 3))) {
      body.push([area]);
      for (const site of c.some(s.sites, c.whole(1, Math.max(2, Math.min(4, size / 12))))) {
        body.push([site]);
        const rows = c.some(s.items, c.whole(2, 4)).map((item): Cell[] => [item, ...measures.map((m) => figure(c, m))]);
        body.push(...rows, totalRow([s.words.total], rows, 1, names.length));
        want.push(...rows.map((row) => [`${s.words.titles[2]!.split(' ')[0]} ${year}`, area, site, ...row]));
      }
    }
  }
  return xlsx([...titles(c, s, 2), names, ...body, ...notes(c, s)], truth(['Year', s.area, s.site, ...names], want));
};

/** Years as label rows, which are numbers and no texts. */
const numberLabels: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.site, ...measures.map((m) => m.name)];
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  for (let year = 2027; year < 2027 + c.whole(2, 5); year++) {
    body.push([year]);
    const rows = c
      .some(s.sites, c.whole(2, Math.max(3, Math.min(10, size / 4))))
      .map((site): Cell[] => [site, ...measures.map((m) => figure(c, m))]);
    body.push(...rows);
    if (c.yes(0.7)) body.push(totalRow([s.words.total], rows, 1, names.length));
    want.push(...rows.map((row) => [year, ...row]));
  }
  return xlsx([...titles(c, s, 2), names, ...body, ...notes(c, s)], truth(['Year', ...names], want));
};

/** The key on every row; the total says the group's name with the word behind, in the second column. */
const totalsInSecond: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const all = groups(c, s, size, measures);
  const body = all.flatMap(({ area, rows }) => [
    ...rows.map((row): Cell[] => [area, ...row]),
    totalRow(
      [area, s.words.total],
      rows.map((row) => [null, ...row]),
      2,
      names.length,
    ),
  ]);
  body.push(
    totalRow(
      [null, s.words.grand],
      all.flatMap(({ rows }) => rows.map((row) => [null, ...row])),
      2,
      names.length,
    ),
  );
  return xlsx(
    [...titles(c, s, 2), names, ...body, ...notes(c, s)],
    truth(
      names,
      all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
    ),
  );
};

/** Totals and a mean beside the months. */
const meanColumn: Family = (c, s, size) => {
  const months = s.words.months.slice(0, c.whole(3, 6));
  const measure = c.pick(s.measures);
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(4, Math.min(40, size))).map((site): Cell[] => {
    const figures = months.map((month) => {
      const value = figure(c, measure);
      want.push([site, month, value]);
      return value;
    });
    return [site, ...figures, sum(figures), Number((sum(figures) / months.length).toFixed(2))];
  });
  return xlsx(
    [...titles(c, s, 2), [s.site, ...months, s.words.total, s.words.mean], ...body, ...notes(c, s)],
    truth([s.site, 'Month', measure.name], want),
  );
};

/** A text table drawn with bars. */
const drawnTable: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s, 2, 3));
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  const text = [
    line(names),
    line(names.map((name) => '-'.repeat(Math.max(3, name.length)))),
    ...rows.map((row) => line(row.map(tidy))),
  ].join('\n');
  return { name: 'report.md', bytes: bytesOf(`${text}\n`), want: truth(names, rows) };
};

/** Objects by name in place of lists. */
const keyedJson: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const want: Cell[][] = [];
  const all = Object.fromEntries(
    groups(c, s, size, measures).map(({ area, rows }) => [
      area,
      rows.map((row) => {
        want.push([area, ...row]);
        return { site: row[0], ...Object.fromEntries(measures.map((m, k) => [m.name.toLowerCase(), row[k + 1]])) };
      }),
    ]),
  );
  return {
    name: 'report.json',
    bytes: bytesOf(JSON.stringify(all, null, 1)),
    want: truth([s.area, s.site, ...measures.map((m) => m.name)], want),
  };
};

/** A grand total right under the header, and sites below. */
const totalFirst: Family = (c, s, size) => {
  const { names, rows, keys } = records(c, s, c.whole(8, size), measuresOf(c, s));
  return xlsx(
    [...titles(c, s, 2), names, totalRow([s.words.total], rows, keys, names.length), ...rows, ...notes(c, s)],
    truth(names, rows),
  );
};

/** Tables of other measures over the same sites, a heading each. */
const measureTables: Family = (c, s, size) => {
  const months = s.words.months.slice(0, c.whole(3, 5));
  const sites = c.some(s.sites, c.whole(3, Math.max(4, Math.min(12, size / 4))));
  const out: Cell[][] = titles(c, s, 2);
  const want: Cell[][] = [];
  for (const measure of s.measures.slice(0, c.whole(2, 3))) {
    if (out.length > 0) out.push([null]);
    out.push([measure.name], [s.site, ...months]);
    for (const site of sites) {
      const figures = months.map((month) => {
        const value = figure(c, measure);
        want.push([measure.name, site, month, value]);
        return value;
      });
      out.push([site, ...figures]);
    }
  }
  return xlsx([...out, ...notes(c, s)], truth(['Measure', s.site, 'Month', 'Value'], want));
};

/** Several cells of the same name and code in front, and blanks where nothing was measured. */
const sparseRecords: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 3, 4);
  const { names, rows } = records(c, s, c.whole(12, Math.max(14, size)), measures);
  const own = rows.map((row) => row.map((cell, k) => (k >= 5 && c.yes(0.25) ? null : cell)));
  return xlsx(
    [
      ...titles(c, s, 2),
      names,
      ...own.map((row) => row.map((cell, k) => (k >= 5 && cell === null && c.yes() ? 'n/a' : cell))),
      ...notes(c, s),
    ],
    truth(names, own),
  );
};

/** Sections of a delimited file, each under its name and with a header of its own. */
const csvSections: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.site, ...measures.map((m) => m.name)];
  const sign = s.language === 'en' ? ',' : ';';
  const lines: string[] = [];
  const want: Cell[][] = [];
  for (const { area, rows } of groups(c, s, size, measures)) {
    if (lines.length > 0) lines.push('');
    lines.push(area, names.join(sign));
    for (const row of rows) {
      lines.push(
        row
          .map((cell, k) => (typeof cell === 'number' ? local(cell, measures[k - 1]!.decimals, s, false) : cell))
          .join(sign),
      );
      want.push([area, ...row]);
    }
  }
  return { name: 'report.csv', bytes: bytesOf(`${lines.join('\n')}\n`), want: truth([s.area, ...names], want) };
};

/** A table copied out of a page: columns parted by runs of blanks. */
const copiedText: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 4);
  const all = groups(c, s, Math.max(12, size), measures);
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const rows = all.flatMap(({ area, rows: own }) => own.map((row): Cell[] => [area, ...row]));
  const text = [
    s.title,
    '',
    names.map((name, k) => (k < 2 ? name.padEnd(18) : name.padStart(16))).join(''),
    ...rows.map((row) =>
      row
        .map((cell, k) =>
          k < 2 ? String(cell).padEnd(18) : local(cell as number, measures[k - 2]!.decimals, s, true).padStart(16),
        )
        .join(''),
    ),
  ];
  return { name: 'report.txt', bytes: bytesOf(`${text.join('\n')}\n`), want: truth(names, rows) };
};

/** Log lines with pairs of name and value. */
const pairsLog: Family = (c, s, size) => {
  const want: Cell[][] = [];
  const lines = Array.from({ length: c.whole(20, Math.max(30, size)) }, (_, k) => {
    const time = `2031-03-0${1 + (k % 9)}T0${k % 9}:${String((k * 7) % 60).padStart(2, '0')}:${String((k * 13) % 60).padStart(2, '0')}`;
    const site = c.pick(s.sites.slice(0, 6));
    const [count, state] = [c.whole(1, 900), c.pick(s.states)];
    want.push([time, 'INFO', site, count, state]);
    return `${time} INFO site=${site} count=${count} state=${state}`;
  });
  return {
    name: 'report.log',
    bytes: bytesOf(`${lines.join('\n')}\n`),
    want: truth(['Time', 'Level', 'site', 'count', 'state'], want),
  };
};

/** Attributes alone, three elements deep, with sums inside. */
const attributeXml: Family = (c, s, size) => {
  const want: Cell[][] = [];
  const measure = { ...c.pick(s.measures), decimals: 0 };
  const areas = groups(c, s, size, []).map(({ area, rows }) => {
    const sites = rows.map(([site]) => {
      const items = c.some(s.items, c.whole(1, 4)).map((item) => {
        const value = figure(c, measure);
        want.push([area, site!, item, value]);
        return { item, value };
      });
      return `<site name="${site}" total="${sum(items.map((one) => one.value))}">${items.map(({ item, value }) => `<entry item="${item}" value="${value}"/>`).join('')}</site>`;
    });
    return `<area name="${area}">${sites.join('')}</area>`;
  });
  return {
    name: 'report.xml',
    bytes: bytesOf(`<?xml version="1.0"?>\n<report year="2031">${areas.join('\n')}</report>`),
    want: truth([s.area, s.site, s.item, measure.name], want),
  };
};

/** Lines of nested JSON. */
const nestedLines: Family = (c, s, size) => {
  const want: Cell[][] = [];
  const lines = Array.from({ length: c.whole(6, size) }, (_, k) => {
    const [site, area] = [c.pick(s.sites), c.pick(s.areas)];
    const entries = c.some(s.items, c.whole(1, 3)).map((item) => {
      const count = c.whole(1, 400);
      want.push([`N-${k + 1}`, area, site, item, count]);
      return { item, count };
    });
    return JSON.stringify({ id: `N-${k + 1}`, place: { area, site }, entries });
  });
  return {
    name: 'report.ndjson',
    bytes: bytesOf(`${lines.join('\n')}\n`),
    want: truth(['id', s.area, s.site, s.item, 'count'], want),
  };
};

/** A web page whose keys span rows. */
const rowspans: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const all = groups(c, s, size, measures);
  const names = [s.area, s.site, ...measures.map((m) => m.name)];
  const body = all
    .map(({ area, rows }) =>
      rows
        .map(
          (row, k) =>
            `<tr>${k === 0 ? `<th rowspan="${rows.length}">${area}</th>` : ''}${row.map((cell) => `<td>${cell}</td>`).join('')}</tr>`,
        )
        .join(''),
    )
    .join('');
  const html = `<!doctype html><html><body><h1>${s.title}</h1><table><tr>${names.map((name) => `<th>${name}</th>`).join('')}</tr>${body}</table></body></html>`;
  return {
    name: 'report.html',
    bytes: bytesOf(html),
    want: truth(
      names,
      all.flatMap(({ area, rows }) => rows.map((row) => [area, ...row])),
    ),
  };
};

/** A print-out whose records stand over two lines. */
const twoLinePrintout: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 2);
  const { names, rows } = records(c, s, c.whole(8, Math.max(10, size)), measures);
  const first = (cells: readonly string[]) =>
    cells[0]!.padEnd(14) + cells[2]!.padEnd(22) + cells[5]!.padStart(14) + cells[6]!.padStart(18);
  const second = (cells: readonly string[]) =>
    ''.padEnd(14) + cells[3]!.padEnd(22) + cells[4]!.padStart(14) + cells[1]!.padStart(18);
  const put = (cells: readonly string[]) => [first(cells).trimEnd(), second(cells).trimEnd()];
  const text = [
    s.title,
    '',
    ...put(names),
    ...rows.flatMap((row) =>
      put(
        row.map((cell, k) => (typeof cell === 'number' ? local(cell, measures[k - 5]!.decimals, s, true) : tidy(cell))),
      ),
    ),
  ];
  return { name: 'report.txt', bytes: bytesOf(`${text.join('\n')}\n`), want: truth(names, rows) };
};

/** Plan, actual and what lies between, which are measures and no sums. */
const variances: Family = (c, s, size) => {
  const measure = { ...c.pick(s.measures), decimals: 0 };
  const periods = s.words.months.slice(0, c.whole(2, 4));
  const kinds = [s.words.plan, s.words.actual, 'Diff.'];
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(4, Math.min(40, size))).map((site): Cell[] => [
    site,
    ...periods.flatMap((period) => {
      const [plan, actual] = [figure(c, measure), figure(c, measure)];
      want.push([site, period, plan, actual, actual - plan]);
      return [plan, actual, actual - plan];
    }),
  ]);
  const upper: Cell[] = [s.site, ...periods.flatMap((period): Cell[] => [period, null, null])];
  return xlsx(
    [...titles(c, s, 2), upper, [null, ...periods.flatMap(() => kinds)], ...body, ...notes(c, s)],
    truth([s.site, 'Month', ...kinds], want),
  );
};

/** Measures down, sites across. */
const measuresDown: Family = (c, s, size) => {
  const sites = c.some(s.sites, c.whole(3, 8));
  const measures = s.measures;
  const want: Cell[][] = [];
  const body: Cell[][] = [];
  for (const area of c.some(s.areas, c.whole(2, Math.max(2, Math.min(5, size / 10))))) {
    const figures = sites.map(() => measures.map((m) => figure(c, m)));
    measures.forEach((m, k) => {
      body.push([area, m.name, ...figures.map((own) => own[k]!)]);
    });
    sites.forEach((site, n) => {
      want.push([area, site, ...figures[n]!]);
    });
  }
  return xlsx(
    [...titles(c, s, 2), [s.area, 'Measure', ...sites], ...body, ...notes(c, s)],
    truth([s.area, s.site, ...measures.map((m) => m.name)], want),
  );
};

/** Sections with a label row over a line of totals that say what they sum, in capitals. */
const shoutedTotals: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.site.toUpperCase(), ...measures.map((m) => m.name.toUpperCase())];
  const all = groups(c, s, size, measures);
  const body = all.flatMap(({ area, rows }) => [
    [area.toUpperCase()] as Cell[],
    ...rows,
    totalRow([s.words.subtotal(area).toUpperCase()], rows, 1, names.length),
    [null] as Cell[],
  ]);
  return xlsx(
    [...titles(c, s, 2), names, ...body, ...notes(c, s)],
    truth(
      [s.area, ...names],
      all.flatMap(({ area, rows }) => rows.map((row) => [area.toUpperCase(), ...row])),
    ),
  );
};

/** Areas over years, with a sum of the areas for each year at the end. */
const areasOverYears: Family = (c, s) => {
  const areas = c.some(s.areas, c.whole(2, 4));
  const years = [2029, 2030, 2031].slice(0, c.whole(2, 3));
  const measure = c.pick(s.measures);
  const upper: Cell[] = [s.item];
  const lower: Cell[] = [null];
  for (const area of [...areas, s.words.total])
    for (const [k, year] of years.entries()) {
      upper.push(k === 0 ? area : null);
      lower.push(year);
    }
  const want: Cell[][] = [];
  const body = c.some(s.items, c.whole(4, 8)).map((item): Cell[] => {
    const figures = areas.map((area) =>
      years.map((year) => {
        const value = figure(c, measure);
        want.push([item, area, year, value]);
        return value;
      }),
    );
    return [item, ...figures.flat(), ...years.map((_, y) => sum(figures.map((own) => own[y]!)))];
  });
  return xlsx(
    [...titles(c, s, 3), upper, lower, ...body, ...notes(c, s)],
    truth([s.item, s.area, 'Year', measure.name], want),
  );
};

/** Names and values in front of a delimited table. */
const preamble: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const { names, rows, keys } = records(c, s, c.whole(10, Math.max(12, size)), measures);
  const sign = s.language === 'en' ? ',' : ';';
  const cell = (one: Cell, k: number) =>
    one === null
      ? ''
      : typeof one === 'object'
        ? localDay(one, s)
        : typeof one === 'number'
          ? local(one, measures[k - keys]!.decimals, s, false)
          : one;
  const lines = [
    `${s.area}${sign}${c.pick(s.areas)}`,
    `${s.date}${sign}03.02.2031`,
    '',
    names.join(sign),
    ...rows.map((row) => row.map(cell).join(sign)),
  ];
  return { name: 'report.csv', bytes: bytesOf(`${lines.join('\r\n')}\r\n`), want: truth(names, rows) };
};

/** A legend that stands to the right of the table. */
const legendBeside: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, Math.max(10, size)), measuresOf(c, s));
  const legend: Cell[][] = [['Legend', null], ...s.states.map((state): Cell[] => [state[0]!, state])];
  const all = [names as Cell[], ...rows].map((row, k): Cell[] => [...row, null, ...(legend[k - 1] ?? [])]);
  return xlsx([...titles(c, s, 2), ...all, ...notes(c, s)], truth(names, rows));
};

/** Sums by group and by row in a cross table of two keys. */
const groupedCross: Family = (c, s, size) => {
  const items = c.some(s.items, c.whole(3, 6));
  const measure = c.pick(s.measures);
  const want: Cell[][] = [];
  const body: Cell[][] = [];
  const every: Cell[][] = [];
  for (const area of c.some(s.areas, c.whole(2, 4))) {
    const own = c.some(s.sites, c.whole(2, Math.max(3, Math.min(8, size / 8)))).map((site): Cell[] => {
      const figures = items.map((item) => {
        const value = figure(c, measure);
        want.push([area, site, item, value]);
        return value;
      });
      return [area, site, ...figures, sum(figures)];
    });
    body.push(...own, totalRow([s.words.subtotal(area)], own, 2, items.length + 3));
    every.push(...own);
  }
  body.push(totalRow([s.words.grand], every, 2, items.length + 3));
  return xlsx(
    [...titles(c, s, 2), [s.area, s.site, ...items, s.words.total], ...body, ...notes(c, s)],
    truth([s.area, s.site, s.item, measure.name], want),
  );
};

/** Rows as lists, the first with the names. */
const listsOfLists: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s));
  const plain = rows.map((row) => row.map((cell) => (cell !== null && typeof cell === 'object' ? tidy(cell) : cell)));
  return { name: 'report.json', bytes: bytesOf(JSON.stringify([names, ...plain])), want: truth(names, rows) };
};

/** Two years of months, and a sum of each. */
const yearsOfMonths: Family = (c, s, size) => {
  const measure = c.pick(s.measures);
  const months = s.words.months.slice(0, c.whole(3, 12));
  const upper: Cell[] = [s.site];
  const lower: Cell[] = [null];
  for (const year of [2030, 2031]) {
    for (const [k, month] of [...months, s.words.total].entries()) {
      upper.push(k === 0 ? year : null);
      lower.push(month);
    }
  }
  const want: Cell[][] = [];
  const body = c.some(s.sites, c.whole(3, Math.min(30, size))).map((site): Cell[] => [
    site,
    ...[2030, 2031].flatMap((year) => {
      const figures = months.map((month) => {
        const value = figure(c, measure);
        want.push([site, year, month, value]);
        return value;
      });
      return [...figures, sum(figures)];
    }),
  ]);
  return xlsx(
    [...titles(c, s, 3), upper, lower, ...body, totalRow([s.words.total], body, 1, upper.length), ...notes(c, s)],
    truth([s.site, 'Year', 'Month', measure.name], want),
  );
};

/** Blocks of names and values between drawn lines. */
const ruledBlocks: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, Math.max(8, size)), measuresOf(c, s));
  const wide = Math.max(...names.map((name) => name.length)) + 2;
  const text = [
    s.title,
    '='.repeat(40),
    ...rows.flatMap((row) => [...names.map((name, k) => `${`${name}:`.padEnd(wide)}${tidy(row[k]!)}`), '-'.repeat(40)]),
  ];
  return { name: 'report.txt', bytes: bytesOf(`${text.join('\n')}\n`), want: truth(names, rows) };
};

/** Shares of the total beside the figures. */
const sharesBeside: Family = (c, s, size) => {
  const measure = c.pick(s.measures);
  const sites = c.some(s.sites, c.whole(5, Math.min(40, Math.max(6, size))));
  const values = sites.map(() => figure(c, measure));
  const all = sum(values);
  const rows = sites.map((site, k): Cell[] => [site, values[k]!, Number(((values[k]! / all) * 100).toFixed(1))]);
  const names = [s.site, measure.name, '%'];
  return xlsx([...titles(c, s, 2), names, ...rows, [s.words.total, all, 100], ...notes(c, s)], truth(names, rows));
};

/** A page with a table of contacts, the table in sections, and a table of notes. */
const busyPage: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const all = groups(c, s, size, measures);
  const names = [s.site, ...measures.map((m) => m.name)];
  const row = (cells: readonly Cell[], t = 'td') =>
    `<tr>${cells.map((cell) => `<${t}>${cell ?? ''}</${t}>`).join('')}</tr>`;
  const sections = all.map(
    ({ area, rows }) =>
      `<h2>${area}</h2><table>${row(names, 'th')}${rows.map((one) => row(one)).join('')}${row(totalRow([s.words.total], rows, 1, names.length))}</table>`,
  );
  const html = `<!doctype html><html><body><h1>${s.title}</h1><table>${row(['Contact', 'Desk 4'])}${row(['Phone', '0171'])}</table>${sections.join('')}<table>${s.words.notes.map((note) => row(['*', note])).join('')}</table></body></html>`;
  return {
    name: 'report.html',
    bytes: bytesOf(html),
    want: truth(
      [s.area, ...names],
      all.flatMap(({ area, rows }) => rows.map((one) => [area, ...one])),
    ),
  };
};

/** Codes in front of labels, with the totals under the code alone. */
const codedLabels: Family = (c, s, size) => {
  const measures = measuresOf(c, s);
  const names = [s.site, ...measures.map((m) => m.name)];
  const all = groups(c, s, size, measures);
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  all.forEach(({ area, rows }, k) => {
    const label = `${10 * (k + 1)} ${area}`;
    body.push([label], ...rows, totalRow([`${s.words.total} ${10 * (k + 1)}`], rows, 1, names.length));
    want.push(...rows.map((row) => [label, ...row]));
  });
  return xlsx([...titles(c, s, 2), names, ...body, ...notes(c, s)], truth([s.area, ...names], want));
};

/** Families by name. Those that came later were written when the detectors were done, and scored before any was changed for them. */
export const FAMILIES: Readonly<Record<string, { make: Family; later?: true }>> = {
  plain: { make: plain },
  tidy: { make: tidyTable },
  'months over measures': { make: periodsOver(false) },
  'years over measures': { make: periodsOver(true) },
  'measures over years': { make: measureOverYears },
  'three tiers': { make: threeTiers },
  'label rows with totals': { make: labelRows(true, false) },
  'label rows alone': { make: labelRows(false, true) },
  'totals above': { make: totalsAbove },
  'two levels of labels': { make: twoLevels },
  'labels in columns': { make: labelsInColumns },
  'indented labels': { make: indented(false) },
  'indented sums': { make: indented(true) },
  'indented by style': { make: indented(false, true) },
  'sums indented by style': { make: indented(true, true) },
  'sheet for each area': { make: sheets(false) },
  'sheets that differ': { make: sheets(true) },
  'stacked tables': { make: stacked(false) },
  'stacked tables that differ': { make: stacked(true) },
  'side by side': { make: besideEachOther },
  'name and value lines': { make: namedLines },
  'records over two rows': { make: foldedRecords },
  'cross table': { make: crossTable },
  'ages across': { make: agesAcross },
  'keys on the first row': { make: keysOnce },
  'many years': { make: manyYears },
  'quarters summed': { make: quarterSums },
  'plan and actual': { make: planActual },
  'header on every page': { make: pages },
  'lists in step': { make: listsInStep },
  'one list': { make: oneList },
  transposed: { make: turned },
  'attribute rows': { make: attributes },
  'name with code': { make: nameWithCode },
  'means too': { make: meansToo },
  'totals without a word': { make: unnamedTotals },
  'slipped cells': { make: slipped },
  'remarks beside': { make: remarksColumn },
  'delimited text': { make: delimited },
  'codes with noughts': { make: codes },
  'print-out': { make: printout },
  'nested JSON': { make: nested },
  'JSON lines': { make: lineJson },
  XML: { make: xml },
  'web page': { make: webPage },
  'blocks of text': { make: textBlocks },
  log: { make: log },
  'sections of a text': { make: csvSections },
  'copied text': { make: copiedText },
  'log of pairs': { make: pairsLog },
  'XML of attributes': { make: attributeXml },
  'lines of nested JSON': { make: nestedLines },
  'keys over rows': { make: rowspans },
  'print-out over two lines': { make: twoLinePrintout },
  'plan, actual and variance': { make: variances },
  'measures down': { make: measuresDown },
  'totals in capitals': { make: shoutedTotals },
  'areas over years': { later: true, make: areasOverYears },
  'names and values in front': { later: true, make: preamble },
  'legend beside': { later: true, make: legendBeside },
  'cross table in groups': { later: true, make: groupedCross },
  'lists of lists': { later: true, make: listsOfLists },
  'two years of months': { later: true, make: yearsOfMonths },
  'blocks between lines': { later: true, make: ruledBlocks },
  'shares beside': { later: true, make: sharesBeside },
  'busy page': { later: true, make: busyPage },
  'coded labels': { later: true, make: codedLabels },
  'summary sheet': { make: withSummary },
  'sheet for each month': { make: sheetPerMonth },
  'weeks across': { make: weeksAcross },
  'wrapped header': { make: wrappedHeader },
  'dressed figures': { make: dressedFigures },
  'periods with their year': { make: datedPeriods },
  'three levels of labels': { make: threeLevels },
  'years as labels': { make: numberLabels },
  'totals in the second column': { make: totalsInSecond },
  'mean column': { make: meanColumn },
  'drawn table': { make: drawnTable },
  'objects by name': { make: keyedJson },
  'total first': { make: totalFirst },
  'a table for each measure': { make: measureTables },
  'sparse records': { make: sparseRecords },
};
