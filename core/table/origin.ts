import type { GroupedRows } from './grouped-rows.ts';
import { intVector } from './vectors.ts';

/**
 * Where each cell of a step's output came from, kept as maps over rows and columns, never as one object a cell.
 *
 * A cell is addressed by row and column; row NAME stands for the column's name, which is a cell too: header rows
 * become names, and an unpivot turns names back into values.
 */
export const NAME = -1;

/** Which input rows an output row stems from. */
export type RowMap =
  | { kind: 'same' }
  /** Output row r stems from input row rows[r]; -1 means from none. */
  | { kind: 'take'; rows: Int32Array }
  /** Each input row stands times times in a row. */
  | { kind: 'repeat'; times: number }
  /** Output row r stems from items[starts[r]] up to items[starts[r + 1]]. */
  | { kind: 'lists'; starts: Int32Array; items: Int32Array }
  /** Output row r stems from the rows of group r. */
  | { kind: 'groups'; rows: GroupedRows }
  /** Output row r stems from the input rows from starts[r] up to starts[r + 1]. */
  | { kind: 'stretches'; starts: Int32Array }
  /** Every output row stems from these input rows; NAME among them is allowed. */
  | { kind: 'at'; rows: readonly number[] };

/** Which input column an output row stems from. */
export type ColumnMap =
  | number
  /** Output row r stems from columns[r % columns.length]; -1 means from none. */
  | { kind: 'cycle'; columns: Int32Array }
  /** Output row r stems from columns[r]; -1 means from none. */
  | { kind: 'take'; columns: Int32Array };

/** What a source cell is to the cell that came of it. */
export type Role = 'value' | 'name' | 'label' | 'key';

export interface CellSource {
  role: Role;
  /** Which input table: 0 but for steps that combine tables. */
  input?: number;
  rows: RowMap;
  column: ColumnMap;
}

export interface ColumnOrigin {
  /** Sources of the cells; none at all means that they are computed from nothing (a row number). */
  cells: readonly CellSource[];
  /** Sources of the column's name, read at output row 0. */
  name: readonly CellSource[];
}

/** One entry for each output column. */
export type Origin = readonly ColumnOrigin[];

export interface CellAddress {
  row: number;
  column: number;
}

export interface TracedCell extends CellAddress {
  input: number;
  role: Role;
}

const SAME: RowMap = { kind: 'same' };

/** The cells of this input column, row by row through the map, and its name. */
export function fromColumn(column: number, rows: RowMap = SAME): ColumnOrigin {
  return { cells: [{ role: 'value', rows, column }], name: nameOf(column) };
}

export function nameOf(column: number): CellSource[] {
  return [{ role: 'value', rows: { kind: 'at', rows: [NAME] }, column }];
}

/** Every column where it was, with rows through one map. */
export function sameColumns(columns: number, rows: RowMap = SAME): Origin {
  return Array.from({ length: columns }, (_, column) => fromColumn(column, rows));
}

export function takenRows(rows: Int32Array): RowMap {
  return { kind: 'take', rows };
}

/** Input rows that an output row stems from. */
export function inputRows(map: RowMap, row: number): ArrayLike<number> {
  switch (map.kind) {
    case 'same':
      return [row];
    case 'take': {
      const from = map.rows[row]!;
      return from < 0 ? [] : [from];
    }
    case 'repeat':
      return [Math.floor(row / map.times)];
    case 'lists':
      return map.items.subarray(map.starts[row]!, map.starts[row + 1]!);
    case 'groups':
      return map.rows.items.subarray(map.rows.starts[row]!, map.rows.starts[row + 1]!);
    case 'stretches':
      return intVector(map.starts[row + 1]! - map.starts[row]!, (k) => map.starts[row]! + k);
    case 'at':
      return map.rows;
  }
}

/** The input column that an output row stems from, or -1. */
export function inputColumn(map: ColumnMap, row: number): number {
  if (typeof map === 'number') return map;
  return map.kind === 'cycle' ? map.columns[row % map.columns.length]! : map.columns[row]!;
}

/** The input cells that an output cell came from. */
export function traceBack(origin: Origin, cell: CellAddress): TracedCell[] {
  const of = origin[cell.column];
  if (of === undefined) return [];
  const found: TracedCell[] = [];
  const sources = cell.row === NAME ? of.name : of.cells;
  const at = cell.row === NAME ? 0 : cell.row;
  for (const source of sources) {
    const column = inputColumn(source.column, at);
    if (column < 0) continue;
    const rows = inputRows(source.rows, at);
    for (let k = 0; k < rows.length; k++) {
      found.push({ row: rows[k]!, column, input: source.input ?? 0, role: source.role });
    }
  }
  return found;
}

/**
 * Output cells that came from any of the input cells of one column.
 *
 * @param wanted input rows to look for, NAME for the name
 * @param rows rows of the output
 */
export function traceForward(
  origin: Origin,
  wanted: { column: number; rows: readonly number[]; input?: number },
  rows: number,
): TracedCell[] {
  const found: TracedCell[] = [];
  const wantedSet = new Set(wanted.rows);
  origin.forEach((of, column) => {
    for (const source of of.cells) {
      if ((source.input ?? 0) !== (wanted.input ?? 0)) continue;
      for (const row of outputRows(source, wanted.column, wanted.rows, wantedSet, rows)) {
        found.push({ row, column, input: source.input ?? 0, role: source.role });
      }
    }
    for (const source of of.name) {
      if ((source.input ?? 0) !== (wanted.input ?? 0)) continue;
      if (inputColumn(source.column, 0) !== wanted.column) continue;
      if (Array.prototype.some.call(inputRows(source.rows, 0), (row: number) => wantedSet.has(row))) {
        found.push({ row: NAME, column, input: source.input ?? 0, role: source.role });
      }
    }
  });
  return found;
}

function outputRows(
  source: CellSource,
  column: number,
  wanted: readonly number[],
  wantedSet: ReadonlySet<number>,
  rows: number,
): number[] {
  const { column: columns } = source;
  if (typeof columns === 'number' ? columns !== column : !columns.columns.includes(column)) return [];
  const out: number[] = [];
  const keep = (row: number) => {
    if (inputColumn(columns, row) === column) out.push(row);
  };
  const map = source.rows;
  switch (map.kind) {
    case 'same':
      for (const row of wanted) if (row >= 0 && row < rows) keep(row);
      break;
    case 'repeat':
      for (const row of wanted) {
        if (row < 0) continue;
        for (let k = 0; k < map.times; k++) keep(row * map.times + k);
      }
      break;
    case 'take':
      for (let row = 0; row < map.rows.length; row++) {
        const from = map.rows[row]!;
        if (from >= 0 && wantedSet.has(from)) keep(row);
      }
      break;
    case 'lists':
      for (let row = 0; row < rows; row++) {
        for (let k = map.starts[row]!; k < map.starts[row + 1]!; k++) {
          if (!wantedSet.has(map.items[k]!)) continue;
          keep(row);
          break;
        }
      }
      break;
    case 'groups': {
      const groups = new Set(wanted.map((row) => map.rows.of[row] ?? -1));
      for (const row of [...groups].sort((a, b) => a - b)) if (row >= 0 && row < rows) keep(row);
      break;
    }
    case 'stretches':
      for (let row = 0; row < rows; row++) {
        if (wanted.some((from) => from >= map.starts[row]! && from < map.starts[row + 1]!)) keep(row);
      }
      break;
    case 'at':
      if (map.rows.some((row) => wantedSet.has(row))) for (let row = 0; row < rows; row++) keep(row);
      break;
  }
  return out;
}

/**
 * For each output row the first input row it stems from through the values of the leading column that has any, or -1.
 * Used to say of whole rows where they went.
 */
function leadingRow(origin: Origin, row: number): number {
  for (const of of origin) {
    for (const source of of.cells) {
      if (source.role !== 'value' || (source.input ?? 0) !== 0) continue;
      const rows = inputRows(source.rows, row);
      if (rows.length > 0 && rows[0]! >= 0) return rows[0]!;
    }
  }
  return -1;
}

/** leadingRow for every output row, or undefined where each stems from the row in its own place. */
export function leadingRows(origin: Origin, rows: number): Int32Array | undefined {
  const first = origin.flatMap((of) => of.cells).find((source) => source.role === 'value' && (source.input ?? 0) === 0);
  if (first?.rows.kind === 'same') return undefined;
  const taken = first?.rows.kind === 'take' ? first.rows.rows : undefined;
  return intVector(rows, (row) => {
    const from = taken?.[row] ?? -1;
    return from >= 0 ? from : leadingRow(origin, row);
  });
}
