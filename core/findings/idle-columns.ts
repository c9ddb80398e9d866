import { Seen, textAt } from '../glance/sight.ts';
import { isPositioned } from '../table/table.ts';
import { few } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** Columns that say nothing about any row: blank throughout. */
export const blankColumns: Detector = {
  name: 'blank-columns',
  find({ sight }) {
    if (sight.rows < 2) return [];
    const blank = sight.columns.filter((column) => column.counts[Seen.blank] === sight.rows);
    if (blank.length === 0 || blank.length === sight.columns.length) return [];
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
  find({ sight }) {
    const blank = sight.columns.filter((column) => column.counts[Seen.blank] === sight.rows && column.isUnnamed);
    if (sight.rows === 0 || blank.length === 0 || blank.length === sight.columns.length || isPositioned(sight.table))
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
  find({ sight }) {
    if (sight.rows < 5) return [];
    const same = sight.columns.filter((column) => {
      if (column.counts[Seen.blank] !== 0) return false;
      const first = textAt(column, 0);
      for (let r = 1; r < sight.rows; r++) if (textAt(column, r) !== first) return false;
      return true;
    });
    if (same.length === 0 || same.length === sight.columns.length) return [];
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
