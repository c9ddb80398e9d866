/** How marks go from the cells of a step's output to the cells that they came from. */

import { numberAt } from '../table/numbers.ts';
import { type ColumnMap, inputColumn, inputRows, NAME, type Origin, type Role, type RowMap } from '../table/origin.ts';
import { firstOfStretch } from '../table/vectors.ts';
import { add } from '../values/decimal.ts';
import { isUsed, type Marks, met, Use } from './cell-marks.ts';

const ROLE_BIT: Record<Exclude<Role, 'value'>, number> = { name: Use.name, label: Use.label, key: Use.key };

/** What an output cell's mark says of a cell that it came from. */
function throughRole(mark: number, role: Role, merged: boolean): number {
  if (!isUsed(mark)) return mark;
  if (role !== 'value') return ROLE_BIT[role];
  return merged ? mark | Use.merged : mark;
}

/**
 * Carries marks and amounts from the cells of a step's output to the cells that they came from.
 * @param check called for each column; may throw to give up
 */
export function spread(origin: Origin, out: Marks, inputs: readonly Marks[], check: () => void): void {
  origin.forEach((of, c) => {
    for (const source of of.cells) {
      check();
      const into = inputs[source.input ?? 0]!;
      const named = of.name.some(
        (one) => (one.input ?? 0) === (source.input ?? 0) && inputColumn(one.column, 0) === source.column,
      );
      // A column computed beside the ones it reads is no home for their figures.
      const computed = typeof source.column === 'number' && source.rows.kind === 'same' && !named;
      const amounts = computed ? undefined : out.amounts(c);
      if (source.role !== 'value' || !spreadWhole(source.rows, source.column, amounts, out.cells(c)!, into))
        spreadCells(source.rows, source.column, source.role, amounts, out.cells(c)!, into);
    }
    for (const source of of.name) {
      const into = inputs[source.input ?? 0]!;
      const column = inputColumn(source.column, 0);
      if (column < 0) continue;
      const mark = isUsed(out.names[c]!) ? Use.name : out.names[c]!;
      const rows = inputRows(source.rows, 0);
      for (let k = 0; k < rows.length; k++) {
        const row = rows[k]!;
        if (row === NAME) into.names[column] = met(into.names[column]!, mark);
        else if (row >= 0 && !isMarkedAs(into, column, row, mark)) {
          const cells = into.own(column);
          cells[row] = met(cells[row]!, mark);
        }
      }
    }
  });
}

/** Whether meeting this mark changes nothing of a cell's own. */
function isMarkedAs(marks: Marks, column: number, row: number, mark: number): boolean {
  const before = marks.cells(column)?.[row] ?? 0;
  return before !== 0 && met(before, mark) === before;
}

/**
 * The common ways in which whole columns go, without asking of each cell where it came from.
 * @returns false where the cells go in another way
 */
function spreadWhole(
  rows: RowMap,
  column: ColumnMap,
  amounts: Float64Array | undefined,
  marks: Uint16Array,
  into: Marks,
): boolean {
  const n = marks.length;
  if (typeof column === 'number') {
    if (column < 0) return true;
    if (rows.kind === 'same' && into.table.rows === n && into.cells(column) === undefined) {
      into.lend(column, marks, amounts);
      return true;
    }
    if (rows.kind === 'take') meetColumn(into, column, marks, amounts, 0, 1, rows.rows);
    else if (rows.kind === 'same') meetColumn(into, column, marks, amounts, 0, 1);
    else return false;
    return true;
  }
  if (rows.kind !== 'repeat' || column.kind !== 'cycle' || column.columns.length !== rows.times) return false;
  column.columns.forEach((own, k) => {
    if (own >= 0) meetColumn(into, own, marks, amounts, k, rows.times);
  });
  return true;
}

const stretches = new WeakMap<Int32Array, number>();

/** The first of rows that follow each other, or -1 where they do not. All columns of a step ask it of the same rows. */
function stretchFrom(rows: Int32Array): number {
  let from = stretches.get(rows);
  if (from === undefined) {
    from = firstOfStretch(rows);
    stretches.set(rows, from);
  }
  return from;
}

const takenOnce = new WeakMap<Int32Array, WeakMap<Uint16Array, Uint16Array>>();

/** Marks of rows that others were taken from, and were not met before: the same for all columns of a step. */
function takenMarks(marks: Uint16Array, taken: Int32Array, rows: number): Uint16Array {
  let known = takenOnce.get(taken);
  if (known === undefined) {
    known = new WeakMap();
    takenOnce.set(taken, known);
  }
  let cells = known.get(marks);
  if (cells === undefined) {
    cells = new Uint16Array(rows);
    const from = stretchFrom(taken);
    if (from >= 0) cells.set(marks, from);
    else
      for (let r = 0; r < marks.length; r++) {
        const row = taken[r]!;
        if (row < 0) continue;
        const before = cells[row]!;
        cells[row] = before === 0 ? marks[r]! : met(before, marks[r]!);
      }
    known.set(marks, cells);
  }
  return cells;
}

/**
 * Output rows first, first + step and so on meet the rows of one column, each its own: the row in the same place, or that
 * in taken.
 */
function meetColumn(
  into: Marks,
  column: number,
  marks: Uint16Array,
  amounts: Float64Array | undefined,
  first: number,
  step: number,
  taken?: Int32Array,
): void {
  const isNew = into.cells(column) === undefined;
  if (isNew && taken !== undefined && step === 1 && amounts === undefined) {
    into.lend(column, takenMarks(marks, taken, into.table.rows));
    return;
  }
  const cells = into.own(column);
  const own = amounts === undefined ? undefined : into.ownAmounts(column);
  const from = isNew && taken !== undefined && step === 1 ? stretchFrom(taken) : -1;
  if (from >= 0) {
    cells.set(marks, from);
    if (amounts !== undefined) own!.set(amounts, from);
    return;
  }
  for (let r = first, place = 0; r < marks.length; r += step, place++) {
    const row = taken === undefined ? place : taken[place]!;
    if (row < 0) continue;
    const mark = marks[r]!;
    const before = cells[row]!;
    cells[row] = before === 0 ? mark : met(before, mark);
    if (own === undefined || !isUsed(mark)) continue;
    const amount = amounts![r]!;
    if (!Number.isNaN(amount)) own[row] = Number.isNaN(own[row]!) ? amount : add(own[row]!, amount);
  }
}

function spreadCells(
  rows: RowMap,
  columns: ColumnMap,
  role: Role,
  amounts: Float64Array | undefined,
  marks: Uint16Array,
  into: Marks,
): void {
  const n = marks.length;
  const put = (out: number, row: number, merged: boolean) => {
    const column = inputColumn(columns, out);
    if (column < 0) return;
    const mark = throughRole(marks[out]!, role, merged);
    if (row === NAME) {
      into.names[column] = met(into.names[column]!, isUsed(mark) ? Use.name : mark);
      return;
    }
    if (row < 0) return;
    const cells = into.own(column);
    cells[row] = met(cells[row]!, mark);
    if (role !== 'value' || !into.counting || !isUsed(mark)) return;
    const amount = merged ? numberAt(into.table.fields[column]!.column, row) : (amounts?.[out] ?? Number.NaN);
    if (Number.isNaN(amount)) return;
    const own = into.ownAmounts(column);
    own[row] = Number.isNaN(own[row]!) ? amount : add(own[row]!, amount);
  };
  switch (rows.kind) {
    case 'same':
      for (let r = 0; r < n; r++) put(r, r, false);
      return;
    case 'take':
      for (let r = 0; r < n; r++) if (rows.rows[r]! >= 0) put(r, rows.rows[r]!, false);
      return;
    case 'repeat':
      for (let r = 0; r < n; r++) put(r, Math.floor(r / rows.times), false);
      return;
    case 'lists':
      for (let r = 0; r < n; r++) {
        const [from, to] = [rows.starts[r]!, rows.starts[r + 1]!];
        for (let k = from; k < to; k++) put(r, rows.items[k]!, to - from > 1);
      }
      return;
    case 'groups': {
      const { of } = rows.rows;
      const sizes = rows.rows.sizes();
      for (let row = 0; row < of.length; row++) if (of[row]! >= 0) put(of[row]!, row, sizes[of[row]!]! > 1);
      return;
    }
    case 'stretches':
      for (let r = 0; r < n; r++) {
        const [from, to] = [rows.starts[r]!, rows.starts[r + 1]!];
        for (let row = from; row < to; row++) put(r, row, to - from > 1);
      }
      return;
    case 'at':
      for (const row of rows.rows) {
        if (typeof columns !== 'number') {
          for (let r = 0; r < n; r++) put(r, row, false);
          continue;
        }
        // All output rows came from the same cell: what one of them says, all say.
        let used = -1;
        for (let r = 0; r < n && used < 0; r++) if (isUsed(marks[r]!)) used = r;
        if (n > 0) put(Math.max(0, used), row, false);
      }
  }
}
