import { Seen, type SeenColumn } from '../glance/sight.ts';
import { few } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** Columns without names behind a blank one, filled in few rows: a legend or remarks beside the table. */
export const sideNotes: Detector = {
  name: 'side-notes',
  find(hand) {
    const { sight } = hand;
    const isBlank = (column: SeenColumn) => column.counts[Seen.blank] === sight.rows;
    const isNamed = (column: SeenColumn) => !column.isUnnamed;
    let last = sight.columns.length - 1;
    while (last >= 0 && !isNamed(sight.columns[last]!)) last--;
    const behind = sight.columns.slice(last + 1);
    const gap = behind.findIndex(isBlank);
    const beside = behind.slice(gap + 1).filter((column) => !isBlank(column));
    if (last < 1 || gap < 0 || behind.slice(0, gap).some((column) => !isBlank(column)) || beside.length === 0)
      return [];
    if (beside.some((column) => sight.rows - column.counts[Seen.blank]! > sight.rows * 0.6)) return [];
    const names = beside.map((column) => column.name);
    return [
      {
        steps: [
          {
            kind: 'set-aside-columns',
            params: { columns: { by: 'names', names }, pile: 'beside' },
            why: `${few(names)}: unnamed, after an empty column, and mostly empty`,
          },
        ],
        weight: 1,
        doubt: { code: 'beside-table' },
      },
    ];
  },
};
