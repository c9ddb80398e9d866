import { PART_NAME, type Places } from '../read/report.ts';
import type { Mark } from '../steps/step.ts';
import { type CellAddress, leadingRow, NAME, type Role, traceBack, traceForward } from '../table/origin.ts';
import type { MethodRun, StepRun } from './run.ts';

/** A cell of the report; row NAME stands for the part's own name. */
export interface ReportCell extends CellAddress {
  part: number;
  role: Role;
}

export interface TidyCell extends CellAddress {
  role: Role;
}

/** The first role on the way that is not plainly a value tells what the source is to the cell. */
function through(before: Role, next: Role): Role {
  return before === 'value' ? next : before;
}

/** The report's cells that a cell of the table after the given step came from. */
export function cellsOfReport(run: MethodRun, stepIndex: number, cell: CellAddress): ReportCell[] {
  let cells: TidyCell[] = [{ ...cell, role: 'value' }];
  for (let k = stepIndex; k > 0; k--) {
    const { origin } = run.steps[k]!;
    cells = unique(
      cells.flatMap((one) =>
        traceBack(origin, one).map((from) => ({
          row: from.row,
          column: from.column,
          role: through(one.role, from.role),
        })),
      ),
    );
  }
  const places = run.steps[0]?.reading?.places;
  if (places === undefined) return [];
  return cells.flatMap((one) => placeOf(places, one));
}

function placeOf(places: Places, cell: TidyCell): ReportCell[] {
  // Names given by position stand nowhere in the report.
  if (cell.row === NAME) return [];
  const column = places.columns[cell.column]!;
  const part = places.part[cell.row]!;
  if (column === PART_NAME) return [{ part, row: NAME, column: NAME, role: 'label' }];
  return [{ part, row: places.row[cell.row]!, column, role: cell.role }];
}

/** Cells of the table after the given step that came from a cell of the report. */
export function cellsOfTable(run: MethodRun, stepIndex: number, cell: Omit<ReportCell, 'role'>): TidyCell[] {
  const places = run.steps[0]?.reading?.places;
  if (places === undefined) return [];
  const column = cell.row === NAME ? places.columns.indexOf(PART_NAME) : places.columns.indexOf(cell.column);
  if (column < 0) return [];
  const rows: number[] = [];
  places.part.forEach((part, r) => {
    if (part === cell.part && (cell.row === NAME || places.row[r] === cell.row)) rows.push(r);
  });
  let cells: TidyCell[] = rows.map((row) => ({ row, column, role: 'value' }));
  for (let k = 1; k <= stepIndex; k++) {
    const { origin, table } = run.steps[k]!;
    const found: TidyCell[] = [];
    for (const [key, group] of grouped(cells)) {
      const [from, role] = key;
      const next = traceForward(origin, { column: from, rows: group }, table.rows);
      for (const one of next) found.push({ row: one.row, column: one.column, role: through(role, one.role) });
    }
    cells = unique(found);
  }
  return cells;
}

function grouped(cells: readonly TidyCell[]): [[number, Role], number[]][] {
  const groups = new Map<string, [[number, Role], number[]]>();
  for (const { row, column, role } of cells) {
    const key = `${column}:${role}`;
    const group = groups.get(key) ?? [[column, role], []];
    group[1].push(row);
    groups.set(key, group);
  }
  return [...groups.values()];
}

function unique(cells: TidyCell[]): TidyCell[] {
  const seen = new Set<string>();
  return cells.filter(({ row, column }) => {
    const key = `${row}:${column}`;
    return !seen.has(key) && seen.add(key) !== undefined;
  });
}

/** Where one row of the raw table ended up. */
export interface RowFate {
  mark: Mark;
  /** The step that set it aside, or the last step. */
  step: number;
  pile?: string;
}

/**
 * The fate of every row of the raw table after the given step. Steps that make new rows (unpivot) do not lose any,
 * so a row is followed for as long as each row stems from one row.
 */
export function rowFates(run: MethodRun, stepIndex: number): RowFate[] {
  const first = run.steps[0];
  if (first === undefined) return [];
  const fates: RowFate[] = Array.from({ length: first.table.rows }, () => ({ mark: 'data', step: stepIndex }));
  let toRaw: Int32Array | undefined;
  for (let k = 1; k <= stepIndex; k++) {
    const step: StepRun = run.steps[k]!;
    for (const pile of step.aside) {
      for (const row of pile.rows) {
        const raw = toRaw === undefined ? row : toRaw[row]!;
        if (raw >= 0) fates[raw] = { mark: pile.mark, step: k, pile: pile.name };
      }
    }
    const before = toRaw;
    toRaw = Int32Array.from({ length: step.table.rows }, (_, r) => {
      const from = leadingRow(step.origin, r);
      return from < 0 || before === undefined ? from : before[from]!;
    });
  }
  return fates;
}
