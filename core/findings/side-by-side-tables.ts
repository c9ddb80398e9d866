import { CellKind, type TableProfile, textAt } from '../glance/table-profile.ts';
import { guessHeader } from '../steps/header/guess-header.ts';
import { isPositioned } from '../table/table.ts';
import type { Detector } from './finding.ts';
import { headerRule } from './header.ts';

/** Tables that stand side by side under headers of the same names. */
export const sideBySideTables: Detector = {
  name: 'beside',
  find(input) {
    const { profile } = input;
    if (!isPositioned(profile.table) || profile.rows < 2) return [];
    const guess = guessHeader(profile.table);
    const tops = [guess.row + guess.tiers - 1, guess.row];
    for (const row of tops) {
      const tables = tablesAt(profile, row);
      const at = headerRule(profile, row, input.within !== undefined);
      if (tables.length < 2 || at === undefined) continue;
      const names = tables[0]!.map((k) => textAt(profile.columns[k]!, row)).filter((name) => name !== '');
      return [
        {
          steps: [
            {
              kind: 'stack-beside',
              params: { at, ...(input.within === undefined ? {} : { within: input.within }) },
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

/** Columns of each table: the header begins again with its first name, and says mostly the same. */
function tablesAt(profile: TableProfile, row: number): number[][] {
  const names = profile.columns.map((column) => textAt(column, row).toLowerCase());
  const first = names.find((name) => name !== '');
  if (first === undefined) return [];
  // What stands in front of the first name belongs to all of the names: these are tiers, and no tables.
  if (
    names.indexOf(first) > 0 &&
    profile.columns.slice(0, names.indexOf(first)).some((_, k) => !blankFrom(profile, k, row))
  )
    return [];
  const tables: number[][] = [];
  names.forEach((name, k) => {
    const column = profile.columns[k]!;
    if (name === '' && blankFrom(profile, k, row)) return;
    if (name === first && column.kinds[row] === CellKind.text) tables.push([]);
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

function blankFrom(profile: TableProfile, k: number, row: number): boolean {
  const { kinds } = profile.columns[k]!;
  for (let r = row; r < profile.rows; r++) if (kinds[r] !== CellKind.blank) return false;
  return true;
}
