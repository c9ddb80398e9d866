import { CellKind, textAt } from '../glance/table-profile.ts';
import { type Field, isPositioned } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';
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

const NUMBER = /^0*\d{1,4}$/;

/** The number of each sheet, where a line about the sheet names it: it says nothing more. */
export const numberedSheets: Detector = {
  name: 'numbered-sheets',
  draftOnly: true,
  find({ profile: { table }, within, done }) {
    const sheets = table.fields.find(({ name }) => name === within);
    if (sheets === undefined || !done.includes('lines-to-columns')) return [];
    const { codes, texts } = textView(sheets.column);
    if (codes.includes(-1) || ![...new Set(codes)].every((code) => NUMBER.test(texts[code]!))) return [];
    const named = table.fields.find(
      (field) => field !== sheets && field.nameOrigin === 'beside' && isOneToOne(sheets, field),
    );
    if (named === undefined) return [];
    return [
      {
        steps: [
          {
            kind: 'drop-columns',
            params: { columns: { by: 'names', names: [sheets.name] } },
            why: `${sheets.name} only numbers the sheets, which ${named.name} names`,
          },
        ],
        weight: 0.5,
      },
    ];
  },
};

/** Each text of one column stands beside one text of the other, both ways. */
function isOneToOne(a: Field, b: Field): boolean {
  const [left, right] = [textView(a.column), textView(b.column)];
  const [to, from] = [new Map<number, number>(), new Map<number, number>()];
  for (let r = 0; r < left.codes.length; r++) {
    const [l, k] = [left.codes[r]!, right.codes[r]!];
    if (k < 0 || (to.get(l) ?? k) !== k || (from.get(k) ?? l) !== l) return false;
    to.set(l, k);
    from.set(k, l);
  }
  return to.size > 1;
}

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
