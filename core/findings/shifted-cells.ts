import { CellKind } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** Rows whose cells slipped to the right, out of the last named column, with a gap where they slipped. */
export const shiftedCells: Detector = {
  name: 'slipped',
  find(input) {
    const { profile } = input;
    const named = profile.columns.filter((column) => !column.isUnnamed);
    const last = profile.columns.at(-1);
    if (last === undefined || named.length < 2) return [];
    const spare = profile.columns.filter((column) => !named.includes(column) && column.index > named.at(-1)!.index);
    if (spare.length === 0 || spare.length > 3) return [];
    const over: number[] = [];
    for (let r = 0; r < profile.rows; r++) if (spare.some((column) => column.kinds[r] !== CellKind.blank)) over.push(r);
    if (over.length === 0 || over.length > profile.rows * 0.6) return [];
    const gaps = (r: number) => named.filter((column) => column.kinds[r] === CellKind.blank).length;
    if (over.some((r) => gaps(r) < spare.filter((column) => column.kinds[r] !== CellKind.blank).length)) return [];
    const names = spare.map((column) => column.name);
    return [
      {
        steps: [
          {
            kind: 'close-gaps',
            params: {
              columns: { by: 'names', names: [...named, ...spare].map((column) => column.name) },
              direction: 'left',
              front: false,
              rules: names.map((name) => ({ test: 'filled', columns: { by: 'names', names: [name] } })),
            },
            why: `${counted(over.length, 'row')} extend past the last named column and contain a gap`,
          },
          { kind: 'drop-columns', params: { columns: { by: 'names', names } }, why: 'empty once the gaps are closed' },
        ],
        weight: 2,
        doubt: { code: 'shifted-cells' },
      },
    ];
  },
};
