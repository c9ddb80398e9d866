import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import type { Detector } from './finding.ts';

/** What rows of other kinds than figures below the names weigh: a header over a cross table has none. */
const OTHER_KINDS = 4;
const SUMMED = 3;

/** A record in each column: the names stand in the first column, and kinds of cell agree along rows, not down columns. */
export const transposed: Detector = {
  name: 'transposed',
  beforeHeader: true,
  find(input) {
    const { profile } = input;
    if (!isPositioned(profile.table) || input.within !== undefined) return [];
    const first = profile.columns.findIndex((column) => column.counts[CellKind.blank]! < profile.rows);
    if (first < 0) return [];
    const lead = profile.columns[first]!;
    const all = profile.columns.slice(first + 1).filter((column) => column.counts[CellKind.blank]! < profile.rows);
    const rows: number[] = [];
    for (let r = 0; r < profile.rows; r++) if (profile.filled[r]! >= Math.max(3, all.length * 0.5)) rows.push(r);
    if (rows.length < 3 || rows.length > 80 || all.length < 3) return [];
    // The corner may be blank.
    if (rows.slice(1).some((r) => lead.kinds[r] !== CellKind.text)) return [];
    const units = unitColumn(all, rows);
    const sums = sumColumn(all, rows);
    const records = all.filter((column) => column !== units && column !== sums);
    if (records.length < 3) return [];
    if (rows.some((r, k) => k > 0 && rows[k - 1]! < r - 2)) return [];
    // Names are said once.
    if (new Set(rows.map((r) => textAt(lead, r))).size < rows.length * 0.9) return [];
    const along = purity(rows.map((r) => records.map((column) => column.kinds[r]!)));
    const down = purity(records.map((column) => rows.map((r) => column.kinds[r]!)));
    const kinds = new Set(rows.map((r) => leading(records.map((column) => column.kinds[r]!))));
    if (along < 0.97 || down > 0.8 || kinds.size < 2) return [];
    // A header over figures reads so too, where all rows but the first are figures.
    const figures = rows.filter((r) => leading(records.map((column) => column.kinds[r]!)) === CellKind.figure).length;
    if (figures >= rows.length - 1) return [];
    // So does one of two tiers, of which the upper leaves cells blank.
    const isTier = records.some((column) => column.kinds[rows[0]!] === CellKind.blank);
    if (isTier && figures >= rows.length - 2) return [];
    const name = lead.name;
    const lone = profile.rows > rows.length;
    const figured = rows.filter((r) => sums?.kinds[r] === CellKind.figure).length;
    return [
      {
        steps: [
          ...[
            { column: units, pile: 'units', why: 'the unit of each row of figures' },
            { column: sums, pile: 'totals', why: 'the sum of the columns before it, row by row' },
          ].flatMap(({ column, pile, why }) =>
            column === undefined
              ? []
              : [{ kind: 'set-aside-columns', params: { pile, columns: { by: 'names', names: [column.name] } }, why }],
          ),
          ...(lone
            ? [
                {
                  kind: 'keep-rows',
                  params: {
                    rules: [{ test: 'filled', columns: { by: 'names', names: [records[0]!.name, records[1]!.name] } }],
                  },
                  why: `${rows.length} rows span ${records.length + 1} columns`,
                },
              ]
            : []),
          {
            kind: 'transpose',
            params: { names: name, into: 'Column' },
            why: `cells agree in kind along ${rows.length} rows (${Math.round(along * 100)}%) and not down columns (${Math.round(down * 100)}%): each column is a record`,
          },
          {
            kind: 'drop-columns',
            params: { columns: { by: 'names', names: ['Column'] } },
            why: 'only the column letters',
          },
        ],
        // Sums speak for any other reading of the rows as well.
        weight: OTHER_KINDS + (figured >= 2 ? SUMMED : 0),
        doubt: { code: 'columns-as-records' },
        ...(figured === 0 ? {} : { explained: { fit: figured, of: figured } }),
        gives: 'a row for each column of the report',
      },
    ];
  },
};

/** A column behind the names that says the unit of the figures beside it, and nothing beside words. */
function unitColumn(columns: readonly ColumnProfile[], rows: readonly number[]): ColumnProfile | undefined {
  const [column, next] = columns;
  if (column === undefined || next === undefined) return undefined;
  const filled = rows.slice(1).filter((r) => column.kinds[r] !== CellKind.blank);
  const figures = rows.slice(1).filter((r) => next.kinds[r] === CellKind.figure);
  const isUnits = filled.length > 0 && filled.every((r) => figures.includes(r) && column.kinds[r] === CellKind.text);
  return isUnits && filled.length < rows.length - 1 ? column : undefined;
}

/** The last column, where it is the sum of those before it in each row of figures and blank in the others. */
function sumColumn(columns: readonly ColumnProfile[], rows: readonly number[]): ColumnProfile | undefined {
  const last = columns.at(-1);
  if (last === undefined) return undefined;
  const filled = rows.slice(1).filter((r) => last.kinds[r] !== CellKind.blank);
  const isSum = (r: number) => {
    const sum = columns
      .slice(0, -1)
      .reduce((total, { values }) => total + (Number.isNaN(values[r]!) ? 0 : values[r]!), 0);
    return last.kinds[r] === CellKind.figure && Math.abs(sum - last.values[r]!) <= 1e-6 * Math.max(1, Math.abs(sum));
  };
  return filled.length > 0 && filled.length < rows.length - 1 && filled.every(isSum) ? last : undefined;
}

function leading(kinds: readonly number[]): number {
  const counts = [0, 0, 0, 0, 0, 0];
  for (const kind of kinds) if (kind !== CellKind.blank && kind !== CellKind.missing) counts[kind]!++;
  return counts.indexOf(Math.max(...counts));
}

/** Share of the cells that are of the kind that leads in their line. */
function purity(lines: readonly (readonly number[])[]): number {
  let [pure, all] = [0, 0];
  for (const kinds of lines) {
    const lead = leading(kinds);
    for (const kind of kinds) {
      if (kind === CellKind.blank || kind === CellKind.missing) continue;
      all++;
      if (kind === lead) pure++;
    }
  }
  return all === 0 ? 0 : pure / all;
}
