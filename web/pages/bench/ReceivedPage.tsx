import { useCallback, useMemo } from 'react';
import { type JobTable, type Mark, NAME, READINGS_OF_FORMAT } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { PartView, ReportView } from '../../engine/protocol.ts';
import { fittingWidth } from '../../parts/grid/ColumnHead.tsx';
import { cellKey, type GridColumn, SheetGrid } from '../../parts/grid/SheetGrid.tsx';
import { useWindow } from '../../parts/grid/use-window.ts';
import { editTable, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { shownStep } from './MethodPage.tsx';
import { TablePage } from './TablePage.tsx';
import { useReport } from './use-report.ts';
import { useTraceFromReport } from './use-trace.ts';

const NO_CELLS: never[] = [];

/** The report as it came, or the table before the selected step. */
export function ReceivedPage({ table }: { table: JobTable }) {
  const report = useReport(table.id);
  const view = useMethodStore((store) => store.view);
  const { facing, step: selected, part, noticed, set } = useViewStore();
  const told = noticed?.of === 'before' ? noticed : undefined;
  const sources = useJobStore((store) => store.job?.sources ?? []);
  const source = sources.find((one) => one.id === table.steps[0]?.params['source']);
  const step = shownStep(selected, view);
  const sheet = report?.parts[Math.min(part, report.parts.length - 1)];
  return (
    <section className={styles.page} aria-label="As received">
      <div className={styles.cap}>
        <h2>As received</h2>
        <span className={styles.fileName}>
          {facing === 'report' ? (source?.file?.name ?? source?.name) : `before step ${step + 1}`}
        </span>
        <span className={styles.facing} role="group" aria-label="Facing">
          {(['report', 'before'] as const).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={facing === one}
              disabled={one === 'before' && step < 1}
              onClick={() => set({ facing: one, noticed: undefined })}
            >
              {one === 'report' ? 'the report' : 'step before'}
            </button>
          ))}
        </span>
      </div>
      {facing === 'before' && step > 0 ? (
        <TablePage
          label="Table before the step"
          tableId={table.id}
          step={step - 1}
          view={view?.steps[step - 1]}
          lit={told?.cells ?? NO_CELLS}
          selected={NO_CELLS}
          picked={undefined}
          goTo={told?.goTo}
        />
      ) : report === undefined || sheet === undefined ? (
        <p className={styles.empty}>The report stands here as it came, as soon as its file is given.</p>
      ) : (
        <>
          {report.format === 'text' && <ReadAs table={table} />}
          {report.parts.length > 1 && (
            <div className={styles.tabs} role="tablist" aria-label="Sheets">
              {report.parts.map((one, k) => (
                <button
                  key={one.name}
                  type="button"
                  role="tab"
                  aria-selected={one === sheet}
                  onClick={() => set({ part: k })}
                >
                  {one.name}
                  {one.hidden && ' (hidden)'}
                </button>
              ))}
            </div>
          )}
          <ReportGrid
            key={sheet.name}
            tableId={table.id}
            step={step}
            report={report}
            part={report.parts.indexOf(sheet)}
            sheet={sheet}
          />
        </>
      )}
    </section>
  );
}

const READ_AS: Record<string, string> = {
  'read-delimited': 'delimited',
  'read-fixed-width': 'fixed columns',
  'read-pattern': 'lines by pattern',
  'read-nested': 'nested',
};

/** The ways in which a text can be read; the params of another way are guessed anew. */
function ReadAs({ table }: { table: JobTable }) {
  const first = table.steps[0]!;
  const edit = useJobStore((store) => store.edit);
  const trouble = (message: string) => useMethodStore.setState({ trouble: message });
  const read = async (kind: string) => {
    try {
      const step = await engineClient().engine.reread(String(first.params['source']), kind);
      edit(`read as ${READ_AS[kind]}`, (job) =>
        editTable(job, table.id, (one) => ({ ...one, steps: one.steps.with(0, { ...step, id: first.id }) })),
      );
    } catch (error) {
      trouble((error as Error).message);
    }
  };
  return (
    <div className={styles.tabs} role="tablist" aria-label="Read as">
      {READINGS_OF_FORMAT.text.map((kind) => (
        <button key={kind} type="button" role="tab" aria-selected={first.kind === kind} onClick={() => void read(kind)}>
          {READ_AS[kind]}
        </button>
      ))}
    </div>
  );
}

interface GridProps {
  tableId: string;
  step: number;
  report: ReportView;
  part: number;
  sheet: PartView;
}

function ReportGrid({ tableId, step, report, part, sheet }: GridProps) {
  const run = useMethodStore((store) => store.run);
  const litReport = useViewStore((store) => store.litReport);
  const goTo = useViewStore((store) => store.goToReport);
  const trace = useTraceFromReport(tableId, step);
  const fetch = useCallback(
    (from: number, to: number) => engineClient().engine.reportRows(tableId, step, part, from, to),
    [tableId, step, part],
  );
  const { row, ensure } = useWindow(fetch, `${tableId}/${run}/${step}/${part}`);
  const columns = useMemo<GridColumn[]>(
    () =>
      sheet.columns.map((column) => ({
        key: column.letters,
        width: fittingWidth('', column.characters, 52, 220),
        align: 'start',
        head: <div className={styles.letter}>{column.letters}</div>,
      })),
    [sheet],
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
  const lit = useMemo(
    () =>
      new Set(
        litReport
          .filter((cell) => !cell.elsewhere && cell.part === part && cell.row !== NAME)
          .map((cell) => cellKey(cell.row, cell.column)),
      ),
    [litReport, part],
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
  return (
    <SheetGrid
      label={`${sheet.name} as received`}
      rowCount={sheet.rows}
      columns={columns}
      headHeight={20}
      rowHeight={23}
      gutterWidth={step > 0 ? 78 : 40}
      gutter={(index, mark) => <Tape row={index} mark={mark} wide={step > 0} />}
      corner={<div className={styles.letter} style={{ height: '100%' }} />}
      row={row}
      onSight={ensure}
      spans={sheet.merges}
      comments={comments}
      lit={lit}
      onPoint={(cell) => tell(cell, false)}
      onPick={(cell) => tell(cell, true)}
      goTo={goTo?.part === part ? goTo : undefined}
    />
  );
}

/** Says what the row is, beside its number. */
function Tape({ row, mark, wide }: { row: number; mark: Mark | undefined; wide: boolean }) {
  return (
    <div className={styles.tape} data-mark={mark}>
      {wide && <span className={styles.markName}>{mark === 'other' ? 'aside' : mark}</span>}
      <span className={styles.rowNumber}>{row + 1}</span>
    </div>
  );
}
