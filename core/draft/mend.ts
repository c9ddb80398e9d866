/** Steps that close what still differs from a finished table, found from its cells. */
import type { Proposal } from '../findings/finding.ts';
import { exampleOffers } from '../offers/example-offers.ts';
import { tableAfter } from '../steps/try-steps.ts';
import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { cellText, textView, usedTexts } from '../values/cell-text.ts';
import { type Likeness, plainText } from './like.ts';

/** Rows of the finished table that are looked at. */
const MAX_ROWS = 12;

/**
 * For each wanted column that is not met: a step that makes a column of the table read so in every row where this can be decided
 * by the columns that are met.
 *
 * @returns steps that keep the columns in their places, none where nothing is found
 */
export function mendingSteps(table: Table, wanted: Table, { columns }: Likeness): Proposal[] {
  const isMet = (w: number) =>
    columns[w]! >= 0 && holdsAll(table.fields[columns[w]!]!.column, wanted.fields[w]!.column);
  const met = wanted.fields.flatMap((_, w) => (isMet(w) ? [{ w, k: columns[w]! }] : []));
  const open = wanted.fields.flatMap((_, w) => (isMet(w) ? [] : [w]));
  if (open.length === 0) return [];
  const pairs = rowPairs(table, wanted, met);
  if (pairs.length === 0) return [];
  const taken = new Set(met.map(({ k }) => k));
  const steps: Proposal[] = [];
  let now = table;
  for (const w of open) {
    const own = columns[w]!;
    const candidates = own >= 0 ? [own] : table.fields.map((_, k) => k).filter((k) => !taken.has(k));
    for (const k of candidates) {
      const found = stepFor(now, k, wanted, w, pairs);
      if (found === undefined) continue;
      steps.push(found.step);
      now = found.table;
      taken.add(k);
      break;
    }
  }
  return steps;
}

/** Every value of one column stands in the other. */
function holdsAll(column: Column, wanted: Column): boolean {
  const { texts } = textView(column);
  const held = new Set(texts.map(plainText));
  return [...usedTexts(wanted)].every((text) => held.has(plainText(text)));
}

interface Pair {
  row: number;
  wanted: number;
}

/** Rows of the table that the wanted rows are, where the met columns tell them without doubt. */
function rowPairs(table: Table, wanted: Table, met: readonly { w: number; k: number }[]): Pair[] {
  if (met.length === 0) return wanted.rows > 0 && table.rows > 0 ? [{ row: 0, wanted: 0 }] : [];
  const keyed = new Map<string, number>();
  for (let r = 0; r < table.rows; r++) {
    const key = met.map(({ k }) => plainText(cellText(table.fields[k]!.column, r))).join('\u0001');
    keyed.set(key, keyed.has(key) ? -1 : r);
  }
  const pairs: Pair[] = [];
  for (let r = 0; r < Math.min(wanted.rows, MAX_ROWS); r++) {
    const key = met.map(({ w }) => plainText(cellText(wanted.fields[w]!.column, r))).join('\u0001');
    const row = keyed.get(key);
    if (row !== undefined && row >= 0) pairs.push({ row, wanted: r });
  }
  return pairs;
}

function stepFor(table: Table, k: number, wanted: Table, w: number, pairs: readonly Pair[]) {
  const text = (pair: Pair) => cellText(wanted.fields[w]!.column, pair.wanted) ?? '';
  const name = table.fields[k]!.name;
  const differing = pairs.find((pair) => (cellText(table.fields[k]!.column, pair.row) ?? '') !== text(pair));
  if (differing === undefined) return undefined;
  for (const { kind, params, label, outcome } of exampleOffers(table, differing.row, name, text(differing))) {
    // A cell that is said otherwise alone may be a slip of either side: no rule is made of it.
    if (kind === 'fill-blanks' || (kind === 'replace' && params['how'] !== 'pattern')) continue;
    const after = tableAfter(table, [{ kind, params }]);
    if (after?.rows !== table.rows) continue;
    // One cell may come out by chance; every row that is known must.
    if (pairs.every((pair) => plainText(cellText(after.fields[k]!.column, pair.row)) === plainText(text(pair))))
      return {
        table: after,
        step: { kind, params, why: `${label}, as in the rows that were shown: ${outcome ?? ''}` },
      };
  }
  return undefined;
}
