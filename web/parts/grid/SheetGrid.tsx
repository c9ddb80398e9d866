import { defaultRangeExtractor, useVirtualizer, type VirtualItem } from '@tanstack/react-virtual';
import { type ReactNode, type RefObject, useEffect, useMemo, useRef } from 'react';
import type { Mark } from '../../../core/index.ts';
import type { RowView } from '../../engine/protocol.ts';
import { BodyCell, type CellLook, HeadCell, rowClass, SpanCell } from './GridCells.tsx';
import {
  cellKey,
  cellsOf,
  type GridCell,
  type GridColumn,
  type GridRange,
  type GridSpan,
  type PickEvent,
} from './grid-types.ts';
import styles from './sheet-grid.module.css';
import { useHands } from './use-hands.ts';
import { useRowWindow } from './use-row-window.ts';

interface Props {
  label: string;
  rowCount: number;
  columns: readonly GridColumn[];
  headHeight: number;
  rowHeight?: number;
  /** What stands beside each row, and above it. */
  gutter?: { width: number; cell(row: number, mark: Mark | undefined): ReactNode; corner?: ReactNode };
  /** The row, or undefined while it is on its way. */
  row(index: number): RowView | undefined;
  /** Called with the rows in sight, so that they can be fetched. */
  onSight(from: number, to: number): void;
  spans?: readonly GridSpan[];
  comments?: ReadonlyMap<string, string>;
  lit?: ReadonlySet<string>;
  litRows?: ReadonlySet<number>;
  selectedColumns?: ReadonlySet<number>;
  picked?: GridCell;
  onPoint?(cell: GridCell | undefined): void;
  onPick?(cell: GridCell): void;
  onPickColumn?(column: number, event: PickEvent): void;
  /** The right edge of a head is dragged; undefined sets the width back. */
  onResize?(column: number, width: number | undefined): void;
  /** A double click on the head of a column. */
  onNameColumn?(column: number): void;
  /** Selected by dragging or with Shift and the arrow keys. */
  range?: GridRange;
  onRange?(range: GridRange | undefined): void;
  /** A cell is typed over: with the key that began it, or all of its text selected. */
  onEdit?(cell: GridCell, typed: string | undefined): void;
  /** The key m: rows are said to be something, from one to another. */
  onMark?(from: number, to: number): void;
  /** What stands in the place of a cell while it is typed over. */
  editing?: { cell: GridCell; field: ReactNode };
  /** A cell to bring into sight: each object once. */
  goTo?: GridCell;
  /** So many columns at the start stay in sight. */
  frozen?: number;
  /** The first row in sight, told when the user scrolls. */
  onScrolled?(row: number): void;
  /** Another page was scrolled: this row comes to the top, each object once. */
  follow?: { row: number };
}

/** Scrolling so soon after the wheel, a key or the pointer is the user's. */
const TOUCH_MS = 1500;

/** A sheet of any size: only the cells in sight are on the page. Arrow keys walk from cell to cell. */
export function SheetGrid(props: Props) {
  const { rowCount, columns, headHeight, rowHeight = 24, gutter, row } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const gutterWidth = gutter?.width ?? 0;
  const frozen = Math.min(props.frozen ?? 0, columns.length);
  const frozenWidth = columns.slice(0, frozen).reduce((sum, column) => sum + column.width, 0);
  const rows = useRowWindow(scroller, { rowCount, rowHeight, headHeight });
  const across = useColumnWindow(scroller, columns, frozen, gutterWidth + frozenWidth);
  const { base, first, last, inSight, showRow } = rows;
  const { onSight } = props;
  useEffect(() => {
    if (last >= first) onSight(first, last + 1);
  }, [first, last, onSight]);
  const show = (cell: GridCell) => {
    if (cell.row >= 0) showRow(cell.row);
    if (cell.column >= 0 && cell.column < columns.length) across.scrollToIndex(cell.column, { align: 'auto' });
  };
  // Once for each place given, however often the grid is drawn on the way.
  useOnce(props.goTo, (cell) => cell.row < rowCount && show(cell));
  useOnce(props.follow, (place) => place.row < rowCount && showRow(place.row, 'start'));
  const touch = useUserScroll(rows.top, props.onScrolled);
  const hands = useHands(props, scroller, { headHeight, rowHeight }, show);

  const spans = useMemo(
    () => props.spans?.filter((span) => span.row <= last && span.row + span.rows > first) ?? [],
    [props.spans, first, last],
  );
  const covered = useMemo(() => new Set(spans.flatMap(cellsOf)), [spans]);
  const width = gutterWidth + across.getTotalSize();
  const items = across.getVirtualItems();
  const held = items.filter((item) => item.index < frozen);
  const moving = items.filter((item) => item.index >= frozen);
  const look: CellLook = { ...props, active: hands.active, covered, laidOut: props.spans !== undefined };
  const headCells = (of: readonly VirtualItem[], left: number) =>
    of.map((item) => {
      const column = columns[item.index];
      if (column === undefined) return null;
      const { onPickColumn: onPick, onNameColumn: onName, onResize } = props;
      return <HeadCell key={column.key} {...{ column, item, left, onPick, onName, onResize }} />;
    });
  const bodyCells = (of: readonly VirtualItem[], at: number, left: number) =>
    of.map((item) => {
      const column = columns[item.index];
      if (column === undefined) return null;
      return <BodyCell key={column.key} {...{ column, item, left, at, row: row(at), look }} />;
    });
  return (
    <div
      ref={scroller}
      className={styles.scroller}
      role="grid"
      aria-label={props.label}
      aria-rowcount={rowCount + 1}
      aria-colcount={columns.length}
      tabIndex={0}
      onWheel={touch}
      {...hands.on(touch)}
    >
      <div className={styles.canvas} style={{ width, height: headHeight + rows.height }}>
        <div className={styles.head} role="row" aria-rowindex={1} style={{ height: headHeight, width }}>
          {gutter !== undefined && (
            <div className={styles.corner} style={{ width: gutterWidth }}>
              {gutter.corner}
            </div>
          )}
          {frozen > 0 && (
            <div className={styles.frozenHead} role="presentation" style={{ left: gutterWidth, width: frozenWidth }}>
              {headCells(held, 0)}
            </div>
          )}
          {headCells(moving, gutterWidth)}
        </div>
        {inSight.map((line) => {
          const at = base + line.index;
          const mark = row(at)?.mark;
          const isTold = props.litRows?.has(at) === true;
          const isLit = isTold || (props.lit !== undefined && columns.some((_, c) => props.lit!.has(cellKey(at, c))));
          return (
            <div
              key={line.key}
              role="row"
              aria-rowindex={at + 2}
              className={rowClass(mark, isLit, isTold)}
              style={{ top: headHeight + line.start, height: rowHeight, width, lineHeight: `${rowHeight - 1}px` }}
            >
              {gutter !== undefined && (
                <div className={styles.gutter} style={{ width: gutterWidth }} role="rowheader">
                  {gutter.cell(at, mark)}
                </div>
              )}
              {frozen > 0 && (
                <div className={styles.frozen} role="presentation" style={{ left: gutterWidth, width: frozenWidth }}>
                  {bodyCells(held, at, 0)}
                </div>
              )}
              {bodyCells(moving, at, gutterWidth)}
            </div>
          );
        })}
        {spans.map((span) => {
          const own = row(span.row);
          const from = across.measurementsCache[span.column];
          const to = across.measurementsCache[Math.min(columns.length, span.column + span.columns) - 1];
          if (own === undefined || from === undefined || to === undefined) return null;
          const key = cellKey(span.row, span.column);
          const place = {
            top: headHeight + (span.row - base) * rowHeight,
            left: gutterWidth + from.start,
            width: to.end - from.start,
            rowHeight,
          };
          return <SpanCell key={key} span={span} row={own} lit={props.lit?.has(key) === true} place={place} />;
        })}
      </div>
    </div>
  );
}

/** The columns in sight; the first few may stay there. */
function useColumnWindow(
  scroller: RefObject<HTMLDivElement | null>,
  columns: readonly GridColumn[],
  frozen: number,
  scrollPaddingStart: number,
) {
  const across = useVirtualizer({
    horizontal: true,
    count: columns.length,
    rangeExtractor: (range) => {
      const found = defaultRangeExtractor(range);
      for (let k = frozen - 1; k >= 0; k--) if (!found.includes(k)) found.unshift(k);
      return found;
    },
    getScrollElement: () => scroller.current,
    estimateSize: (index) => columns[index]!.width,
    overscan: 3,
    scrollPaddingStart,
  });
  const widths = columns.map((column) => column.width).join();
  useEffect(() => across.measure(), [widths, across]);
  return across;
}

/** Acts once on every object that is given, by what is known when it is drawn. */
function useOnce<T extends object>(given: T | undefined, act: (given: T) => void): void {
  const newest = useRef(act);
  newest.current = act;
  useEffect(() => {
    if (given !== undefined) newest.current(given);
  }, [given]);
}

/** Tells the first row in sight when the user scrolls, and not when another page is followed. */
function useUserScroll(top: number, onScrolled: ((row: number) => void) | undefined): () => void {
  const touched = useRef(0);
  useEffect(() => {
    if (performance.now() - touched.current < TOUCH_MS) onScrolled?.(top);
  }, [top, onScrolled]);
  return () => {
    touched.current = performance.now();
  };
}
