import { CellKind, type ColumnProfile, isFilled } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import { bodyOf } from './body.ts';
import { chooseRules } from './choose-rule.ts';
import type { Detector } from './finding.ts';

/** Rows that must go on from the row before for a column to be a balance, and the share of them. */
const MIN_STEPS = 4;
const MIN_SHARE = 0.8;

/** Columns of figures of an account at most. */
const MAX_FIGURES = 6;

/** A column that goes on by what moved in each row, as on an account: rows that only say the balance once more. */
export const runningBalance: Detector = {
  name: 'running-balance',
  find(input) {
    const body = bodyOf(input);
    const { profile } = body;
    const rows = body.rowsOf('data');
    if (body.figures.length > MAX_FIGURES) return [];
    for (const balance of body.figures) {
      const others = body.figures.filter((column) => column !== balance);
      for (const moved of movements(others)) {
        const again = rowsAgain(balance, moved, rows);
        if (again === undefined) continue;
        const gone = new Set(again);
        const kept = rows.filter((r) => !gone.has(r));
        const rules = chooseRules(profile, again, kept);
        if (rules === undefined) continue;
        return [
          {
            steps: [
              {
                kind: 'set-aside',
                params: { pile: 'balances', mark: 'repeat', rules },
                why: `${counted(again.length, 'row')} without a movement that repeat ${balance.name}`,
              },
            ],
            weight: 2,
          },
        ];
      }
    }
    return [];
  },
};

/** What a row adds to a balance. */
interface Movement {
  columns: readonly ColumnProfile[];
  of(row: number): number;
}

/** One column of signed figures, or one that adds and one that takes away. */
function movements(columns: readonly ColumnProfile[]): Movement[] {
  const at = (column: ColumnProfile, row: number) => (Number.isNaN(column.values[row]!) ? 0 : column.values[row]!);
  return columns.flatMap((column): Movement[] => [
    { columns: [column], of: (row) => at(column, row) },
    { columns: [column], of: (row) => -at(column, row) },
    ...columns
      .filter((other) => other !== column)
      .map((other) => ({ columns: [column, other], of: (row: number) => at(column, row) - at(other, row) })),
  ]);
}

/** Rows without a movement whose balance is that of a row beside them; undefined where the column is no balance. */
function rowsAgain(balance: ColumnProfile, moved: Movement, rows: readonly number[]): number[] | undefined {
  const value = (row: number | undefined) => (row === undefined ? Number.NaN : balance.values[row]!);
  const moves = (row: number) => moved.columns.some((column) => column.kinds[row] === CellKind.figure);
  const isNear = (a: number, b: number) => Math.abs(a - b) <= 1e-6 + 1e-9 * Math.abs(b);
  let [steps, goOn] = [0, 0];
  const idle: number[] = [];
  for (const [k, row] of rows.entries()) {
    if (!isFilled(balance, row)) continue;
    if (!moves(row)) idle.push(k);
    else if (k > 0 && moved.of(row) !== 0) {
      steps++;
      if (isNear(value(rows[k - 1]) + moved.of(row), value(row))) goOn++;
    }
  }
  if (steps < MIN_STEPS || goOn < steps * MIN_SHARE || idle.length === 0) return undefined;
  const isAgain = (k: number) => {
    const [before, own, next] = [value(rows[k - 1]), value(rows[k]), rows[k + 1]];
    return isNear(before, own) || (next !== undefined && moves(next) && isNear(own + moved.of(next), value(next)));
  };
  return idle.every(isAgain) ? idle.map((k) => rows[k]!) : undefined;
}
