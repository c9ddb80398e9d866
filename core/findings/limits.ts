import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { bodyOf } from './body.ts';
import { chooseRules, rowSaysTotal } from './choose-rule.ts';
import type { Detector } from './finding.ts';

/** Rows that must stay below the limits. */
const MIN_ROWS = 8;

/** A row right below the names that says the most that each column can have, such as the marks of a test. */
export const limits: Detector = {
  name: 'limits',
  find(input) {
    const body = bodyOf(input);
    const { profile, figures } = body;
    const first = body.roles.findIndex((role) => role !== 'blank' && role !== 'rule');
    const others = body.rowsOf('data').filter((r) => r !== first);
    const rows = others.filter((r) => r > first && !rowSaysTotal(profile, r));
    if (!isPositioned(input.raw) || first < 0 || rows.length < MIN_ROWS || rowSaysTotal(profile, first)) return [];
    const isLead = ({ kinds }: ColumnProfile) =>
      kinds[first] === CellKind.blank && rows.filter((r) => kinds[r] !== CellKind.blank).length >= rows.length - 1;
    const label = body.keys.map((column) => textAt(column, first)).find((text) => text !== '');
    const limited = figures.filter(({ kinds }) => kinds[first] === CellKind.figure);
    if (
      !body.keys.some(isLead) ||
      label === undefined ||
      limited.length < 2 ||
      !limited.every((one) => isLimit(one, first, rows))
    )
      return [];
    const rules = chooseRules(profile, [first], others);
    return rules === undefined
      ? []
      : [
          {
            steps: [
              {
                kind: 'set-aside',
                params: { pile: 'limits', mark: 'note', rules },
                why: `'${label}' is followed by the most that each column can have`,
              },
            ],
            weight: 1,
          },
        ];
  },
};

/** No figure of the rows is larger, and it is not their sum. */
function isLimit({ kinds, values }: ColumnProfile, row: number, rows: readonly number[]): boolean {
  const own = rows.filter((r) => kinds[r] === CellKind.figure).map((r) => values[r]!);
  const limit = values[row]!;
  return own.every((value) => value <= limit) && limit < own.reduce((sum, value) => sum + value, 0) / 2;
}
