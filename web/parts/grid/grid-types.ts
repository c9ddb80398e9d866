import type { MouseEvent, KeyboardEvent as ReactKeyboardEvent, ReactNode } from 'react';

export interface GridColumn {
  key: string;
  width: number;
  align: 'start' | 'end';
  head: ReactNode;
}

export interface GridCell {
  row: number;
  column: number;
}

export interface GridSpan extends GridCell {
  rows: number;
  columns: number;
}

/** A rectangle of cells, both corners included. */
export interface GridRange {
  from: GridCell;
  to: GridCell;
}

/** A click or a key that picks a column. */
export type PickEvent = MouseEvent | ReactKeyboardEvent;

export const cellKey = (row: number, column: number) => `${row}:${column}`;

/** The rectangle between two corners, whichever is which. */
export function rangeOf(a: GridCell, b: GridCell): GridRange {
  return {
    from: { row: Math.min(a.row, b.row), column: Math.min(a.column, b.column) },
    to: { row: Math.max(a.row, b.row), column: Math.max(a.column, b.column) },
  };
}

export function isWithin({ from, to }: GridRange, row: number, column: number): boolean {
  return row >= from.row && row <= to.row && column >= from.column && column <= to.column;
}

/** The cell that an element of a grid belongs to. */
export function cellOf(target: EventTarget): GridCell | undefined {
  const element = (target as HTMLElement).closest<HTMLElement>('[data-cell]');
  const [row, column] = element?.dataset['cell']?.split(':').map(Number) ?? [];
  return row === undefined || column === undefined ? undefined : { row, column };
}

/** The keys of the cells that a merge covers. */
export function cellsOf(span: GridSpan): string[] {
  const keys: string[] = [];
  // Only the few rows in sight matter, and merges are small; a merge of whole columns is cut off where it gets long.
  for (let r = span.row; r < span.row + Math.min(span.rows, 500); r++) {
    for (let c = span.column; c < span.column + span.columns; c++) keys.push(cellKey(r, c));
  }
  return keys;
}

/** Where a key leads from a cell; undefined for keys that lead nowhere. */
export function cellAfter(
  key: string,
  whole: boolean,
  from: GridCell,
  size: { rows: number; columns: number; page: number },
): GridCell | undefined {
  const { rows, columns, page } = size;
  const moves: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    PageUp: [-page, 0],
    PageDown: [page, 0],
    Home: [whole ? -rows : 0, -columns],
    End: [whole ? rows : 0, columns],
  };
  const move = moves[key];
  if (move === undefined || rows === 0) return undefined;
  return {
    row: Math.min(rows - 1, Math.max(0, from.row + move[0])),
    column: Math.min(columns - 1, Math.max(0, from.column + move[1])),
  };
}
