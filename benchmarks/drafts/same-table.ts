import type { Table } from '../../core/index.ts';
import { cellText } from '../../core/values/cell-text.ts';

/** A tidy table as plain texts: what a report was made from. */
export interface Truth {
  names: readonly string[];
  rows: readonly (readonly string[])[];
}

export function truthOf(table: Table): Truth {
  return {
    names: table.fields.map((field) => field.name),
    rows: Array.from({ length: table.rows }, (_, r) => table.fields.map((field) => cellText(field.column, r) ?? '')),
  };
}

const NUMBER = /^-?(?:\d+|\d{1,3}(?:,\d{3})+)(?:\.\d+)?$|^-?\.\d+$/;

/** One form for values that count as the same. */
function plain(text: string): string {
  const own = text
    .replace(/[\u00a0\u202f]/g, ' ')
    .trim()
    .replace('\u2212', '-');
  if (NUMBER.test(own) && !/^-?0\d/.test(own)) {
    const value = Number(own.replaceAll(',', ''));
    return Object.is(value, -0) ? '0' : String(value);
  }
  const time = /^(\d{4}-\d\d-\d\d)[T ](\d\d:\d\d)(?::(\d\d)(?:\.0+)?)?$/.exec(own);
  if (time === null) return own;
  const [, day, minutes, seconds = '00'] = time;
  return minutes === '00:00' && seconds === '00' ? day! : `${day}T${minutes}:${seconds}`;
}

/**
 * Whether two tables are the same, whatever the order of rows and columns and the names; columns of the first that hold
 * one value or number the rows are forgiven. Returns why not, or undefined.
 */
export function differs(got: Truth, want: Truth): string | undefined {
  if (got.rows.length !== want.rows.length) return `${got.rows.length} rows, wanted ${want.rows.length}`;
  const columnsOf = (truth: Truth) => truth.names.map((_, k) => truth.rows.map((row) => plain(row[k] ?? '')));
  const [have, need] = [columnsOf(got), columnsOf(want)];
  const key = (column: readonly string[]) => [...column].sort().join('\u0001');
  const keys = have.map(key);
  const candidates = need.map((column) => {
    const own = key(column);
    return keys.flatMap((one, k) => (one === own ? [k] : []));
  });
  // What never differs within a report is no column that has to be found.
  const told = [...need.keys()].filter((k) => candidates[k]!.length > 0 || new Set(need[k]).size > 1);
  const lost = told.find((k) => candidates[k]!.length === 0);
  if (lost !== undefined) return `no column holds what ${want.names[lost]} holds`;
  const chosen = assign(
    have,
    told.map((k) => need[k]!),
    told.map((k) => candidates[k]!),
  );
  if (chosen === undefined) return 'columns agree one by one, but rows do not';
  const extra = got.names.filter((_, k) => !chosen.includes(k) && !isHarmless(have[k]!));
  return extra.length === 0 ? undefined : `also has ${extra.join(', ')}`;
}

function assign(
  have: readonly (readonly string[])[],
  need: readonly (readonly string[])[],
  candidates: readonly (readonly number[])[],
): number[] | undefined {
  const order = [...need.keys()].sort((a, b) => candidates[a]!.length - candidates[b]!.length);
  const chosen = new Array<number>(need.length).fill(-1);
  let tries = 0;
  const sortedRows = (columns: readonly (readonly string[])[]) =>
    columns.length === 0
      ? ''
      : columns[0]!
          .map((_, r) => columns.map((column) => column[r]).join('\u0001'))
          .sort()
          .join('\u0002');
  const step = (n: number): boolean => {
    if (n === order.length) return true;
    for (const k of candidates[order[n]!]!) {
      if (chosen.includes(k) || tries++ > 200) continue;
      chosen[order[n]!] = k;
      const done = order.slice(0, n + 1);
      if (sortedRows(done.map((j) => have[chosen[j]!]!)) === sortedRows(done.map((j) => need[j]!)) && step(n + 1))
        return true;
      chosen[order[n]!] = -1;
    }
    return false;
  };
  return step(0) ? chosen : undefined;
}

function isHarmless(column: readonly string[]): boolean {
  if (new Set(column).size <= 1) return true;
  return column.every((text, r) => /^\d+$/.test(text) && (r === 0 || Number(text) > Number(column[r - 1])));
}
