import { useCallback, useEffect, useMemo, useState } from 'react';
import { columnLetters, type JobTable } from '../../../../core/index.ts';
import { engineClient } from '../../../engine/client.ts';
import type { PartView, ReportView, RowView } from '../../../engine/protocol.ts';
import { fittingWidth } from '../../../parts/grid/ColumnHead.tsx';
import { cellKey, type GridColumn, type GridRange } from '../../../parts/grid/grid-types.ts';
import { SheetGrid } from '../../../parts/grid/SheetGrid.tsx';
import { useWindow } from '../../../parts/grid/use-window.ts';
import { editShown } from '../../../stores/draft-store.ts';
import { useJobStore } from '../../../stores/job-store.ts';
import { useMethodStore } from '../../../stores/method-store.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import styles from '../bench.module.css';
import { useTableFollows } from '../use-together.ts';
import { useTraceFromReport } from '../use-trace.ts';
import { ColumnMenu, type ColumnPlace, useColumnFates } from './ColumnMenu.tsx';
import { RowRoleGutter } from './RowRoleGutter.tsx';
import own from './received.module.css';
import { TapeMenu } from './TapeMenu.tsx';
import { useJourneyTo, useLit } from './use-lit.ts';
import { useTape } from './use-tape.ts';

interface GridProps {
  table: JobTable;
  step: number;
  report: ReportView;
  part: number;
  sheet: PartView;
}

/** A sheet or the rows of a text as they came. */
export function ReportGrid({ table, step, report, part, sheet }: GridProps) {
  const tableId = table.id;
  const [range, setRange] = useState<GridRange | undefined>();
  const run0 = table.steps[0];
  useEffect(() => setRange(undefined), [run0]);
  const run = useMethodStore((store) => store.run);
  const goTo = useJourneyTo(part);
  const trace = useTraceFromReport(tableId, step);
  const fetch = useCallback(
    (from: number, to: number) => engineClient().engine.report.rows(tableId, step, part, from, to),
    [tableId, step, part],
  );
  const { row, ensure } = useWindow<RowView>(fetch, `${tableId}/${run}/${step}/${part}`);
  const fates = useColumnFates(tableId, step, part);
  const columns = useMemo<GridColumn[]>(
    () =>
      sheet.columns.map((column, k) => ({
        key: column.letters,
        width: fittingWidth('', column.characters + 1, 52, 220),
        align: 'start',
        head: (
          <div
            className={styles.letter}
            data-mark={fates[k]?.mark}
            title={step > 0 ? 'Choose what this column is' : undefined}
          >
            {column.letters}
            {fates[k] !== undefined && fates[k].mark !== 'data' && (
              <i>{fates[k].mark === 'other' ? 'aside' : fates[k].mark}</i>
            )}
          </div>
        ),
      })),
    [sheet, fates, step],
  );
  const comments = useMemo(
    () =>
      new Map(
        sheet.comments.map((one) => [
          cellKey(one.row, one.column),
          `${one.author === '' ? '' : `${one.author}: `}${one.text}`,
        ]),
      ),
    [sheet],
  );
  const place = (cell: { row: number; column: number }) =>
    report.format === 'text'
      ? `line ${cell.row + 1}, cell ${cell.column + 1}`
      : `${sheet.name}!${sheet.columns[cell.column]?.letters}${cell.row + 1}`;
  const tell = (cell: { row: number; column: number } | undefined, go: boolean) =>
    trace(
      cell === undefined ? undefined : { part, ...cell },
      cell === undefined ? '' : (row(cell.row)?.cells[cell.column]?.text ?? ''),
      cell === undefined ? '' : place(cell),
      go,
    );
  const tape = useTape(part);
  const [column, setColumn] = useState<ColumnPlace | undefined>();
  const follow = useViewStore((store) => (store.follow?.on === 'report' ? store.follow : undefined));
  const scrolled = useTableFollows(tableId, step, part);
  const { cells: lit, rows: litRows } = useLit(part);
  const ranged = table.steps[0]?.kind === 'read-sheets';
  return (
    <>
      <SheetGrid
        label={`${sheet.name} as received`}
        rowCount={sheet.rows}
        columns={columns}
        headHeight={20}
        rowHeight={23}
        gutter={{
          width: step > 0 ? 78 : 58,
          cell: (index, mark) => <RowRoleGutter row={index} mark={mark} wide={step > 0} hands={tape.hands} />,
          corner: <div className={styles.letter} style={{ height: '100%' }} />,
        }}
        onMark={(from, to) => tape.markAt(document.querySelector('[aria-label="As received"]'), from, to)}
        litRows={litRows}
        row={row}
        onSight={ensure}
        spans={sheet.merges}
        comments={comments}
        lit={lit}
        onPoint={(cell) => tell(cell, false)}
        onPick={(cell) => tell(cell, true)}
        goTo={goTo}
        onScrolled={scrolled}
        follow={follow?.part === part ? follow : undefined}
        onPickColumn={
          step > 0
            ? (index, event) =>
                setColumn({ anchor: event.currentTarget as HTMLElement, part, column: index, fate: fates[index] })
            : undefined
        }
        range={ranged ? range : undefined}
        onRange={ranged ? setRange : undefined}
      />
      <ColumnMenu table={table} step={step} place={column} onDone={() => setColumn(undefined)} />
      <TapeMenu table={table} step={step} place={tape.marking} onDone={tape.done} />
      {range !== undefined && (
        <RangeBar table={table} range={range} rows={sheet.rows} onDone={() => setRange(undefined)} />
      )}
    </>
  );
}

/** Reads only what was dragged over. */
function RangeBar({ table, range, rows, onDone }: { table: JobTable; range: GridRange; rows: number; onDone(): void }) {
  const edit = useJobStore((store) => store.edit);
  const [from, to] = [columnLetters(range.from.column), columnLetters(range.to.column)];
  const cells = `${from}${range.from.row + 1}:${to}${range.to.row + 1}`;
  const open = `${from}${range.from.row + 1}:${to}`;
  const read = (text: string) => {
    edit('read a range', (job) =>
      editShown(job, table.id, (one) => ({
        ...one,
        steps: one.steps.with(0, { ...one.steps[0]!, params: { ...one.steps[0]!.params, range: text } }),
      })),
    );
    onDone();
  };
  return (
    <div className={own.bar} role="toolbar" aria-label="Actions for the range">
      <span>
        <b>{cells}</b>, {range.to.row - range.from.row + 1} rows × {range.to.column - range.from.column + 1} columns
      </span>
      <button type="button" onClick={() => read(cells)}>
        Read only {cells}
      </button>
      {range.to.row < rows - 1 && (
        <button type="button" onClick={() => read(open)}>
          {open} to the last row
        </button>
      )}
      <button type="button" onClick={onDone}>
        Cancel
      </button>
    </div>
  );
}
