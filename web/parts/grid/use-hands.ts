import {
  type FocusEvent,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  type RefObject,
  useRef,
  useState,
} from 'react';
import { cellAfter, cellKey, cellOf, type GridCell, type GridRange, type PickEvent, rangeOf } from './grid-types.ts';

interface Handled {
  rowCount: number;
  columns: readonly unknown[];
  picked?: GridCell;
  onPoint?(cell: GridCell | undefined): void;
  onPick?(cell: GridCell): void;
  onPickColumn?(column: number, event: PickEvent): void;
  onRange?(range: GridRange | undefined): void;
  onEdit?(cell: GridCell, typed: string | undefined): void;
  onMark?(from: number, to: number): void;
}

/** What pointer and keys do: walk from cell to cell, pick, and stretch a rectangle. */
export function useHands(
  { rowCount, columns, picked, onPoint, onPick, onPickColumn, onRange, onEdit, onMark }: Handled,
  scroller: RefObject<HTMLDivElement | null>,
  { headHeight, rowHeight }: { headHeight: number; rowHeight: number },
  show: (cell: GridCell) => void,
) {
  const pointed = useRef('');
  const anchor = useRef<GridCell | undefined>(undefined);
  const stretched = useRef(false);
  const [focus, setFocus] = useState<GridCell>({ row: 0, column: 0 });
  const [focused, setFocused] = useState(false);
  const point = (cell: GridCell | undefined) => {
    const key = cell === undefined ? '' : cellKey(cell.row, cell.column);
    if (key === pointed.current) return;
    pointed.current = key;
    onPoint?.(cell);
  };
  const walk = (event: KeyboardEvent) => {
    const command = event.ctrlKey || event.metaKey || event.altKey;
    // Blank picks a cell, and / and ? are keys of the whole bench.
    const isTyped = event.key.length === 1 && !' /?'.includes(event.key) && !command;
    const isGrid = event.target === event.currentTarget;
    if (onEdit !== undefined && isGrid && focus.row < rowCount && (event.key === 'F2' || isTyped)) {
      event.preventDefault();
      event.stopPropagation();
      onEdit(focus, isTyped ? event.key : undefined);
      return;
    }
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      if (event.shiftKey) onPickColumn?.(focus.column, event);
      else onPick?.(focus);
      return;
    }
    if (event.key === 'm' && isGrid && !command && onMark !== undefined) {
      event.preventDefault();
      onMark(anchor.current?.row ?? focus.row, focus.row);
      return;
    }
    const page = Math.max(1, Math.floor(((scroller.current?.clientHeight ?? 0) - headHeight) / rowHeight) - 1);
    const next = cellAfter(event.key, event.ctrlKey, focus, { rows: rowCount, columns: columns.length, page });
    if (next === undefined) return;
    event.preventDefault();
    if (onRange !== undefined) {
      anchor.current = event.shiftKey ? (anchor.current ?? focus) : undefined;
      onRange(anchor.current === undefined ? undefined : rangeOf(anchor.current, next));
    }
    setFocus(next);
    show(next);
    point(next);
  };
  const stretch = (event: PointerEvent) => {
    if (onRange === undefined || anchor.current === undefined || (event.buttons & 1) === 0) return;
    const cell = cellOf(event.target);
    if (cell === undefined) return;
    const isSame = cell.row === anchor.current.row && cell.column === anchor.current.column;
    if (!stretched.current && isSame) return;
    stretched.current = true;
    getSelection()?.removeAllRanges();
    onRange(rangeOf(anchor.current, cell));
  };
  return {
    active: focused ? focus : picked,
    on: (touch: () => void) => ({
      onKeyDown: (event: KeyboardEvent) => {
        touch();
        walk(event);
      },
      onFocus: (event: FocusEvent<HTMLElement>) =>
        setFocused(event.target === event.currentTarget && event.target.matches(':focus-visible')),
      onBlur: () => setFocused(false),
      onMouseOver: (event: MouseEvent) => point(cellOf(event.target)),
      onMouseLeave: () => point(undefined),
      onPointerDown: (event: PointerEvent) => {
        touch();
        stretched.current = false;
        anchor.current = event.button === 0 ? cellOf(event.target) : undefined;
      },
      onPointerMove: stretch,
      onDoubleClick: (event: MouseEvent) => {
        const cell = cellOf(event.target);
        if (cell !== undefined) onEdit?.(cell, undefined);
      },
      onClick: (event: MouseEvent) => {
        const cell = cellOf(event.target);
        if (cell === undefined || stretched.current) return;
        onRange?.(undefined);
        setFocus(cell);
        onPick?.(cell);
      },
    }),
  };
}
