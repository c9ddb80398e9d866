import { dayIn, type Family, groups, local, measuresOf, records, totalRow, xlsx } from './made.ts';
import { type Cell, figure, indentedByStyle, notes, shift, sum, titles, truth, workbook } from './page.ts';

export const plain: Family = (c, s, size) => {
  const { names, rows, keys } = records(c, s, c.whole(8, size), measuresOf(c, s));
  const total = c.yes(0.6) ? [totalRow([s.words.total], rows, keys, names.length)] : [];
  return xlsx(shift(c, [...titles(c, s, 2), names, ...rows, ...total, ...notes(c, s)]), truth(names, rows));
};

export const tidyTable: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, size), measuresOf(c, s));
  return xlsx([names, ...rows], truth(names, rows));
};

export const periodsOver =
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

export const measureOverYears: Family = (c, s, size) => {
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
export const threeTiers: Family = (c, s, size) => {
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

export const labelRows =
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
export const totalsAbove: Family = (c, s, size) => {
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

export const twoLevels: Family = (c, s, size) => {
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

export const indented =
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

export const sheets =
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

export const stacked =
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

export const besideEachOther: Family = (c, s, size) => {
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

export const namedLines: Family = (c, s, size) => {
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

export const foldedRecords: Family = (c, s, size) => {
  const measures = measuresOf(c, s, 2, 3);
  const { names, rows } = records(c, s, c.whole(6, size), measures);
  const cut = 3;
  const lines = (row: readonly Cell[]): Cell[][] => [
    [...row.slice(0, cut), ...row.slice(names.length - 1)],
    [null, ...row.slice(cut, names.length - 1)],
  ];
  return xlsx([...titles(c, s, 2), ...lines(names), ...rows.flatMap(lines), ...notes(c, s)], truth(names, rows));
};

export const crossTable: Family = (c, s, size) => {
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

export const keysOnce: Family = (c, s, size) => {
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

export const manyYears: Family = (c, s, size) => {
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

export const pages: Family = (c, s, size) => {
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

export const listsInStep: Family = (c, s, size) => {
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

export const oneList: Family = (c, s, size) => {
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

export const quarterSums: Family = (c, s, size) => {
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

export const turned: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(4, Math.min(30, size)), measuresOf(c, s, 2, 3));
  const grid = names.map((name, k): Cell[] => [name, ...rows.map((row) => row[k]!)]);
  return xlsx([...titles(c, s, 2), ...grid], truth(names, rows));
};

export const attributes: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s, 2, 3));
  const body = rows.flatMap((row) => names.slice(1).map((name, k): Cell[] => [row[0]!, name, row[k + 1]!]));
  return xlsx([...titles(c, s, 2), [s.code, 'Field', 'Value'], ...body], truth(names, rows));
};

export const nameWithCode: Family = (c, s, size) => {
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

export const planActual: Family = (c, s, size) => {
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

export const agesAcross: Family = (c, s, size) => {
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

/** A mean under the sum, with the groups' keys on every row. */
export const meansToo: Family = (c, s, size) => {
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
export const unnamedTotals: Family = (c, s, size) => {
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
export const slipped: Family = (c, s, size) => {
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

/** Labels of two levels in their own columns. */
export const labelsInColumns: Family = (c, s, size) => {
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

export const remarksColumn: Family = (c, s, size) => {
  const { names, rows, keys } = records(c, s, c.whole(12, Math.max(14, size)), measuresOf(c, s));
  const own = rows.map((row) => [...row, c.yes(0.3) ? c.pick(s.words.remarks) : null]);
  const total = [...totalRow([s.words.total], rows, keys, names.length), null];
  return xlsx(
    [...titles(c, s, 2), [...names, 'Remark'], ...own, total, ...notes(c, s)],
    truth([...names, 'Remark'], own),
  );
};

/** A sheet for each area, a cover, and a sheet that sums the others. */
export const withSummary: Family = (c, s, size) => {
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
export const sheetPerMonth: Family = (c, s, size) => {
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

export const weeksAcross: Family = (c, s, size) => {
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
export const wrappedHeader: Family = (c, s, size) => {
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
export const dressedFigures: Family = (c, s, size) => {
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
export const datedPeriods: Family = (c, s, size) => {
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

export const threeLevels: Family = (c, s, size) => {
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
export const numberLabels: Family = (c, s, size) => {
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
export const totalsInSecond: Family = (c, s, size) => {
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
export const meanColumn: Family = (c, s, size) => {
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

/** A grand total right under the header, and sites below. */
export const totalFirst: Family = (c, s, size) => {
  const { names, rows, keys } = records(c, s, c.whole(8, size), measuresOf(c, s));
  return xlsx(
    [...titles(c, s, 2), names, totalRow([s.words.total], rows, keys, names.length), ...rows, ...notes(c, s)],
    truth(names, rows),
  );
};

/** Tables of other measures over the same sites, a heading each. */
export const measureTables: Family = (c, s, size) => {
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
export const sparseRecords: Family = (c, s, size) => {
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

/** Plan, actual and what lies between, which are measures and no sums. */
export const variances: Family = (c, s, size) => {
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
export const measuresDown: Family = (c, s, size) => {
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
export const shoutedTotals: Family = (c, s, size) => {
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
export const areasOverYears: Family = (c, s) => {
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

/** A legend that stands to the right of the table. */
export const legendBeside: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(8, Math.max(10, size)), measuresOf(c, s));
  const legend: Cell[][] = [['Legend', null], ...s.states.map((state): Cell[] => [state[0]!, state])];
  const all = [names as Cell[], ...rows].map((row, k): Cell[] => [...row, null, ...(legend[k - 1] ?? [])]);
  return xlsx([...titles(c, s, 2), ...all, ...notes(c, s)], truth(names, rows));
};

/** Sums by group and by row in a cross table of two keys. */
export const groupedCross: Family = (c, s, size) => {
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

/** Two years of months, and a sum of each. */
export const yearsOfMonths: Family = (c, s, size) => {
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

/** Shares of the total beside the figures. */
export const sharesBeside: Family = (c, s, size) => {
  const measure = c.pick(s.measures);
  const sites = c.some(s.sites, c.whole(5, Math.min(40, Math.max(6, size))));
  const values = sites.map(() => figure(c, measure));
  const all = sum(values);
  const rows = sites.map((site, k): Cell[] => [site, values[k]!, Number(((values[k]! / all) * 100).toFixed(1))]);
  const names = [s.site, measure.name, '%'];
  return xlsx([...titles(c, s, 2), names, ...rows, [s.words.total, all, 100], ...notes(c, s)], truth(names, rows));
};

/** Codes in front of labels, with the totals under the code alone. */
export const codedLabels: Family = (c, s, size) => {
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

/** What is measured and its unit down, years across. */
export const measuresAndUnits: Family = (c, s, size) => {
  const years = [2028, 2029, 2030, 2031].slice(0, c.whole(2, 4));
  const measures = s.measures.slice(0, c.whole(2, 4));
  const body: Cell[][] = [];
  const want: Cell[][] = [];
  for (const site of c.some(s.sites, c.whole(3, Math.max(4, Math.min(20, size / 4))))) {
    const figures = measures.map((m) => years.map(() => figure(c, m)));
    measures.forEach((m, k) => {
      body.push([site, m.name, ['n', 't', '€', 'h'][k]!, ...figures[k]!]);
    });
    years.forEach((year, y) => {
      want.push([site, year, ...figures.map((own) => own[y]!)]);
    });
  }
  return xlsx(
    [...titles(c, s, 2), [s.site, 'Measure', 'Unit', ...years], ...body, ...notes(c, s)],
    truth([s.site, 'Year', ...measures.map((m) => m.name)], want),
  );
};

/** Forms one under the other: a name and a value in each row. */
export const forms: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(4, Math.max(5, Math.min(60, size))), measuresOf(c, s));
  const body = rows.flatMap((row): Cell[][] => [...names.map((name, k): Cell[] => [name, row[k]!]), [null]]);
  return xlsx([...titles(c, s, 1), ...body], truth(names, rows));
};
