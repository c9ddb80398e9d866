import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../glance/table-profile.ts';
import type { Detector } from './finding.ts';

/** Rows of name and value, several to a record: the names become columns. */
export const attributeRows: Detector = {
  name: 'attribute-rows',
  find(input) {
    const { profile } = input;
    if (profile.columns.length < 3 || profile.columns.length > 6 || profile.rows < 4) return [];
    for (const names of profile.columns) {
      if (names.counts[CellKind.text]! < profile.rows) continue;
      const distinct = new Set<string>();
      for (let r = 0; r < profile.rows && distinct.size <= 40; r++) distinct.add(textAt(names, r));
      if (distinct.size < 2 || distinct.size > 40 || distinct.size > profile.rows / 2) continue;
      for (const values of profile.columns) {
        if (values === names || !mixes(profile, names, values, distinct)) continue;
        const rest = profile.columns.filter((column) => column !== names && column !== values);
        if (!once(profile, rest, names)) continue;
        return [
          {
            steps: [
              {
                kind: 'pivot',
                params: { names: [names.name], values: [{ column: values.name, by: 'only' }] },
                why: `${names.name} holds names (${[...distinct].slice(0, 3).join(', ')} …), and ${values.name} contains their values of different types, once per record`,
              },
            ],
            weight: 2.2,
            doubt: { code: 'name-value-rows' },
          },
        ];
      }
    }
    return [];
  },
};

/** Under the names the values are of different kinds, and under each of one. */
function mixes(
  profile: TableProfile,
  names: ColumnProfile,
  values: ColumnProfile,
  distinct: ReadonlySet<string>,
): boolean {
  const kinds = new Map<string, number[]>();
  for (let r = 0; r < profile.rows; r++) {
    const own = kinds.get(textAt(names, r)) ?? [0, 0, 0, 0, 0, 0];
    own[values.kinds[r]!]!++;
    kinds.set(textAt(names, r), own);
  }
  const leading = new Set<number>();
  let [pure, all] = [0, 0];
  for (const counts of kinds.values()) {
    const told = [counts[CellKind.figure]!, counts[CellKind.text]!, counts[CellKind.date]!];
    const most = Math.max(...told);
    if (most === 0) continue;
    leading.add(told.indexOf(most));
    pure += most;
    all += told[0]! + told[1]! + told[2]!;
  }
  return leading.size >= 2 && distinct.size >= 2 && pure >= all * 0.95;
}

function once(profile: TableProfile, keys: readonly ColumnProfile[], names: ColumnProfile): boolean {
  if (keys.length === 0) return false;
  const seen = new Set<string>();
  const records = new Set<string>();
  for (let r = 0; r < profile.rows; r++) {
    const key = keys.map((column) => column.codes[r]).join('/');
    records.add(key);
    const full = `${key}/${names.codes[r]}`;
    if (seen.has(full)) return false;
    seen.add(full);
  }
  return records.size >= 2 && records.size <= profile.rows * 0.6;
}
