import { type KeyboardEvent, type RefObject, useRef, useState } from 'react';
import { lightBetween, type useTape } from './use-tape.ts';

const MOVES: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1, PageDown: 20, PageUp: -20 };

interface Lines {
  part: number;
  rows: number;
  scroller: RefObject<HTMLElement | null>;
  tape: ReturnType<typeof useTape>;
  bringIntoSight(row: number): void;
  /** The line in hand is taken with Enter. */
  onEnter?(row: number): void;
}

/** Keys over the lines of a page: they are walked, stretched over with Shift, and marked with m. */
export function useLineKeys({ part, rows, scroller, tape, bringIntoSight, onEnter }: Lines) {
  const [focus, setFocus] = useState(0);
  /** Where a stretch of lines begins that is stretched with Shift. */
  const from = useRef<number | undefined>(undefined);
  const walk = (event: KeyboardEvent) => {
    const by = MOVES[event.key];
    if (event.target !== event.currentTarget) return;
    if (event.key === 'Enter') onEnter?.(focus);
    if (event.key === 'm') tape.markAt(scroller.current, from.current ?? focus, focus);
    if (by === undefined) return;
    event.preventDefault();
    from.current = event.shiftKey ? (from.current ?? focus) : undefined;
    const next = Math.max(0, Math.min(rows - 1, focus + by));
    setFocus(next);
    bringIntoSight(next);
    if (from.current !== undefined) lightBetween(part, from.current, next);
  };
  return { focus, setFocus, walk };
}
