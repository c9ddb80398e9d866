/** Sheets or files that stand one under the other, each with its own header: their columns meet by name. */

import type { Notice } from '../../kinds/step.ts';
import { blankColumn, stackColumns, takeColumn } from '../../table/gather.ts';
import type { CellSource, ColumnOrigin } from '../../table/origin.ts';
import { type Field, type Table, uniqueName } from '../../table/table.ts';
import { textView } from '../../values/cell-text.ts';
import { counted, few } from '../../values/counted.ts';

/** One sheet or file: rows from from up to to, and where its header stands (-1: it has none). */
export interface Run {
  title: string;
  from: number;
  to: number;
  top: number;
}

/** What the header of a run says over each input column; '' where it says nothing. */
export interface RunNames {
  texts: readonly string[];
  sources: readonly (readonly CellSource[])[];
}

export interface MetColumn {
  name: string;
  /** For each run the input column, -1 where it has none. */
  of: number[];
  /** Cells that the name was made of. */
  source: readonly CellSource[];
}

export function plainName(text: string): string {
  return text.trim().replace(/\s+/g, ' ').toLowerCase();
}

/** Rows of a run that are looked at for its header. */
const LOOKED_AT = 200;

/**
 * The row of a run whose texts are those of a header, in whatever order; -1 where there is none.
 *
 * @param wanted texts of the header's lowest tier
 * @param rows of the header
 */
export function headerRowOf(
  table: Table,
  run: { from: number; to: number },
  wanted: ReadonlySet<string>,
  rows: number,
): number {
  const views = table.fields.filter((field) => field.nameOrigin !== 'beside').map((field) => textView(field.column));
  const least = Math.min(2, wanted.size);
  for (let r = run.from; r + rows <= Math.min(run.to, run.from + LOOKED_AT); r++) {
    const found = new Set<string>();
    let filled = 0;
    for (const { codes, texts } of views) {
      const code = codes[r + rows - 1]!;
      const text = code < 0 ? '' : plainName(texts[code]!);
      if (text === '') continue;
      filled++;
      if (wanted.has(text)) found.add(text);
    }
    if (found.size >= least && found.size * 2 >= Math.min(wanted.size, filled)) return r;
  }
  return -1;
}

/** Columns of all runs by their names, in the order of the first run that has a header. */
export function metColumns(table: Table, runs: readonly Run[], names: readonly RunNames[]): MetColumn[] {
  const met = new Map<string, MetColumn>();
  const taken = new Set(table.fields.filter((field) => field.nameOrigin === 'beside').map((field) => field.name));
  const first = runs.findIndex((run) => run.top >= 0);
  const order = [first, ...runs.keys()].filter((run, k) => run >= 0 && (k === 0 || run !== first));
  for (const run of order) {
    const seen = new Map<string, number>();
    table.fields.forEach((field, c) => {
      if (field.nameOrigin === 'beside') return;
      const { texts, sources } = names[run]!;
      const own = runs[run]!.top >= 0 ? texts[c]! : (names[first]!.texts[c] ?? '');
      if (own === '' && isBlankIn(table, c, runs[run]!)) return;
      const plain = own === '' ? `\u0000${field.name}` : plainName(own);
      const times = (seen.get(plain) ?? 0) + 1;
      seen.set(plain, times);
      const key = `${plain}\u0000${times}`;
      let column = met.get(key);
      if (column === undefined) {
        const name = uniqueName(own === '' ? field.name : own.trim(), taken);
        column = { name, of: runs.map(() => -1), source: sources[c] ?? [] };
        met.set(key, column);
      }
      column.of[run] = c;
    });
  }
  return [...met.values()];
}

function isBlankIn(table: Table, c: number, run: Run): boolean {
  const { codes } = textView(table.fields[c]!.column);
  for (let r = run.from; r < run.to; r++) if (codes[r]! >= 0) return false;
  return true;
}

/** Whether every run has each column in the same place. */
export function isUniform(met: readonly MetColumn[], fields: number): boolean {
  const all = new Set<number>();
  for (const { of } of met) {
    if (of.some((c) => c !== of[0])) return false;
    all.add(of[0]!);
  }
  return all.size === fields;
}

/** The rows that stay, every column gathered from where it stands in each run. */
export function gatherMet(
  table: Table,
  rows: Int32Array,
  runs: readonly Run[],
  met: readonly MetColumn[],
): { fields: Field[]; origin: ColumnOrigin[] } {
  // Rows and runs are both in the order of the table, and the runs leave none out.
  let next = 0;
  const pieces = runs.map((run) => {
    const from = next;
    while (next < rows.length && rows[next]! < run.to) next++;
    return rows.subarray(from, next);
  });
  const fields: Field[] = [];
  const origin: ColumnOrigin[] = [];
  const through = { kind: 'take' as const, rows };
  table.fields.forEach((field, c) => {
    if (field.nameOrigin !== 'beside') return;
    fields.push({ ...field, column: takeColumn(field.column, rows) });
    const name: CellSource[] = [{ role: 'value', rows: { kind: 'at', rows: [-1] }, column: c }];
    origin.push({ cells: [{ role: 'value', rows: through, column: c }], name });
  });
  for (const { name, of, source } of met) {
    const cells = pieces.map((piece, k) =>
      of[k]! < 0 ? blankColumn(piece.length) : takeColumn(table.fields[of[k]!]!.column, piece),
    );
    const columns = new Int32Array(rows.length);
    let at = 0;
    pieces.forEach((piece, k) => {
      columns.fill(of[k]!, at, at + piece.length);
      at += piece.length;
    });
    fields.push({ name, nameOrigin: 'named', column: stackColumns(cells) });
    origin.push({ cells: [{ role: 'value', rows: through, column: { kind: 'take', columns } }], name: source });
  }
  return { fields, origin };
}

/** What the runs do not share: columns that one lacks, that only some have, that stand in another order. */
export function metNotices(runs: readonly Run[], met: readonly MetColumn[]): Notice[] {
  const told: Notice[] = [];
  const headed = runs.filter((run) => run.top >= 0).length;
  for (const { name, of } of met) {
    const without = runs.filter((run, k) => run.top >= 0 && of[k]! < 0);
    const having = runs.filter((_, k) => of[k]! >= 0);
    if (without.length === 0) continue;
    if (without.length * 2 <= headed) {
      const rows = without.reduce((sum, run) => sum + run.to - run.from, 0);
      told.push({
        severity: 'warning',
        text: `${few(without.map((run) => run.title))} ${without.length === 1 ? 'has' : 'have'} no column ${name}: blank in ${counted(rows, 'row')}`,
        column: name,
      });
    } else {
      told.push({
        severity: 'warning',
        text: `only ${few(having.map((run) => run.title))} ${having.length === 1 ? 'has' : 'have'} the column ${name}`,
        column: name,
      });
    }
  }
  const moved = runs.filter((run, k) => {
    const places = met.map(({ of }) => of[k]!).filter((c) => c >= 0);
    return run.top >= 0 && places.some((c, n) => n > 0 && c < places[n - 1]!);
  });
  if (moved.length > 0)
    told.push({
      severity: 'info',
      text: `${few(moved.map((run) => run.title))} ${moved.length === 1 ? 'has' : 'have'} the columns in another order: met by name`,
    });
  const bare = runs.filter((run) => run.top < 0 && run.to > run.from);
  if (bare.length > 0)
    told.push({
      severity: 'warning',
      text: `${few(bare.map((run) => run.title))} ${bare.length === 1 ? 'has' : 'have'} no row like the header: columns taken by their place`,
      rows: { of: 'before', rows: Int32Array.from(bare, (run) => run.from) },
    });
  return told;
}
