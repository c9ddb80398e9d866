import { Seen, type SeenColumn, type Sight, textAt } from '../glance/sight.ts';
import { decimalsOf } from '../rows/sums.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';

/** Names of what is measured down a column, over figures written otherwise under each: they become columns. */
export const measureNames: Detector = {
  name: 'measure-names',
  find(hand) {
    const body = bodyOf(hand);
    const { sight } = body;
    const [values] = body.figures;
    if (values === undefined || body.figures.length !== 1 || sight.rows < 4) return [];
    for (const names of body.keys) {
      if (names.counts[Seen.text]! < sight.rows) continue;
      const byName = new Map<string, number[]>();
      for (let r = 0; r < sight.rows; r++) {
        const name = textAt(names, r);
        byName.set(name, [...(byName.get(name) ?? []), r]);
        if (byName.size > 12) break;
      }
      if (byName.size < 2 || byName.size > 12 || !isEven(sight, names, values, byName.size)) continue;
      const decimals = [...byName.values()].map((rows) => Math.max(...rows.map((r) => decimalsAt(values, r))));
      if (new Set(decimals).size < 2) continue;
      return [
        {
          steps: [
            {
              kind: 'pivot',
              params: { names: [names.name], values: [{ column: values.name, by: 'only' }] },
              why: `${[...byName.keys()].slice(0, 3).join(', ')}${byName.size > 3 ? ' …' : ''} are written with other decimals each: what is measured, and no values of ${names.name}`,
            },
          ],
          weight: 0.8,
          doubt: 'measures are told from classes by their decimals alone',
          gives: `one column for each of ${names.name}`,
        },
        { steps: [], weight: 0, gives: `${names.name} stays a column` },
      ];
    }
    return [];
  },
};

function decimalsAt(column: SeenColumn, row: number): number {
  const value = column.values[row]!;
  return Number.isNaN(value) ? 0 : decimalsOf(value);
}

/** Every record has each name once, and the other columns tell records apart. */
function isEven(sight: Sight, names: SeenColumn, values: SeenColumn, count: number): boolean {
  const beside = sight.table.fields.filter((field) => field.standing === 'beside').map((field) => field.column);
  const keys = sight.columns.filter((column) => column !== names && column !== values);
  const records = new Map<string, number>();
  for (let r = 0; r < sight.rows; r++) {
    const key = [
      ...keys.map((column) => column.codes[r]),
      ...beside.map((column) => (column.type === 'text' ? column.codes[r] : 0)),
    ].join('/');
    records.set(key, (records.get(key) ?? 0) + 1);
  }
  return records.size >= 2 && [...records.values()].every((times) => times === count);
}
