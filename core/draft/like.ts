/** A table beside the finished table that it should become: which columns are which, and where they still differ. */

import type { Proposal } from '../findings/finding.ts';
import { isPlaceName, type Table } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { nameLikeness } from '../values/likeness.ts';
import { NumberForm, numberText, readNumber } from '../values/number-text.ts';

/** A cell that is not as it should be. */
export interface LikeGap {
  /** Row of the wanted table, from 0. */
  row: number;
  column: string;
  wanted: string;
  /** What stands there; undefined where the whole row is missing. */
  got: string | undefined;
}

export interface Likeness {
  /** For each wanted column the column that holds it, -1 where none does. */
  columns: readonly number[];
  /** Share of the wanted cells that are met, and of the rows that are wanted: 1 for the same table. */
  share: number;
  /** Rows of the table that are wanted nowhere; not counted where only some rows were given. */
  extra: number;
  missing: number;
  /** The first of the cells that differ. */
  gaps: readonly LikeGap[];
}

const FORM = NumberForm.parse({});
const MAX_GAPS = 20;

/** One form for texts that say the same: numbers without dress, outer blanks gone, a day for its midnight. */
export function plainText(text: string | null): string {
  if (text === null) return '';
  const own = text.replace(/[\u00a0\u202f]/g, ' ').trim();
  if (/^-?[\d,]*\.?\d+$/.test(own) && !/^-?0\d/.test(own)) {
    const { value } = readNumber(own, FORM);
    if (!Number.isNaN(value)) return numberText(value);
  }
  return own.replace(/^(\d{4}-\d\d-\d\d)[T ]00:00(?::00)?$/, '$1');
}

function plainColumns(table: Table): string[][] {
  return table.fields.map(({ column }) => {
    const { codes, texts } = textView(column);
    const plain = texts.map(plainText);
    return Array.from({ length: table.rows }, (_, r) => (codes[r]! < 0 ? '' : plain[codes[r]!]!));
  });
}

/**
 * Compares a table with what it should be.
 *
 * @param partial the wanted table is only some of the rows
 */
export function likenessTo(table: Table, wanted: Table, partial: boolean): Likeness {
  const have = plainColumns(table);
  const need = plainColumns(wanted);
  const columns = pairColumns(table, have, wanted, need);
  const used = columns.flatMap((k, w) => (k < 0 ? [] : [{ k, w }]));
  // Rows are taken one by one, so that a row that stands twice is wanted twice.
  const rows = Array.from({ length: table.rows }, (_, r) => r);
  const places = groupedBy(rows, (r) => used.map(({ k }) => have[k]![r]).join('\u0001'));
  const taken = new Uint8Array(table.rows);
  const left: number[] = [];
  for (let w = 0; w < wanted.rows; w++) {
    const found = places.get(used.map(({ w: column }) => need[column]![w]).join('\u0001'))?.shift();
    if (found === undefined) left.push(w);
    else taken[found] = 1;
  }
  const gaps: LikeGap[] = [];
  let missing = 0;
  let met = (wanted.rows - left.length) * used.length;
  const free = [...taken.keys()].filter((r) => taken[r] === 0).slice(0, 2000);
  for (const w of left.slice(0, 500)) {
    let [best, most] = [-1, 0];
    for (const r of free) {
      if (taken[r] === 1) continue;
      const same = used.filter(({ k, w: column }) => have[k]![r] === need[column]![w]).length;
      if (same > most) [best, most] = [r, same];
    }
    if (best < 0 || most < used.length * 0.5) {
      missing++;
      if (gaps.length < MAX_GAPS)
        gaps.push({ row: w, column: wanted.fields[0]?.name ?? '', wanted: need[0]?.[w] ?? '', got: undefined });
      continue;
    }
    taken[best] = 1;
    met += most;
    for (const { k, w: column } of used)
      if (have[k]![best] !== need[column]![w] && gaps.length < MAX_GAPS)
        gaps.push({ row: w, column: wanted.fields[column]!.name, wanted: need[column]![w]!, got: have[k]![best]! });
  }
  columns.forEach((k, w) => {
    if (k < 0 && gaps.length < MAX_GAPS)
      gaps.push({ row: 0, column: wanted.fields[w]!.name, wanted: need[w]![0] ?? '', got: undefined });
  });
  const extra = partial ? 0 : taken.reduce((sum, one) => sum + (one === 0 ? 1 : 0), 0);
  const all = wanted.rows * wanted.fields.length + extra * wanted.fields.length;
  return { columns, share: all === 0 ? 0 : met / all, extra, missing: missing + Math.max(0, left.length - 500), gaps };
}

/** For each wanted column the one whose values are most like its own; names decide between equals. */
function pairColumns(
  table: Table,
  have: readonly (readonly string[])[],
  wanted: Table,
  need: readonly (readonly string[])[],
): number[] {
  const counts = (cells: readonly string[]) => {
    const found = new Map<string, number>();
    for (const cell of cells) found.set(cell, (found.get(cell) ?? 0) + 1);
    return found;
  };
  const own = have.map(counts);
  const pairs = need.flatMap((cells, w) => {
    const wantedCounts = counts(cells);
    return own.flatMap((of, k) => {
      let met = 0;
      for (const [cell, count] of wantedCounts) met += Math.min(count, of.get(cell) ?? 0);
      const share = met / Math.max(1, cells.length);
      const likeness = nameLikeness(table.fields[k]!.name, wanted.fields[w]!.name);
      // Under the same name other values are the same column still, where nothing else holds them.
      return share + 0.2 * likeness < 0.5 && likeness < 1
        ? []
        : [{ w, k, worth: share + 0.1 * likeness + 0.001 * wantedCounts.size - 0.0001 * Math.abs(w - k) }];
    });
  });
  const columns = new Array<number>(need.length).fill(-1);
  const taken = new Set<number>();
  for (const { w, k } of pairs.sort((a, b) => b.worth - a.worth)) {
    if (columns[w]! >= 0 || taken.has(k)) continue;
    columns[w] = k;
    taken.add(k);
  }
  return columns;
}

/** Steps that give a table the wanted columns, under their names and in their order. */
export function stepsToward(table: Table, wanted: Table, { columns }: Likeness): Proposal[] {
  const held = columns.flatMap((k, w) => {
    if (k < 0) return [];
    const { name } = table.fields[k]!;
    const to = wanted.fields[w]!.name;
    // A wanted column may have no separate name.
    return [{ name, to: isPlaceName(to) ? name : to }];
  });
  return held.length === 0 ? [] : columnSteps(table, held);
}

/** Steps after which a table has these columns alone, in this order and under these names. */
export function columnSteps(table: Table, held: readonly { name: string; to: string }[]): Proposal[] {
  const steps: Proposal[] = [];
  const names = held.map(({ name }) => name);
  if (names.length < table.fields.length || names.some((name, k) => table.fields[k]!.name !== name))
    steps.push({
      kind: 'keep-columns',
      params: { columns: { by: 'names', names } },
      why: 'columns of the finished table, in its order',
    });
  const renames = held.flatMap(({ name, to }) => (name === to ? [] : [{ from: name, to }]));
  if (renames.length > 0)
    steps.push({ kind: 'rename', params: { names: renames }, why: 'named as in the finished table' });
  return steps;
}
