import { Seen, type Sight, textAt } from '../glance/sight.ts';
import { guessHeader } from '../steps/header/guess-header.ts';
import { isPositioned } from '../table/table.ts';
import type { Detector } from './finding.ts';
import { headerRule } from './header.ts';

/** Tables that stand side by side under headers of the same names. */
export const beside: Detector = {
  name: 'beside',
  find(hand) {
    const { sight } = hand;
    if (!isPositioned(sight.table) || sight.rows < 2) return [];
    const guess = guessHeader(sight.table);
    const tops = [guess.row + guess.tiers - 1, guess.row];
    for (const row of tops) {
      const tables = tablesAt(sight, row);
      const at = headerRule(sight, row, hand.within !== undefined);
      if (tables.length < 2 || at === undefined) continue;
      const names = tables[0]!.map((k) => textAt(sight.columns[k]!, row)).filter((name) => name !== '');
      return [
        {
          steps: [
            {
              kind: 'stack-beside',
              params: { at, ...(hand.within === undefined ? {} : { within: hand.within }) },
              why: `${tables.length} tables side by side, each with ${names.slice(0, 3).join(', ')}`,
            },
          ],
          weight: 2.5,
        },
      ];
    }
    return [];
  },
};

/** Columns of each table: the header begins anew with its first name, and says mostly the same. */
function tablesAt(sight: Sight, row: number): number[][] {
  const names = sight.columns.map((column) => textAt(column, row).toLowerCase());
  const first = names.find((name) => name !== '');
  if (first === undefined) return [];
  // What stands in front of the first name belongs to all of the names: these are tiers, and no tables.
  if (
    names.indexOf(first) > 0 &&
    sight.columns.slice(0, names.indexOf(first)).some((_, k) => !blankFrom(sight, k, row))
  )
    return [];
  const tables: number[][] = [];
  names.forEach((name, k) => {
    const column = sight.columns[k]!;
    if (name === '' && blankFrom(sight, k, row)) return;
    if (name === first && column.kinds[row] === Seen.text) tables.push([]);
    tables.at(-1)?.push(k);
  });
  if (tables.length < 2) return [];
  const lead = tables[0]!.map((k) => names[k]);
  if (lead.length < 2) return [];
  const same = tables.every((table) => {
    const own = table.map((k) => names[k]);
    return own.filter((name) => lead.includes(name)).length >= Math.min(lead.length, own.length) * 0.8;
  });
  return same ? tables : [];
}

function blankFrom(sight: Sight, k: number, row: number): boolean {
  const { kinds } = sight.columns[k]!;
  for (let r = row; r < sight.rows; r++) if (kinds[r] !== Seen.blank) return false;
  return true;
}
