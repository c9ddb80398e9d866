/** What columns of the finished table hold. */

import { nameKinds } from '../../glance/period-names.ts';
import { Seen, type SeenColumn, textAt } from '../../glance/sight.ts';
import type { Remark, Reviewer } from './remark.ts';

/** Share of a column that must read alike for the rest to stand out. */
const MOSTLY = 0.75;

const filledOf = (column: SeenColumn, rows: number) => rows - column.counts[Seen.blank]!;

export const readsAs: Reviewer = {
  code: 'reads-as',
  look: ({ sight }) =>
    sight.columns.flatMap((column): Remark[] => {
      const { type } = sight.table.fields[column.index]!.column;
      if (type !== 'text' && type !== 'received') return [];
      const filled = filledOf(column, sight.rows) - column.counts[Seen.missing]!;
      return (['number', 'date'] as const).flatMap((as): Remark[] => {
        const share = column.counts[as === 'date' ? Seen.date : Seen.figure]! / Math.max(1, filled);
        // A date column without one pattern for all of its cells stays text.
        const isOpen = share >= MOSTLY && (share < 1 || as === 'date');
        return isOpen ? [{ code: 'reads-as', column: column.name, as, share }] : [];
      });
    }),
};

/** Days from 1982 to 2064, as workbooks count them (ISO/IEC 29500, 18.17.4). */
const isSerial = (value: number) => Number.isInteger(value) && value >= 30_000 && value <= 60_000;

/** Numbers that leave hardly any out, as those of orders do. */
function isCounted({ values }: SeenColumn): boolean {
  const different = [...new Set(values)].filter((value) => !Number.isNaN(value)).sort((a, b) => a - b);
  return different.at(-1)! - different[0]! < 1.5 * different.length;
}

export const serialDays: Reviewer = {
  code: 'serial-days',
  look({ sight }) {
    const dates = sight.columns.find((column) => column.counts[Seen.date]! > sight.rows * 0.5);
    if (dates === undefined) return [];
    return sight.columns.flatMap((column): Remark[] => {
      const figures = column.counts[Seen.figure]!;
      if (figures === 0 || column === dates || isCounted(column)) return [];
      const serial = column.values.filter(isSerial);
      if (serial.length < figures * 0.9) return [];
      // Figures of that size by chance spread wider than the days of one report.
      const spread =
        serial.reduce((most, value) => Math.max(most, value), 0) -
        serial.reduce((least, value) => Math.min(least, value), 60_000);
      return spread < 4000 ? [{ code: 'serial-days', column: column.name, beside: dates.name }] : [];
    });
  },
};

export const twinColumns: Reviewer = {
  code: 'twin-columns',
  look: ({ sight }) =>
    sight.columns.flatMap((column, k): Remark[] => {
      if (filledOf(column, sight.rows) < 3 || column.counts[Seen.text] === 0) return [];
      const other = sight.columns.slice(k + 1).find((one) => {
        for (let r = 0; r < sight.rows; r++) if (textAt(column, r) !== textAt(one, r)) return false;
        return true;
      });
      return other === undefined ? [] : [{ code: 'twin-columns', column: column.name, other: other.name }];
    }),
};

/** Periods among names that stay names; a few beside other measures may be meant so. */
export const valuesAsNames: Reviewer = {
  code: 'values-as-names',
  look({ sight }) {
    const names = sight.columns.filter((column) => column.counts[Seen.figure]! > 0).map((column) => column.name);
    const kinds = nameKinds(names);
    const values = names.filter((name, k) => kinds[k] !== undefined || /^[\d.,\s-]+$/.test(name));
    return values.length >= 3 ? [{ code: 'values-as-names', names: values }] : [];
  },
};
