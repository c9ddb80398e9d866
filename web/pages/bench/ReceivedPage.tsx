import { useState } from 'react';
import { FROM_TABLE, type JobTable, READING_WORDS, READINGS_OF_FORMAT } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { ReportView } from '../../engine/protocol.ts';
import { editShown } from '../../stores/draft-store.ts';
import { freeName, newId, newStep, useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { shownStep } from './MethodPage.tsx';
import { DelimitedStrip } from './received/DelimitedStrip.tsx';
import { LinesPage } from './received/LinesPage.tsx';
import { OutlinePage } from './received/OutlinePage.tsx';
import { PrintPage } from './received/PrintPage.tsx';
import { ReportGrid } from './received/ReportGrid.tsx';
import { SheetTabs } from './received/SheetTabs.tsx';
import { leftPage, useReading } from './received/use-reading.ts';
import { TablePage } from './TablePage.tsx';
import { useReport } from './use-report.ts';

const NO_CELLS: never[] = [];

/** The report as it came, or the table before the selected step. */
export function ReceivedPage({ table }: { table: JobTable }) {
  const report = useReport(table.id);
  const view = useMethodStore((store) => store.view);
  const { facing, step: selected, noticed, face } = useViewStore();
  const told = noticed?.of === 'before' ? noticed : undefined;
  const sources = useJobStore((store) => store.job?.sources ?? []);
  const tables = useJobStore((store) => store.job?.tables ?? []);
  const source = sources.find((one) => one.id === table.steps[0]?.params['source']);
  const step = shownStep(selected, view);
  const [first] = table.steps;
  const feeding = first?.kind === FROM_TABLE ? tables.find((one) => one.id === first.params['table']) : undefined;
  const before = facing === 'before' || feeding !== undefined;
  return (
    <section className={styles.page} aria-label="As received">
      <div className={styles.cap}>
        <h2>As received</h2>
        <span className={styles.fileName}>
          {!before
            ? (source?.file?.name ?? source?.name)
            : feeding !== undefined && step <= 1
              ? `${feeding.name}, from which it starts`
              : `before step ${step + 1}`}
        </span>
        {feeding === undefined && (
          <span className={styles.facing} role="group" aria-label="Facing">
            {(['report', 'before'] as const).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={facing === one}
                disabled={one === 'before' && step < 1}
                onClick={() => face(one)}
              >
                {one === 'report' ? 'the report' : 'step before'}
              </button>
            ))}
          </span>
        )}
      </div>
      {before && (step > 0 || feeding !== undefined) ? (
        <TablePage
          label="Table before the step"
          tableId={table.id}
          step={Math.max(0, step - 1)}
          view={view?.steps[Math.max(0, step - 1)]}
          lit={told?.cells ?? NO_CELLS}
          selected={NO_CELLS}
          picked={undefined}
          goTo={told?.goTo}
        />
      ) : (
        <ReportPages table={table} report={report} step={step} fingerprint={source?.file?.sha256 ?? ''} />
      )}
    </section>
  );
}

interface PagesProps {
  table: JobTable;
  report: ReportView | undefined;
  step: number;
  fingerprint: string;
}

/** The left page that suits the reading. It stays when a changed reading stops, so that it can be changed again. */
function ReportPages({ table, report, step, fingerprint }: PagesProps) {
  const { part, showPart, showTable } = useViewStore();
  const reading = useReading(table);
  const [asRows, setAsRows] = useState(false);
  const isText = READINGS_OF_FORMAT.text.includes(reading.kind);
  const k = Math.min(part, (report?.parts.length ?? 1) - 1);
  const sheet = report?.parts[k];
  const page = leftPage(reading);
  const outline = page === 'outline' && !asRows;
  const edit = useJobStore((store) => store.edit);
  const readOnly = (name: string) =>
    edit(`read only ${name}`, (job) =>
      editShown(job, table.id, (one) => ({
        ...one,
        steps: one.steps.with(0, {
          ...one.steps[0]!,
          params: {
            ...one.steps[0]!.params,
            [setOf(reading.params)]: { by: 'names', names: [name] },
            nameColumn: null,
          },
        }),
      })),
    );
  /** A sheet that this table does not read becomes its own table. */
  const readOwn = (name: string) => {
    const id = newId();
    const params = { ...reading.params, [setOf(reading.params)]: { by: 'names', names: [name] }, nameColumn: null };
    edit(`make a table of ${name}`, (job) => ({
      ...job,
      tables: [...job.tables, { id, name: freeName(name, job), steps: [newStep({ kind: reading.kind, params })] }],
    }));
    showTable(id, { part: k });
  };
  return (
    <>
      {isText && reading.kind === table.steps[0]?.kind && <ReadAs table={table} />}
      {page === 'delimited' && <DelimitedStrip reading={reading} />}
      {page === 'outline' && (
        <div className={styles.tabs} role="tablist" aria-label="Show">
          {[false, true].map((rows) => (
            <button
              key={String(rows)}
              type="button"
              role="tab"
              aria-selected={asRows === rows}
              onClick={() => setAsRows(rows)}
            >
              {rows ? 'rows as read' : 'outline'}
            </button>
          ))}
        </div>
      )}
      {report !== undefined && report.parts.length > 1 && !outline && (
        <SheetTabs
          parts={report.parts}
          part={k}
          onPart={showPart}
          onOnly={readsOnly(reading.params, sheet?.name) ? undefined : () => readOnly(sheet!.name)}
          onOwn={leavesOut(reading.params, sheet?.name) ? () => readOwn(sheet!.name) : undefined}
        />
      )}
      {outline && (report !== undefined || isText) ? (
        <OutlinePage reading={reading} fingerprint={fingerprint} />
      ) : report === undefined || sheet === undefined ? (
        <p className={styles.empty}>The report appears here as received, once you choose its file.</p>
      ) : sheet.printed ? (
        <PrintPage key={`${table.id}/${k}`} table={table} step={step} part={k} sheet={sheet} reading={reading} />
      ) : sheet.lines ? (
        <LinesPage key={`${table.id}/${k}`} table={table} step={step} part={k} sheet={sheet} reading={reading} />
      ) : (
        <ReportGrid key={sheet.name} table={table} step={step} report={report} part={k} sheet={sheet} />
      )}
    </>
  );
}

/** The param that says which sheets or tables are read. */
function setOf(params: Record<string, unknown>): 'sheets' | 'tables' {
  return 'tables' in params ? 'tables' : 'sheets';
}

/** Whether a reading of sheets takes this one alone; readings of other things have no sheets to choose from. */
function readsOnly(params: Record<string, unknown>, name: string | undefined): boolean {
  const sheets = params[setOf(params)] as { by: string; names?: string[] } | undefined;
  return sheets === undefined || name === undefined || (sheets.names?.length === 1 && sheets.names[0] === name);
}

/** The reading names its sheets, and this is none of them. */
function leavesOut(params: Record<string, unknown>, name: string | undefined): boolean {
  const sheets = params[setOf(params)] as { by: string; names?: string[] } | undefined;
  return name !== undefined && sheets?.by === 'names' && sheets.names?.includes(name) === false;
}

/** The ways in which a text can be read; the params of another way are guessed again. */
function ReadAs({ table }: { table: JobTable }) {
  const first = table.steps[0]!;
  const edit = useJobStore((store) => store.edit);
  const trouble = (message: string) => useMethodStore.setState({ trouble: message });
  const read = async (kind: string) => {
    try {
      const step = await engineClient().engine.sources.readAs(String(first.params['source']), kind);
      edit(`read as ${READING_WORDS.get(kind)?.tab}`, (job) =>
        editShown(job, table.id, (one) => ({ ...one, steps: one.steps.with(0, { ...step, id: first.id }) })),
      );
    } catch (error) {
      trouble((error as Error).message);
    }
  };
  return (
    <div className={styles.tabs} role="tablist" aria-label="Read as">
      {READINGS_OF_FORMAT.text.map((kind) => (
        <button key={kind} type="button" role="tab" aria-selected={first.kind === kind} onClick={() => void read(kind)}>
          {READING_WORDS.get(kind)?.tab}
        </button>
      ))}
    </div>
  );
}
