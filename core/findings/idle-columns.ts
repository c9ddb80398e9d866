import { CellKind, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { few } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** Columns that say nothing about any row: blank throughout. */
export const blankColumns: Detector = {
  name: 'blank-columns',
  find({ profile }) {
    if (profile.rows < 2) return [];
    const blank = profile.columns.filter((column) => column.counts[CellKind.blank] === profile.rows);
    if (blank.length === 0 || blank.length === profile.columns.length) return [];
    return [
      {
        steps: [
          {
            kind: 'drop-columns',
            params: { columns: { by: 'blank' } },
            why: `${blank.length === 1 ? 'Column' : 'Columns'} ${few(blank.map((column) => column.name))} ${blank.length === 1 ? 'is' : 'are'} empty`,
          },
        ],
        weight: 0.7,
      },
    ];
  },
};

/** Columns without a name that are blank throughout, as merged titles and margins leave them. */
export const blankMargins: Detector = {
  name: 'blank-margins',
  find({ profile }) {
    const blank = profile.columns.filter(
      (column) => column.counts[CellKind.blank] === profile.rows && column.isUnnamed,
    );
    if (
      profile.rows === 0 ||
      blank.length === 0 ||
      blank.length === profile.columns.length ||
      isPositioned(profile.table)
    )
      return [];
    return [
      {
        steps: [
          {
            kind: 'drop-columns',
            params: { columns: { by: 'blank', unnamed: true } },
            why: `${few(blank.map((column) => column.name))} ${blank.length === 1 ? 'is empty and has' : 'are empty and have'} no name`,
          },
        ],
        weight: 0.4,
      },
    ];
  },
};

/** Columns that say the same about every row. */
export const constantColumns: Detector = {
  name: 'constant-columns',
  find({ profile }) {
    if (profile.rows < 5) return [];
    const same = profile.columns.filter((column) => {
      if (column.counts[CellKind.blank] !== 0) return false;
      const first = textAt(column, 0);
      for (let r = 1; r < profile.rows; r++) if (textAt(column, r) !== first) return false;
      return true;
    });
    if (same.length === 0 || same.length === profile.columns.length) return [];
    return [
      {
        steps: [
          {
            kind: 'drop-columns',
            params: { columns: { by: 'names', names: same.map((column) => column.name) } },
            why: `${few(same.map((column) => `${column.name} (${textAt(column, 0)})`))} ${same.length === 1 ? 'says' : 'say'} the same in every row`,
          },
        ],
        weight: 0.4,
      },
    ];
  },
};
