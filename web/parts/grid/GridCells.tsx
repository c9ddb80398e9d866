import type { VirtualItem } from '@tanstack/react-virtual';
import type { ReactNode } from 'react';
import type { Mark } from '../../../core/index.ts';
import type { RowView } from '../../engine/protocol.ts';
import { Grip } from './Grip.tsx';
import {
  cellKey,
  type GridCell,
  type GridColumn,
  type GridRange,
  type GridSpan,
  isWithin,
  type PickEvent,
} from './grid-types.ts';
import styles from './sheet-grid.module.css';

/** How cells are drawn beside what they hold. */
export interface CellLook {
  lit?: ReadonlySet<string>;
  selectedColumns?: ReadonlySet<number>;
  range?: GridRange;
  comments?: ReadonlyMap<string, string>;
  /** The cell with the focus, or the one that was picked. */
  active?: GridCell;
  /** What stands in the place of a cell. */
  editing?: { cell: GridCell; field: ReactNode };
  /** Cells under a merge, which is drawn in their place. */
  covered: ReadonlySet<string>;
  /** It is a report as it was laid out, with merges and texts that run on. */
  laidOut: boolean;
}

interface Placed {
  column: GridColumn;
  item: VirtualItem;
  /** Where the first column begins, in CSS pixels. */
  left: number;
}

export function HeadCell({
  column,
  item,
  left,
  onPick,
  onName,
  onResize,
}: Placed & {
  onPick?(column: number, event: PickEvent): void;
  onName?(column: number): void;
  onResize?(column: number, width: number | undefined): void;
}) {
  return (
    <div
      className={styles.headCell}
      role="columnheader"
      aria-colindex={item.index + 1}
      tabIndex={-1}
      data-column={item.index}
      style={{ left: left + item.start, width: item.size, padding: 0 }}
      onClick={(event) => onPick?.(item.index, event)}
      onDoubleClick={() => onName?.(item.index)}
      onKeyDown={() => undefined}
    >
      {column.head}
      {onResize !== undefined && <Grip width={item.size} onResize={(width) => onResize(item.index, width)} />}
    </div>
  );
}

export function BodyCell({
  column,
  item,
  left,
  at,
  row,
  look,
}: Placed & { at: number; row: RowView | undefined; look: CellLook }) {
  const cell = row?.cells[item.index];
  const key = cellKey(at, item.index);
  if (look.covered.has(key)) return null;
  // On a report, text runs on over the blank cells behind it, as it was laid out to be read.
  const runsOn = look.laidOut && cell?.kind === 'text' && row?.cells[item.index + 1]?.kind === 'blank';
  const comment = look.comments?.get(key);
  const classes = [
    styles.cell,
    kindClass(cell?.kind, look.laidOut),
    (column.align === 'end' || cell?.kind === 'counted') && styles.end,
    look.selectedColumns?.has(item.index) && styles.selected,
    look.lit?.has(key) && styles.lit,
    look.range !== undefined && isWithin(look.range, at, item.index) && styles.inRange,
    look.active?.row === at && look.active.column === item.index && styles.picked,
    runsOn && styles.runsOn,
    comment !== undefined && styles.comment,
  ];
  return (
    <div
      role="gridcell"
      aria-colindex={item.index + 1}
      data-cell={key}
      title={comment}
      className={classes.filter(Boolean).join(' ')}
      style={{ left: left + item.start, width: item.size }}
    >
      {look.editing?.cell.row === at && look.editing.cell.column === item.index
        ? look.editing.field
        : (cell?.text ?? '')}
    </div>
  );
}

function kindClass(kind: RowView['cells'][number]['kind'] | undefined, laidOut: boolean): string | undefined {
  switch (kind) {
    case undefined:
      return styles.waiting;
    case 'unreadable':
      return styles.unreadable;
    case 'empty':
      return styles.empty;
    case 'blank':
      return laidOut ? undefined : styles.nothing;
    default:
      return undefined;
  }
}

/** Marks whose rows have their own ground. */
const TINTED: ReadonlySet<Mark> = new Set(['header', 'repeat', 'label', 'total']);

/** Merged cells, drawn over the rows and columns that they cover. */
export function SpanCell({
  span,
  row,
  lit,
  place,
}: {
  span: GridSpan;
  row: RowView;
  lit: boolean;
  /** In CSS pixels. */
  place: { top: number; left: number; width: number; rowHeight: number };
}) {
  const ground = lit || (row.mark !== undefined && TINTED.has(row.mark)) ? undefined : 'var(--page)';
  return (
    <div
      className={rowClass(row.mark)}
      role="presentation"
      style={{
        top: place.top,
        height: place.rowHeight * span.rows,
        width: 0,
        lineHeight: `${place.rowHeight - 1}px`,
      }}
    >
      <div
        role="presentation"
        data-cell={cellKey(span.row, span.column)}
        className={`${styles.cell} ${span.columns > 1 && span.column > 0 ? styles.centre : ''} ${lit ? styles.lit : ''}`}
        style={{ left: place.left, width: place.width, ...(ground === undefined ? {} : { backgroundColor: ground }) }}
      >
        {row.cells[span.column]?.text ?? ''}
      </div>
    </div>
  );
}

/** How a row is drawn by what it is to the report. */
export function rowClass(mark: Mark | undefined, lit = false, told = false): string {
  return `${styles.row} ${mark === undefined ? '' : (styles[mark] ?? '')} ${lit ? styles.rowLit : ''} ${told ? styles.rowTold : ''}`;
}
