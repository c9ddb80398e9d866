import { CellKind, type ColumnProfile } from '../glance/table-profile.ts';
import { few } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** Columns without names behind a blank one, filled in few rows: a legend or remarks beside the table. */
export const sideNotes: Detector = {
  name: 'side-notes',
  find(input) {
    const { profile } = input;
    const isBlank = (column: ColumnProfile) => column.counts[CellKind.blank] === profile.rows;
    const isNamed = (column: ColumnProfile) => !column.isUnnamed;
    let last = profile.columns.length - 1;
    while (last >= 0 && !isNamed(profile.columns[last]!)) last--;
    const behind = profile.columns.slice(last + 1);
    const gap = behind.findIndex(isBlank);
    const beside = behind.slice(gap + 1).filter((column) => !isBlank(column));
    if (last < 1 || gap < 0 || behind.slice(0, gap).some((column) => !isBlank(column)) || beside.length === 0)
      return [];
    if (beside.some((column) => profile.rows - column.counts[CellKind.blank]! > profile.rows * 0.6)) return [];
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
