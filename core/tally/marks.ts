/** What became of every cell, worked out backwards from a table to the reports behind it. */

import type { Mark } from '../kinds/step.ts';
import type { MethodRun, StepRun } from '../run/run.ts';
import { walkedSteps } from '../run/run.ts';
import { type Column, Tag } from '../table/column.ts';
import { numberAt, numbersOf } from '../table/numbers.ts';
import { type ColumnMap, inputColumn, inputRows, NAME, type Origin, type Role, type RowMap } from '../table/origin.ts';
import type { Table } from '../table/table.ts';
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

/** Marks of the cells of one table: bits of Use, or above them the number of a loss from 1 on. */
export class Marks {
  readonly cells: Uint16Array[];
  /** Of the columns' names. */
  readonly names: Uint16Array;
  /** What the table's values that came from each cell add up to; NaN where there is none. */
  amounts: (Float64Array | undefined)[];

  constructor(readonly table: Table) {
    this.cells = table.fields.map(() => new Uint16Array(table.rows));
    this.names = new Uint16Array(table.fields.length);
    this.amounts = table.fields.map(() => undefined);
  }

  /** Every cell and name as it stands at the end: used once. */
  static ofEnd(table: Table): Marks {
    const marks = new Marks(table);
    table.fields.forEach((field, c) => {
      marks.cells[c]!.fill(Use.once);
      marks.amounts[c] = numbersOf(field.column)?.slice();
      markUnreadable(field.column, marks.cells[c]!);
    });
    marks.names.fill(Use.name);
    return marks;
  }

  amountsOf(column: number): Float64Array {
    this.amounts[column] ??= new Float64Array(this.table.rows).fill(Number.NaN);
    return this.amounts[column];
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
  /** Rows that the reading itself set aside, with the number of the loss they are. */
  aside: { part: number; rows: Int32Array; mark: number }[];
}

export interface TableMarks {
  readings: ReadMarks[];
  losses: readonly Loss[];
}

const MOST_LOSSES = 250;

/**
 * Marks of every raw cell behind the last table of a run, through other tables too.
 *
 * @param name of the run's table, for losses
 * @param progress told from 0 to 1; may throw to give up
 */
export function marksOf(run: MethodRun, name: string, progress: (done: number) => void = () => undefined): TableMarks {
  const walk = new Walk(progress);
  const last = run.steps.length - 1;
  if (last >= 0) walk.back(run, last, Marks.ofEnd(run.steps[last]!.table), name);
  return { readings: [...walk.readings.values()], losses: walk.losses };
}

class Walk {
  readonly readings = new Map<string, ReadMarks>();
  readonly losses: Loss[] = [];
  private readonly known = new Map<string, number>();

  constructor(private readonly progress: (done: number) => void) {}

  back(run: MethodRun, stepIndex: number, end: Marks, name: string): void {
    let marks = end;
    const steps = walkedSteps(run, stepIndex);
    for (let k = steps.length - 1; k >= 0; k--) {
      const { run: step, index } = steps[k]!;
      this.progress(1 - k / steps.length);
      if (step.reading !== undefined) {
        this.keep(run, stepIndex, step, marks, name);
        return;
      }
      const before = steps[k - 1]?.run.table ?? { rows: 0, fields: [] };
      const own = new Marks(before);
      const others = step.others.map((other) => new Marks(other.run.steps[other.step]!.table));
      spread(step.origin, marks, [own, ...others]);
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
    known.marks.cells.forEach((cells, c) => {
      const other = marks.cells[c]!;
      for (let r = 0; r < cells.length; r++) cells[r] = met(cells[r]!, other[r]!);
    });
    known.marks.names.forEach((mark, c) => {
      known.marks.names[c] = met(mark, marks.names[c]!);
    });
    known.marks.amounts = known.marks.amounts.map((amounts, c) => amounts ?? marks.amounts[c]);
  }

  /** What no output cell came from was lost here: on a pile, or dropped. */
  private lose(marks: Marks, step: StepRun, index: number, table: string): void {
    const { kind, id } = step.step;
    for (const pile of step.aside) {
      const mark = this.loss({ table, step: index, id, kind, pile: pile.name, mark: pile.mark }) << REASON_SHIFT;
      const fill = (cells: Uint16Array, rows: Int32Array) => {
        for (const row of rows) if (cells[row] === 0) cells[row] = mark;
      };
      if (pile.columns === undefined) for (const cells of marks.cells) fill(cells, pile.rows);
      for (const c of pile.columns ?? []) {
        const cells = marks.cells[c]!;
        for (let r = 0; r < cells.length; r++) if (cells[r] === 0) cells[r] = mark;
        if (marks.names[c] === 0) marks.names[c] = mark;
      }
    }
    let dropped = 0;
    const lost = () => {
      dropped ||= this.loss({ table, step: index, id, kind }) << REASON_SHIFT;
      return dropped;
    };
    for (const cells of marks.cells) for (let r = 0; r < cells.length; r++) if (cells[r] === 0) cells[r] = lost();
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

/** Carries marks and amounts from the cells of a step's output to the cells that they came from. */
function spread(origin: Origin, out: Marks, inputs: readonly Marks[]): void {
  origin.forEach((of, c) => {
    for (const source of of.cells) {
      const into = inputs[source.input ?? 0]!;
      const named = of.name.some(
        (one) => (one.input ?? 0) === (source.input ?? 0) && inputColumn(one.column, 0) === source.column,
      );
      // A column computed beside the ones it reads is no home for their figures.
      const computed = typeof source.column === 'number' && source.rows.kind === 'same' && !named;
      spreadCells(source.rows, source.column, source.role, computed ? undefined : out.amounts[c], out.cells[c]!, into);
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
        else if (row >= 0) into.cells[column]![row] = met(into.cells[column]![row]!, mark);
      }
    }
  });
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
    const cells = into.cells[column]!;
    cells[row] = met(cells[row]!, mark);
    if (role !== 'value' || !isUsed(mark)) return;
    const amount = merged ? numberAt(into.table.fields[column]!.column, row) : (amounts?.[out] ?? Number.NaN);
    if (Number.isNaN(amount)) return;
    const own = into.amountsOf(column);
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
