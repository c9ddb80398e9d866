import { isUnit } from '../glance/hint-words.ts';
import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../glance/table-profile.ts';
import { decimalsOf } from '../rows/sums.ts';
import { few } from '../values/counted.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';

/** Names of what is measured down a column, over figures written otherwise under each: they become columns. */
export const measureNames: Detector = {
  name: 'measure-names',
  find(input) {
    const body = bodyOf(input);
    const { profile } = body;
    const [values] = body.figures;
    if (values === undefined || body.figures.length !== 1 || profile.rows < 4) return [];
    for (const names of body.keys) {
      if (names.counts[CellKind.text]! < profile.rows) continue;
      const byName = new Map<string, number[]>();
      for (let r = 0; r < profile.rows; r++) {
        const name = textAt(names, r);
        const rows = byName.get(name);
        if (rows === undefined) byName.set(name, [r]);
        else rows.push(r);
        if (byName.size > 12) break;
      }
      if (byName.size < 2 || byName.size > 12) continue;
      const each = profile.rows / byName.size;
      if ([...byName.values()].some((rows) => rows.length !== each)) continue;
      // What only says more of the name, as its unit, does not tell records apart.
      const more = body.keys.filter(
        (column) => column !== names && saysUnits(column) && isDeterminedBy(column, byName),
      );
      if (!isEven(profile, names, [values, ...more], byName.size)) continue;
      const decimals = [...byName.values()].map((rows) => Math.max(...rows.map((r) => decimalsAt(values, r))));
      // Behind a named key, what has no name names the figures; in front it is the corner of a cross table.
      const behindKey = body.keys.some((column) => column.index < names.index && !column.isUnnamed);
      const called = CALLED.test(names.name) || (names.isUnnamed && behindKey);
      if (new Set(decimals).size < 2 && !called && more.length === 0) continue;
      const fields = profile.table.fields.map((field) => field.name);
      const gone = [names, values, ...more].map((column) => column.name);
      return [
        {
          steps: [
            {
              kind: 'pivot',
              params: {
                rows: { by: 'names', names: fields.filter((name) => !gone.includes(name)) },
                names: [names, ...more].map((column) => column.name),
                values: [{ column: values.name, by: 'only' }],
              },
              why: `${few([...byName.keys()])}: measures, not values of ${names.name}${more.length > 0 ? `; ${few(more.map((column) => column.name))} gives the unit of each` : ''}`,
            },
          ],
          weight: called ? 1.5 : 0.8,
          doubt: { code: 'classes-of-one-measure', column: names.name },
          gives: `one column for each of ${names.name}`,
        },
        { steps: [], weight: 0, gives: `${names.name} stays a column` },
      ];
    }
    return [];
  },
};

/** What a column of measures is called, in several languages. Common practice. */
const CALLED =
  /^(?:measures?|indicators?|variables?|metrics?|kennzahl(?:en)?|merkmale?|gr(?:öß|oess)en?|messgr(?:öß|oess)en?|indicateurs?|mesures?|grandeurs?|indicador(?:es)?|medidas?|magnitud(?:es)?)$/i;

function saysUnits({ texts }: ColumnProfile): boolean {
  return texts.length > 0 && texts.filter(isUnit).length >= texts.length * 0.6;
}

/** Under each name it says one thing, and not the same under all. */
function isDeterminedBy(column: ColumnProfile, byName: ReadonlyMap<string, readonly number[]>): boolean {
  const said = [...byName.values()].map((rows) => new Set(rows.map((r) => textAt(column, r))));
  return said.every((texts) => texts.size === 1) && new Set(said.map((texts) => [...texts][0])).size >= 2;
}

function decimalsAt(column: ColumnProfile, row: number): number {
  const value = column.values[row]!;
  return Number.isNaN(value) ? 0 : decimalsOf(value);
}

/** Every record has each name once, and the other columns tell records apart. */
function isEven(profile: TableProfile, names: ColumnProfile, others: readonly ColumnProfile[], count: number): boolean {
  const beside = profile.table.fields.filter((field) => field.nameOrigin === 'beside').map((field) => field.column);
  const keys = profile.columns.filter((column) => column !== names && !others.includes(column));
  const records = new Map<string, number>();
  for (let r = 0; r < profile.rows; r++) {
    const key = [
      ...keys.map((column) => column.codes[r]),
      ...beside.map((column) => (column.type === 'text' ? column.codes[r] : 0)),
    ].join('/');
    records.set(key, (records.get(key) ?? 0) + 1);
  }
  return records.size >= 2 && [...records.values()].every((times) => times === count);
}
