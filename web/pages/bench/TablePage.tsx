import { type KeyboardEvent, type MouseEvent, useMemo, useState } from 'react';
import type { StepView } from '../../engine/protocol.ts';
import { ColumnHead, ColumnNaming, fittingWidth, typeText } from '../../parts/grid/ColumnHead.tsx';
import { cellKey, type GridCell, type GridColumn, type GridRange } from '../../parts/grid/grid-types.ts';
import { SheetGrid } from '../../parts/grid/SheetGrid.tsx';
import { NameInput } from '../../parts/NameInput.tsx';
import { useLayoutStore, widthOf } from '../../stores/layout-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { useTableWindow } from './use-table-window.ts';

const HEAD_HEIGHT = 48;
const COUNTED = new Set(['number', 'whole']);

interface Props {
  label: string;
  tableId: string;
  step: number;
  view: StepView | undefined;
  lit: readonly GridCell[];
  selected: readonly string[];
  picked: GridCell | undefined;
  onPoint?(cell: GridCell | undefined, text: string): void;
  onPick?(cell: GridCell, text: string, column: string): void;
  onSelect?(columns: string[]): void;
  onRename?(column: string, name: string): void;
  /** A cell was typed over. */
  onExample?(cell: GridCell, wanted: string): void;
  range?: GridRange;
  onRange?(range: GridRange | undefined): void;
  /** Changes when the table under the same id and step is another. */
  version?: number;
  goTo?: GridCell;
  onScrolled?(row: number): void;
  follow?: { row: number };
}

/** The table after one step as a grid. */
export function TablePage({
  label,
  tableId,
  step,
  view,
  lit,
  selected,
  picked,
  onPoint,
  onPick,
  onSelect,
  onRename,
  onExample,
  range,
  onRange,
  version,
  goTo,
  onScrolled,
  follow,
}: Props) {
  const { columns, row, ensure } = useTableWindow(tableId, step, version);
  const { widths, widen } = useLayoutStore();
  const frozen = useLayoutStore((store) => store.frozen[tableId]);
  const takeColumn = useViewStore((store) => store.takeColumn);
  const resize = (index: number, width: number | undefined) => widen(tableId, columns[index]!.name, width);
  const [typing, setTyping] = useState<{ cell: GridCell; typed: string | undefined } | undefined>();
  const [naming, setNaming] = useState<string | undefined>();
  const grid = useMemo<GridColumn[]>(
    () =>
      columns.map((column, k) => {
        const end =
          COUNTED.has(column.type) ||
          (column.type === 'received' && column.mixture?.length === 1 && column.mixture[0] === 'number');
        return {
          key: column.name,
          width:
            widthOf({ widths }, tableId, column.name) ??
            Math.max(typeText(column).length * 5.7 + 16, fittingWidth(column.name, column.characters, 56)),
          align: end ? 'end' : 'start',
          head:
            naming === column.name ? (
              <ColumnNaming
                name={column.name}
                onDone={(name) => {
                  setNaming(undefined);
                  if (name !== '' && name !== column.name) onRename?.(column.name, name);
                }}
                onNext={() => setNaming(columns[k + 1]?.name)}
              />
            ) : (
              <ColumnHead column={column} selected={selected.includes(column.name)} end={end} />
            ),
        };
      }),
    [columns, selected, naming, onRename, widths, tableId],
  );
  const litKeys = useMemo(() => new Set(lit.map((cell) => cellKey(cell.row, cell.column))), [lit]);
  const selectedSet = useMemo(
    () => new Set(columns.flatMap((column, k) => (selected.includes(column.name) ? [k] : []))),
    [columns, selected],
  );
  const textOf = (cell: GridCell) => row(cell.row)?.cells[cell.column]?.text ?? '';
  const select = (index: number, event: MouseEvent | KeyboardEvent) => {
    const name = columns[index]?.name;
    if (name === undefined) return;
    if (takeColumn !== undefined) {
      takeColumn.take(name);
      return;
    }
    if (event.shiftKey && 'button' in event && selected.length > 0) {
      const from = columns.findIndex((column) => column.name === selected.at(-1));
      const [a, b] = [Math.min(from, index), Math.max(from, index)];
      onSelect?.([...new Set([...selected, ...columns.slice(a, b + 1).map((column) => column.name)])]);
    } else if (event.ctrlKey || event.metaKey) {
      onSelect?.(selected.includes(name) ? selected.filter((one) => one !== name) : [...selected, name]);
    } else {
      onSelect?.(selected.length === 1 && selected[0] === name ? [] : [name]);
    }
  };
  return (
    <SheetGrid
      label={label}
      rowCount={view?.rows ?? 0}
      columns={grid}
      headHeight={HEAD_HEIGHT}
      row={row}
      onSight={ensure}
      lit={litKeys}
      selectedColumns={selectedSet}
      picked={picked}
      onPoint={(cell) => onPoint?.(cell, cell === undefined ? '' : textOf(cell))}
      onPick={(cell) => onPick?.(cell, textOf(cell), columns[cell.column]?.name ?? '')}
      onPickColumn={select}
      onNameColumn={onRename === undefined ? undefined : (index) => setNaming(columns[index]?.name)}
      onResize={resize}
      onEdit={onExample === undefined ? undefined : (cell, typed) => setTyping({ cell, typed })}
      editing={
        typing === undefined
          ? undefined
          : {
              cell: typing.cell,
              field: (
                <NameInput
                  className={styles.typing}
                  label={`How this cell of ${columns[typing.cell.column]?.name ?? ''} should read`}
                  text={textOf(typing.cell)}
                  typed={typing.typed}
                  onDone={(wanted) => {
                    setTyping(undefined);
                    if (wanted !== textOf(typing.cell)) onExample?.(typing.cell, wanted);
                  }}
                />
              ),
            }
      }
      range={range}
      onRange={onRange}
      goTo={goTo}
      frozen={frozen}
      onScrolled={onScrolled}
      follow={follow}
    />
  );
}
