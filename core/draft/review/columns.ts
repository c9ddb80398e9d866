/** What columns of the finished table hold. */

import { nameKinds } from '../../glance/period-names.ts';
import { CellKind, type ColumnProfile, textAt } from '../../glance/table-profile.ts';
import { areSerialDays } from '../../values/civil.ts';
import { groupedBy } from '../../values/grouped-by.ts';
import type { Remark, Reviewer } from './remark.ts';

/** Share of a column that must read alike for the rest to stand out. */
const MOSTLY = 0.75;

const filledOf = (column: ColumnProfile, rows: number) => rows - column.counts[CellKind.blank]!;

export const readsAs: Reviewer = {
  code: 'reads-as',
  look: ({ profile }) =>
    profile.columns.flatMap((column): Remark[] => {
      const { type } = profile.table.fields[column.index]!.column;
      if (type !== 'text' && type !== 'received') return [];
      const filled = filledOf(column, profile.rows) - column.counts[CellKind.missing]!;
      return (['number', 'date'] as const).flatMap((as): Remark[] => {
        const share = column.counts[as === 'date' ? CellKind.date : CellKind.figure]! / Math.max(1, filled);
        // A date column without one pattern for all of its cells stays text.
        const isOpen = share >= MOSTLY && (share < 1 || as === 'date');
        return isOpen ? [{ code: 'reads-as', column: column.name, as, share }] : [];
      });
    }),
};

export const serialDays: Reviewer = {
  code: 'serial-days',
  look({ profile }) {
    const dates = profile.columns.flatMap((column) => {
      const own = profile.table.fields[column.index]!.column;
      return own.type === 'date' ? [{ name: column.name, days: own.values }] : [];
    });
    return profile.columns.flatMap((column): Remark[] => {
      const { type } = profile.table.fields[column.index]!.column;
      if (type !== 'number' && type !== 'whole') return [];
      const beside = dates.find(({ days }) => areSerialDays(column.values, days));
      return beside === undefined ? [] : [{ code: 'serial-days', column: column.name, beside: beside.name }];
    });
  },
};

export const twoNames: Reviewer = {
  code: 'two-names',
  look: ({ profile }) =>
    profile.columns.flatMap(({ name }): Remark[] =>
      /\S\s{3,}\S/.test(name) ? [{ code: 'two-names', column: name }] : [],
    ),
};

export const twinColumns: Reviewer = {
  code: 'twin-columns',
  look: ({ profile }) =>
    profile.columns.flatMap((column, k): Remark[] => {
      if (filledOf(column, profile.rows) < 3 || column.counts[CellKind.text] === 0) return [];
      const other = profile.columns.slice(k + 1).find((one) => {
        for (let r = 0; r < profile.rows; r++) if (textAt(column, r) !== textAt(one, r)) return false;
        return true;
      });
      return other === undefined ? [] : [{ code: 'twin-columns', column: column.name, other: other.name }];
    }),
};

/** Fewest names with a number behind one stem, and fewest that look like their values. */
const MIN_NUMBERED = 3;

const shapeOf = (text: string) => text.replace(/\p{L}+/gu, 'a').replace(/\d+/g, '9');

/** Names that are numbers of one stem over columns of one kind, or that are written as the values below them are. */
export const numberedNames: Reviewer = {
  code: 'numbered-names',
  look({ profile }) {
    const stems = groupedBy(profile.columns, ({ name }) => /^(.*\D)\d+$/.exec(name)?.[1] ?? '');
    stems.delete('');
    const numbered = [...stems.values()].find((own) => own.length >= MIN_NUMBERED);
    const alike = profile.columns.filter((column) => {
      if (!/\d/.test(column.name) || /\p{L}{3}/u.test(column.name)) return false;
      const values = Array.from({ length: Math.min(profile.rows, 200) }, (_, r) => textAt(column, r)).filter(
        (text) => text !== '',
      );
      const shape = shapeOf(column.name);
      return values.length > 1 && values.filter((text) => shapeOf(text) === shape).length >= values.length * MOSTLY;
    });
    const names = (numbered ?? (alike.length >= 2 ? alike : [])).map(({ name }) => name);
    return names.length === 0 ? [] : [{ code: 'numbered-names', names }];
  },
};

/** Periods among names that stay names; a few beside other measures may be meant so. */
export const valuesAsNames: Reviewer = {
  code: 'values-as-names',
  look({ profile }) {
    const names = profile.columns.filter((column) => column.counts[CellKind.figure]! > 0).map((column) => column.name);
    const kinds = nameKinds(names);
    const values = names.filter((name, k) => kinds[k] !== undefined || /^[\d.,\s-]+$/.test(name));
    return values.length >= 3 ? [{ code: 'values-as-names', names: values }] : [];
  },
};
