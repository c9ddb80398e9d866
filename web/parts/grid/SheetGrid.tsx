import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import {
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import type { Mark } from '../../../core/index.ts';
import type { RowView } from '../../engine/protocol.ts';
import styles from './sheet-grid.module.css';

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

interface Props {
  label: string;
  rowCount: number;
  columns: readonly GridColumn[];
  headHeight: number;
  rowHeight?: number;
  gutterWidth?: number;
  gutter?: (row: number, mark: Mark | undefined) => ReactNode;
  corner?: ReactNode;
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
  onPickColumn?(column: number, event: MouseEvent | KeyboardEvent): void;
  /** The right edge of a head is dragged; undefined sets the width back. */
  onResize?(column: number, width: number | undefined): void;
  /** A double click on the head of a column. */
  onNameColumn?(column: number): void;
  /** Selected by dragging or with Shift and the arrow keys. */
  range?: GridRange;
  onRange?(range: GridRange | undefined): void;
  goTo?: GridCell;
  /** So many columns at the start stay in sight. */
  frozen?: number;
  /** The first row in sight, told when the user scrolls. */
  onScrolled?(row: number): void;
  /** Another page was scrolled: this row comes to the top. */
  follow?: { row: number };
}

export const cellKey = (row: number, column: number) => `${row}:${column}`;

function cellsOf(span: GridSpan): string[] {
  const keys: string[] = [];
  // Only the few rows in sight matter, and merges are small; a merge of whole columns is cut off where it gets long.
  for (let r = span.row; r < span.row + Math.min(span.rows, 500); r++) {
    for (let c = span.column; c < span.column + span.columns; c++) keys.push(cellKey(r, c));
  }
  return keys;
}

/** Rows of 24 pixels up to here stay within what browsers lay out exactly. */
const MOST_ROWS = 1_000_000;

const SETTLE_MS = 200;
/** Scrolling so soon after the wheel, a key or the pointer is the user's. */
const TOUCH_MS = 1500;

/** A sheet of any size: only the cells in sight are on the page. Arrow keys walk from cell to cell. */
export function SheetGrid(props: Props) {
  const { rowCount, columns, headHeight, rowHeight = 24, gutterWidth = 0 } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const pointed = useRef('');
  const anchor = useRef<GridCell | undefined>(undefined);
  const stretched = useRef(false);
  const [focus, setFocus] = useState<GridCell>({ row: 0, column: 0 });
  const [base, setBase] = useState(0);
  const windowed = Math.max(0, Math.min(rowCount - base, MOST_ROWS));
  const rows = useVirtualizer({
    count: windowed,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    scrollPaddingStart: headHeight,
  });
  const frozen = Math.min(props.frozen ?? 0, columns.length);
  const frozenWidth = columns.slice(0, frozen).reduce((sum, column) => sum + column.width, 0);
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
    scrollPaddingStart: gutterWidth + frozenWidth,
  });
  const widths = columns.map((column) => column.width).join();
  useEffect(() => across.measure(), [widths, across]);

  const inSight = rows.getVirtualItems();
  const [first, last] = [base + (inSight[0]?.index ?? 0), base + (inSight.at(-1)?.index ?? -1)];
  // A browser can make a page only so tall: past that the grid holds a window of rows, which moves along.
  const pending = useRef<{ row: number; align: 'auto' | 'start' } | undefined>(undefined);
  const settled = useRef(0);
  const [looks, lookAgain] = useState(0);
  const windowAt = (row: number) => Math.max(0, Math.min(rowCount - MOST_ROWS, Math.round(row - MOST_ROWS / 2)));
  const showRow = (row: number, align: 'auto' | 'start' = 'auto') => {
    const next = row < base || row >= base + windowed ? windowAt(row) : base;
    if (next === base) {
      rows.scrollToIndex(row - base, { align });
      return;
    }
    pending.current = { row, align };
    setBase(next);
  };
  useLayoutEffect(() => {
    if (base > 0 && base >= rowCount) setBase(0);
    const journey = pending.current;
    pending.current = undefined;
    if (journey === undefined) return;
    settled.current = performance.now() + SETTLE_MS;
    rows.scrollToIndex(journey.row - base, { align: journey.align });
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
    setBase(Math.max(0, Math.min(rowCount - MOST_ROWS, Math.round(top - MOST_ROWS / 2))));
    return undefined;
  }, [atEnd, atStart, top, rowCount, looks]);
  const { onSight, goTo } = props;
  useEffect(() => {
    if (last >= first) onSight(first, last + 1);
  }, [first, last, onSight]);
  const journey = useRef<() => void>(() => undefined);
  journey.current = () => {
    if (goTo === undefined || goTo.row >= rowCount) return;
    if (goTo.row >= 0) showRow(goTo.row);
    if (goTo.column >= 0 && goTo.column < columns.length) across.scrollToIndex(goTo.column, { align: 'auto' });
  };
  // One journey for each place given, however often the grid is drawn on the way.
  useEffect(() => {
    if (goTo !== undefined) journey.current();
  }, [goTo]);

  const { follow } = props;
  const following = useRef<() => void>(() => undefined);
  following.current = () => {
    if (follow !== undefined && follow.row < rowCount) showRow(follow.row, 'start');
  };
  useEffect(() => {
    if (follow !== undefined) following.current();
  }, [follow]);
  // Only what the user scrolls is told, not what follows another page.
  const touched = useRef(0);
  const touch = () => {
    touched.current = performance.now();
  };
  const { onScrolled } = props;
  const topRow = Math.max(0, top);
  useEffect(() => {
    if (performance.now() - touched.current < TOUCH_MS) onScrolled?.(topRow);
  }, [topRow, onScrolled]);

  const spans = useMemo(
    () => props.spans?.filter((span) => span.row <= last && span.row + span.rows > first) ?? [],
    [props.spans, first, last],
  );
  const covered = useMemo(() => new Set(spans.flatMap(cellsOf)), [spans]);
  const width = gutterWidth + across.getTotalSize();
  const cellOf = (target: EventTarget): GridCell | undefined => {
    const element = (target as HTMLElement).closest<HTMLElement>('[data-cell]');
    const [row, column] = element?.dataset['cell']?.split(':').map(Number) ?? [];
    return row === undefined || column === undefined ? undefined : { row, column };
  };
  const point = (cell: GridCell | undefined) => {
    const key = cell === undefined ? '' : cellKey(cell.row, cell.column);
    if (key === pointed.current) return;
    pointed.current = key;
    props.onPoint?.(cell);
  };
  const walk = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor(((scroller.current?.clientHeight ?? 0) - headHeight) / rowHeight) - 1);
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-page, 0],
      PageDown: [page, 0],
      Home: [event.ctrlKey ? -rowCount : 0, -columns.length],
      End: [event.ctrlKey ? rowCount : 0, columns.length],
    };
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      if (event.shiftKey) props.onPickColumn?.(focus.column, event);
      else props.onPick?.(focus);
      return;
    }
    const move = moves[event.key];
    if (move === undefined || rowCount === 0) return;
    event.preventDefault();
    const next = {
      row: Math.min(rowCount - 1, Math.max(0, focus.row + move[0])),
      column: Math.min(columns.length - 1, Math.max(0, focus.column + move[1])),
    };
    if (props.onRange !== undefined) {
      anchor.current = event.shiftKey ? (anchor.current ?? focus) : undefined;
      props.onRange(anchor.current === undefined ? undefined : rangeOf(anchor.current, next));
    }
    setFocus(next);
    showRow(next.row);
    across.scrollToIndex(next.column, { align: 'auto' });
    point(next);
  };
  const [focused, setFocused] = useState(false);
  const active = focused ? focus : props.picked;

  const items = across.getVirtualItems();
  const held = items.filter((item) => item.index < frozen);
  const moving = items.filter((item) => item.index >= frozen);
  const headCell = (item: (typeof items)[number], left: number) => {
    const column = columns[item.index];
    if (column === undefined) return null;
    return (
      <div
        key={column.key}
        className={styles.headCell}
        role="columnheader"
        aria-colindex={item.index + 1}
        tabIndex={-1}
        data-column={item.index}
        style={{ left: left + item.start, width: item.size, padding: 0 }}
        onClick={(event) => props.onPickColumn?.(item.index, event)}
        onDoubleClick={() => props.onNameColumn?.(item.index)}
        onKeyDown={() => undefined}
      >
        {column.head}
        {props.onResize !== undefined && (
          <Grip width={item.size} onResize={(width) => props.onResize?.(item.index, width)} />
        )}
      </div>
    );
  };
  const bodyCell = (item: (typeof items)[number], at: number, row: RowView | undefined, left: number) => {
    const column = columns[item.index];
    if (column === undefined) return null;
    const cell = row?.cells[item.index];
    const key = cellKey(at, item.index);
    if (covered.has(key)) return null;
    const classes = [styles.cell];
    if (column.align === 'end' || cell?.kind === 'counted') classes.push(styles.end);
    if (cell === undefined) classes.push(styles.waiting);
    else if (cell.kind === 'unreadable') classes.push(styles.unreadable);
    else if (cell.kind === 'empty') classes.push(styles.empty);
    else if (cell.kind === 'blank' && props.spans === undefined) classes.push(styles.nothing);
    if (props.selectedColumns?.has(item.index)) classes.push(styles.selected);
    if (props.lit?.has(key)) classes.push(styles.lit);
    if (props.range !== undefined && isWithin(props.range, at, item.index)) classes.push(styles.inRange);
    if (active?.row === at && active.column === item.index) classes.push(styles.picked);
    // On a report, text runs on over the blank cells behind it, as it was laid out to be read.
    const runsOn = props.spans !== undefined && cell?.kind === 'text' && row?.cells[item.index + 1]?.kind === 'blank';
    if (runsOn) classes.push(styles.runsOn);
    const comment = props.comments?.get(key);
    if (comment !== undefined) classes.push(styles.comment);
    return (
      <div
        key={column.key}
        role="gridcell"
        aria-colindex={item.index + 1}
        data-cell={key}
        title={comment}
        className={classes.join(' ')}
        style={{ left: left + item.start, width: item.size }}
      >
        {cell?.text ?? ''}
      </div>
    );
  };

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
      onKeyDown={(event) => {
        touch();
        walk(event);
      }}
      onFocus={(event) => setFocused(event.target === event.currentTarget && event.target.matches(':focus-visible'))}
      onBlur={() => setFocused(false)}
      onMouseOver={(event) => point(cellOf(event.target))}
      onMouseLeave={() => point(undefined)}
      onPointerDown={(event) => {
        touch();
        stretched.current = false;
        anchor.current = event.button === 0 ? cellOf(event.target) : undefined;
      }}
      onPointerMove={(event) => {
        if (props.onRange === undefined || anchor.current === undefined || (event.buttons & 1) === 0) return;
        const cell = cellOf(event.target);
        if (
          cell === undefined ||
          (!stretched.current && cellKey(cell.row, cell.column) === cellKey(anchor.current.row, anchor.current.column))
        )
          return;
        stretched.current = true;
        getSelection()?.removeAllRanges();
        props.onRange(rangeOf(anchor.current, cell));
      }}
      onClick={(event) => {
        const cell = cellOf(event.target);
        if (cell === undefined || stretched.current) return;
        props.onRange?.(undefined);
        setFocus(cell);
        props.onPick?.(cell);
      }}
    >
      <div className={styles.canvas} style={{ width, height: headHeight + rows.getTotalSize() }}>
        <div className={styles.head} role="row" aria-rowindex={1} style={{ height: headHeight, width }}>
          {gutterWidth > 0 && (
            <div className={styles.corner} style={{ width: gutterWidth }}>
              {props.corner}
            </div>
          )}
          {frozen > 0 && (
            <div className={styles.frozenHead} role="presentation" style={{ left: gutterWidth, width: frozenWidth }}>
              {held.map((item) => headCell(item, 0))}
            </div>
          )}
          {moving.map((item) => headCell(item, gutterWidth))}
        </div>
        {inSight.map((line) => {
          const at = base + line.index;
          const row = props.row(at);
          const lighted =
            props.litRows?.has(at) ||
            (props.lit !== undefined && columns.some((_, c) => props.lit?.has(cellKey(at, c))));
          return (
            <div
              key={line.key}
              role="row"
              aria-rowindex={at + 2}
              className={`${styles.row} ${row?.mark === undefined ? '' : (styles[row.mark] ?? '')} ${lighted ? styles.rowLit : ''}`}
              style={{ top: headHeight + line.start, height: rowHeight, width, lineHeight: `${rowHeight - 1}px` }}
            >
              {gutterWidth > 0 && (
                <div className={styles.gutter} style={{ width: gutterWidth }} role="rowheader">
                  {props.gutter?.(at, row?.mark)}
                </div>
              )}
              {frozen > 0 && (
                <div className={styles.frozen} role="presentation" style={{ left: gutterWidth, width: frozenWidth }}>
                  {held.map((item) => bodyCell(item, at, row, 0))}
                </div>
              )}
              {moving.map((item) => bodyCell(item, at, row, gutterWidth))}
            </div>
          );
        })}
        {spans.map((span) => {
          const row = props.row(span.row);
          const from = across.measurementsCache[span.column];
          const to = across.measurementsCache[Math.min(columns.length, span.column + span.columns) - 1];
          if (row === undefined || from === undefined || to === undefined) return null;
          const cell = row.cells[span.column];
          const key = cellKey(span.row, span.column);
          return (
            <div
              key={key}
              className={`${styles.row} ${row.mark === undefined ? '' : (styles[row.mark] ?? '')}`}
              role="presentation"
              style={{
                top: headHeight + (span.row - base) * rowHeight,
                height: rowHeight * span.rows,
                width: 0,
                lineHeight: `${rowHeight - 1}px`,
              }}
            >
              <div
                role="presentation"
                data-cell={key}
                className={`${styles.cell} ${span.columns > 1 && span.column > 0 ? styles.centre : ''} ${props.lit?.has(key) ? styles.lit : ''}`}
                style={{
                  left: gutterWidth + from.start,
                  width: to.end - from.start,
                  ...(props.lit?.has(key)
                    ? {}
                    : {
                        backgroundColor: row.mark === undefined || !TINTED.has(row.mark) ? 'var(--page)' : undefined,
                      }),
                }}
              >
                {cell?.text ?? ''}
              </div>
            </div>
          );
        })}
      </div>
    </div>
  );
}

const LEAST_WIDTH = 36;

/** The edge of a column's head, by which it is made wider or narrower. */
function Grip({ width, onResize }: { width: number; onResize(width: number | undefined): void }) {
  const start = useRef<{ x: number; width: number } | undefined>(undefined);
  return (
    <span
      className={styles.grip}
      title="Drag for another width; a double click sets it back"
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = { x: event.clientX, width };
      }}
      onPointerMove={(event) => {
        if (start.current === undefined) return;
        onResize(Math.max(LEAST_WIDTH, Math.round(start.current.width + event.clientX - start.current.x)));
      }}
      onPointerUp={() => {
        start.current = undefined;
      }}
      onClick={(event) => event.stopPropagation()}
      onDoubleClick={(event) => {
        event.stopPropagation();
        onResize(undefined);
      }}
    />
  );
}

function rangeOf(a: GridCell, b: GridCell): GridRange {
  return {
    from: { row: Math.min(a.row, b.row), column: Math.min(a.column, b.column) },
    to: { row: Math.max(a.row, b.row), column: Math.max(a.column, b.column) },
  };
}

function isWithin({ from, to }: GridRange, row: number, column: number): boolean {
  return row >= from.row && row <= to.row && column >= from.column && column <= to.column;
}

/** Marks whose rows have a ground of their own. */
const TINTED: ReadonlySet<Mark> = new Set(['header', 'repeat', 'label', 'total']);
