/** Marks of cells: what a cell is to a table, or why it is not in it. */

import { type Column, countUnreadable, Tag } from '../table/column.ts';
import { numbersOf } from '../table/numbers.ts';
import type { Table } from '../table/table.ts';

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
/** Where the number of a loss begins. */
export const REASON_SHIFT = 8;

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

/** Marks the cells that are not marked yet. */
export function markRest(cells: Uint16Array, mark: () => number): void {
  for (let r = 0; r < cells.length; r++) if (cells[r] === 0) cells[r] = mark();
  wholes.add(cells);
}
