import { columnOfKinds, nameKinds } from '../glance/period-names.ts';
import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { uniqueName } from '../table/table.ts';
import { few } from '../values/counted.ts';
import type { Detector } from './finding.ts';
import { TIER_JOIN } from './header-steps.ts';

/** Letters of a flag. */
const MAX_FLAG = 3;
const MIN_PAIRS = 2;

/** A column without a name behind each of several periods, with letters that say something of the figures before them. */
export const flags: Detector = {
  name: 'flags',
  find({ profile }) {
    const kinds = nameKinds(profile.columns.map((column) => column.name));
    const pairs = profile.columns.flatMap((value, k) => {
      const flag = profile.columns[k + 1];
      const isPair = kinds[k] !== undefined && value.counts[CellKind.figure]! > 0 && flag !== undefined;
      return isPair && isFlag(flag, profile.rows) ? [{ value, flag, kind: kinds[k] }] : [];
    });
    const periods = kinds.filter((kind) => kind !== undefined).length;
    if (pairs.length < MIN_PAIRS || pairs.length < periods) return [];
    const flagged = pairs.flatMap(({ value, flag }) => [
      { from: value.name, to: `${value.name}${TIER_JOIN}Value` },
      { from: flag.name, to: `${value.name}${TIER_JOIN}Flag` },
    ]);
    const gone = new Set(flagged.map(({ from }) => from));
    const others = new Set(profile.table.fields.map(({ name }) => name).filter((name) => !gone.has(name)));
    const down = uniqueName(columnOfKinds(pairs.map(({ kind }) => kind)), others);
    return [
      {
        steps: [
          {
            kind: 'rename',
            params: { names: flagged },
            why: `an unnamed column after each of ${few(pairs.map(({ value }) => value.name))}, with letters in it`,
          },
          {
            kind: 'unpivot',
            params: {
              columns: { by: 'contains', text: TIER_JOIN },
              split: TIER_JOIN,
              template: null,
              pattern: null,
              parts: [{ as: 'column', name: down }, { as: 'each' }],
              value: uniqueName('Value', others),
              blanks: 'drop',
            },
            why: `${few(pairs.map(({ value }) => value.name))} go down, each with its flag`,
          },
        ],
        weight: 2.8,
        doubt: { code: 'letters-beside-figures' },
        gives: `a value and a flag for each ${down.toLowerCase()}`,
      },
      { steps: [], weight: 0, gives: 'columns unchanged' },
    ];
  },
};

function isFlag(column: ColumnProfile, rows: number): boolean {
  if (!column.isUnnamed || column.counts[CellKind.figure]! > 0) return false;
  for (let r = 0; r < rows; r++) if (textAt(column, r).length > MAX_FLAG) return false;
  return true;
}
