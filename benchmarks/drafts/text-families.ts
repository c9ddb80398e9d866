import { type Family, groups, local, localDay, measuresOf, records, totalRow } from './made.ts';
import { bytesOf, type Cell, figure, isoDay, sum, tidy, titles, truth } from './page.ts';

export const delimited: Family = (c, s, size) => {
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
export const printout: Family = (c, s, size) => {
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

export const nested: Family = (c, s, size) => {
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

export const lineJson: Family = (c, s, size) => {
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

export const xml: Family = (c, s, size) => {
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

export const webPage: Family = (c, s, size) => {
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
export const textBlocks: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s));
  const text = rows.map((row) => names.map((name, k) => `${name}: ${tidy(row[k]!)}`).join('\n')).join('\n\n');
  return { name: 'report.txt', bytes: bytesOf(`${text}\n`), want: truth(names, rows) };
};

export const log: Family = (c, s, size) => {
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

/** Codes with zeros in front, in a delimited file. */
export const codes: Family = (c, s, size) => {
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

/** A text table drawn with bars. */
export const drawnTable: Family = (c, s, size) => {
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
export const keyedJson: Family = (c, s, size) => {
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

/** Sections of a delimited file, each under its name and with its own header. */
export const csvSections: Family = (c, s, size) => {
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
export const copiedText: Family = (c, s, size) => {
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
export const pairsLog: Family = (c, s, size) => {
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
export const attributeXml: Family = (c, s, size) => {
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
export const nestedLines: Family = (c, s, size) => {
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
export const rowspans: Family = (c, s, size) => {
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
export const twoLinePrintout: Family = (c, s, size) => {
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

/** Names and values in front of a delimited table. */
export const preamble: Family = (c, s, size) => {
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

/** Rows as lists, the first with the names. */
export const listsOfLists: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, size), measuresOf(c, s));
  const plain = rows.map((row) => row.map((cell) => (cell !== null && typeof cell === 'object' ? tidy(cell) : cell)));
  return { name: 'report.json', bytes: bytesOf(JSON.stringify([names, ...plain])), want: truth(names, rows) };
};

/** Blocks of names and values between drawn lines. */
export const ruledBlocks: Family = (c, s, size) => {
  const { names, rows } = records(c, s, c.whole(6, Math.max(8, size)), measuresOf(c, s));
  const wide = Math.max(...names.map((name) => name.length)) + 2;
  const text = [
    s.title,
    '='.repeat(40),
    ...rows.flatMap((row) => [...names.map((name, k) => `${`${name}:`.padEnd(wide)}${tidy(row[k]!)}`), '-'.repeat(40)]),
  ];
  return { name: 'report.txt', bytes: bytesOf(`${text.join('\n')}\n`), want: truth(names, rows) };
};

/** A page with a table of contacts, the table in sections, and a table of notes. */
export const busyPage: Family = (c, s, size) => {
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
