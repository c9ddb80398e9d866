import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted, few } from '../values/counted.ts';
import { groupedBy } from '../values/grouped-by.ts';
import type { Detector, Proposal } from './finding.ts';

/** Kinds of record in one file at most, and letters of the code in front that tells them apart. */
const MAX_KINDS = 6;
const MAX_CODE = 4;

/** Records of several kinds under a leading code: heads whose cells hold for the details below, details, and trailers. */
export const recordCodes: Detector = {
  name: 'record-codes',
  find({ profile }) {
    if (!isPositioned(profile.table) || profile.rows < 6) return [];
    const column = profile.columns.find((one) => one.counts[CellKind.blank]! < profile.rows);
    const kinds = column === undefined ? undefined : kindsOf(profile, column);
    if (column === undefined || kinds === undefined) return [];
    const { detail, heads, trailers } = kinds;
    const is = (code: string) => ({ test: 'equals', column: column.name, text: code, exact: true });
    const steps: Proposal[] = [
      ...heads.map((code): Proposal => {
        const [first, ...others] = filledColumns(profile, kinds.rows.get(code)!).filter((one) => one !== column);
        const named = (one: ColumnProfile) => `${code} ${one.name}`;
        return {
          kind: 'carry',
          params: {
            from: first!.name,
            rule: is(code),
            into: named(first!),
            also: others.map((one) => ({ from: one.name, into: named(one) })),
          },
          why: `${counted(kinds.rows.get(code)!.length, 'row')} that begin with ${code} come before rows with ${detail}`,
        };
      }),
      ...(trailers.length === 0
        ? []
        : [
            {
              kind: 'set-aside',
              params: { pile: 'trailers', rules: trailers.map(is) },
              why: `rows with ${few(trailers)} in front end a block`,
            },
          ]),
      {
        kind: 'drop-columns',
        params: { columns: { by: 'names', names: [column.name] } },
        why: `each row that is left has ${detail} there`,
      },
    ];
    return [
      {
        steps,
        weight: 3.4,
        doubt: { code: 'records-by-code' },
        gives: `${detail} rows with what ${few(heads)} says`,
      },
    ];
  },
};

interface Kinds {
  /** Rows by code. */
  rows: ReadonlyMap<string, number[]>;
  detail: string;
  /** Codes whose rows stand before details, and behind them. */
  heads: string[];
  trailers: string[];
}

function kindsOf(profile: TableProfile, column: ColumnProfile): Kinds | undefined {
  const filled = Array.from({ length: profile.rows }, (_, r) => r).filter((r) => profile.filled[r]! > 0);
  const codes = filled.map((r) => textAt(column, r));
  if (codes.some((code) => code === '' || code.length > MAX_CODE)) return undefined;
  const rows = groupedBy(filled, (r) => textAt(column, r));
  if (rows.size < 2 || rows.size > MAX_KINDS) return undefined;
  // Rows of one code fill the same cells, and those of no other code do.
  const shapes = [...rows].map(([code, own]) => {
    const shape = filledColumns(profile, own);
    const isEven = own.every((r) => profile.filled[r]! >= shape.length - 1 && profile.filled[r]! <= shape.length + 1);
    return isEven ? { code, width: shape.length, first: own[0]! } : undefined;
  });
  if (shapes.some((shape) => shape === undefined)) return undefined;
  if (new Set(shapes.map((shape) => shape!.width)).size < shapes.length) return undefined;
  const detail = [...rows].sort((a, b) => b[1].length - a[1].length)[0]![0];
  const others = [...rows.keys()].filter((code) => code !== detail);
  const next = (code: string) => codes.flatMap((one, k) => (one === code ? [codes[k + 1]] : []));
  // A head is followed by details or by another head in front of them; a trailer never is.
  const heads = others.filter(
    (code) => next(code).every((one) => one !== undefined && one !== code) && next(code).includes(detail),
  );
  const trailers = others.filter((code) => !next(code).includes(detail));
  const isWhole = heads.length > 0 && heads.length + trailers.length === others.length && codes[0] !== detail;
  return isWhole ? { rows, detail, heads, trailers } : undefined;
}

/** Columns that most of the rows fill. */
function filledColumns(profile: TableProfile, rows: readonly number[]): ColumnProfile[] {
  return profile.columns.filter(
    (column) => rows.filter((r) => column.kinds[r] !== CellKind.blank).length >= rows.length * 0.8,
  );
}
