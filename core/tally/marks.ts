/** What became of every cell, worked out backwards from a table to the reports behind it. */

import type { Mark } from '../kinds/step.ts';
import type { MethodRun, StepRun } from '../run/run.ts';
import { walkedSteps } from '../run/run.ts';
import { type Column, countUnreadable, Tag } from '../table/column.ts';
import { numberAt, numbersOf } from '../table/numbers.ts';
import { type ColumnMap, inputColumn, inputRows, NAME, type Origin, type Role, type RowMap } from '../table/origin.ts';
import type { Table } from '../table/table.ts';
import { firstOfStretch } from '../table/vectors.ts';
import { add } from '../values/decimal.ts';

/** Bits of a mark: what a cell is to the table. */
export const Use = {
  once: 1,
  more: 2,
  name: 4,
  label: 8,
  key: 16,
  merged: 32,
  unreadable: 64,
} as const;
const ANY_USE = 127;
const REASON_SHIFT = 8;

/** Why a cell is not in the table. */
export interface Loss {
  /** Table and step (from 0) at which it was lost. */
  table: string;
  step: number;
  /** The step's own id. */
  id: string;
  kind: string;
  pile?: string;
  mark?: Mark;
}

/** Vectors of marks in which no cell is unmarked. */
const wholes = new WeakSet<Uint16Array>();

/**
 * Marks of the cells of one table: bits of Use, or above them the number of a loss from 1 on. Columns that went the same
 * way share a vector, also with other tables; it is copied before it is written to.
 */
export class Marks {
  private readonly cellsOf: (Uint16Array | undefined)[];
  private readonly shared = new Set<Uint16Array | Float64Array>();
  /** Of the columns' names. */
  readonly names: Uint16Array;
  private readonly amountsOf: (Float64Array | undefined)[];

  /** @param counting whether amounts are carried along */
  constructor(
    readonly table: Table,
    readonly counting = false,
  ) {
    this.cellsOf = table.fields.map(() => undefined);
    this.names = new Uint16Array(table.fields.length);
    this.amountsOf = table.fields.map(() => undefined);
  }

  /** Every cell and name as it stands at the end: used once. */
  static ofEnd(table: Table, counting: boolean): Marks {
    const marks = new Marks(table, counting);
    const once = new Uint16Array(table.rows).fill(Use.once);
    wholes.add(once);
    table.fields.forEach((field, c) => {
      marks.lend(c, once, counting ? numbersOf(field.column) : undefined);
      if (countUnreadable(field.column) > 0) markUnreadable(field.column, marks.own(c));
    });
    marks.names.fill(Use.name);
    return marks;
  }

  /** Marks of a column's cells, to be read; undefined where none was met yet. */
  cells(column: number): Uint16Array | undefined {
    return this.cellsOf[column];
  }

  /** What the table's values that came from each cell add up to, NaN where there is none; to be read. */
  amounts(column: number): Float64Array | undefined {
    return this.amountsOf[column];
  }

  /** Gives a column vectors that others have too. */
  lend(column: number, cells: Uint16Array, amounts = this.amountsOf[column]): void {
    this.cellsOf[column] = cells;
    this.amountsOf[column] = amounts;
    this.shared.add(cells);
    if (amounts !== undefined) this.shared.add(amounts);
  }

  /** Every cell of a column is known to be marked. */
  isWhole(column: number): boolean {
    const cells = this.cellsOf[column];
    return cells !== undefined && wholes.has(cells);
  }

  /** Marks of a column's cells, to be written. */
  own(column: number): Uint16Array {
    const before = this.cellsOf[column];
    if (before !== undefined && !this.shared.has(before)) return before;
    const own = before?.slice() ?? new Uint16Array(this.table.rows);
    this.cellsOf[column] = own;
    return own;
  }

  /** Amounts of a column, to be written. */
  ownAmounts(column: number): Float64Array {
    const before = this.amountsOf[column];
    if (before !== undefined && !this.shared.has(before)) return before;
    const own = before?.slice() ?? new Float64Array(this.table.rows).fill(Number.NaN);
    this.amountsOf[column] = own;
    return own;
  }

  /** Writes to the cells of all columns that are not whole: once for those that share a vector. */
  writeOpen(write: (cells: Uint16Array) => void): void {
    const written = new Map<Uint16Array | undefined, Uint16Array>();
    for (let c = 0; c < this.cellsOf.length; c++) {
      if (this.isWhole(c)) continue;
      const before = this.cellsOf[c];
      let own = written.get(before);
      if (own === undefined) {
        own = this.own(c);
        write(own);
        written.set(before, own);
      } else this.lend(c, own);
      // A vector that was written for one column may be that of the next.
      written.set(own, own);
    }
  }
}

function markUnreadable(column: Column, cells: Uint16Array): void {
  if (column.type === 'received') {
    column.tags.forEach((tag, r) => {
      if (tag === Tag.unreadable) cells[r]! |= Use.unreadable;
    });
  } else if (column.type !== 'text' && column.unreadable !== undefined) {
    column.unreadable.codes.forEach((code, r) => {
      if (code >= 0) cells[r]! |= Use.unreadable;
    });
  }
}

export function isUsed(mark: number): boolean {
  return (mark & ANY_USE) !== 0;
}

/** Number of the loss, from 0, or -1 for a cell that is used or not known of. */
export function lossOf(mark: number): number {
  return isUsed(mark) ? -1 : (mark >> REASON_SHIFT) - 1;
}

/** The mark of a cell that has one already, and is met by another: use counts before loss. */
export function met(before: number, next: number): number {
  if (!isUsed(next)) return before === 0 ? next : before;
  if (!isUsed(before)) return next;
  const values = Use.once | Use.more;
  const twice = (before & values) !== 0 && (next & values) !== 0;
  return before | next | (twice ? Use.more : 0);
}

const ROLE_BIT: Record<Exclude<Role, 'value'>, number> = { name: Use.name, label: Use.label, key: Use.key };

/** What an output cell's mark says of a cell that it came from. */
function throughRole(mark: number, role: Role, merged: boolean): number {
  if (!isUsed(mark)) return mark;
  if (role !== 'value') return ROLE_BIT[role];
  return merged ? mark | Use.merged : mark;
}

/** The raw tables of all readings behind a table, with what became of their cells. */
export interface ReadMarks {
  /** The run whose first step is the reading, and the step up to which it is used. */
  run: MethodRun;
  upTo: number;
  source: string;
  marks: Marks;
  /** What the table's values that came from each cell of a column add up to, NaN where there is none. */
  amounts(column: number): Float64Array | undefined;
  /** Rows that the reading itself set aside, with the number of the loss they are. */
  aside: { part: number; rows: Int32Array; mark: number }[];
}

export interface TableMarks {
  readings: ReadMarks[];
  losses: readonly Loss[];
}

/** Cells tell by one byte what became of them; losses leave room for the other ways. */
const MOST_LOSSES = 240;

/**
 * Marks of every raw cell behind the last table of a run, through other tables too.
 *
 * @param name of the run's table, for losses
 * @param progress told from 0 to 1; may throw to give up
 */
export function marksOf(run: MethodRun, name: string, progress: (done: number) => void = () => undefined): TableMarks {
  const walk = walked(run, name, progress, false);
  // What cells add up to is worked out where a total asks for it: most large reports have none.
  let counted: Walk | undefined;
  const readings = [...walk.readings].map(([key, read]) => ({
    ...read,
    amounts: (column: number) => {
      counted ??= walked(run, name, progress, true);
      return counted.readings.get(key)?.marks.amounts(column);
    },
  }));
  return { readings, losses: walk.losses };
}

function walked(run: MethodRun, name: string, progress: (done: number) => void, counting: boolean): Walk {
  const walk = new Walk(progress, counting);
  const last = run.steps.length - 1;
  if (last >= 0) walk.back(run, last, Marks.ofEnd(run.steps[last]!.table, counting), name);
  return walk;
}

class Walk {
  readonly readings = new Map<string, Omit<ReadMarks, 'amounts'>>();
  readonly losses: Loss[] = [];
  private readonly known = new Map<string, number>();

  private done = 0;
  private readonly check = () => this.progress(this.done);

  constructor(
    private readonly progress: (done: number) => void,
    private readonly counting: boolean,
  ) {}

  back(run: MethodRun, stepIndex: number, end: Marks, name: string): void {
    let marks = end;
    const steps = walkedSteps(run, stepIndex);
    for (let k = steps.length - 1; k >= 0; k--) {
      const { run: step, index } = steps[k]!;
      this.done = 1 - k / steps.length;
      this.check();
      if (step.reading !== undefined) {
        this.keep(run, stepIndex, step, marks, name);
        return;
      }
      const before = steps[k - 1]?.run.table ?? { rows: 0, fields: [] };
      const own = new Marks(before, this.counting);
      const others = step.others.map((other) => new Marks(other.run.steps[other.step]!.table, this.counting));
      spread(step.origin, marks, [own, ...others], this.check);
      this.lose(own, step, index, name);
      step.others.forEach((other, n) => {
        this.lose(others[n]!, { ...step, aside: [] }, index, name);
        this.back(other.run, other.step, others[n]!, other.tableId);
      });
      marks = own;
    }
  }

  private keep(run: MethodRun, upTo: number, step: StepRun, marks: Marks, table: string): void {
    const { source } = step.reading!;
    const key = `${source}/${JSON.stringify(step.step.params)}`;
    const known = this.readings.get(key);
    if (known === undefined) {
      const aside = step.reading!.aside.map(({ part, rows, name, mark }) => ({
        part,
        rows,
        mark: this.loss({ table, step: 0, id: step.step.id, kind: step.step.kind, pile: name, mark }) << REASON_SHIFT,
      }));
      this.readings.set(key, { run, upTo, source, marks, aside });
      return;
    }
    // The same report behind a table in two ways.
    known.marks.names.forEach((mark, c) => {
      const [cells, other] = [known.marks.own(c), marks.cells(c)!];
      for (let r = 0; r < cells.length; r++) cells[r] = met(cells[r]!, other[r]!);
      known.marks.names[c] = met(mark, marks.names[c]!);
      const amounts = marks.amounts(c);
      if (known.marks.amounts(c) === undefined && amounts !== undefined) known.marks.lend(c, cells, amounts);
    });
  }

  /** What no output cell came from was lost here: on a pile, or dropped. */
  private lose(marks: Marks, step: StepRun, index: number, table: string): void {
    const { kind, id } = step.step;
    for (const pile of step.aside) {
      const mark = this.loss({ table, step: index, id, kind, pile: pile.name, mark: pile.mark }) << REASON_SHIFT;
      if (pile.columns === undefined)
        marks.writeOpen((cells) => {
          for (const row of pile.rows) if (cells[row] === 0) cells[row] = mark;
        });
      for (const c of pile.columns ?? []) {
        if (!marks.isWhole(c)) markRest(marks.own(c), () => mark);
        if (marks.names[c] === 0) marks.names[c] = mark;
      }
    }
    let dropped = 0;
    const lost = () => {
      dropped ||= this.loss({ table, step: index, id, kind }) << REASON_SHIFT;
      return dropped;
    };
    marks.writeOpen((cells) => {
      this.check();
      markRest(cells, lost);
    });
    marks.names.forEach((mark, c) => {
      if (mark === 0) marks.names[c] = lost();
    });
  }

  /** Number of a loss, from 1 on. */
  private loss(loss: Loss): number {
    const key = JSON.stringify(loss);
    let number = this.known.get(key);
    if (number === undefined) {
      number = Math.min(MOST_LOSSES, this.losses.length + 1);
      if (number > this.losses.length) this.losses.push(loss);
      this.known.set(key, number);
    }
    return number;
  }
}

function markRest(cells: Uint16Array, mark: () => number): void {
  for (let r = 0; r < cells.length; r++) if (cells[r] === 0) cells[r] = mark();
  wholes.add(cells);
}

/**
 * Carries marks and amounts from the cells of a step's output to the cells that they came from.
 * @param check called for each column; may throw to give up
 */
function spread(origin: Origin, out: Marks, inputs: readonly Marks[], check: () => void): void {
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
