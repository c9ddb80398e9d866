/** What reports of many layouts are made of. */
import type { Chance } from './chance.ts';
import { bytesOf, type Cell, type Day, figure, isoDay, type MadeReport, sum, workbook } from './page.ts';
import type { Measure, Scenario } from './scenarios.ts';

export type Made = Omit<MadeReport, 'family'>;

export type Family = (chance: Chance, s: Scenario, size: number) => Made;

export const xlsx = (rows: Cell[][], want: Made['want'], name = 'Sheet1'): Made => ({
  name: 'report.xlsx',
  bytes: workbook([{ name, rows }]),
  want,
});

export const json = (value: unknown, want: Made['want'], name = 'report.json'): Made => ({
  name,
  bytes: bytesOf(JSON.stringify(value, null, 1)),
  want,
});

export const text = (lines: readonly string[], want: Made['want'], name = 'report.txt'): Made => ({
  name,
  bytes: bytesOf(`${lines.join('\n')}\n`),
  want,
});

export const measuresOf = (c: Chance, s: Scenario, least = 2, most = 4) => {
  const count = c.whole(least, most);
  return s.measures.filter((_, k) => k < count);
};

export const dayIn = (c: Chance): Day => ({ day: c.whole(19800, 21500) });

/** Records of code, date, site, item, state and figures. */
export function records(c: Chance, s: Scenario, count: number, measures: readonly Measure[], first = 1) {
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
export function groups(c: Chance, s: Scenario, size: number, measures: readonly Measure[]) {
  const areas = c.some(s.areas, c.whole(2, Math.min(7, 2 + Math.ceil(size / 20))));
  const sites = c.some(s.sites, 50);
  return areas.map((area) => ({
    area,
    rows: c
      .some(sites, c.whole(2, Math.max(3, Math.min(20, Math.ceil(size / areas.length)))))
      .map((site): Cell[] => [site, ...measures.map((m) => figure(c, m))]),
  }));
}

export const totalRow = (label: Cell[], rows: readonly (readonly Cell[])[], keys: number, width: number): Cell[] => [
  ...label,
  ...new Array<Cell>(keys - label.length).fill(null),
  ...Array.from({ length: width - keys }, (_, k) => sum(rows.map((row) => row[keys + k] as number | null))),
];

export function local(value: number, decimals: number, s: Scenario, grouped: boolean): string {
  const mark = s.language === 'en' ? '.' : ',';
  const group = s.language === 'en' ? ',' : s.language === 'fr' ? '\u202f' : '.';
  const [whole, part] = Math.abs(value).toFixed(decimals).split('.');
  const own = grouped ? whole!.replace(/\B(?=(?:\d{3})+$)/g, group) : whole!;
  return `${value < 0 ? '-' : ''}${own}${part === undefined ? '' : mark + part}`;
}

export function localDay(day: Day, s: Scenario): string {
  const [y, m, d] = isoDay(day).split('-');
  return s.language === 'de' ? `${d}.${m}.${y}` : `${d}/${m}/${y}`;
}
