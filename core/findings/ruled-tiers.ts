import { CellKind, filledFrom, type TableProfile } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';
import { drawnLine } from './page-furniture.ts';

/** Rows at the top that may be tiers. */
const MAX_TOP = 20;
/** Names in the lower of two tiers. */
const MIN_NAMES = 3;

/** A drawn line between two tiers of a header, which would part them: names above it, more names below, figures behind. */
export const ruledTiers: Detector = {
  name: 'ruled-tiers',
  find({ profile }) {
    if (!isPositioned(profile.table) || !partsTiers(profile)) return [];
    const drawn = Array.from({ length: profile.rows }, (_, r) => r).filter((r) => isDrawn(profile, r));
    const columns = profile.columns.filter((column) => drawn.every((r) => column.kinds[r] === CellKind.rule));
    return columns.length === 0
      ? []
      : [
          {
            steps: [
              {
                kind: 'set-aside',
                params: { pile: 'blanks', rules: [drawnLine(columns[0]!.name)] },
                why: `${counted(drawn.length, 'drawn line')}, one of them between two tiers of the header`,
              },
            ],
            weight: 1,
          },
        ];
  },
};

const isDrawn = ({ filled, columns }: TableProfile, row: number) =>
  filled[row] === 0 && columns.some((column) => column.kinds[row] === CellKind.rule);

function partsTiers(profile: TableProfile): boolean {
  const namesIn = (row: number) => (profile.figures[row] === 0 ? profile.filled[row]! : 0);
  for (let r = 1; r + 1 < Math.min(profile.rows, MAX_TOP); r++) {
    const [upper, lower] = [namesIn(r - 1), namesIn(r + 1)];
    if (!isDrawn(profile, r) || upper < 2 || lower < MIN_NAMES || upper >= lower) continue;
    const below = filledFrom(profile, r + 2);
    if (below < profile.rows && profile.figures[below]! > 0) return true;
  }
  return false;
}
