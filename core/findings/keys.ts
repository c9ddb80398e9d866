import { nameKinds } from '../glance/period-names.ts';
import { CellKind, type ColumnProfile, distinctTexts, isYear, type TableProfile } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';
import { TIER_JOIN } from './header-steps.ts';

/** Keys that stand only on the first row of their group. */
export const keys: Detector = {
  name: 'keys',
  find(input) {
    const body = bodyOf(input);
    const { profile } = body;
    // Nested text and logs say every field of an item on its own.
    if (profile.rows < 3 || !isPositioned(input.raw)) return [];
    const sparse: ColumnProfile[] = [];
    for (const column of profile.columns) {
      if (body.figures.includes(column) && !isCalendarPart(column, sparse.at(-1))) continue;
      // Under a tier that stands over figures too a blank is a value that is missing.
      if (isUnderSameTier(column, body.figures)) break;
      const blank = column.counts[CellKind.blank]!;
      const filled = profile.rows - blank;
      // Keys lead: behind words that every row fills no key is left out, but behind numbers that count the rows.
      if (blank === 0) {
        if (sparse.length > 0 || column.counts[CellKind.text]! > 0) break;
        continue;
      }
      if (filled === 0) continue;
      if (!startsFilled(column, body.starts, profile)) break;
      if (!isSparseKey(column, sparse, profile)) break;
      sparse.push(column);
    }
    if (sparse.length === 0) return [];
    const gaps = sparse.reduce((sum, column) => sum + column.counts[CellKind.blank]!, 0);
    return [
      {
        steps: [
          {
            kind: 'fill',
            params: {
              columns: { by: 'names', names: sparse.map((column) => column.name) },
              direction: 'down',
              ...(input.within === undefined ? {} : { within: input.within }),
            },
            why: `${sparse.map((column) => column.name).join(', ')}: filled only on the first row of each group, with ${counted(gaps, 'blank')} below`,
          },
        ],
        weight: 1,
        ...(sparse.some((column) => profile.rows - column.counts[CellKind.blank]! < 3)
          ? { doubt: { code: 'few-groups' as const } }
          : {}),
      },
    ];
  },
};

function isUnderSameTier({ name }: ColumnProfile, figures: readonly ColumnProfile[]): boolean {
  const at = name.indexOf(TIER_JOIN);
  return at > 0 && figures.some((column) => column.name.startsWith(name.slice(0, at + TIER_JOIN.length)));
}

/** Different texts of a column of months that are looked at. */
const MAX_MONTHS = 24;

/** A year in front, or the number of a month or day behind it: a date in three columns. */
function isCalendarPart(column: ColumnProfile, outer: ColumnProfile | undefined): boolean {
  const values = column.values.filter((value) => !Number.isNaN(value));
  if (outer === undefined) return column.index === 0 && values.length > 0 && values.every(isYear);
  return isOfCalendar(outer) && values.every((value) => Number.isInteger(value) && value >= 1 && value <= 31);
}

function isOfCalendar(column: ColumnProfile): boolean {
  const texts = distinctTexts(column, MAX_MONTHS);
  const months = texts.length > 0 && nameKinds(texts).every((kind) => kind === 'month');
  const values = column.values.filter((value) => !Number.isNaN(value));
  return months || (values.length > 0 && values.every((value) => isYear(value) || (value >= 1 && value <= 12)));
}

function startsFilled(column: ColumnProfile, starts: readonly number[], profile: TableProfile): boolean {
  return starts.every((r) => r >= profile.rows || column.kinds[r] !== CellKind.blank);
}

/** Blank more often than by the way, and what it says comes once in each stretch. */
function isSparseKey(column: ColumnProfile, outer: readonly ColumnProfile[], profile: TableProfile): boolean {
  const filled: number[] = [];
  for (let r = 0; r < profile.rows; r++) if (column.kinds[r] !== CellKind.blank) filled.push(r);
  if (column.counts[CellKind.blank]! < Math.max(1, filled.length * 0.15)) return false;
  // A list that ends above others beside it leaves out no key.
  if (filled.length > 2 && filled.at(-1) === filled.length - 1) return false;
  // The same text on rows next to each other is no key that is left out below.
  let again = 0;
  for (let k = 1; k < filled.length; k++)
    if (filled[k] === filled[k - 1]! + 1 && column.codes[filled[k]!] === column.codes[filled[k - 1]!]) again++;
  if (again > Math.max(1, filled.length * 0.1)) return false;
  const above = outer.at(-1);
  if (above === undefined) return true;
  // Where the key outside of it begins again, it does so too.
  for (let r = 0; r < profile.rows; r++)
    if (above.kinds[r] !== CellKind.blank && column.kinds[r] === CellKind.blank) return false;
  return true;
}
