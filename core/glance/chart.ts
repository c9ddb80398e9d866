import type { Table } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';

export interface ChartData {
  /** In order of appearance. */
  categories: string[];
  series: string[];
  /** By series, then by category; null where there is none. */
  values: (number | null)[][];
  /** Categories beyond those shown. */
  more: number;
}

const MAX_CATEGORIES = 60;
const MAX_SERIES = 8;

/** The sum of a measure, or the count of rows, over one or two columns. @returns undefined when a column is not there */
export function chartOf(table: Table, by: string, split: string | null, measure: string | null): ChartData | undefined {
  const columnOf = (name: string) => table.fields.find((field) => field.name === name)?.column;
  const [category, part] = [columnOf(by), split === null ? undefined : columnOf(split)];
  const measured = measure === null ? undefined : columnOf(measure);
  if (category === undefined || (measure !== null && (measured === undefined || measured.type === 'text')))
    return undefined;
  const categories = new Map<string, number>();
  const series = new Map<string, number>();
  const sums = new Map<string, number>();
  const [names, parts] = [textView(category), part === undefined ? undefined : textView(part)];
  for (let r = 0; r < table.rows; r++) {
    const value = measured === undefined || measured.type === 'text' ? 1 : measured.values[r]!;
    if (Number.isNaN(value)) continue;
    const name = names.codes[r]! < 0 ? 'blank' : names.texts[names.codes[r]!]!;
    const own =
      parts === undefined ? (measure ?? 'rows') : parts.codes[r]! < 0 ? 'blank' : parts.texts[parts.codes[r]!]!;
    const at = place(categories, name);
    const key = `${place(series, own)}/${at}`;
    sums.set(key, (sums.get(key) ?? 0) + value);
  }
  const shown = [...categories.keys()].slice(0, MAX_CATEGORIES);
  const kept = [...series.keys()].slice(0, MAX_SERIES);
  return {
    categories: shown,
    series: kept,
    values: kept.map((_, s) => shown.map((_, c) => sums.get(`${s}/${c}`) ?? null)),
    more: categories.size - shown.length,
  };
}

function place(of: Map<string, number>, name: string): number {
  let at = of.get(name);
  if (at === undefined) {
    at = of.size;
    of.set(name, at);
  }
  return at;
}
