import { useVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from 'react';

/** Pixels of the bar over the end of a grid. */
const BAR_HEIGHT = 56;

/** Rows of 24 pixels up to here stay within what browsers lay out exactly. */
const MAX_ROWS = 1_000_000;
const SETTLE_MS = 200;

/** Where a window of rows begins that has a row in its middle. */
function baseAround(row: number, rowCount: number): number {
  return Math.max(0, Math.min(rowCount - MAX_ROWS, Math.round(row - MAX_ROWS / 2)));
}

/**
 * The rows in sight of a sheet of any length. A browser can make a page only so tall: past that the sheet is a window
 * of rows, which moves along.
 */
export function useRowWindow(
  scroller: RefObject<HTMLDivElement | null>,
  { rowCount, rowHeight, headHeight }: { rowCount: number; rowHeight: number; headHeight: number },
) {
  const [base, setBase] = useState(0);
  const windowed = Math.max(0, Math.min(rowCount - base, MAX_ROWS));
  const rows = useVirtualizer({
    count: windowed,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    scrollPaddingStart: headHeight,
    // The head pushes the rows down, and a bar with what can be done lies over the last of them.
    scrollPaddingEnd: headHeight + BAR_HEIGHT,
  });
  const inSight = rows.getVirtualItems();
  const [first, last] = [base + (inSight[0]?.index ?? 0), base + (inSight.at(-1)?.index ?? -1)];
  const pending = useRef<{ row: number; align: 'auto' | 'start' } | undefined>(undefined);
  const settled = useRef(0);
  const [looks, lookAgain] = useState(0);
  const showRow = (row: number, align: 'auto' | 'start' = 'auto') => {
    const next = row < base || row >= base + windowed ? baseAround(row, rowCount) : base;
    if (next === base) {
      rows.scrollToIndex(row - base, { align });
      return;
    }
    pending.current = { row, align };
    setBase(next);
  };
  useLayoutEffect(() => {
    if (base > 0 && base >= rowCount) setBase(0);
    const wanted = pending.current;
    pending.current = undefined;
    if (wanted === undefined) return;
    settled.current = performance.now() + SETTLE_MS;
    rows.scrollToIndex(wanted.row - base, { align: wanted.align });
  }, [base, rowCount, rows]);
  const top = Math.floor((rows.scrollOffset ?? 0) / rowHeight) + base;
  const atEnd = last >= base + windowed - 1 && base + windowed < rowCount;
  const atStart = first <= base && base > 0;
  useEffect(() => {
    if ((!atEnd && !atStart) || pending.current !== undefined) return;
    // A window that has just moved is still being scrolled to its place: look again when it is there.
    const wait = settled.current - performance.now();
    if (wait > 0) {
      const timer = setTimeout(() => lookAgain((n) => n + 1), wait + 10);
      return () => clearTimeout(timer);
    }
    pending.current = { row: top, align: 'start' };
    setBase(baseAround(top, rowCount));
    return undefined;
  }, [atEnd, atStart, top, rowCount, looks]);
  return { base, first, last, top: Math.max(0, top), inSight, height: rows.getTotalSize(), showRow };
}
