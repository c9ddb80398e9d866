import { Seen, type Sight, textAt } from '../glance/sight.ts';
import { isPositioned } from '../table/table.ts';
import type { Detector } from './finding.ts';

/** A record in each column: the names stand in the first column, and kinds of cell agree along rows, not down columns. */
export const transposed: Detector = {
  name: 'transposed',
  find(hand) {
    const { sight } = hand;
    if (!isPositioned(sight.table) || hand.within !== undefined) return [];
    const first = sight.columns.findIndex((column) => column.counts[Seen.blank]! < sight.rows);
    if (first < 0) return [];
    const lead = sight.columns[first]!;
    const records = sight.columns.slice(first + 1);
    const rows: number[] = [];
    for (let r = 0; r < sight.rows; r++) if (sight.filled[r]! >= Math.max(3, records.length * 0.5)) rows.push(r);
    if (rows.length < 3 || rows.length > 80 || records.length < 3) return [];
    if (rows.some((r) => lead.kinds[r] !== Seen.text)) return [];
    if (rows.some((r, k) => k > 0 && rows[k - 1]! < r - 2)) return [];
    // Names are said once.
    if (new Set(rows.map((r) => textAt(lead, r))).size < rows.length * 0.9) return [];
    const along = purity(rows.map((r) => records.map((column) => column.kinds[r]!)));
    const down = purity(records.map((column) => rows.map((r) => column.kinds[r]!)));
    const kinds = new Set(rows.map((r) => leading(records.map((column) => column.kinds[r]!))));
    if (along < 0.97 || down > 0.8 || kinds.size < 2) return [];
    // A header over figures reads so too, where all rows but the first are figures.
    const figures = rows.filter((r) => leading(records.map((column) => column.kinds[r]!)) === Seen.figure).length;
    if (figures >= rows.length - 1) return [];
    const name = lead.name;
    const lone = sight.rows > rows.length;
    return [
      {
        steps: [
          ...(lone
            ? [
                {
                  kind: 'keep-rows',
                  params: {
                    rules: [{ test: 'filled', columns: { by: 'names', names: [name, columnNextTo(sight, first)] } }],
                  },
                  why: `${rows.length} rows reach over ${records.length + 1} columns`,
                },
              ]
            : []),
          {
            kind: 'transpose',
            params: { names: name, into: 'Column' },
            why: `cells agree in kind along ${rows.length} rows (${Math.round(along * 100)}%) and not down columns (${Math.round(down * 100)}%): each column is a record`,
          },
          {
            kind: 'drop-columns',
            params: { columns: { by: 'names', names: ['Column'] } },
            why: 'only the letters of the columns',
          },
        ],
        weight: 3,
        doubt: 'no figure proves that columns are records',
        gives: 'a row for each column of the report',
      },
    ];
  },
};

function columnNextTo(sight: Sight, first: number): string {
  return sight.columns[first + 1]!.name;
}

function leading(kinds: readonly number[]): number {
  const counts = [0, 0, 0, 0, 0, 0];
  for (const kind of kinds) if (kind !== Seen.blank && kind !== Seen.missing) counts[kind]!++;
  return counts.indexOf(Math.max(...counts));
}

/** Share of the cells that are of the kind that leads in their line. */
function purity(lines: readonly (readonly number[])[]): number {
  let [pure, all] = [0, 0];
  for (const kinds of lines) {
    const lead = leading(kinds);
    for (const kind of kinds) {
      if (kind === Seen.blank || kind === Seen.missing) continue;
      all++;
      if (kind === lead) pure++;
    }
  }
  return all === 0 ? 0 : pure / all;
}
