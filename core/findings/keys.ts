import { Seen, type SeenColumn, type Sight } from '../glance/sight.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';

/** Keys that stand only on the first row of their group. */
export const keys: Detector = {
  name: 'keys',
  find(hand) {
    const body = bodyOf(hand);
    const { sight } = body;
    // Nested text and logs say every field of an item by itself.
    if (sight.rows < 3 || !isPositioned(hand.raw)) return [];
    const sparse: SeenColumn[] = [];
    for (const column of body.keys) {
      const blank = column.counts[Seen.blank]!;
      const filled = sight.rows - blank;
      // Keys lead: behind words that every row fills no key is left out, but behind numbers that count the rows.
      if (blank === 0) {
        if (sparse.length > 0 || column.counts[Seen.text]! > 0) break;
        continue;
      }
      if (filled === 0) continue;
      if (!startsFilled(column, body.starts, sight)) break;
      if (!isSparseKey(column, sparse, sight)) break;
      sparse.push(column);
    }
    if (sparse.length === 0) return [];
    const gaps = sparse.reduce((sum, column) => sum + column.counts[Seen.blank]!, 0);
    return [
      {
        steps: [
          {
            kind: 'fill',
            params: {
              columns: { by: 'names', names: sparse.map((column) => column.name) },
              direction: 'down',
              ...(hand.within === undefined ? {} : { within: hand.within }),
            },
            why: `${sparse.map((column) => column.name).join(', ')}: filled only on the first row of each group, with ${counted(gaps, 'blank')} below`,
          },
        ],
        weight: 1,
        ...(sparse.some((column) => sight.rows - column.counts[Seen.blank]! < 3)
          ? { doubt: { code: 'few-groups' as const } }
          : {}),
      },
    ];
  },
};

function startsFilled(column: SeenColumn, starts: readonly number[], sight: Sight): boolean {
  return starts.every((r) => r >= sight.rows || column.kinds[r] !== Seen.blank);
}

/** Blank more often than by the way, and what it says comes once in each stretch. */
function isSparseKey(column: SeenColumn, outer: readonly SeenColumn[], sight: Sight): boolean {
  const filled: number[] = [];
  for (let r = 0; r < sight.rows; r++) if (column.kinds[r] !== Seen.blank) filled.push(r);
  if (column.counts[Seen.blank]! < Math.max(1, filled.length * 0.15)) return false;
  // The same text on rows next to each other is no key that is left out below.
  let again = 0;
  for (let k = 1; k < filled.length; k++)
    if (filled[k] === filled[k - 1]! + 1 && column.codes[filled[k]!] === column.codes[filled[k - 1]!]) again++;
  if (again > Math.max(1, filled.length * 0.1)) return false;
  const above = outer.at(-1);
  if (above === undefined) return true;
  // Where the key outside of it begins anew, it does so too.
  for (let r = 0; r < sight.rows; r++)
    if (above.kinds[r] !== Seen.blank && column.kinds[r] === Seen.blank) return false;
  return true;
}
