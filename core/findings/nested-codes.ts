import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { rowSaysTotal } from './choose-rule.ts';
import type { Detector } from './finding.ts';

const CODE = /^\p{L}?\d+(?<rest>(?:[.\-/]\d+)*)\.?$/u;
/** Levels above the last. */
const MAX_LEVELS = 2;

/** Numbered rows such as 1, 1.1, 1.2: those that others go on are groups, and what they say holds for the others. */
export const nestedCodes: Detector = {
  name: 'nested-codes',
  find({ profile, raw, within }) {
    if (!isPositioned(raw) || profile.rows < 4) return [];
    const column = profile.columns.slice(0, 3).find((one) => isNested(profile, one));
    const name = profile.columns.find((one) => one.index > (column?.index ?? 0) && one.counts[CellKind.text]! > 0);
    if (column === undefined || name === undefined) return [];
    const depths = depthsOf(profile, column);
    const deepest = Math.max(...depths);
    if (deepest - 1 > MAX_LEVELS) return [];
    const levels = Array.from({ length: deepest - 1 }, (_, k) => k + 1);
    const sums = sumsOf(profile, column, depths);
    const isProven = sums.of > 0 && sums.fit === sums.of;
    const into = levels.length === 1 ? ['Group'] : ['Section', 'Group'];
    return [
      {
        steps: levels.map((level) => ({
          kind: 'carry',
          params: {
            from: name.name,
            rule: {
              test: 'matches',
              column: column.name,
              text: `^\\s*\\p{L}?\\d+${'[.\\-/]\\d+'.repeat(level - 1)}\\.?\\s*$`,
            },
            into: into[level - 1]!,
            ...(within === undefined ? {} : { within }),
          },
          why: `${counted(depths.filter((depth) => depth === level).length, 'row')} whose ${column.name} others go on`,
        })),
        weight: isProven ? 4.5 : 2.2,
        explained: sums,
        ...(isProven ? {} : { doubt: { code: 'groups-by-numbering' as const, column: column.name } }),
        gives: `rows of the last level, with ${into.join(' and ')}`,
      },
      { steps: [], weight: 0, gives: 'numbered rows unchanged' },
    ];
  },
};

/** How many numbers each code has; 0 for rows without one. */
function depthsOf(profile: TableProfile, column: ColumnProfile): number[] {
  return Array.from({ length: profile.rows }, (_, r) => {
    const rest = CODE.exec(textAt(column, r))?.groups?.['rest'];
    return rest === undefined ? 0 : 1 + (rest.match(/\d+/g)?.length ?? 0);
  });
}

/** Figures of groups that are the sum of the rows straight below their level, of how many. */
function sumsOf(profile: TableProfile, codes: ColumnProfile, depths: readonly number[]): { fit: number; of: number } {
  let [fit, of] = [0, 0];
  const deepest = Math.max(...depths);
  for (let r = 0; r < profile.rows; r++) {
    const depth = depths[r]!;
    if (depth === 0 || depth === deepest) continue;
    for (const column of profile.columns) {
      if (column === codes || column.kinds[r] !== CellKind.figure || column.counts[CellKind.text]! > 0) continue;
      let sum = 0;
      for (let k = r + 1; k < profile.rows && (depths[k] === 0 || depths[k]! > depth); k++)
        if (depths[k] === depth + 1 && column.kinds[k] === CellKind.figure) sum += column.values[k]!;
      of++;
      if (Math.abs(sum - column.values[r]!) <= 1e-6 * Math.max(1, Math.abs(sum))) fit++;
    }
  }
  return { fit, of };
}

/** Codes throughout, each above the last level with rows that go on it right below, on which all others stand. */
function isNested(profile: TableProfile, column: ColumnProfile): boolean {
  const depths = depthsOf(profile, column);
  const deepest = Math.max(...depths);
  // Sums below a group have no separate number.
  const numbered = depths.filter((depth, r) => depth > 0 || (profile.filled[r]! > 0 && !rowSaysTotal(profile, r)));
  if (deepest < 2 || depths.filter((depth) => depth > 0).length < numbered.length * 0.9) return false;
  let parents = 0;
  for (let r = 0; r < profile.rows; r++) {
    if (depths[r] === 0 || depths[r] === deepest) continue;
    const code = textAt(column, r).replace(/\.$/, '');
    const next = r + 1 < profile.rows ? textAt(column, r + 1) : '';
    // A row that nothing goes on has no rows below it to speak for.
    if (!next.startsWith(code) || !/^[.\-/]/.test(next.slice(code.length))) return false;
    parents++;
  }
  return parents >= 2;
}
