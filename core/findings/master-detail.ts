import { CellKind, type ColumnProfile, isFilled, type TableProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';
import { headerRule } from './header-steps.ts';

/** Rows at the top that may hold the two headers. */
const MAX_TOP = 30;
/** Details of a record, on average. */
const MIN_DETAILS = 1.2;

/**
 * Records with their details below them: two headers one under the other, the first over columns of which the second
 * leaves the first one blank, and rows below that fill either the one or the other.
 */
export const masterDetail: Detector = {
  name: 'master-detail',
  find({ profile, within }) {
    if (!isPositioned(profile.table) || within !== undefined) return [];
    for (let r = 0; r + 3 < Math.min(profile.rows, MAX_TOP); r++) {
      const lead = leadOf(profile, r);
      if (lead === undefined) continue;
      const masters = filledAt(profile, r);
      const names = masters.map((column) => textAt(column, r));
      const count = bodyRows(profile, r + 2).filter((row) => isFilled(lead, row)).length;
      const at = headerRule(profile, r + 1, false);
      return [
        {
          steps: [
            {
              kind: 'carry',
              params: {
                from: lead.name,
                rule: { test: 'filled', columns: { by: 'names', names: [lead.name] } },
                into: names[0]!,
                also: masters.slice(1).map((column, k) => ({ from: column.name, into: names[k + 1]! })),
              },
              why: `${counted(count, 'row')} under ${names.join(', ')}, each with its own rows below`,
            },
            {
              kind: 'header-from-rows',
              params: { rows: 1, at, above: true, repeats: true },
              why: 'the second header names the rows below',
            },
          ],
          weight: 3.6,
          doubt: { code: 'details-by-blank' },
          gives: `${names.join(', ')} on each of the rows below`,
        },
      ];
    }
    return [];
  },
};

const filledAt = (profile: TableProfile, r: number) => profile.columns.filter((column) => isFilled(column, r));

const bodyRows = (profile: TableProfile, from: number) =>
  Array.from({ length: Math.max(0, profile.rows - from) }, (_, k) => from + k).filter((r) => profile.filled[r]! > 0);

/** The column that tells records from details, where two headers stand at this row. */
function leadOf(profile: TableProfile, r: number): ColumnProfile | undefined {
  const [masters, details] = [filledAt(profile, r), filledAt(profile, r + 1)];
  const [lead] = masters;
  const isNames = (columns: readonly ColumnProfile[], row: number) =>
    columns.length >= 2 && columns.every((column) => column.kinds[row] === CellKind.text);
  if (lead === undefined || details.includes(lead) || details[0]?.index !== lead.index + 1) return undefined;
  if (!isNames(masters, r) || !isNames(details, r + 1)) return undefined;
  const rows = bodyRows(profile, r + 2);
  const [heads, lines] = [rows.filter((row) => isFilled(lead, row)), rows.filter((row) => !isFilled(lead, row))];
  const fits = (own: readonly number[], columns: readonly ColumnProfile[]) =>
    own.every((row) => filledAt(profile, row).every((column) => columns.includes(column)));
  // One line below each is a record of two rows.
  const isBoth = heads.length >= 2 && lines.length >= heads.length * MIN_DETAILS && rows[0] === heads[0];
  // Each record fills most of what its header names, and so does each detail.
  const isFull = (own: readonly number[], columns: readonly ColumnProfile[]) =>
    own.filter((row) => profile.filled[row]! >= columns.length * 0.6).length >= own.length * 0.8;
  return isBoth && fits(heads, masters) && fits(lines, details) && isFull(heads, masters) && isFull(lines, details)
    ? lead
    : undefined;
}
