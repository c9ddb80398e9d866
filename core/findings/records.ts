import { CellKind, isFilled, type TableProfile } from '../glance/table-profile.ts';
import type { Rule } from '../rules/rules.ts';
import { isPositioned } from '../table/table.ts';
import { chooseRules } from './choose-rule.ts';
import type { Detector } from './finding.ts';

/** Records that stand over two or more rows, told by kinds of cell that come again every n rows. */
export const records: Detector = {
  name: 'records',
  draftOnly: true,
  find(input) {
    const { profile } = input;
    if (!isPositioned(profile.table) || profile.rows < 6) return [];
    const rows: number[] = [];
    for (let r = 0; r < profile.rows; r++) if (profile.filled[r]! > 0) rows.push(r);
    for (const height of [2, 3, 4]) {
      const found = recordsOf(profile, rows, height);
      if (found === undefined) continue;
      const rule = ruleFor(profile, found.first, rows);
      if (rule === undefined) continue;
      return [
        {
          steps: [
            {
              kind: 'fold-rows',
              params: { first: rule },
              why: `types of cells repeat every ${height} rows, ${found.first.length} times: each record spans ${height}`,
            },
          ],
          weight: 3.2,
          doubt: { code: 'records-by-kind' },
          gives: `one row for ${height} of the report`,
        },
        { steps: [], weight: 0, gives: 'rows unchanged' },
      ];
    }
    return [];
  },
};

interface Records {
  first: number[];
}

/** The longest stretch in which lines of a record follow each other in turn, its header with it. */
function recordsOf(profile: TableProfile, rows: readonly number[], height: number): Records | undefined {
  const used = profile.columns.filter((column) => column.counts[CellKind.blank]! < profile.rows);
  const signature = (r: number) => used.map((column) => kindOf(column.kinds[r]!));
  const signatures = rows.map(signature);
  const like = (a: readonly number[], b: readonly number[]) => {
    let [same, all] = [0, 0];
    for (let k = 0; k < a.length; k++) {
      if (a[k] === CellKind.blank && b[k] === CellKind.blank) continue;
      all++;
      if (a[k] === b[k]) same++;
    }
    return all === 0 ? 1 : same / all;
  };
  // Where a body begins from which each line is like the one a record further down and unlike the next.
  for (let start = 0; start + height * 3 <= rows.length && start < 24; start++) {
    let length = 0;
    while (
      start + length + height < rows.length &&
      like(signatures[start + length]!, signatures[start + length + height]!) >= 0.7
    )
      length++;
    const count = Math.floor((length + height) / height);
    if (count < 3 || count * height < (rows.length - start) * 0.7) continue;
    const unlike = Array.from({ length: height }, (_, k) =>
      like(signatures[start + k]!, signatures[start + ((k + 1) % height)]!),
    );
    if (unlike.some((share) => share > 0.6)) continue;
    // The second line must not be data of the same columns with its keys left out.
    const [a, b] = [signatures[start]!, signatures[start + 1]!];
    const both = a.flatMap((kind, k) => (kind !== CellKind.blank && b[k] !== CellKind.blank ? [k] : []));
    if (both.length > 0 && both.every((k) => a[k] === b[k])) continue;
    const first = Array.from({ length: count }, (_, n) => rows[start + n * height]!);
    // The header, over as many rows, folds with them.
    if (start >= height) first.unshift(rows[start - height]!);
    return { first };
  }
  return undefined;
}

const kindOf = (kind: number) =>
  kind === CellKind.missing ? CellKind.figure : kind === CellKind.rule ? CellKind.blank : kind;

/** Rows that begin a record: by a cell that only they fill, or by how they read. */
function ruleFor(profile: TableProfile, first: readonly number[], rows: readonly number[]): Rule | undefined {
  const own = new Set(first);
  const from = first[0]!;
  const others = rows.filter((r) => r > from && r <= first.at(-1)! && !own.has(r));
  const lead = profile.columns.find(
    (column) => first.every((r) => isFilled(column, r)) && others.every((r) => !isFilled(column, r)),
  );
  if (lead !== undefined) return { test: 'filled', columns: { by: 'names', names: [lead.name] } };
  const shaped = chooseRules(profile, first.slice(1), others, []);
  if (shaped?.length === 1 && first.length > 2) return shaped[0];
  const height = first[2]! - first[1]!;
  if (first.slice(1).every((r, k) => k === 0 || r - first[k]! === height))
    return { test: 'place', which: 'every', from: from + 1, count: height };
  return undefined;
}
