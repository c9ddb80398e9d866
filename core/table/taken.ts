import type { Column, CountedColumn, ReceivedColumn, TextColumn } from './column-types.ts';
import { holdsSpans, spannedLater, spansOf, withoutCodes } from './spanned-column.ts';

/** Cells of another column that a column holds, at these rows; -1 is blank. They are gathered when they are looked at. */
export interface Taken {
  column: Column;
  rows: Int32Array;
}

// Beside the column and not in it, as with runs of bytes: a copy with other vectors can never hold it.
const held = new WeakMap<object, Taken>();

/** What a column still has to gather; undefined once it has, or where there is nothing to gather. */
export function takenOf(column: Column): Taken | undefined {
  return held.get(column);
}

/**
 * A column of the cells at these rows, which gathers them when its vectors are first asked for: most columns of a sorted
 * or filtered table are never looked at as a whole.
 *
 * @param gather gives the column with its vectors
 */
export function takenColumn(column: Column, rows: Int32Array, gather: (taken: Taken) => Column): Column {
  if (column.type === 'text' && holdsSpans(column)) return spannedTaken(column, rows);
  const made = bare(column) as Column & Record<string, unknown>;
  const names = VECTORS[column.type === 'text' || column.type === 'received' ? column.type : 'counted'];
  const settle = () => {
    const taken = held.get(made)!;
    held.delete(made);
    const gathered = gather(taken) as Column & Record<string, unknown>;
    for (const name of names) {
      const value = gathered[name];
      if (value === undefined) delete made[name];
      else Object.defineProperty(made, name, { value, enumerable: true, writable: true, configurable: true });
    }
  };
  for (const name of names) {
    if (name === 'unreadable' && (column as CountedColumn).unreadable === undefined) continue;
    const get = () => {
      settle();
      return made[name];
    };
    Object.defineProperty(made, name, { enumerable: true, configurable: true, get });
  }
  held.set(made, { column, rows });
  return made;
}

/** Cells that are still bytes of their source stay so when they are gathered. */
function spannedTaken(column: TextColumn, rows: Int32Array): Column {
  // Kept from now on: the column itself may be made texts meanwhile.
  const spans = spansOf(column)!;
  const made = spannedLater(() => {
    held.delete(made);
    return spans.take(rows);
  });
  held.set(made, { column, rows });
  return made;
}

const VECTORS = { text: ['codes'], received: ['tags', 'values'], counted: ['values', 'unreadable'] } as const;

/** All of a column but its vectors. */
function bare(column: Column): Column {
  if (column.type === 'text') return withoutCodes(column);
  if (column.type === 'received') {
    const { type, dictionary, cells } = column;
    return { type, dictionary, cells } as ReceivedColumn;
  }
  return { type: column.type } as CountedColumn;
}
